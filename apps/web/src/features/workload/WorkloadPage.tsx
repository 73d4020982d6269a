import type { Workload, WorkloadRow } from '@crew/contract';
import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import styled from 'styled-components';
import { useWorkload } from '../../api/queries.ts';
import { useWho } from '../../app/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, Push, WithSheet } from '../../ui/layout.tsx';
import { count, hourWords, spanWords } from '../../words/format.ts';
import { LoadGrid } from './LoadGrid.tsx';
import { PersonSheet } from './PersonSheet.tsx';
import { usePeriodKeys } from './use-period-keys.ts';

const Tools = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
`;
const ALL = 'all';
const WEEK_MS = 7 * 86_400_000;

const shiftDay = (day: string, weeks: number): string => new Date(Date.parse(day) + weeks * WEEK_MS).toISOString().slice(0, 10);

/** Three weeks of everybody's hours planned against hours open. */
export function WorkloadPage() {
  const { today } = useWho();
  const [search, setSearch] = useSearchParams();
  const from = dayOf(search.get('from'));
  const { data: workload, error } = useWorkload(from === null ? '' : `?from=${from}&to=${lastDay(from)}`);
  const change = useCallback(
    (next: Record<string, string | null>): void => {
      setSearch(
        (before) => {
          for (const [key, value] of Object.entries(next)) {
            if (value === null) before.delete(key);
            else before.set(key, value);
          }
          return before;
        },
        { replace: true },
      );
    },
    [setSearch],
  );
  const move = useCallback(
    (weeks: number): void => change({ from: shiftDay(workload?.from ?? today, weeks) }),
    [change, workload?.from, today],
  );
  usePeriodKeys(move);
  if (error && workload === undefined) return <Page>{<ErrorNote error={error} />}</Page>;
  if (workload === undefined) return <Page>{<Loading rows={14} />}</Page>;
  const role = search.get('role') ?? ALL;
  const rows = workload.rows.filter((row) => role === ALL || row.roles.includes(role));
  const chosen = rows.find((row) => row.person.id === search.get('person'));
  return (
    <Page>
      <PageHead>
        <h1>Workload</h1>
        <Muted>{headWords(workload, rows, today)}</Muted>
        <Push />
        <Tools>
          <div style={{ width: 180 }}>
            <Choose
              label="Role"
              isLabelHidden
              choices={roleChoices(workload)}
              value={role}
              onChange={(id) => change({ role: id === ALL ? null : id })}
            />
          </div>
          <Button aria-label="A week earlier" onPress={() => move(-1)}>
            ◂
          </Button>
          <Button onPress={() => change({ from: null })}>This week</Button>
          <Button aria-label="A week later" onPress={() => move(1)}>
            ▸
          </Button>
        </Tools>
      </PageHead>
      <WithSheet $isOpen={chosen !== undefined} $sheet="300px">
        <Panel>
          {rows.length === 0 ? (
            <Empty title="Nobody holds this role." />
          ) : (
            <LoadGrid
              workload={workload}
              rows={rows}
              today={today}
              chosen={chosen?.person.id ?? null}
              onChoose={(person) => change({ person })}
            />
          )}
        </Panel>
        {chosen === undefined ? null : <PersonSheet row={chosen} today={today} onClose={() => change({ person: null })} />}
      </WithSheet>
    </Page>
  );
}

/** A day somebody wrote into the address, or none: what is no day shows this week. */
const dayOf = (text: string | null): string | null => (text === null || Number.isNaN(Date.parse(text)) ? null : text);

const lastDay = (from: string): string => new Date(Date.parse(from) + 20 * 86_400_000).toISOString().slice(0, 10);

function roleChoices(workload: Workload) {
  const roles = [...new Set(workload.rows.flatMap((row) => row.roles))].sort();
  return [{ id: ALL, name: 'All roles' }, ...roles.map((role) => ({ id: role, name: role }))];
}

function headWords(workload: Workload, rows: readonly WorkloadRow[], today: string): string {
  const guess =
    workload.unestimated === 0
      ? ''
      : ` · ${count(workload.unestimated, 'task')} with no estimate counted at ${hourWords(workload.defaultMinutes)}`;
  return `${spanWords(workload.from, workload.to, today)} · ${rows.length} of ${workload.rows.length} crew${guess}`;
}
