import type { OpenSheet } from '../../session/open-sheet.ts';

/** The sheets beside a plan. Several tasks, their ids between commas, are chosen for a bulk change; so is one alone with a comma behind it. */
export const PLAN_SHEETS = {
  things: ['task', 'handoff', 'phase'],
  named: ['news', 'library', 'about', 'forecast', 'history', 'complete', 'close'],
} as const;

export type PlanSheet = OpenSheet<(typeof PLAN_SHEETS.things)[number], (typeof PLAN_SHEETS.named)[number]>;
export type OnOpenSheet = (sheet: PlanSheet | null) => void;

/** The tasks that are chosen: the one whose sheet is open, or several. */
export const chosenIn = (sheet: PlanSheet | null): readonly string[] =>
  sheet?.kind === 'task' ? sheet.id.split(',').filter((id) => id !== '') : [];

/** Whether tasks are chosen to be changed together, were it one only. */
export const isChoosing = (sheet: PlanSheet | null): boolean => sheet?.kind === 'task' && sheet.id.includes(',');

/** The sheet of what is chosen: that of the one task, unless more are to follow. */
export function sheetOfChosen(ids: readonly string[], isByBox: boolean): PlanSheet | null {
  const [one, another] = ids;
  if (one === undefined) return null;
  return { kind: 'task', id: another === undefined && isByBox ? `${one},` : ids.join(',') };
}
