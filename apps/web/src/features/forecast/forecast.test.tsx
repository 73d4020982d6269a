import type { ForecastState } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { forecastView, plan } from '../../../test/samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { ForecastSheet } from './ForecastSheet.tsx';
import { basisWords, spreadOption } from './forecast-words.ts';
import { useForecast } from './use-forecast.ts';

function Opened() {
  return <ForecastSheet plan={plan} forecasting={useForecast('e1')} onClose={() => undefined} />;
}
const open = (state: ForecastState) =>
  openScreen(<Opened />, { path: '/engagements/e1', answers: { 'GET /engagements/e1/forecast': state } });
const asked = (page: Awaited<ReturnType<typeof open>>): number =>
  page.network.asked.filter(({ method, path }) => method === 'POST' && path === '/engagements/e1/forecast').length;
const fact = (name: string): string | null => screen.getByText(name, { selector: 'dt' }).nextElementSibling?.textContent ?? null;

test('likely, safe and almost sure days stand beside the plan and the promise, with the chance to keep it', async () => {
  const page = await open({ forecast: forecastView, isStale: false });
  expect(fact('Likely')).toContain('Fri 11 Dec');
  expect(fact('Safe')).toContain('Tue 22 Dec');
  expect(fact('Almost sure')).toContain('Tue 5 Jan 2027');
  expect(fact('As planned')).toBe('Thu 10 Dec');
  expect(fact('Promise')).toBe('Fri 18 Decmet in 71 % of runs');
  expect(screen.getByRole('img', { name: /^Share of runs that were done by each day, from 10 Dec to 5 Jan 2027/ })).toBeTruthy();
  expect(screen.getByText(/10,000 runs/)).toBeTruthy();
  expect(asked(page)).toBe(0);
});

test('what decides it is a way to the task', async () => {
  await open({ forecast: forecastView, isStale: false });
  const link = screen.getByRole('link', { name: 'Signs set' });
  expect(link.getAttribute('href')).toBe('/engagements/e1?task=t1');
  expect(link.closest('li')?.textContent).toContain('Setting · due Thu 26 Nov');
  expect(link.closest('li')?.textContent).toContain('88 of 100');
});

test('of older facts it is computed anew by itself, and says how far it is', async () => {
  const page = await open({ forecast: forecastView, isStale: true });
  page.network.answerInLines('POST /engagements/e1/forecast', []);
  await waitFor(() => expect(asked(page)).toBe(1));
});

test('computed anew it shows the new one', async () => {
  const page = await open({ forecast: null, isStale: false });
  expect(screen.getByText('Not calculated yet.')).toBeTruthy();
  page.network.answerInLines('POST /engagements/e1/forecast', [
    { kind: 'running', done: 5000, of: 10_000 },
    { kind: 'made', forecast: { ...forecastView, likely: '2026-12-14' } },
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'Calculate now' }));
  await waitFor(() => expect(fact('Likely')).toContain('Mon 14 Dec'));
});

test('stopped, it is not begun again by itself, and the old one says that it is old', async () => {
  const page = await open({ forecast: forecastView, isStale: true });
  const status = await screen.findByRole('status', { name: 'Calculating the forecast' }).catch(() => null);
  if (status !== null) await userEvent.click(within(status).getByRole('button', { name: 'Stop' }));
  const times = asked(page);
  expect(await screen.findByText(/the plan has changed since|Nothing answers/)).toBeTruthy();
  expect(asked(page)).toBe(times);
});

test('what went wrong is told, and tried again when asked for', async () => {
  const page = await open({ forecast: null, isStale: true });
  expect(await screen.findByText('Nothing answers /engagements/e1/forecast here.')).toBeTruthy();
  page.network.answerInLines('POST /engagements/e1/forecast', [{ kind: 'made', forecast: forecastView }]);
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(fact('Likely')).toContain('Fri 11 Dec'));
});

describe('in words', () => {
  test('it says whose record the lengths come from', () => {
    expect(basisWords(forecastView)).toBe(
      'Based on 212 finished tasks of your agency. Own record: Installer. Too few finished tasks of their own, so based on everyone’s: the client.',
    );
    expect(basisWords({ ...forecastView, basis: { finishedTasks: 0, ownRoles: [], sharedRoles: [] } })).toContain('durations are assumed');
  });

  test('the curve ends at all runs, and the promise stands at its last day before', () => {
    const option = spreadOption(forecastView, { colour: (token) => token, today: '2026-11-23' }) as {
      series: { data: number[]; markLine?: { data: { xAxis: number }[] } }[];
    };
    expect(option.series[1]?.data).toEqual([40, 60, 71, 100]);
    expect(option.series[0]?.data).toEqual([40, 20, 11, 29]);
    expect(option.series[1]?.markLine?.data).toEqual([{ xAxis: 2 }]);
  });
});
