import type { IsoDay } from '@crew/core';
import type { TimeEntryView, TimeRow, WeekSheet } from '@crew/contract';

/** An engagement of a week with its tasks and what they add up to day by day. */
export interface TimeGroup {
  readonly engagement: TimeRow['engagement'];
  readonly rows: readonly TimeRow[];
  readonly minutes: readonly number[];
}

/** An entry of one day with the task it is on. */
export interface DayEntry extends TimeEntryView {
  readonly row: TimeRow;
  /** Titles of entries that cover some of the same minutes, with how many. */
  readonly overlaps: readonly { readonly title: string; readonly minutes: number }[];
}

const sum = (entries: readonly TimeEntryView[]): number => entries.reduce((total, entry) => total + entry.minutes, 0);

/** What a task has on a day. */
export const entriesOn = (row: TimeRow, day: IsoDay): readonly TimeEntryView[] => row.entries.filter((entry) => entry.day === day);

/** Rows by engagement, in the order they come: those at hand, and what was asked for besides. */
export function groupsOf({ rows, days }: WeekSheet, added: ReadonlySet<string>): TimeGroup[] {
  const groups = new Map<string, TimeRow[]>();
  for (const row of rows) {
    if (!row.isAtHand && !added.has(row.task.id)) continue;
    groups.set(row.engagement.id, [...(groups.get(row.engagement.id) ?? []), row]);
  }
  return [...groups.values()].map((own) => ({
    engagement: (own[0] as TimeRow).engagement,
    rows: own,
    minutes: days.map(({ date }) => own.reduce((total, row) => total + sum(entriesOn(row, date)), 0)),
  }));
}

/** What was logged on each day. */
export const minutesByDay = ({ rows, days }: WeekSheet): number[] =>
  days.map(({ date }) => rows.reduce((total, row) => total + sum(entriesOn(row, date)), 0));

/** How much of the week is paid for, in minutes. */
export const chargeableMinutes = ({ rows }: WeekSheet): number =>
  rows.reduce((total, row) => total + sum(row.entries.filter((entry) => entry.isChargeable)), 0);

/** The entries of one day, by when they began; those without a time last. */
export function entriesOfDay(week: WeekSheet, day: IsoDay): DayEntry[] {
  const found = week.rows.flatMap((row) => entriesOn(row, day).map((entry) => ({ ...entry, row })));
  const titleOf = (id: string): string => found.find((entry) => entry.id === id)?.row.task.title ?? '';
  return found
    .map((entry) => ({
      ...entry,
      overlaps: week.overlaps
        .filter((overlap) => overlap.first === entry.id || overlap.second === entry.id)
        .map((overlap) => ({ title: titleOf(overlap.first === entry.id ? overlap.second : overlap.first), minutes: overlap.minutes })),
    }))
    .sort(
      (left, right) =>
        (left.startMinute ?? Infinity) - (right.startMinute ?? Infinity) || left.row.task.title.localeCompare(right.row.task.title),
    );
}
