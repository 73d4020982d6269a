import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openScreen } from '../../../test/screen.tsx';
import { HistoryPage } from './HistoryPage.tsx';
import { queryOf } from './HistoryFilters.tsx';

const nothing = { lines: [], before: null };
const answers = {
  'GET /crew': { people: [{ id: 'p1', name: 'Mirela Stoyan', initials: 'MS', roles: [] }], roles: [] },
  'GET /engagements': [],
  'GET /engagements?finished=yes': [],
  'GET /history': nothing,
};

test('the address says what is shown; a day that is none asks for nothing', () => {
  const of = (text: string) => queryOf(new URLSearchParams(text));
  expect(of('person=p1&part=time&from=2026-11-19&to=2026-11-20&x=1')).toBe('person=p1&part=time&from=2026-11-19&to=2026-11-20');
  expect(of('from=soon&to=2026-02-30')).toBe('');
});

test('what is chosen narrows the history, and all of it comes back at once', async () => {
  const page = await openScreen(<HistoryPage />, { path: '/history', answers });
  for (const query of ['part=handoffs', 'person=p1&part=handoffs']) page.network.answer(`GET /history?${query}`, 200, nothing);
  await userEvent.click(screen.getByRole('button', { name: /About/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'phases and handoffs' }));
  expect(page.address()).toBe('/history?part=handoffs');
  await userEvent.click(screen.getByRole('button', { name: /By/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'Mirela Stoyan' }));
  expect(page.network.asked.map(({ path }) => path)).toContain('/history?person=p1&part=handoffs');
  await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
  expect(page.address()).toBe('/history');
});
