import { randomUUID } from 'node:crypto';
import { addWorkingDays, formatDay, parseDay } from '@crew/core';
import type { NewTask } from '../task/task-images.ts';
import type { OpenPlan } from './change-plan.ts';

/** What deciding something takes. */
const DECISION_MINUTES = 30;

/** What the title of a decision begins with: packets tell it by that. */
export const DECIDE = 'Decide: ';

export const decisionTitle = (text: string): string => `${DECIDE}${text}`.slice(0, 200);

/** A task for those who have to decide something, from the next working day on. */
export function decisionTask(
  { calendar, today }: Pick<OpenPlan, 'calendar' | 'today'>,
  { text, personIds, phaseId }: { readonly text: string; readonly personIds: readonly string[]; readonly phaseId: string },
): NewTask {
  const notBefore = formatDay(addWorkingDays(calendar, parseDay(today) as number, 0));
  return {
    id: randomUUID(),
    values: { title: decisionTitle(text), phaseId, priority: 'high', mayStartEarly: true, notBefore, estimateMinutes: DECISION_MINUTES },
    assignees: personIds.map((personId) => ({ personId })),
  };
}
