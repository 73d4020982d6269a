import type { PlanEffect } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { planTask, stillEffect, taskSheet } from '../../../test/samples.ts';
import { ConflictNote } from './ConflictNote.tsx';
import { EffectWords } from './EffectWords.tsx';
import type { TaskChange, TaskEditing } from './use-task-edit.ts';

const TODAY = '2026-11-23';
const move = (id: string, title: string): PlanEffect['moves'][number] => ({
  ...{ id, number: 1, title },
  from: { start: '2026-11-25', due: '2026-11-30' },
  to: { start: '2026-12-01', due: '2026-12-04' },
});

describe('what a change would do', () => {
  const effectText = (effect: typeof stillEffect): string => {
    const { container, unmount } = render(<EffectWords effect={effect} today={TODAY} taskId="t1" />);
    const text = container.textContent ?? '';
    unmount();
    return text;
  };

  test('says that nothing moves when nothing does', () => {
    expect(effectText(stillEffect)).toBe('No other task movesFinishes 11 Dec, as before');
  });

  test('names the task itself, then three of the others and that there are more', () => {
    const moves = [move('t1', 'Signs set'), ...['A', 'B', 'C', 'D'].map((title) => move(title, title))];
    const text = effectText({ ...stillEffect, moves });
    expect(text).toContain('This task: 25 Nov – 30 Nov becomes 1 Dec – 4 Dec');
    expect(text).toContain('4 other tasks move: A, B, C …');
  });

  test.each<[IsoDay, string]>([
    ['2026-12-15', 'was 11 Dec; the promised date is met'],
    ['2026-12-22', 'was 11 Dec; promised 18 Dec'],
  ])('a finish on %s against the promise', (to, words) => {
    expect(effectText({ ...stillEffect, finish: { from: '2026-12-11', to } })).toContain(words);
  });

  test('says who goes over and which fixed day is missed', () => {
    const person = { id: 'i', name: 'Ines Calloway', initials: 'IC' };
    const text = effectText({
      ...stillEffect,
      overloads: [{ person, minutes: 390, firstDay: '2026-11-26' }],
      newConflicts: [{ id: 'm', title: 'Opening', days: 2, fixedDay: null }],
    });
    expect(text).toContain('Ines would be 6.5 h over from Thu 26 Nov');
    expect(text).toContain('“Opening” misses its date by 2 days');
  });
});

describe('a change that met another', () => {
  const show = (wanted: TaskChange): { readonly chosen: string[] } => {
    const chosen: string[] = [];
    const editing: TaskEditing = {
      conflict: null,
      edit: () => Promise.resolve(true),
      keepMine: () => Promise.resolve(void chosen.push('mine')),
      keepTheirs: () => void chosen.push('theirs'),
    };
    const current = { ...taskSheet, estimateMinutes: 1800, description: 'Bring the long ladder.', assignees: [] };
    render(<ConflictNote conflict={{ taskId: planTask.id, wanted, current }} editing={editing} today={TODAY} />);
    return { chosen };
  };
  const sides = (): (string | null)[] => screen.getAllByRole('definition').map((side) => side.textContent);

  test.each<[TaskChange, string, string]>([
    [{ estimateMinutes: 1200 }, '30 h', '20 h'],
    [{ estimateMinutes: null }, '30 h', 'not estimated'],
    [{ status: 'done' }, 'Not begun', 'Done'],
    [{ title: 'Posts set' }, 'Signs set', 'Posts set'],
    [{ days: 6, fixedDay: '2026-12-01' }, '4 working days, 25 – 30 Nov', '6 working days, fixed to 1 Dec'],
    [{ assigneeIds: ['a', 'b'] }, 'nobody', '2 people'],
    [{ priority: 'high' }, 'normal priority', 'high priority'],
    [{ description: 'Bring the short ladder.' }, 'Bring the long ladder.', 'Bring the short ladder.'],
    [{ isShownToClient: true }, 'not shown to client', 'shown to client'],
    [{ labels: ['rush'] }, 'no labels', 'rush'],
    [{ notBefore: '2026-12-01' }, '4 working days, 25 – 30 Nov', 'not before 1 Dec'],
    [{ fixedDay: null }, '4 working days, 25 – 30 Nov', 'placed by the planner'],
    [{ outside: null }, 'no outside maker', 'no outside maker'],
  ])('%j is shown beside what is there now', (wanted, there, yours) => {
    show(wanted);
    expect(sides()).toEqual([there, yours]);
  });

  test('either is one press away', async () => {
    const { chosen } = show({ status: 'done' });
    await userEvent.click(screen.getByRole('button', { name: 'Use their version' }));
    await userEvent.click(screen.getByRole('button', { name: 'Keep my version' }));
    expect(chosen).toEqual(['theirs', 'mine']);
  });
});
