import fc from 'fast-check';
import ICAL from 'ical.js';
import {
  balanceRetainer,
  compileCalendar,
  expandRule,
  formatDay,
  isOpen,
  scheduleUnits,
  lineHours,
  occurrences,
  paceOf,
  paceRule,
  parseDay,
  readRule,
  weekdayOf,
  weeksFrom,
  writeRule,
  type Calendar,
  type Carry,
  type Result,
  type SeriesInput,
  type IsoDay,
  type CalendarInput,
} from '../src/index.ts';

const valueOf = <Value>(result: Result<Value>): Value => {
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
};
const dayOf = (day: IsoDay): number => parseDay(day) as number;
const WEEK = [450, 450, 450, 450, 450, 0, 0];
const calendar: CalendarInput = { week: WEEK, closed: ['2026-12-25', '2026-12-28', '2027-01-01'] };

const daysOf = (rule: string, start: IsoDay, to: IsoDay): string[] =>
  expandRule(valueOf(readRule(rule)), { start: dayOf(start), from: dayOf(start), to: dayOf(to) }).map(formatDay);

describe('a rule gives its days', () => {
  test.each([
    ['every second Tuesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', ['2026-11-24', '2026-12-08', '2026-12-22']],
    ['the last working day of the month', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', ['2026-11-30', '2026-12-31']],
    ['the second Tuesday of the month', 'FREQ=MONTHLY;BYDAY=2TU', ['2026-12-08']],
    ['the last Friday of the month', 'FREQ=MONTHLY;BYDAY=-1FR', ['2026-11-27', '2026-12-25']],
    ['the last day of the month', 'FREQ=MONTHLY;BYMONTHDAY=-1', ['2026-11-30', '2026-12-31']],
    ['every ten days, three times', 'FREQ=DAILY;INTERVAL=10;COUNT=3', ['2026-11-24', '2026-12-04', '2026-12-14']],
    ['until a day, which counts', 'FREQ=WEEKLY;BYDAY=MO;UNTIL=20261207', ['2026-11-30', '2026-12-07']],
    ['until a moment of a day, which counts too', 'FREQ=WEEKLY;BYDAY=MO;UNTIL=20261207T120000Z', ['2026-11-30', '2026-12-07']],
    ['nothing named: the weekday it began on', 'FREQ=WEEKLY;INTERVAL=3', ['2026-11-24', '2026-12-15']],
    ['once a year in a month', 'FREQ=YEARLY;BYMONTH=12;BYDAY=1MO', ['2026-12-07']],
    ['the 364th day of the year', 'FREQ=YEARLY;BYYEARDAY=364', ['2026-12-30']],
  ])('%s', (_, rule, days) => {
    expect(daysOf(rule, '2026-11-24', '2026-12-31')).toEqual(days);
  });

  test('what never comes gives no day, not another one', () => {
    expect(daysOf('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', '2026-11-24', '2040-01-01')).toEqual([]);
    expect(daysOf('FREQ=MONTHLY;BYMONTHDAY=31', '2027-01-31', '2027-06-30')).toEqual(['2027-01-31', '2027-03-31', '2027-05-31']);
  });

  test('weeks begin where the rule says, which matters to every second one', () => {
    const both = (start: string): string[] =>
      daysOf(`FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SU;COUNT=4;WKST=${start}`, '1997-08-05', '1997-12-31');
    expect(both('MO')).toEqual(['1997-08-05', '1997-08-10', '1997-08-19', '1997-08-24']);
    expect(both('SU')).toEqual(['1997-08-05', '1997-08-17', '1997-08-19', '1997-08-31']);
  });
});

describe('unusable rules are refused in words', () => {
  test.each([
    ['nonsense', /written as/],
    ['', /FREQ/],
    ['FREQ=HOURLY', /DAILY, WEEKLY/],
    ['FREQ=WEEKLY;INTERVAL=0', /INTERVAL between 1/],
    ['FREQ=WEEKLY;INTERVAL=-1', /INTERVAL between 1/],
    ['FREQ=WEEKLY;BYDAY=XX', /MO or 2TU/],
    ['FREQ=WEEKLY;BYDAY=2TU', /months or years only/],
    ['FREQ=WEEKLY;COUNT=3;UNTIL=20261231', /not both/],
    ['FREQ=WEEKLY;UNTIL=20260231', /UNTIL as/],
    ['FREQ=DAILY;BYHOUR=9', /without BYHOUR/],
    ['FREQ=MONTHLY;BYMONTHDAY=0', /numbers up to 31/],
    ['FREQ=MONTHLY;BYMONTHDAY=1;BYMONTHDAY=2', /BYMONTHDAY once/],
    ['FREQ=MONTHLY;BYSETPOS=1', /to choose from/],
    ['FREQ=YEARLY;BYWEEKNO=20', /without BYWEEKNO/],
  ])('%s', (rule, expected) => {
    const read = readRule(rule);
    expect(read).toMatchObject({ ok: false, problem: { kind: 'invalid-field', at: 'rule' } });
    expect(JSON.stringify(read)).toMatch(expected);
  });
});

const CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const weekdays = fc.uniqueArray(fc.constantFrom(...CODES), { minLength: 1, maxLength: 4 }).map((days) => days.join(','));
const ending = fc.oneof(
  fc.constant(''),
  fc.integer({ min: 1, max: 30 }).map((count) => `;COUNT=${count}`),
  fc.constant(';UNTIL=20280315'),
);
const anyRule = fc
  .tuple(
    fc.oneof(
      fc.constant('FREQ=DAILY'),
      weekdays.map((days) => `FREQ=WEEKLY;BYDAY=${days}`),
      fc.integer({ min: 1, max: 28 }).map((day) => `FREQ=MONTHLY;BYMONTHDAY=${day}`),
      fc
        .tuple(fc.constantFrom('1', '2', '3', '4', '-1', '-2'), fc.constantFrom(...CODES))
        .map(([nth, day]) => `FREQ=MONTHLY;BYDAY=${nth}${day}`),
      weekdays.map((days) => `FREQ=MONTHLY;BYDAY=${days};BYSETPOS=1`),
      fc
        .tuple(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 28 }))
        .map(([month, day]) => `FREQ=YEARLY;BYMONTH=${month};BYMONTHDAY=${day}`),
    ),
    fc.integer({ min: 1, max: 4 }),
    ending,
  )
  .map(([base, interval, end]) => `${base};INTERVAL=${interval}${end}`);
const startDay = fc.integer({ min: dayOf('2026-01-01'), max: dayOf('2027-12-31') }).map(formatDay);

describe('laws of rules', () => {
  test('a written rule reads as the same rule', () => {
    fc.assert(
      fc.property(anyRule, (text) => {
        const rule = valueOf(readRule(text));
        expect(valueOf(readRule(writeRule(rule)))).toEqual(rule);
      }),
    );
  });

  test('a second reading of the standard gives the same days', () => {
    let found = 0;
    fc.assert(
      fc.property(anyRule, startDay, (rule, start) => {
        const to = formatDay(dayOf(start) + 900);
        const iterator = ICAL.Recur.fromString(rule).iterator(ICAL.Time.fromDateString(start));
        const expected: string[] = [];
        for (let day = iterator.next(); day && day.toString() <= to; day = iterator.next()) expected.push(day.toString());
        expect(daysOf(rule, start, to)).toEqual(expected);
        found += expected.length;
      }),
      { numRuns: 300 },
    );
    expect(found).toBeGreaterThan(1000);
  });

  test('a window shows what the whole shows within it', () => {
    fc.assert(
      fc.property(anyRule, startDay, fc.integer({ min: 0, max: 400 }), (rule, start, ahead) => {
        const from = formatDay(dayOf(start) + ahead);
        const read = valueOf(readRule(rule));
        const part = expandRule(read, { start: dayOf(start), from: dayOf(from), to: dayOf(from) + 200 }).map(formatDay);
        expect(part).toEqual(daysOf(rule, start, formatDay(dayOf(from) + 200)).filter((day) => day >= from));
      }),
    );
  });
});

const series = (more: Partial<SeriesInput>): SeriesInput => ({
  calendar,
  rhythms: [{ from: '2026-12-18', rule: 'FREQ=WEEKLY;BYDAY=FR' }],
  onClosed: 'after',
  from: '2026-12-18',
  to: '2027-01-08',
  ...more,
});
const onDays = (input: SeriesInput): string[] => valueOf(occurrences(input)).map(({ day, on }) => (day === on ? day : `${day} on ${on}`));

describe('repeating work falls on open days', () => {
  test('a closed day moves to the next open one, to the one before, or is skipped', () => {
    expect(onDays(series({}))).toEqual(['2026-12-18', '2026-12-25 on 2026-12-29', '2027-01-01 on 2027-01-04', '2027-01-08']);
    expect(onDays(series({ onClosed: 'before' }))).toEqual([
      '2026-12-18',
      '2026-12-25 on 2026-12-24',
      '2027-01-01 on 2026-12-31',
      '2027-01-08',
    ]);
    expect(onDays(series({ onClosed: 'skip' }))).toEqual(['2026-12-18', '2027-01-08']);
  });

  test('what would fall on a day that is taken is skipped', () => {
    const daily = series({ rhythms: [{ from: '2026-12-23', rule: 'FREQ=DAILY' }], from: '2026-12-23', to: '2026-12-30' });
    expect(onDays(daily)).toEqual(['2026-12-23', '2026-12-24', '2026-12-29', '2026-12-30']);
  });

  test('exceptions are left out, extra days come in', () => {
    expect(onDays(series({ skipped: ['2026-12-25'], extra: ['2027-01-05'] }))).toEqual([
      '2026-12-18',
      '2027-01-01 on 2027-01-04',
      '2027-01-05',
      '2027-01-08',
    ]);
  });

  test('the next rhythm ends the one before, whatever the order they are given in', () => {
    const rhythms: SeriesInput['rhythms'] = [
      { from: '2026-12-28', rule: 'FREQ=WEEKLY;BYDAY=TU,TH', each: 2 },
      { from: '2026-12-14', rule: 'FREQ=WEEKLY;BYDAY=MO' },
    ];
    const found = valueOf(occurrences(series({ rhythms, from: '2026-12-14' })));
    expect(found.map(({ day, each }) => [day, each])).toEqual([
      ['2026-12-14', 1],
      ['2026-12-21', 1],
      ['2026-12-29', 2],
      ['2026-12-31', 2],
      ['2027-01-05', 2],
      ['2027-01-07', 2],
    ]);
  });

  test('two closed days that share an open one are one, wherever the window begins', () => {
    const rhythms = [{ from: '2026-12-14', rule: 'FREQ=WEEKLY;BYDAY=MO,FR' }] as const;
    expect(onDays(series({ rhythms, from: '2026-12-23', to: '2026-12-31' }))).toEqual(['2026-12-25 on 2026-12-29']);
    expect(onDays(series({ rhythms, from: '2026-12-26', to: '2026-12-31' }))).toEqual([]);
  });

  test('two closed days that share an open one are both done where both are wanted', () => {
    const rhythms = [{ from: '2026-12-14', rule: 'FREQ=WEEKLY;BYDAY=MO,FR' }] as const;
    expect(onDays(series({ rhythms, keepsDoubles: true, from: '2026-12-23', to: '2026-12-31' }))).toEqual([
      ...['2026-12-25 on 2026-12-29', '2026-12-28 on 2026-12-29'],
    ]);
  });

  test('law: a window shows what the whole shows within it', () => {
    const closings = fc.constantFrom('after', 'before', 'skip') as fc.Arbitrary<SeriesInput['onClosed']>;
    fc.assert(
      fc.property(anyRule, closings, fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 40 }), (rule, onClosed, ahead, length) => {
        const from = formatDay(dayOf('2026-12-01') + ahead);
        const to = formatDay(dayOf(from) + length);
        const asked = series({ rhythms: [{ from: '2026-12-01', rule }], onClosed, from: '2026-12-01', to: '2027-04-01' });
        const whole = valueOf(occurrences(asked)).filter(({ day }) => day >= from && day <= to);
        expect(valueOf(occurrences({ ...asked, from, to }))).toEqual(whole);
      }),
      { numRuns: 300 },
    );
  });

  test('a bad rhythm is named', () => {
    const bad = occurrences(series({ rhythms: [{ from: '2026-12-18', rule: 'FREQ=NEVER' }] }));
    expect(bad).toMatchObject({ ok: false, problem: { at: 'rhythms[0].rule' } });
    expect(occurrences(series({ rhythms: [{ from: '1500-01-01', rule: 'FREQ=DAILY' }] }))).toMatchObject({ ok: false });
    expect(occurrences(series({ to: '2080-01-01' }))).toMatchObject({ ok: false, problem: { at: 'to' } });
  });

  test('law: every one is open, none shares its day, and the rule’s day is never lost twice', () => {
    const open = valueOf(compileCalendar(calendar)) as Calendar;
    let moved = 0;
    fc.assert(
      fc.property(anyRule, fc.constantFrom('after', 'before', 'skip'), (rule, onClosed) => {
        const found = valueOf(
          occurrences(series({ rhythms: [{ from: '2026-12-01', rule }], onClosed, from: '2026-12-01', to: '2027-03-01' })),
        );
        expect(found.every(({ on }) => isOpen(open, dayOf(on)))).toBe(true);
        expect(new Set(found.map(({ on }) => on)).size).toBe(found.length);
        moved += found.filter(({ day, on }) => day !== on).length;
        if (onClosed === 'skip') expect(found.every(({ day, on }) => day === on)).toBe(true);
      }),
    );
    expect(moved).toBeGreaterThan(0);
  });
});

describe('a pace', () => {
  test.each([
    [1, 1, 'FREQ=WEEKLY;BYDAY=MO', 1],
    [2, 1, 'FREQ=WEEKLY;BYDAY=MO,TH', 1],
    [3, 1, 'FREQ=WEEKLY;BYDAY=MO,WE,FR', 1],
    [5, 1, 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 1],
    [6, 1, 'FREQ=WEEKLY;BYDAY=MO,WE,FR', 2],
    [7, 1, 'FREQ=WEEKLY;BYDAY=MO', 7],
    [1, 2, 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', 1],
  ])('%i in %i weeks', (units, weeks, rule, each) => {
    expect(valueOf(paceRule({ units, weeks }, WEEK))).toEqual({ rule, each });
  });

  test('law: it gives as many as it says, on open weekdays', () => {
    const weeks = fc.array(fc.constantFrom(0, 450), { minLength: 7, maxLength: 7 }).filter((week) => week.some((minutes) => minutes > 0));
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 1, max: 12 }), weeks, (units, every, week) => {
        const paced = valueOf(paceRule({ units, weeks: every }, week));
        const start = dayOf('2026-11-23');
        const days = expandRule(valueOf(readRule(paced.rule)), { start, from: start, to: start + every * 7 - 1 });
        expect(days.length * paced.each).toBe(units);
        expect(days.every((day) => (week[weekdayOf(day)] as number) > 0)).toBe(true);
        expect(paceOf(paced, start)).toEqual({ units, weeks: every });
      }),
    );
  });

  test('what is no pace is refused, and a rule that is none has none', () => {
    expect(paceRule({ units: 0, weeks: 1 }, WEEK)).toMatchObject({ ok: false, problem: { at: 'pace.units' } });
    expect(paceRule({ units: 1, weeks: 13 }, WEEK)).toMatchObject({ ok: false, problem: { at: 'pace.weeks' } });
    expect(paceRule({ units: 1, weeks: 1 }, [0, 0, 0, 0, 0, 0, 0])).toMatchObject({ ok: false });
    expect(paceOf({ rule: 'FREQ=MONTHLY;BYMONTHDAY=1', each: 1 }, 0)).toBeNull();
  });
});

describe('a retainer', () => {
  const over = (agreed: number, used: number, carry: Carry) => ({ agreed, used, carry, isOver: true });
  const months = [
    [600, 400],
    [600, 500],
    [600, 1000],
  ] as const;
  test('carried for good, for one period, or not at all', () => {
    const carried = (carry: Carry) =>
      valueOf(balanceRetainer(months.map(([agreed, used]) => over(agreed, used, carry)))).map((month) => [
        ...[month.carriedIn, month.carriedOut, month.lost, month.over],
      ]);
    const kept = [
      [0, 200, 0, 0],
      [200, 300, 0, 0],
      [300, 0, 0, 100],
    ];
    expect(carried('all')).toEqual(kept);
    expect(carried('next')).toEqual(kept);
    expect(carried('none')).toEqual([
      [0, 0, 200, 0],
      [0, 0, 100, 0],
      [0, 0, 0, 400],
    ]);
  });

  test('with one period only, what was carried in and not used is lost', () => {
    const idle = valueOf(balanceRetainer([over(600, 0, 'next'), over(600, 0, 'next'), over(600, 0, 'next')]));
    expect(idle.map(({ carriedIn, carriedOut, lost }) => [carriedIn, carriedOut, lost])).toEqual([
      [0, 600, 0],
      [600, 600, 600],
      [600, 600, 600],
    ]);
  });

  test('hours of a period that runs are its own: the next one has none of them yet', () => {
    const running = { agreed: 600, used: 100, carry: 'all', isOver: false } as const;
    const [first, now, ahead] = valueOf(balanceRetainer([over(600, 400, 'all'), running, { ...running, used: 0 }]));
    expect([first?.carriedOut, now?.carriedIn, now?.left, ahead?.carriedIn, ahead?.left]).toEqual([200, 200, 700, 0, 600]);
  });

  test('another way to carry holds from the period it was agreed for', () => {
    const [, second, third] = valueOf(balanceRetainer([over(600, 400, 'none'), over(600, 500, 'all'), over(600, 0, 'all')]));
    expect([second?.carriedIn, third?.carriedIn]).toEqual([0, 100]);
  });

  test('law: every agreed hour is used, left, lost or carried on, once', () => {
    const minutes = fc.integer({ min: 0, max: 2000 });
    const period = fc.record({ agreed: minutes, used: minutes, carry: fc.constantFrom<Carry>('none', 'next', 'all') });
    fc.assert(
      fc.property(fc.array(period, { minLength: 1, maxLength: 24 }), fc.nat(24), (periods, running) => {
        const balances = valueOf(balanceRetainer(periods.map((each, index) => ({ ...each, isOver: index < running }))));
        const sum = (pick: (balance: (typeof balances)[number]) => number): number =>
          balances.reduce((total, balance) => total + pick(balance), 0);
        const still = running >= periods.length ? (balances.at(-1)?.carriedOut ?? 0) : 0;
        expect(sum(({ agreed }) => agreed)).toBe(sum(({ used, over: beyond, left, lost }) => used - beyond + left + lost) + still);
      }),
    );
  });

  test('a period that cannot be is refused at its place', () => {
    expect(balanceRetainer([{ agreed: -1, used: 0, carry: 'all', isOver: true }])).toMatchObject({
      ok: false,
      problem: { at: 'periods[0].agreed' },
    });
  });
});

describe('hours of a line by role and week', () => {
  const plan = {
    phases: [{ id: 'p' }],
    tasks: [
      { id: 'script', phase: 'p', days: 2 },
      { id: 'record', phase: 'p', days: 1, after: [{ task: 'script', type: 'FS' as const }] },
    ],
  };
  const work = [
    { task: 'script', role: 'writer', minutes: 301 },
    { task: 'record', role: 'producer', minutes: 180 },
  ];
  const weeks = weeksFrom(dayOf('2026-12-02'), 3);

  test('a unit that spans two weeks is counted in both, to the minute', () => {
    const units = valueOf(scheduleUnits({ calendar, plan, places: 'start' }, ['2026-12-04']));
    expect(valueOf(lineHours({ calendar, work, units, weeks }))).toEqual([
      { role: 'writer', minutes: [151, 150, 0] },
      { role: 'producer', minutes: [0, 180, 0] },
    ]);
  });

  test('a unit can be scheduled back from its promise', () => {
    const [unit] = valueOf(scheduleUnits({ calendar, plan, places: 'promise' }, ['2026-12-11']));
    expect(unit?.schedule.finish).toBe('2026-12-11');
    expect(unit?.schedule.tasks[0]?.start).toBe('2026-12-09');
  });

  test('law: over enough weeks all of it is counted, three at a time thrice', () => {
    const many = weeksFrom(dayOf('2026-11-30'), 12);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 8 }), (offsets) => {
        const units = valueOf(
          scheduleUnits(
            { calendar, plan, places: 'start' },
            offsets.map((offset) => formatDay(dayOf('2026-12-01') + offset)),
          ),
        );
        const hours = valueOf(lineHours({ calendar, work, units, weeks: many }));
        const sums = hours.map(({ minutes }) => minutes.reduce((sum, week) => sum + week, 0));
        expect(sums).toEqual([301 * offsets.length, 180 * offsets.length]);
      }),
    );
  });
});
