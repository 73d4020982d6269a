import { daysOfYears, yearToReview } from './holidays.ts';

const calendar = { week: [480, 480, 480, 480, 480, 0, 0], closed: [{ day: '2026-12-25', name: 'Christmas' }] } as const;
const holiday = (day: '2026-12-25' | '2026-12-26' | '2026-12-28' | '2027-01-01' | '2027-03-26', isUsuallyClosed = true) => ({
  day,
  name: 'Fair',
  isUsuallyClosed,
});

test('ticked at first is what offices keep on a working day that is not closed yet', () => {
  const years = daysOfYears(
    [holiday('2026-12-25'), holiday('2026-12-26'), holiday('2026-12-28', false), holiday('2027-01-01'), holiday('2027-03-26')],
    calendar,
  );
  expect(years.map(({ year, days }) => [year, days.map(({ why }) => why)])).toEqual([
    ['2026', ['closed', 'day-off', 'optional']],
    ['2027', ['proposed', 'proposed']],
  ]);
});

test.each([
  ['in November with nothing closed next year', '2026-11-23', calendar.closed, 2027],
  ['in September', '2026-09-30', calendar.closed, null],
  ['with next year’s days closed', '2026-11-23', [{ day: '2027-01-01', name: 'New Year' }], null],
  ['where nothing was ever closed', '2026-11-23', [], null],
] as const)('the next year is to be reviewed: %s', (_case, today, closed, year) => {
  expect(yearToReview(today, closed)).toBe(year);
});
