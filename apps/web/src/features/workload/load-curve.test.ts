import { curveOption, curveWords, loadByWeek } from './load-curve.ts';

const dates = (['2026-11-26', '2026-11-27', '2026-11-30', '2026-12-01'] as const).map((date) => ({ date, isClosed: false }));
const rows = [
  { load: [600, 0, 240, 480], capacity: [480, 480, 480, 480] },
  { load: [60, 60, 0, 0], capacity: [480, 0, 480, 0] },
];
const weeks = loadByWeek({ dates }, rows);

test('days are summed by week; one full day is over, however free another or somebody else is', () => {
  expect(weeks).toEqual([
    { monday: '2026-11-23', within: 540, over: 180, open: 1440 },
    { monday: '2026-11-30', within: 720, over: 0, open: 1440 },
  ]);
});

test('law: what fits and what is over is all that is planned', () => {
  const planned = rows.flatMap(({ load }) => load).reduce((sum, minutes) => sum + minutes, 0);
  expect(weeks.reduce((sum, { within, over }) => sum + within + over, 0)).toBe(planned);
});

test('it is said in words too, and drawn in hours', () => {
  expect(curveWords(weeks, '2026-11-26')).toBe('week of 23 Nov: 12 of 24 h planned, 3 of it over; week of 30 Nov: 12 of 24 h planned');
  const { series } = curveOption(weeks, '2026-11-26', (token) => token) as { series: { name: string; data: number[] }[] };
  expect(series.map(({ name, data }) => [name, data])).toEqual([
    ['planned', [9, 12]],
    ['over', [3, 0]],
    ['open', [24, 24]],
  ]);
});
