import type { TaskDraft } from '../template/create-template.ts';
import { STARTERS } from './starters/index.ts';

const all = Object.values(STARTERS).map((draft) => [draft.name, draft] as const);

describe.each(all)('the starter template “%s” is complete', (_name, draft) => {
  const tasks: readonly TaskDraft[] = draft.phases.flatMap((phase) => phase.tasks);
  const titles = new Set(tasks.map(({ title }) => title));

  test('titles are there once, and what is waited for is there', () => {
    expect(titles.size).toBe(tasks.length);
    const awaited = tasks.flatMap(({ after = [] }) => after.map((one) => (typeof one === 'string' ? one : one.task)));
    expect(awaited.filter((title) => !titles.has(title))).toEqual([]);
    const named = (draft.ways ?? []).flatMap(({ from, to }) => [from, ...(to === undefined ? [] : [to])]);
    expect(named.filter((title) => !titles.has(title))).toEqual([]);
  });

  test('every phase has a role that receives it, its own state line and a gate', () => {
    expect(new Set(draft.phases.map(({ stateLine }) => stateLine)).size).toBe(draft.phases.length);
    for (const phase of draft.phases) {
      expect(phase.role).toBeTruthy();
      expect(phase.checks?.length).toBeGreaterThan(0);
    }
  });

  test('the crew’s work has a role and an effort, the client’s has a time to answer', () => {
    for (const task of tasks.filter(({ kind }) => kind !== 'milestone' && kind !== 'client')) {
      expect(task.role).toBeTruthy();
      expect(task.hours).toBeGreaterThan(0);
    }
    for (const task of tasks.filter(({ kind }) => kind === 'client')) expect(task.days).toBeGreaterThan(0);
  });

  test('it has client tasks, a loop with the rounds agreed, an ending and a milestone', () => {
    expect(tasks.filter(({ kind }) => kind === 'client').length).toBeGreaterThan(1);
    expect(tasks.some(({ kind }) => kind === 'milestone')).toBe(true);
    expect(draft.ways?.some(({ ending }) => ending !== undefined)).toBe(true);
    const loops = draft.ways?.filter(({ to }) => to !== undefined) ?? [];
    expect(loops.length).toBeGreaterThan(0);
    for (const { from, to } of loops) {
      const phase = draft.phases.find((one) => one.tasks.some(({ title }) => title === from));
      expect(phase?.rounds).toBeGreaterThan(0);
      // A loop stays in its phase, whose rounds it counts against.
      expect(phase?.tasks.some(({ title }) => title === to)).toBe(true);
    }
  });

  test('a gate that waits for the client has something the client does, and one on steps has steps', () => {
    for (const { name, checks = [], tasks: own } of draft.phases) {
      const kinds = checks.map(([kind]) => kind);
      expect({ name, waits: kinds.includes('client-done') }).toEqual({
        name,
        waits: kinds.includes('client-done') && own.some(({ kind }) => kind === 'client'),
      });
      if (kinds.includes('steps-done')) expect(own.some(({ steps = [] }) => steps.length > 0)).toBe(true);
    }
  });
});
