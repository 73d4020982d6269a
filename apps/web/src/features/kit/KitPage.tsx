import { TASK_STATUS, TASK_STATUS_WORDS, type TrackPhase } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { Baton, BATON_WORDS } from '../../ui/Baton.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Fixed, Inline, Loading, Meter, Page, PageHead, Panel, PanelHead } from '../../ui/layout.tsx';
import { HueMark, PersonMark, Tag, TaskGlyph } from '../../ui/marks.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { notify } from '../../ui/toasts.tsx';
import { dayScale, SmallTrack, Track } from '../../ui/Track.tsx';

const Wall = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(320px, 1fr));
  gap: 14px;
  > section > div {
    padding: 14px;
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: center;
  }
`;

const Whole = styled.div`
  && {
    width: 100%;
  }
`;

const PHASES: readonly TrackPhase[] = [
  {
    id: '1',
    name: 'Kickoff',
    state: 'over',
    start: '2026-09-01',
    finish: '2026-09-20',
    percent: 100,
    baton: 'picked-up',
    stateLine: 'Kickoff held',
  },
  {
    id: '2',
    name: 'Concept',
    state: 'running',
    start: '2026-09-21',
    finish: '2026-10-20',
    percent: 62,
    baton: 'getting-ready',
    stateLine: 'Concept being drawn',
  },
  {
    id: '3',
    name: 'Build',
    state: 'ahead',
    start: '2026-10-21',
    finish: '2026-11-20',
    percent: 0,
    baton: 'not-due',
    stateLine: 'Being built',
  },
];

/** Every piece of the kit in all its states; only while developing. */
export function KitPage() {
  return (
    <Page>
      <PageHead>
        <h1>The kit</h1>
      </PageHead>
      <Wall>
        <Piece title="Buttons">
          <Button kind="primary" onPress={() => notify('Done.', { undo: () => Promise.resolve() })}>
            Do it
          </Button>
          <Button>Plain</Button>
          <Button kind="quiet">Quiet</Button>
          <Button kind="danger">Remove</Button>
          <Button isDisabled>Cancel</Button>
        </Piece>
        <Piece title="Task glyph">
          {TASK_STATUS.map((status) => (
            <span key={status}>
              <TaskGlyph status={status} /> {TASK_STATUS_WORDS[status]}
            </span>
          ))}
        </Piece>
        <Piece title="Baton">
          {(['not-due', 'getting-ready', 'handed-off', 'picked-up', 'sent-back'] as const).map((state) => (
            <Inline key={state} as="span" $gap={6}>
              <Baton state={state} /> {BATON_WORDS[state]}
            </Inline>
          ))}
        </Piece>
        <Piece title="Track">
          <Whole>
            <Track phases={PHASES} scale={dayScale('2026-08-25', '2026-12-01')} promise="2026-11-10" finish="2026-11-20" />
          </Whole>
          <Whole>
            <SmallTrack phases={PHASES} />
          </Whole>
        </Piece>
        <Piece title="Marks">
          <HueMark $hue="blue" />
          <PersonMark person={{ id: '1', name: 'Odalys Renn', initials: 'OR' }} />
          <Tag>client</Tag>
          <Fixed $width={80}>
            <Meter $part={60} />
          </Fixed>
        </Piece>
        <Piece title="Fields">
          <Fields />
        </Piece>
        <Piece title="States">
          <ErrorNote error={new Error('Something happened, this was kept, do that.')} />
          <Empty title="Nothing is here yet." />
          <Loading rows={1} />
        </Piece>
      </Wall>
    </Page>
  );
}

function Fields() {
  const [part, setPart] = useState<'one' | 'two'>('one');
  const [choice, setChoice] = useState<string | null>(null);
  const [text, setText] = useState('');
  return (
    <>
      <Field label="Name" value={text} onChange={setText} error={text === '' ? 'Give it a name.' : undefined} />
      <Choose
        label="One of"
        choices={[
          { id: 'a', name: 'First' },
          { id: 'b', name: 'Second', detail: 'with a reason' },
        ]}
        value={choice}
        onChange={setChoice}
      />
      <Segmented
        label="Part"
        parts={[
          { id: 'one', name: 'One' },
          { id: 'two', name: 'Two' },
        ]}
        value={part}
        onChange={setPart}
      />
    </>
  );
}

function Piece({ title, children }: { readonly title: string; readonly children: React.ReactNode }) {
  return (
    <Panel>
      <PanelHead>
        <h2>{title}</h2>
      </PanelHead>
      <div>{children}</div>
    </Panel>
  );
}
