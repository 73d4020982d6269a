import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { LatePromise as Late } from '@crew/contract';
import { LatePromise } from './LatePromise.tsx';

const late: Late = {
  ...{ start: '2026-11-23', finish: '2027-01-15', days: 4 },
  omissions: [
    { kind: 'phase', id: 'p9', name: 'Press and opening', minutes: 600, days: 5, isEnough: true },
    { kind: 'deliverable', id: 'Posts', name: 'Posts', minutes: 0, days: 1, isEnough: false },
  ],
};

test('says by how much it is missed, what could be left out, and takes each way by a press', async () => {
  const changes: object[] = [];
  const state = {
    change: (change: object) => changes.push(change),
    toggle: (list: string, id: string) => changes.push({ [list]: id }),
  };
  render(<LatePromise late={late} promise="2027-01-11" today="2026-11-23" state={state} />);
  const note = screen.getByRole('note', { name: 'The promised date cannot be met' });
  expect(note.textContent).toContain('Starting today, the work ends Fri 15 Jan 2027 at the earliest, 4 working days too late.');
  expect(screen.getAllByRole('listitem').map((line) => line.textContent)).toEqual([
    'Leave out Press and openingphase · 10 h · 5 working days earlier · the promised date is met',
    'Leave out Postsdeliverable · 1 working day earlier',
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'Leave out Press and opening' }));
  await userEvent.click(screen.getByRole('button', { name: 'Leave out Posts' }));
  await userEvent.click(screen.getByRole('button', { name: 'Promise Fri 15 Jan 2027 instead' }));
  await userEvent.click(screen.getByRole('button', { name: 'Start today anyway' }));
  expect(changes).toEqual([
    { withoutPhases: 'p9' },
    { withoutDeliverables: 'Posts' },
    { from: 'start', start: '2026-11-23', promise: '2027-01-15' },
    { from: 'start', start: '2026-11-23', promise: '2027-01-11' },
  ]);
});
