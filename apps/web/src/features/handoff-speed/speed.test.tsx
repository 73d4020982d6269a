import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { HandoffCase, HandoffSpeed, HandoffSpeedColumn } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { scalesOf } from './curves.ts';
import { SpeedPage } from './SpeedPage.tsx';
import { columnWords, summaryOf } from './speed-words.ts';

const point = (month: string, more: Partial<HandoffSpeedColumn['points'][number]> = {}) => ({
  ...{ month, cases: 0, days: null, waits: 0, waitMinutes: null, back: 0 },
  ...more,
});
const months = ['2026-10', '2026-11'];
const script: HandoffSpeedColumn = {
  ...{ key: 'r1', name: 'Writer', cases: 3, plannedDays: 10 },
  points: [
    point('2026-10', { cases: 1, days: 9, waits: 1, waitMinutes: 60 }),
    point('2026-11', { cases: 2, days: 12.5, waits: 1, waitMinutes: 330, back: 1 }),
  ],
};
const speed: HandoffSpeed = { templates: [{ id: 't1', name: 'Audio trail' }], months, columns: [script], all: script, marks: [] };
const handoff: HandoffCase = {
  ...{ id: 'h1', engagement: { id: 'e1', name: 'Depot audio trail', hue: 'plum' }, from: 'Script', to: 'Studio' },
  ...{ giver: null, receiver: null, handedOffAt: '2026-11-19T15:40:00.000Z', pickedUpAt: null, waitMinutes: 630, isWaiting: true },
  ...{ days: 13, plannedDays: 12, questions: ['Which age group?'] },
};

test('the summary says how fast, how many came back, and what runs over its plan', () => {
  expect(summaryOf(speed)).toEqual([
    'Usually picked up after 5.5 working hours this month, 1 in October.',
    '1 of 3 handoffs came back with a question.',
    'Writer runs furthest over its plan: 12.5 days, planned 10.',
  ]);
  const none = { ...script, plannedDays: null, points: months.map((month) => point(month)) };
  expect(summaryOf({ all: none, columns: [none], months })).toEqual(['Nothing was handed off in these months.']);
});

test('a column is told to somebody who does not see it', () => {
  expect(columnWords(script)).toContain('November: 12.5 days, picked up after 5.5 h, 1 of 2 back');
});

test('all columns share scales that hold every value', () => {
  expect(scalesOf([script])).toEqual({ days: 16, waitHours: 6 });
});

test('a month of a column shows the handoffs behind it', async () => {
  const page = await openScreen(<SpeedPage />, {
    path: '/handoffs/speed',
    answers: {
      'GET /handoffs/speed?by=role&months=6': speed,
      'GET /handoffs/speed/cases?by=role&months=6&key=r1&month=2026-11': [handoff],
    },
  });
  await userEvent.click(await screen.findByRole('button', { name: 'Writer, 2026-11: show 2 handoffs' }));
  const cases = within(await screen.findByRole('region', { name: 'Handoffs behind the numbers' }));
  expect(await cases.findByText('Depot audio trail')).toBeTruthy();
  expect(cases.getByText('10.5 h')).toBeTruthy();
  expect(cases.getByText(/1 is still waiting/)).toBeTruthy();
  expect(cases.getByText('1 time: “Which age group?”')).toBeTruthy();
  await userEvent.click(cases.getByRole('button', { name: '‹ October' }));
  expect(page.address()).toContain('month=2026-10');
});
