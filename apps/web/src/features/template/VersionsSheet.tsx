import { Note, Quiet, Toned } from '../../ui/text.tsx';
import type { DifferenceLine, TemplateContentView, TemplateUses } from '@crew/contract';
import { useState } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useDifference, useTemplateUses, useTemplateVersions } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { historyOf, ThingHistory } from '../history/ThingHistory.tsx';
import { count, instantWords } from '../../words/format.ts';

const Versions = styled.ul`
  margin-top: 8px;
`;

const Compared = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin-bottom: 8px;
`;

const Line = styled.li`
  padding: 7px 0;
  border-top: 1px solid var(--line-2);
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;

/** The versions of a template, what differs between two of them, and where it is used. */
export function VersionsSheet({ view, onClose }: { readonly view: TemplateContentView; readonly onClose: () => void }) {
  const { data: versions } = useTemplateVersions(view.id);
  const { data: uses } = useTemplateUses(view.id);
  const me = useWho();
  const choices = versions && [
    ...(view.isChanged ? [{ id: 'working', name: 'current draft, not saved as a version' }] : []),
    ...versions.map(({ version, note }) => ({ id: String(version), name: `version ${version}`, detail: note })),
  ];
  const [from, setFrom] = useState(String(view.isChanged ? view.version : Math.max(1, view.version - 1)));
  const [to, setTo] = useState(view.isChanged ? 'working' : String(view.version));
  return (
    <Sheet label="Versions of the template" line="Versions" onClose={onClose}>
      <SheetTitle>{view.content.name}</SheetTitle>
      <Versions>
        {(versions ?? []).map((line) => (
          <Line key={line.version}>
            <strong>Version {line.version}</strong>
            {line.note === '' ? '' : ` · ${line.note}`}
            <small>
              {line.madeBy ?? 'somebody'} · {instantWords(line.madeAt, me)} ·{' '}
              {line.usedTimes === 0 ? 'not used' : `used ${count(line.usedTimes, 'time')}`}
            </small>
          </Line>
        ))}
      </Versions>
      <SheetPart>
        <h3>Differences</h3>
        {choices?.length === 1 ? (
          <Note>There is one version so far, and nothing was changed since.</Note>
        ) : (
          <>
            <Compared>
              <Choose label="From" isTight choices={choices} value={from} onChange={setFrom} />
              <Choose label="To" isTight choices={choices} value={to} onChange={setTo} />
            </Compared>
            <Difference id={view.id} from={from} to={to} />
          </>
        )}
      </SheetPart>
      <SheetPart>
        <h3>Where it is used</h3>
        {uses === undefined ? null : <Uses uses={uses} kind={view.kind} />}
      </SheetPart>
      <SheetPart>
        <h3>History</h3>
        <ThingHistory query={historyOf('template', view.id)} />
      </SheetPart>
    </Sheet>
  );
}

const Use = styled.div`
  display: flex;
  gap: 8px;
  padding: 3px 0;
  > a {
    flex: 1;
  }
`;

/** The engagements and templates that have it. */
function Uses({ uses, kind }: { readonly uses: TemplateUses; readonly kind: TemplateContentView['kind'] }) {
  if (uses.engagements.length + uses.templates.length === 0) {
    return <Note>{kind === 'engagement' ? 'No engagement uses it yet.' : 'Nothing uses it yet.'}</Note>;
  }
  return (
    <>
      {uses.templates.map((template) => (
        <Use key={template.id}>
          <Link href={`/templates/${template.id}`}>{template.name}</Link>
          <Quiet>template</Quiet>
        </Use>
      ))}
      {uses.engagements.map((use) => (
        <Use key={use.id}>
          <HueMark $hue={use.client.hue} />
          <Link href={`/engagements/${use.id}`}>{use.name}</Link>
          <Quiet>
            {[use.version === null ? 'uses it' : `version ${use.version}`, use.state === 'finished' ? 'finished' : '']
              .filter((word) => word !== '')
              .join(' · ')}
          </Quiet>
        </Use>
      ))}
    </>
  );
}

function Difference({ id, from, to }: { readonly id: string; readonly from: string; readonly to: string }) {
  const { data, error } = useDifference(id, from, to);
  if (error) return <ErrorNote error={error} />;
  if (data === undefined) return <Loading rows={2} />;
  if (data.length === 0) return <Note>No differences.</Note>;
  return <DifferenceLines lines={data} />;
}

const KIND_WORDS: Readonly<Record<DifferenceLine['kind'], string>> = { added: 'new', removed: 'gone', changed: '' };

/** Differences phase by phase, each part with what changed of it. */
export function DifferenceLines({ lines }: { readonly lines: readonly DifferenceLine[] }) {
  return (
    <ul>
      {lines.map((line) => (
        <Line key={`${line.part} ${line.id} ${line.kind}`}>
          <strong style={line.kind === 'removed' ? { textDecoration: 'line-through' } : undefined}>{line.name}</strong>{' '}
          <Toned $tone={line.kind === 'added' ? 'good' : 'quiet'}>{KIND_WORDS[line.kind]}</Toned>
          <small>
            {[line.part === 'task' ? line.phase : line.part === 'way' ? 'way out' : line.part, ...line.words].filter(Boolean).join(' · ')}
          </small>
        </Line>
      ))}
    </ul>
  );
}
