import type { OpenSheet } from '../../session/open-sheet.ts';

/** The sheets beside a plan. Several tasks, their ids between commas, are chosen for a bulk change. */
export const PLAN_SHEETS = {
  things: ['task', 'handoff'],
  named: ['news', 'library', 'about', 'forecast', 'history', 'complete', 'close'],
} as const;

export type PlanSheet = OpenSheet<(typeof PLAN_SHEETS.things)[number], (typeof PLAN_SHEETS.named)[number]>;
export type OnOpenSheet = (sheet: PlanSheet | null) => void;
