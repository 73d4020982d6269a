import { rank, type Calendar } from '../calendar/calendar.ts';
import { parseDay, type IsoDay } from '../calendar/day.ts';
import type { PlannedTask } from './from-plan.ts';
import type { TemplateTask } from './types.ts';

/** Where a task really lay: boundaries, counted in open days as in core-spec section 2. */
interface Span {
  readonly start: number;
  readonly end: number;
}

type Anchored = Pick<TemplateTask, 'anchor' | 'after'>;

/**
 * Anchors and dependencies that describe as shortly as possible when finished tasks really began, from
 * the day their phase began. What began as soon as its phase and its predecessors allowed needs no
 * offset; what began later lies so many open days behind the predecessor it waited for last, or behind
 * the beginning of its phase when it waits for nothing; what began before a predecessor allowed gets a
 * shorter lag to it. What was anchored to the end of its phase or to the promise keeps that anchor.
 * Answers null for a task that began before its phase, which no anchor can express, and for one that
 * is not finished.
 */
export function realAnchors(
  tasks: readonly PlannedTask[],
  { calendar, phaseStart }: { readonly calendar: Calendar; readonly phaseStart: (task: PlannedTask) => IsoDay },
): ReadonlyMap<string, Anchored | null> {
  const spans = new Map(tasks.map((task) => [task.id, spanOf(task, calendar)]));
  return new Map(
    tasks.map((task) => {
      const span = spans.get(task.id) ?? null;
      if (span === null || task.anchor.at === 'before-phase-end' || task.anchor.at === 'before-promise') return [task.id, null];
      return [task.id, anchoredBy(task, { span, spans, from: rank(calendar, parseDay(phaseStart(task)) as number) })];
    }),
  );
}

function spanOf({ realStart, doneOn, days }: PlannedTask, calendar: Calendar): Span | null {
  if (realStart === null || doneOn === null) return null;
  const end = rank(calendar, (parseDay(doneOn) as number) + 1);
  // A milestone is the boundary at the end of its day.
  return days === 0 ? { start: end, end } : { start: Math.min(rank(calendar, parseDay(realStart) as number), end - 1), end };
}

function anchoredBy(
  task: PlannedTask,
  { span, spans, from }: { readonly span: Span; readonly spans: ReadonlyMap<string, Span | null>; readonly from: number },
): Anchored | null {
  if (span.start < from) return null;
  const length = span.end - span.start;
  const asks = task.after.map((dependency) => {
    const before = spans.get(dependency.taskId) ?? null;
    return { dependency, start: before === null ? null : startAsked(dependency, before, length) };
  });
  // Overlaps that really happened: a lag no longer than it was.
  const after = asks.map(({ dependency, start }) =>
    start !== null && start > span.start ? { ...dependency, lag: dependency.lag - (start - span.start) } : dependency,
  );
  const asked = asks.map(({ start }) => (start === null ? null : Math.min(start, span.start)));
  const earliest = Math.max(from, ...asked.flatMap((start) => start ?? []));
  const wait = span.start - earliest;
  const none = { at: 'phase-start', offset: 0 } as const;
  if (wait === 0) return { anchor: none, after };
  const last = asked.findIndex((start) => start !== null && start === earliest);
  if (last < 0) return { anchor: { at: 'phase-start', offset: span.start - from }, after };
  return {
    anchor: none,
    after: after.map((dependency, index) => (index === last ? { ...dependency, lag: dependency.lag + wait } : dependency)),
  };
}

/** The start a dependency asks of a task of this length, by where its predecessor lay. */
function startAsked({ type, lag }: PlannedTask['after'][number], before: Span, length: number): number {
  switch (type) {
    case 'FS':
      return before.end + lag;
    case 'SS':
      return before.start + lag;
    case 'FF':
      return before.end + lag - length;
    case 'SF':
      return before.start + lag - length;
  }
}
