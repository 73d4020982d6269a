import type { IsoDay } from '@crew/core';
import { perform } from '../../session/perform.ts';
import { can, type AgencySettings, type HistoryLine } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useCrew, useHistory, useSettings } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { useShown } from '../../session/use-shown.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel } from '../../ui/layout.tsx';
import { count, dayOf, dayWords } from '../../words/format.ts';
import { HistoryFilters, queryOf } from './HistoryFilters.tsx';
import { HistoryRow } from './HistoryRow.tsx';

const Filters = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  margin-top: 12px;
  flex-wrap: wrap;
`;

const DayHead = styled.h2`
  padding: 11px 14px 8px;
  font-size: 15px;
  border-top: 1px solid var(--line);
  &:first-child {
    border-top: 0;
  }
`;
const Foot = styled.div`
  padding: 8px 14px;
  border-top: 1px solid var(--line);
`;

/** Who changed what, across the agency, day by day. */
export function HistoryPage() {
  const me = useWho();
  const [search, show] = useShown();
  const { data: crew } = useCrew();
  const people = (crew?.people ?? []).map(({ id, name }) => ({ id, name }));
  const query = queryOf(search);
  return (
    <Page>
      <PageHead>
        <h1>History</h1>
        <Muted>who changed what, across the agency</Muted>
      </PageHead>
      <HistoryFilters people={people} search={search} onChange={show} />
      <Panel aria-label="History">
        <ul key={query}>
          <HistoryLines query={query} after={null} />
        </ul>
      </Panel>
      {can(me, 'agency.edit-settings') ? <Keeping /> : null}
    </Page>
  );
}

/** One page of the history, by day, and a button for the next one. `after` is the day whose heading is shown already. */
function HistoryLines({ query, after }: { readonly query: string; readonly after: string | null }) {
  const { today, zone } = useWho();
  const [isMore, setMore] = useState(false);
  const { data, error } = useHistory(query);
  if (error) return <li>{<ErrorNote error={error} />}</li>;
  if (data === undefined) return <li>{<Loading />}</li>;
  if (data.lines.length === 0)
    return (
      <li>
        <Empty title="Nothing has happened here yet.">All changes are kept here, and most can be undone.</Empty>
      </li>
    );
  const last = data.lines.at(-1) as HistoryLine;
  return (
    <>
      {byDay(data.lines, zone).map(({ day, lines }) => (
        <li key={day}>
          {day === after ? null : <DayHead>{dayWords(day, today)}</DayHead>}
          <ul>
            {lines.map((line) => (
              <HistoryRow key={line.id} line={line} />
            ))}
          </ul>
        </li>
      ))}
      {data.before === null ? null : isMore ? (
        <HistoryLines query={earlier(query, data.before)} after={dayOf(last.at, zone)} />
      ) : (
        <li>
          <Foot>
            <Button kind="quiet" onPress={() => setMore(true)}>
              Show earlier
            </Button>
          </Foot>
        </li>
      )}
    </>
  );
}

const earlier = (query: string, before: string): string =>
  [query.replace(/&?before=\d+$/, ''), `before=${before}`].filter((part) => part !== '').join('&');

function byDay(lines: readonly HistoryLine[], zone: string): { readonly day: IsoDay; readonly lines: readonly HistoryLine[] }[] {
  const days = new Map<IsoDay, HistoryLine[]>();
  for (const line of lines) days.set(dayOf(line.at, zone), [...(days.get(dayOf(line.at, zone)) ?? []), line]);
  return [...days].map(([day, own]) => ({ day, lines: own }));
}

const LENGTHS = [6, 12, 24, 36, 60, 120];

/** How long history is kept; for owners. */
function Keeping() {
  const { data } = useSettings();
  if (data === undefined) return null;
  const lengths = [...new Set([...LENGTHS, data.historyMonths])].sort((left, right) => left - right);
  return (
    <Filters>
      <Choose
        label="Keep the history of finished work for"
        isTight
        choices={lengths.map((months) => ({ id: String(months), name: lengthWords(months) }))}
        value={String(data.historyMonths)}
        onChange={(months) => void keepFor(Number(months))}
      />
      <Muted>Open work keeps its full history.</Muted>
    </Filters>
  );
}

const lengthWords = (months: number): string => (months % 12 === 0 ? count(months / 12, 'year') : count(months, 'month'));

const keepFor = (historyMonths: number): Promise<unknown> =>
  perform({
    send: () => call<AgencySettings>('PATCH', '/settings', { historyMonths }),
    said: `History is kept for ${lengthWords(historyMonths)}. Older entries are deleted tonight.`,
  });
