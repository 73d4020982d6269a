import { holidayCountries, holidaysOf, isHolidayPlace } from './public-holidays.ts';

/** Known days, from the three governments' own lists. */
const KNOWN: readonly (readonly [string, string | null, number, Readonly<Record<string, string>>])[] = [
  [
    ...(['DE', 'BY', 2026] as const),
    {
      ...{ '2026-01-01': 'New Year', '2026-01-06': 'Epiphany', '2026-04-03': 'Good Friday', '2026-04-06': 'Easter Monday' },
      ...{ '2026-05-01': 'Labour', '2026-05-14': 'Ascension', '2026-05-25': 'Whit Monday', '2026-06-04': 'Corpus Christi' },
      ...{ '2026-10-03': 'Holiday', '2026-11-01': 'All Saints', '2026-12-25': 'Christmas', '2026-12-26': 'Boxing Day' },
    },
  ],
  [
    ...(['GB', 'ENG', 2027] as const),
    {
      ...{ '2027-01-01': 'New Year', '2027-03-26': 'Good Friday', '2027-03-29': 'Easter Monday', '2027-05-03': 'Early May' },
      ...{ '2027-05-31': 'Spring', '2027-08-30': 'Summer', '2027-12-27': 'Christmas', '2027-12-28': 'Boxing Day' },
    },
  ],
  [
    ...(['US', null, 2026] as const),
    {
      ...{ '2026-01-01': 'New Year', '2026-01-19': 'Martin Luther King', '2026-05-25': 'Memorial Day', '2026-09-07': 'Labour Day' },
      ...{ '2026-11-26': 'Thanksgiving', '2026-12-25': 'Christmas' },
    },
  ],
];

test.each(KNOWN)('the holidays of %s %s in %i are those its government names', (country, region, year, known) => {
  const closed = holidaysOf({ country, region }, year).filter(({ isUsuallyClosed }) => isUsuallyClosed);
  const named = Object.fromEntries(closed.map(({ day, name }) => [day, name]));
  for (const [day, name] of Object.entries(known))
    expect({ day, name: named[day] }).toEqual({ day, name: expect.stringContaining(name) as string });
});

test('of a region with days of its own there are more than of the country', () => {
  const days = (region: string | null) => holidaysOf({ country: 'DE', region }, 2026).map(({ day }) => day);
  expect(days(null)).not.toContain('2026-06-04');
  expect(days('BY')).toContain('2026-06-04');
  expect(days('BY')).toEqual([...new Set(days('BY'))].sort());
});

test('countries are listed by name with their regions; a place that is not known is refused', () => {
  const countries = holidayCountries();
  expect(countries.length).toBeGreaterThan(150);
  expect(countries.find(({ id }) => id === 'GB')?.regions).toContainEqual({ id: 'SCT', name: 'Scotland' });
  expect(countries.map(({ name }) => name)).toEqual(
    [...countries.map(({ name }) => name)].sort((left, right) => left.localeCompare(right)),
  );
  expect(isHolidayPlace('XX', null)).toBe(false);
  expect(isHolidayPlace('DE', 'SCT')).toBe(false);
  expect(() => holidaysOf({ country: 'XX', region: null }, 2026)).toThrow('Holidays of this place are not known.');
});
