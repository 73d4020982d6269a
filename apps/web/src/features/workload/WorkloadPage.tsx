import type { IsoDay } from '@crew/core';
import { can, type EaseView, type PlansTried, type Workload, type WorkloadRow } from '@crew/contract';
import { useCallback, useMemo, useState } from 'react';
import styled from 'styled-components';
import { useEase, useWorkload } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, Push, WithSheet, Fixed } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { count, hourWords, spanWords } from '../../words/format.ts';
import { LoadLegend } from './LoadLegend.tsx';
import { LoadCurve } from './LoadCurve.tsx';
import { LoadGrid } from './LoadGrid.tsx';
import { PersonSheet } from './PersonSheet.tsx';
import { ShiftSheet } from './ShiftSheet.tsx';
import { PaceSheet } from './PaceSheet.tsx';
import { TrySheet } from './TrySheet.tsx';
import { useTry } from './use-try.ts';
import { UnestimatedSheet } from './UnestimatedSheet.tsx';
import { WeekButtons } from '../../ui/WeekButtons.tsx';
import { mergeParts, partOfShift, useTrial, type PlanPart, type Shift } from './use-shift.ts';
import { movedBy, SPANS, useWindow, type LoadWindow } from './use-window.ts';
import { narrowedTo } from './columns.ts';

const GuessedButton = styled(Button)`
  font-weight: 400;
`;

/** A line of its own: what is shown at the left, what can be done at the right. */
const Tools = styled.div`
  flex: 1 0 100%;
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px;
`;
const ALL = 'all';

/** Everybody's hours planned against available hours; overload can be eased, moved or reassigned, with a preview first. */
export function WorkloadPage() {
  const { today, thisWeek } = useWho();
  const shown = useWindow(thisWeek);
  const { data: workload, error } = useWorkload(shown.query);
  if (error && workload === undefined) return <Page>{<ErrorNote error={error} />}</Page>;
  if (workload === undefined) return <Page>{<Loading rows={14} />}</Page>;
  return <LoadedWorkload workload={workload} shown={shown} today={today} />;
}

interface LoadedProps {
  readonly workload: Workload;
  readonly shown: LoadWindow;
  readonly today: IsoDay;
}

function LoadedWorkload({ workload, shown, today }: LoadedProps) {
  const { role, person } = shown;
  const narrowed = useMemo(() => narrowedTo(workload, { role, person }), [workload, role, person]);
  const { rows, unestimated } = narrowed;
  return (
    <Page>
      <PageHead>
        <h1>Workload</h1>
        <Muted>
          {spanWords(workload.from, workload.to, today)} · {rows.length} of {workload.rows.length} crew
        </Muted>
        {unestimated.length === 0 ? null : (
          <GuessedButton kind="quiet" isFlush onPress={() => shown.onOpen({ kind: 'unestimated' })}>
            {count(unestimated.length, 'task')} with no estimate counted at {hourWords(workload.defaultMinutes)}
          </GuessedButton>
        )}
        <WindowTools workload={workload} shown={shown} />
      </PageHead>
      <Board workload={workload} narrowed={narrowed} shown={shown} today={today} />
    </Page>
  );
}

function WindowTools({ workload, shown }: { readonly workload: Workload; readonly shown: LoadWindow }) {
  const { change, view, weeks } = shown;
  const me = useWho();
  const move = useCallback((weeks: number): void => change({ from: movedBy(weeks, workload) }), [change, workload]);
  return (
    <Tools>
      <Fixed $width={150}>
        <Choose
          label="Role"
          isLabelHidden
          choices={roleChoices(workload)}
          value={shown.role ?? ALL}
          onChange={(id) => change({ role: id === ALL ? null : id })}
        />
      </Fixed>
      <Fixed $width={140}>
        <Choose
          label="Person"
          isLabelHidden
          choices={[{ id: ALL, name: 'Everybody' }, ...workload.rows.map(({ person }) => ({ id: person.id, name: person.name }))]}
          value={shown.person ?? ALL}
          onChange={(id) => change({ only: id === ALL ? null : id })}
        />
      </Fixed>
      <Segmented
        label="Columns"
        parts={[
          { id: 'days', name: 'Days' },
          { id: 'weeks', name: 'Weeks' },
        ]}
        value={view}
        onChange={(id) => change({ view: id === 'days' ? null : id, weeks: null })}
      />
      <Fixed $width={108}>
        <Choose
          label="Period"
          isLabelHidden
          choices={SPANS.map((span) => ({ id: String(span), name: count(span, 'week') }))}
          value={String(weeks)}
          onChange={(id) => change({ weeks: id })}
        />
      </Fixed>
      <WeekButtons onMove={move} onThisWeek={() => change({ from: null })} />
      <Push />
      <ButtonLink href="/workload/week">Plan the week</ButtonLink>
      {can(me, 'workload.try') ? (
        <Button kind="primary" onPress={() => shown.onOpen({ kind: 'try' })}>
          Try new work or another pace…
        </Button>
      ) : null}
    </Tools>
  );
}

interface BoardProps extends LoadedProps {
  /** What of it is shown, by role and person. */
  readonly narrowed: Workload;
}

/** The grid with one sheet beside it: a task being moved, somebody's load, or what nobody estimated. */
function Board({ workload, narrowed, shown, today }: BoardProps) {
  const { rows } = narrowed;
  const [shift, setShift] = useState<Shift | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { sheet, onOpen } = shown;
  const opened = rows.find((row) => row.person.id === sheet?.id) ?? null;
  const parts = useParts({ workload, shift, opened, chosen });
  const trial = useTrial(parts, workload);
  const trying = useTry(sheet?.kind === 'try', today, workload);
  const [paced, setPaced] = useState<PlansTried['people'] | null>(null);
  const open = (person: string | null): void => {
    setChosen(new Set());
    setShift(null);
    onOpen(person === null || person === sheet?.id ? null : { kind: 'person', id: person });
  };
  const isNothing =
    sheet === null || (sheet.kind === 'person' && opened === null) || (sheet.kind === 'unestimated' && narrowed.unestimated.length === 0);
  return (
    <WithSheet $isOpen={shift !== null || !isNothing} $sheet="320px">
      <div>
        <Panel>
          {rows.length === 0 ? (
            <Empty title="Nobody holds this role." />
          ) : (
            <LoadGrid
              workload={narrowed}
              view={shown.view}
              today={today}
              opened={opened?.person.id ?? null}
              tried={trial.tried?.people ?? trying.tried?.people ?? paced}
              onOpen={open}
              onShift={(next) => {
                setChosen(new Set());
                setShift(next);
              }}
            />
          )}
        </Panel>
        <LoadLegend />
        <LoadCurve workload={narrowed} today={today} />
      </div>
      {shift !== null ? (
        <ShiftSheet shift={current(shift, workload)} {...{ workload, trial, today }} onChange={setShift} onClose={() => setShift(null)} />
      ) : opened !== null ? (
        <PersonSheet
          key={opened.person.id}
          row={opened}
          window={workload}
          {...{ today, chosen, trial }}
          onChoose={setChosen}
          onClose={() => open(null)}
        />
      ) : isNothing ? null : (
        <LoadSheet {...{ sheet, today, trying, onOpen }} workload={narrowed} onTried={setPaced} />
      )}
    </WithSheet>
  );
}

interface LoadSheetProps extends Pick<LoadWindow, 'sheet' | 'onOpen'> {
  readonly workload: Workload;
  readonly today: IsoDay;
  readonly trying: ReturnType<typeof useTry>;
  /** The load a pace would bring, drawn in the grid. */
  readonly onTried: (people: PlansTried['people'] | null) => void;
}

/** The sheets that are of nobody: trying new work, a pace, and what nobody estimated. */
function LoadSheet({ sheet, workload, today, trying, onOpen, onTried }: LoadSheetProps) {
  const close = (): void => onOpen(null);
  switch (sheet?.kind) {
    case 'try':
      return <TrySheet trying={trying} today={today} onPace={() => onOpen({ kind: 'pace' })} onClose={close} />;
    case 'pace':
      return <PaceSheet window={workload} today={today} onTried={onTried} onNew={() => onOpen({ kind: 'try' })} onClose={close} />;
    case 'unestimated':
      return <UnestimatedSheet workload={workload} today={today} onClose={close} />;
    default:
      return null;
  }
}

/** A task that was changed meanwhile is taken as it is now. */
function current(shift: Shift, workload: Workload): Shift {
  const task = [...workload.rows.flatMap((row) => row.tasks), ...workload.unassigned].find(({ id }) => id === shift.task.id);
  return task === undefined ? shift : { ...shift, task };
}

interface PartsFacts {
  readonly workload: Workload;
  readonly shift: Shift | null;
  readonly opened: WorkloadRow | null;
  readonly chosen: ReadonlySet<string>;
}

/** The changes that are being looked at: of the task being moved, or of the proposals chosen. */
function useParts({ workload, shift, opened, chosen }: PartsFacts): readonly PlanPart[] {
  const { data: ease } = useEase(opened?.person.id ?? null, workload);
  return useMemo(() => {
    if (shift !== null) return shift.start === null && shift.assigneeIds === null ? [] : [partOfShift(current(shift, workload))];
    return mergeParts(partsOfEase(ease, chosen));
  }, [workload, shift, ease, chosen]);
}

const partsOfEase = (ease: EaseView | undefined, chosen: ReadonlySet<string>): PlanPart[] =>
  (ease?.proposals ?? [])
    .filter(({ id }) => chosen.has(id))
    .map(({ engagement, change }) => ({ engagementId: engagement.id, tasks: [change as PlanPart['tasks'][number]] }));

function roleChoices(workload: Workload) {
  const roles = [...new Set(workload.rows.flatMap((row) => row.roles))].sort();
  return [{ id: ALL, name: 'All roles' }, ...roles.map((role) => ({ id: role, name: role }))];
}
