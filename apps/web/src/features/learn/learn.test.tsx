import type { LearnedTask, LearnedTemplate, Me, TemplateContentView } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { odalys, teo } from '../../../test/samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { LearnedSheet } from './LearnedSheet.tsx';
import { chartedTasks, inOrder, plannedAgainstReal, proposalWords, rangeWords } from './learned-words.ts';

const run = (taskId: string, name: string, minutes: number | null, isDropped = false) => ({
  ...{ taskId, engagement: { id: `e-${taskId}`, name }, minutes, days: 2, isDropped, doneOn: '2026-10-02' as const },
});
const task = (taskId: string, title: string, more: Partial<LearnedTask> = {}): LearnedTask => ({
  ...{ taskId, title, phase: 'Survey', estimateMinutes: 240, days: 1, n: 3, dropped: 0, workingDays: { p20: 2, middle: 2, p80: 2 } },
  ...{ minutes: { p20: 290, middle: 312, p80: 340 }, proposals: [], runs: [run(`${taskId}1`, 'Bell stair labels', 312)] },
  ...more,
});
const learned: LearnedTemplate = {
  ...{ revision: 7, version: 2, isChanged: true, engagements: 4 },
  tasks: [
    task('k1', 'Names check', { n: 9, estimateMinutes: 300 }),
    task('k2', 'Photographs', {
      proposals: [
        { id: 'effort k2', kind: 'effort', from: 240, to: 315 },
        { id: 'length k2', kind: 'length', from: 1, to: 2 },
        { id: 'add-step k2 Torch', kind: 'add-step', title: 'Torch', runs: 3 },
      ],
      runs: [run('r1', 'Bell stair labels', 340), run('r2', 'Rock pool signs', null), run('r3', 'Pier signs', null, true)],
    }),
    task('k3', 'Not run yet', { n: 0, minutes: null, runs: [] }),
  ],
  extras: [
    {
      id: 'add-task Scan old panels',
      title: 'Scan old panels',
      phase: 'Draw',
      role: 'Drawer',
      minutes: 90,
      days: 2,
      runs: [run('x1', 'Pier signs', 60), run('x2', 'Bell stair labels', 90)],
    },
  ],
};
const view = { id: 'w1', content: { name: 'Wayfinding' } } as TemplateContentView;
const taken: TemplateContentView[] = [];
const open = (shown = learned, me: Me = odalys) =>
  openScreen(<LearnedSheet view={view} onApplied={(next) => taken.push(next)} onClose={() => undefined} />, {
    path: '/templates/w1',
    me,
    answers: { 'GET /templates/w1/learned': shown, 'POST /templates/w1/learned': { ...view, version: 3 } },
  });

test('tasks with something worth changing come first, and what never ran is left out', async () => {
  await open();
  expect(screen.getByText('From 4 engagements. 4 proposals: choose the changes to make.')).toBeTruthy();
  const titles = screen.getAllByRole('listitem').flatMap((item) => item.querySelector('strong')?.textContent ?? []);
  expect(titles).toEqual(['Photographs', 'Names check', 'Scan old panels']);
});

test('the runs behind a number can be opened, each a way to its task', async () => {
  await open();
  await userEvent.click(screen.getByRole('button', { name: 'Show 3 runs' }));
  const link = screen.getByRole('link', { name: 'Rock pool signs' });
  expect(link.getAttribute('href')).toBe('/engagements/e-r2?task=r2');
  expect(link.closest('li')?.textContent).toContain('no time logged · 2 days');
  expect(screen.getByRole('link', { name: 'Pier signs' }).closest('li')?.textContent).toContain('dropped');
});

test('chosen ones make the next version; what is not kept yet is said to come along', async () => {
  const page = await open();
  expect(screen.getByText(/changes not yet saved as a version; they are included/)).toBeTruthy();
  await userEvent.click(screen.getByRole('checkbox', { name: 'estimate 5.3 h instead of 4 h' }));
  await userEvent.click(screen.getByRole('checkbox', { name: 'add the step “Torch”, which 3 runs had' }));
  await userEvent.click(screen.getByRole('button', { name: 'Save version 3 with 2 changes' }));
  await waitFor(() => expect(page.sent()[0]?.body).toEqual({ revision: 7, proposals: ['effort k2', 'add-step k2 Torch'] }));
  expect(taken).toMatchObject([{ id: 'w1', version: 3 }]);
  expect(await screen.findByText('Version 3 saved with 2 changes from past runs. Running engagements keep their version.')).toBeTruthy();
});

test('what was refused is told, and the choice stays', async () => {
  const page = await open();
  page.network.answer('POST /templates/w1/learned', 409, { code: 'changed-meanwhile', message: 'Somebody changed this template.' });
  const box = screen.getByRole('checkbox', { name: 'plan 2 days instead of 1' });
  await userEvent.click(box);
  await userEvent.click(screen.getByRole('button', { name: 'Save version 3 with 1 change' }));
  expect((await screen.findByRole('alert')).textContent).toBe('Somebody changed this template.');
  expect((box as HTMLInputElement).checked).toBe(true);
});

test('members read it and choose nothing', async () => {
  await open(learned, teo);
  expect(screen.queryByRole('checkbox')).toBeNull();
  expect(screen.getByText('plan 2 days instead of 1')).toBeTruthy();
});

test('without a run it says when there will be something', async () => {
  await open({ ...learned, engagements: 0, tasks: [], extras: [] });
  expect(screen.getByText(/^No task from this template is finished yet/)).toBeTruthy();
});

test('what people add again and again is told', async () => {
  await open();
  const extra = screen.getByText('Scan old panels').closest('li') as HTMLElement;
  expect(within(extra).getByText('Draw · in 2 engagements')).toBeTruthy();
});

describe('in words and bars', () => {
  test.each([
    [task('a', 'A'), 'planned 4 h · took 5.2 h, median of 3 runs, mostly 4.8–5.7 h'],
    [task('a', 'A', { estimateMinutes: null, minutes: { p20: 60, middle: 60, p80: 60 } }), 'not estimated · took 1 h, median of 3 runs'],
    [task('a', 'A', { minutes: null }), '3 runs, none with time logged'],
    [task('a', 'A', { minutes: null, n: 0 }), 'no run yet'],
  ])('%#: the range', (given, words) => {
    expect(rangeWords(given)).toBe(words);
  });

  test('a step most leave out', () => {
    expect(proposalWords({ id: 'x', kind: 'drop-step', title: 'Fax', runs: 4 })).toBe('leave out the step “Fax”, as 4 runs did');
  });

  test('only tasks with three runs and an estimate are drawn, in hours, the first on top', () => {
    const charted = chartedTasks([...learned.tasks, task('k4', 'Twice', { n: 2 }), task('k5', 'Guess', { estimateMinutes: null })]);
    expect(charted.map(({ title }) => title)).toEqual(['Photographs', 'Names check']);
    const option = plannedAgainstReal(charted, (token) => token) as { yAxis: { data: string[] }; series: { data: number[] }[] };
    expect(option.yAxis.data).toEqual(['Names check', 'Photographs']);
    expect(option.series.map(({ data }) => data)).toEqual([
      [5, 4],
      [5.2, 5.2],
    ]);
    expect(inOrder(learned.tasks)[0]?.title).toBe('Photographs');
  });
});
