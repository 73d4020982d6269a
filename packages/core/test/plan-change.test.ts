import fc from 'fast-check';
import { followersOf, remainingDays, replan, schedule, type PresentDates, type ScheduleInput } from '../src/index.ts';
import { galleryPlan } from './examples.ts';

function present(input: ScheduleInput): PresentDates[] {
  const plan = schedule(input);
  if (!plan.ok) throw new Error(plan.problem.kind);
  return plan.value.tasks.map((task) => ({ id: task.id, start: task.start, due: task.finish }));
}

const longer = (input: ScheduleInput, id: string, days: number): ScheduleInput => ({
  ...input,
  tasks: input.tasks.map((task) => (task.id === id ? { ...task, days: task.days + days } : task)),
});

test('a longer visit moves what follows it by dependencies and by phases, and nothing else', () => {
  const result = replan(longer(galleryPlan, 'visit', 1), present(galleryPlan), ['visit']);
  if (!result.ok) throw new Error(result.problem.kind);
  expect(result.value.moves.map((move) => [move.id, move.to.start, move.to.due])).toEqual([
    ['visit', '2026-12-16', '2026-12-18'],
    ['objects', '2026-12-21', '2026-12-29'],
    ['storyline', '2026-12-29', '2026-12-29'],
    ['workshop', '2026-12-31', '2027-01-04'],
    ['boards', '2027-01-04', '2027-01-07'],
  ]);
});

test('a fixed day does not move: it is in the conflicts once it cannot be kept', () => {
  const result = replan(longer(galleryPlan, 'objects', 5), present(galleryPlan), ['objects']);
  if (!result.ok) throw new Error(result.problem.kind);
  expect(result.value.moves.map((move) => move.id)).not.toContain('review');
  expect(result.value.schedule.conflicts).toEqual([{ task: 'review', days: 3 }]);
});

test('a finished task is never moved, whatever days were planned for it', () => {
  const ids = galleryPlan.tasks.map((task) => task.id);
  const seen = { finished: 0, others: 0 };
  fc.assert(
    fc.property(fc.subarray(ids, { minLength: 1 }), fc.integer({ min: 1, max: 9 }), (finished, days) => {
      const input: ScheduleInput = {
        ...longer(galleryPlan, 'visit', days),
        today: '2026-12-21',
        tasks: longer(galleryPlan, 'visit', days).tasks.map((task) =>
          finished.includes(task.id) ? { ...task, actual: { start: '2026-12-16', finish: '2026-12-18' } } : task,
        ),
      };
      const result = replan(input, present(galleryPlan), ids);
      if (!result.ok) throw new Error(result.problem.kind);
      const moved = result.value.moves.map((move) => move.id);
      for (const id of finished) expect(moved).not.toContain(id);
      seen.finished += finished.length;
      seen.others += moved.length;
    }),
  );
  expect(Math.min(seen.finished, seen.others)).toBeGreaterThan(20);
});

test('what is not touched keeps its days, even when they have passed', () => {
  const running = { ...galleryPlan, today: '2026-12-21' } as const;
  const result = replan(running, present(galleryPlan), ['interviews']);
  if (!result.ok) throw new Error(result.problem.kind);
  expect(result.value.moves.map((move) => move.id)).not.toContain('welcome');
  expect(result.value.moves.map((move) => move.id)).toContain('interviews');
});

test('followers are the changed ones, their successors and every task of later phases', () => {
  expect([...followersOf(galleryPlan, ['visit'])].sort()).toEqual([
    'boards',
    'interviews',
    'objects',
    'review',
    'storyline',
    'visit',
    'workshop',
  ]);
  expect([...followersOf(galleryPlan, ['boards'])].sort()).toEqual(['boards', 'review']);
});

test('changing nothing moves nothing', () => {
  fc.assert(
    fc.property(fc.subarray(galleryPlan.tasks.map((task) => task.id)), (changed) => {
      const result = replan(galleryPlan, present(galleryPlan), changed);
      return result.ok && result.value.moves.length === 0;
    }),
  );
});

test.each<[string, Parameters<typeof remainingDays>[0], number]>([
  ['nothing logged counts the days gone by', { days: 5, elapsedDays: 2, estimateMinutes: 600, loggedMinutes: 0 }, 3],
  ['logged time counts the effort left', { days: 5, elapsedDays: 4, estimateMinutes: 600, loggedMinutes: 120 }, 4],
  ['over the estimate is still one day', { days: 5, elapsedDays: 9, estimateMinutes: 600, loggedMinutes: 900 }, 1],
  ['a milestone has none', { days: 0, elapsedDays: 3, estimateMinutes: null, loggedMinutes: 0 }, 0],
])('remaining days: %s', (_name, task, days) => {
  expect(remainingDays(task)).toBe(days);
});
