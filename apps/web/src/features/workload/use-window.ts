import { addDays, isPlannableDay, type IsoDay } from '@crew/core';
import type { Workload } from '@crew/contract';
import { useOpenSheet, type OpenSheet } from '../../session/open-sheet.ts';
import { useShown } from '../../session/use-shown.ts';
import { VIEWS, type LoadView } from './columns.ts';

export const SPANS = [3, 6, 13, 26] as const;
export type Span = (typeof SPANS)[number];

/** Sheets beside the load: somebody's, what nobody estimated, new work that is tried, another pace of a series. */
const LOAD_SHEETS = { things: ['person'], named: ['unestimated', 'try', 'pace'] } as const;
export type LoadSheet = OpenSheet<'person', (typeof LOAD_SHEETS.named)[number]>;

/** What of the load is shown, all of it kept in the address. */
export interface LoadWindow {
  readonly query: string;
  readonly view: LoadView;
  readonly weeks: Span;
  readonly role: string | null;
  readonly person: string | null;
  readonly sheet: LoadSheet | null;
  readonly onOpen: (sheet: LoadSheet | null) => void;
  readonly change: (next: Readonly<Record<string, string | null>>) => void;
}

/** Days show three weeks unless asked otherwise, weeks a quarter of a year. */
const USUAL: Readonly<Record<LoadView, Span>> = { days: 3, weeks: 13 };

export function useWindow(thisWeek: IsoDay): LoadWindow {
  const [search, change] = useShown();
  const [sheet, onOpen] = useOpenSheet(LOAD_SHEETS);
  const view = VIEWS.find((known) => known === search.get('view')) ?? 'days';
  const weeks = SPANS.find((known) => String(known) === search.get('weeks')) ?? USUAL[view];
  const asked = search.get('from');
  const from = isPlannableDay(asked) ? asked : thisWeek;
  return {
    query: `?from=${from}&to=${addDays(from, weeks * 7 - 1)}`,
    ...{ view, weeks, change },
    role: search.get('role'),
    person: search.get('only'),
    sheet,
    onOpen,
  };
}

/** The window moved by whole weeks, for the address. */
export const movedBy = (weeks: number, { from }: Pick<Workload, 'from'>): string => addDays(from, weeks * 7);
