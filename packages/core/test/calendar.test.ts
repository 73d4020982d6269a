import fc from 'fast-check';
import {
  addDays,
  addWorkingDays,
  briefBy,
  compileCalendar,
  daysBetween,
  formatDay,
  isOpen,
  mondayOf,
  openOnOrBefore,
  parseDay,
  rank,
  select,
  weekdayOf,
  weekOf,
  workingDaysBetween,
  type CalendarInput,
  currentWeek,
  type IsoDay,
} from '../src/index.ts';

const someCalendar: fc.Arbitrary<CalendarInput> = fc.record({
  week: fc.array(fc.constantFrom(0, 450), { minLength: 7, maxLength: 7 }).filter((week) => week.some((minutes) => minutes > 0)),
  closed: fc.array(
    fc.integer({ min: 20_000, max: 20_060 }).map((day) => formatDay(day)),
    { maxLength: 20 },
  ),
});
const someDay = fc.integer({ min: 19_980, max: 20_080 });

function compiled(input: CalendarInput) {
  const result = compileCalendar(input);
  if (!result.ok) throw new Error(result.problem.kind);
  return result.value;
}

test('select and rank undo each other on every open day', () => {
  fc.assert(
    fc.property(someCalendar, someDay, (input, day) => {
      const calendar = compiled(input);
      const open = select(calendar, rank(calendar, day));
      expect(isOpen(calendar, open)).toBe(true);
      expect(open).toBeGreaterThanOrEqual(day);
      expect(rank(calendar, open)).toBe(rank(calendar, day));
    }),
  );
});

test('adding working days equals walking over them one by one', () => {
  fc.assert(
    fc.property(someCalendar, someDay, fc.integer({ min: -40, max: 40 }), (input, day, days) => {
      const calendar = compiled(input);
      let at = day;
      while (!isOpen(calendar, at)) at++;
      for (let left = Math.abs(days); left > 0;) {
        at += Math.sign(days);
        if (isOpen(calendar, at)) left--;
      }
      expect(addWorkingDays(calendar, day, days)).toBe(at);
      expect(workingDaysBetween(calendar, day, at)).toBe(days);
    }),
  );
});

test('the open day on or before a day is the last one that is open', () => {
  fc.assert(
    fc.property(someCalendar, someDay, (input, day) => {
      const calendar = compiled(input);
      let at = day;
      while (!isOpen(calendar, at)) at--;
      expect(openOnOrBefore(calendar, day)).toBe(at);
    }),
  );
});

test('the brief goes out turnaround and buffer before the day it is needed', () => {
  const calendar: CalendarInput = { week: [450, 450, 450, 450, 450, 0, 0], closed: ['2026-12-25', '2026-12-28', '2027-01-01'] };
  expect(briefBy({ calendar, needed: '2027-01-06', turnaround: 5, buffer: 2 })).toEqual({ ok: true, value: { briefBy: '2026-12-23' } });
  expect(briefBy({ calendar, needed: '2027-01-09', turnaround: 0, buffer: 0 })).toEqual({ ok: true, value: { briefBy: '2027-01-08' } });
  expect(briefBy({ calendar, needed: '2027-01-09', turnaround: -1, buffer: 0 })).toMatchObject({ problem: { at: 'turnaround' } });
});

test.each(['2026-02-30', '2026-13-01', '26-01-01', 'soon', '2026-1-1', '2026-01-01T00:00'])('%s is not a day', (text) => {
  expect(parseDay(text)).toBeNull();
});

test('every day reads back as it was written', () => {
  fc.assert(fc.property(fc.integer({ min: -100_000, max: 100_000 }), (day) => parseDay(formatDay(day)) === day));
});

test('a day moved by days is so many days away, and a week runs from Monday to Sunday', () => {
  expect(addDays('2026-12-31', 1)).toBe('2027-01-01');
  expect(weekOf('2026-11-29')).toEqual({ from: '2026-11-23', to: '2026-11-29' });
  const day = fc.integer({ min: -100_000, max: 100_000 }).map(formatDay);
  fc.assert(
    fc.property(day, fc.integer({ min: -5000, max: 5000 }), (from, count) => {
      expect(daysBetween(from, addDays(from, count))).toBe(count);
      expect(weekdayOf(parseDay(mondayOf(from)) as number)).toBe(0);
      expect(daysBetween(mondayOf(from), from)).toBe(weekdayOf(parseDay(from) as number));
    }),
  );
  expect(() => addDays('2026-02-30', 1)).toThrow('no calendar day');
});

test('closed days a lifetime apart are counted as those of one summer are', () => {
  fc.assert(
    fc.property(
      someCalendar,
      fc.array(fc.integer({ min: -30_000, max: 60_000 }), { minLength: 2, maxLength: 6 }),
      fc.integer({ min: -31_000, max: 61_000 }),
      (input, far, day) => {
        const near = compiled(input);
        const wide = compiled({ week: input.week, closed: [...input.closed, ...far.map((other) => formatDay(other))] });
        const extra = [...new Set(far)].filter((other) => other < day && isOpen(near, other)).length;
        expect(rank(wide, day)).toBe(rank(near, day) - extra);
        const open = select(wide, rank(wide, day));
        expect(isOpen(wide, open)).toBe(true);
        expect(rank(wide, open)).toBe(rank(wide, day));
      },
    ),
  );
});

test('on a day that is closed this week is the one in which it opens next', () => {
  const compiled = compileCalendar({ week: [450, 450, 450, 450, 450, 0, 0], closed: ['2026-12-25', '2026-12-28', '2026-12-29'] });
  if (!compiled.ok) throw new Error('no calendar');
  const mondayOn = (day: IsoDay): IsoDay => currentWeek(compiled.value, day).from;
  expect(mondayOn('2026-11-27')).toBe('2026-11-23');
  expect(mondayOn('2026-11-29')).toBe('2026-11-30');
  // A closed Friday has no open day behind it in its week; a closed Monday has.
  expect([mondayOn('2026-12-25'), mondayOn('2026-12-28')]).toEqual(['2026-12-28', '2026-12-28']);
});
