import fc from 'fast-check';
import { mondayOf, type IsoDay } from '@crew/core';
import { awayRows, closedByYear, daysFrom, monthsOf, stretchOf, STRIP_DAYS } from './away.ts';

const later = (day: IsoDay, days: number): IsoDay => new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10) as IsoDay;
const day = fc.integer({ min: 0, max: 3000 }).map((number) => later('2024-01-01', number));

describe('the strip', () => {
  test('a stretch is never outside, and as wide as its days', () => {
    fc.assert(
      fc.property(day, day, day, (from, to, first) => {
        const stretch = stretchOf(from, to, first);
        const strip = new Set(Array.from({ length: STRIP_DAYS }, (_, index) => later(first, index)));
        const inside = daysFrom(from, to).filter((each) => strip.has(each));
        if (stretch === null) return inside.length === 0;
        return stretch.left >= 0 && stretch.left + stretch.width <= 1 + 1e-9 && Math.round(stretch.width * STRIP_DAYS) === inside.length;
      }),
    );
  });

  test('begins on a Monday', () => {
    expect((['2026-11-23', '2026-11-26', '2026-11-29'] as const).map(mondayOf)).toEqual(['2026-11-23', '2026-11-23', '2026-11-23']);
  });

  test('names the months that have room', () => {
    expect(monthsOf('2026-11-23').map((month) => month.day)).toEqual([
      '2026-12-01',
      '2027-01-01',
      '2027-02-01',
      '2027-03-01',
      '2027-04-01',
    ]);
    expect(monthsOf('2026-11-16')[0]).toEqual({ day: '2026-11-16', left: 0 });
  });

  test('has a row for everybody who is away in it', () => {
    const line = (id: string, name: string, from: IsoDay, to: IsoDay) => ({
      id,
      from,
      to,
      minutes: null,
      note: '',
      person: { id: name, name, initials: name.slice(0, 2) },
    });
    const rows = awayRows(
      [
        line('1', 'Ida', '2026-12-01', '2026-12-04'),
        line('2', 'Teo', '2028-01-03', '2028-01-04'),
        line('3', 'Ida', '2027-02-01', '2027-02-01'),
      ],
      '2026-11-23',
    );
    expect(rows.map((row) => [row.person.name, row.spans.length])).toEqual([['Ida', 2]]);
  });
});

test('closed days stand by year, those next to each other together', () => {
  const closed = [
    { day: '2026-12-30', name: 'Winter' },
    { day: '2026-12-31', name: 'Winter' },
    { day: '2027-01-01', name: 'Winter' },
    { day: '2027-01-06', name: 'Winter' },
    { day: '2027-01-07', name: 'Epiphany' },
  ] as const;
  expect(closedByYear(closed)).toEqual([
    { year: '2026', runs: [{ name: 'Winter', days: ['2026-12-30', '2026-12-31'] }] },
    {
      year: '2027',
      runs: [
        { name: 'Winter', days: ['2027-01-01'] },
        { name: 'Winter', days: ['2027-01-06'] },
        { name: 'Epiphany', days: ['2027-01-07'] },
      ],
    },
  ]);
});
