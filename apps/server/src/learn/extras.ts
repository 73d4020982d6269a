import { randomUUID } from 'node:crypto';
import type { LearnedExtra, LearnedRun } from '@crew/contract';
import { blankTask, learn, type TemplateContent, type TemplateTask, type IsoDay } from '@crew/core';
import { unwrap } from '../platform/refusal.ts';

/** A task that is over, with where it stood. */
export interface RunRow {
  readonly templateTaskId: string | null;
  readonly taskId: string;
  readonly engagement: { readonly id: string; readonly name: string };
  readonly minutes: number | null;
  readonly realStart: IsoDay | null;
  readonly doneOn: IsoDay | null;
  readonly isDropped: boolean;
  readonly steps: readonly string[];
  readonly title: string;
  readonly kind: string;
  readonly roleId: string | null;
  readonly role: string | null;
  readonly templatePhaseId: string | null;
  readonly phase: string;
}

/** What one run took, and the steps it ended with. */
export interface RunOfTask {
  readonly run: LearnedRun;
  readonly steps: readonly string[];
}

/** A task added in fewer engagements than this is no habit yet. */
const LEAST_EXTRAS = 2;
/** Estimates are told in quarters of an hour. */
const ROUND_TO = 15;

/** A task that could be added, as it is told and as the template would have it. */
export interface Extra {
  readonly extra: LearnedExtra;
  readonly task: TemplateTask;
}

/** Tasks nobody planned that came in several engagements, by title, each as the template would have it. */
export function extrasIn(rows: readonly RunRow[], runs: ReadonlyMap<string, RunOfTask[]>, content: TemplateContent): Extra[] {
  const byTitle = new Map<string, RunRow[]>();
  const there = new Set(content.tasks.map((task) => task.title));
  for (const row of rows) {
    if (row.templateTaskId !== null || row.isDropped || there.has(row.title)) continue;
    byTitle.set(row.title, [...(byTitle.get(row.title) ?? []), row]);
  }
  return [...byTitle]
    .filter(([, same]) => new Set(same.map((row) => row.engagement.id)).size >= LEAST_EXTRAS)
    .flatMap(([title, same]) => extraOf(title, { same, runs: same.flatMap((row) => runs.get(row.taskId) ?? []), content }));
}

/** In the phase it stood in last, with its role, and what it took in the middle of its runs. */
function extraOf(
  title: string,
  { same, runs, content }: { readonly same: readonly RunRow[]; readonly runs: readonly RunOfTask[]; readonly content: TemplateContent },
): Extra[] {
  const [newest] = same;
  const phase =
    content.phases.find(({ id }) => id === newest?.templatePhaseId) ??
    content.phases.find(({ name }) => name === newest?.phase) ??
    content.phases.at(-1);
  if (newest === undefined || phase === undefined) return [];
  const measures = runs.map(({ run }) => ({
    ...(run.minutes === null ? {} : { minutes: run.minutes }),
    ...(run.days === null ? {} : { days: run.days }),
  }));
  const [learned] = unwrap(learn({ tasks: [{ id: title, runs: measures }] })).tasks;
  const minutes =
    learned?.minutes === null || learned === undefined
      ? null
      : Math.max(ROUND_TO, Math.round(learned.minutes.middle / ROUND_TO) * ROUND_TO);
  const days = learned?.days?.middle ?? 1;
  const { roleId, role, kind } = newest;
  return [
    {
      extra: { id: `add-task ${title}`, title, phase: phase.name, role, minutes, days, runs: runs.map(({ run }) => run) },
      task: { ...blankTask({ id: randomUUID(), phaseId: phase.id, title }), kind, roleId, estimateMinutes: minutes, days },
    },
  ];
}
