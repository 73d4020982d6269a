import type { IsoDay } from '@crew/core';
import { can, type SeriesView } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useSeriesList, useTaskSeriesList } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, PanelHead, Push, WithSheet } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, dayWords } from '../../words/format.ts';
import { repeatWords } from './repeat-words.tsx';
import { capital } from './RuleEditor.tsx';
import { MonthHead, SeriesRow, seriesWindow } from './SeriesRow.tsx';
import { StartSeriesSheet } from './StartSeriesSheet.tsx';

const Groups = styled.div`
  display: flex;
  flex-direction: column;
  gap: 14px;
  min-width: 0;
`;

const TaskLine = styled.li`
  display: grid;
  grid-template-columns: 4px minmax(0, 1.2fr) minmax(0, 1fr) minmax(0, 1.5fr) 130px 70px;
  gap: 12px;
  align-items: center;
  min-height: 38px;
  padding: 4px 14px;
  border-bottom: 1px solid var(--line-2);
  &:last-child {
    border-bottom: 0;
  }
  a {
    font-weight: 600;
    text-decoration: none;
  }
  > span:not(:first-child) {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  > span:last-child {
    display: flex;
    gap: 3px;
    justify-content: flex-end;
  }
  ${phone} {
    grid-template-columns: 4px minmax(0, 1fr);
    gap: 1px 10px;
    padding: 8px 12px;
    > :not(:first-child) {
      grid-column: 2;
    }
    > :first-child {
      grid-row: 1 / 6;
    }
    > span:last-child {
      justify-content: flex-start;
    }
  }
`;

const LIST_SHEETS = { things: [], named: ['start'] } as const;

/** Engagements that repeat and production lines, each along the same time. */
export function SeriesListPage() {
  const me = useWho();
  const { data: all, error } = useSeriesList();
  const [sheet, openSheet] = useOpenSheet(LIST_SHEETS);
  const isStarting = sheet !== null && can(me, 'series.edit');
  return (
    <Page>
      <PageHead>
        <h1>Repeating work</h1>
        {all === undefined ? null : (
          <Muted>{count(all.filter(({ stoppedOn }) => stoppedOn === null).length, 'series active', 'series active')}</Muted>
        )}
        <Push />
        <ButtonLink href="/engagements">All engagements</ButtonLink>
        {can(me, 'series.edit') ? (
          <Button kind="primary" onPress={() => openSheet({ kind: 'start' })}>
            New repeating work…
          </Button>
        ) : null}
      </PageHead>
      {error ? (
        <ErrorNote error={error} />
      ) : all === undefined ? (
        <Loading rows={8} />
      ) : (
        <WithSheet $isOpen={isStarting}>
          <Groups>
            <Rows all={all} today={me.today} />
            <RepeatingTasks today={me.today} />
          </Groups>
          {isStarting ? <StartSeriesSheet today={me.today} onClose={() => openSheet(null)} /> : null}
        </WithSheet>
      )}
    </Page>
  );
}

function Rows({ all, today }: { readonly all: readonly SeriesView[]; readonly today: IsoDay }) {
  if (all.length === 0)
    return (
      <Panel>
        <Empty title="Nothing repeats yet.">
          <p>A monthly visit with its hours, a weekly episode: each becomes an engagement automatically, in good time.</p>
          <p>
            A single task that repeats, such as a call every second Tuesday, is set on the task’s own sheet, in{' '}
            <Link href="/engagements">its engagement</Link>.
          </p>
        </Empty>
      </Panel>
    );
  const window = seriesWindow(all, today);
  return (
    <Panel>
      <MonthHead window={window} today={today} />
      <ul>
        {all.map((series) => (
          <SeriesRow key={series.id} series={series} window={window} today={today} />
        ))}
      </ul>
    </Panel>
  );
}

/** Tasks that repeat within an engagement: how often, when next, by whom. */
function RepeatingTasks({ today }: { readonly today: IsoDay }) {
  const { data: lines } = useTaskSeriesList();
  if (lines === undefined || lines.length === 0) return null;
  return (
    <Panel>
      <PanelHead>
        <h2>Tasks that repeat</h2>
        <Muted>each is created six weeks ahead</Muted>
      </PanelHead>
      <ul aria-label="Tasks that repeat">
        {lines.map((line) => (
          <TaskLine key={line.id}>
            <HueMark $hue={line.engagement.client.hue} />
            <Link href={`/engagements/${line.engagement.id}${line.taskId === null ? '' : `?task=${line.taskId}`}`}>{line.title}</Link>
            <span>{line.engagement.name}</span>
            <span>{capital(repeatWords(line, today))}</span>
            <span>{line.next === null ? 'nothing more to come' : `next ${dayWords(line.next, today)}`}</span>
            <span>
              {line.assignees.map((person) => (
                <PersonMark key={person.id} person={person} />
              ))}
            </span>
          </TaskLine>
        ))}
      </ul>
    </Panel>
  );
}
