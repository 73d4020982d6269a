import { daysBetween, mondayOf, sumDays, type DaySums, type IsoDay } from '@crew/core';
import type { Workload, WorkloadRow, WorkloadTask } from '@crew/contract';

export const VIEWS = ['days', 'weeks'] as const;
export type LoadView = (typeof VIEWS)[number];

/** A day or a week of the grid: which days of the window it holds, as places in `dates`. */
export interface Column {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly places: readonly number[];
  /** First of its group: of a week when columns are days, of a month when they are weeks. */
  readonly opensGroup: boolean;
}

/** What one of the crew has in a column. Minutes. */
export interface Cell {
  readonly capacity: number;
  readonly load: number;
  /** Of the load what is only likely: it may not come. */
  readonly likely: number;
  /** Above capacity on its days, each day for itself: room on Friday does not help on Monday. */
  readonly over: number;
  /** Nothing is open here although the agency works: away, or never there. */
  readonly isOff: boolean;
}

/** Of the workload what a role and a person leave: their rows, and of the work that is nobody's or without estimate what concerns them. */
export function narrowedTo(
  workload: Workload,
  { role, person }: { readonly role: string | null; readonly person: string | null },
): Workload {
  if (role === null && person === null) return workload;
  const rows = workload.rows.filter((row) => (role === null || row.roles.includes(role)) && (person === null || row.person.id === person));
  const people = new Set(rows.map((row) => row.person.id));
  const roleIds = new Set(workload.rows.flatMap((row) => row.roleIds.filter((_, index) => row.roles[index] === role)));
  const isOfRole = (task: WorkloadTask): boolean => role === null || (task.roleId !== null && roleIds.has(task.roleId));
  return {
    ...workload,
    rows,
    unassigned: workload.unassigned.filter(isOfRole),
    unestimated: workload.unestimated.filter((task) =>
      task.assigneeIds.length === 0 ? isOfRole(task) : task.assigneeIds.some((id) => people.has(id)),
    ),
  };
}

/** The columns that are shown; a weekend only when somebody has work or hours on it. */
export function columnsOf(workload: Workload, view: LoadView): Column[] {
  if (view === 'weeks') return weeksOf(workload);
  const isUsed = (index: number): boolean => workload.rows.some((row) => (row.load[index] ?? 0) > 0 || (row.capacity[index] ?? 0) > 0);
  let group = '';
  return workload.dates.flatMap(({ date }, index) => {
    if (daysBetween(mondayOf(date), date) > 4 && !isUsed(index)) return [];
    const week = mondayOf(date);
    const opensGroup = week !== group;
    group = week;
    return [{ from: date, to: date, places: [index], opensGroup }];
  });
}

function weeksOf({ dates }: Workload): Column[] {
  const columns: (Column & { readonly places: number[]; to: string })[] = [];
  dates.forEach(({ date }, index) => {
    const last = columns.at(-1);
    if (last !== undefined && daysBetween(mondayOf(date), date) !== 0) {
      last.places.push(index);
      last.to = date;
    } else
      columns.push({ from: date, to: date, places: [index], opensGroup: last === undefined || last.from.slice(0, 7) !== date.slice(0, 7) });
  });
  return columns;
}

/** What somebody has in each column; `load` in place of their own shows how it would be. */
export function cellsOf(
  row: Pick<WorkloadRow, 'capacity' | 'load' | 'likely' | 'off'>,
  columns: readonly Column[],
  load = row.load,
): Cell[] {
  const off = new Set(row.off);
  return columns.map(({ places }) => {
    const sums = sumDays({ capacity: row.capacity, load }, { first: places[0] ?? 0, end: (places.at(-1) ?? -1) + 1 });
    const likely = places.reduce((sum, index) => sum + (row.likely[index] ?? 0), 0);
    const isOff = sums.capacity === 0 && places.some((index) => off.has(index));
    return { capacity: sums.capacity, load: sums.load, likely: Math.min(likely, sums.load), over: sums.over, isOff };
  });
}

/** What somebody has on the days shown, from today on. */
export function totalsOf(row: Pick<WorkloadRow, 'capacity' | 'load'>, dates: Workload['dates'], today: IsoDay): DaySums {
  const first = dates.findIndex(({ date }) => date >= today);
  return sumDays(row, { first: first === -1 ? dates.length : first, end: dates.length });
}

/** A task spread over the columns: a lane, and the columns it covers. */
export interface PlacedTicket {
  readonly task: WorkloadTask;
  readonly lane: number;
  readonly first: number;
  readonly last: number;
}

/** Lays tasks on as few lanes as they need; those outside the columns are left out, late ones stand at the first day shown. */
export function packLanes(
  tasks: readonly WorkloadTask[],
  columns: readonly Column[],
): { readonly placed: readonly PlacedTicket[]; readonly count: number } {
  const ends: number[] = [];
  const placed = [...tasks]
    .sort((left, right) => left.start.localeCompare(right.start) || left.due.localeCompare(right.due))
    .flatMap((task): PlacedTicket[] => {
      const first = Math.max(
        0,
        columns.findIndex((column) => column.to >= task.start),
      );
      const last = task.due < (columns[0]?.from ?? '') ? 0 : columns.findLastIndex((column) => column.from <= task.due);
      if (columns.every((column) => column.to < task.start) || last < first) return [];
      const free = ends.findIndex((end) => end < first);
      const lane = free === -1 ? ends.length : free;
      ends[lane] = last;
      return [{ task, lane, first, last }];
    });
  return { placed, count: ends.length };
}

/** The first day of a task moved by columns, from where it is shown; null when it stays. */
export function dayMoved(task: WorkloadTask, columns: readonly Column[], by: number): IsoDay | null {
  if (by === 0) return null;
  const first = Math.max(
    0,
    columns.findIndex((column) => column.to >= task.start),
  );
  const column = columns[Math.min(columns.length - 1, Math.max(0, first + by))];
  return column === undefined || column.from === task.start ? null : column.from;
}
