import type { IsoDay } from '@crew/core';
import type { RhythmTried, SeriesUnit, SeriesView, TaskSeriesView } from '@crew/contract';
import { track } from './samples.ts';
import { ease } from './workload-samples.ts';

/* Made-up work that repeats, as of 2026-11-23. */

const unit = (number: number, start: IsoDay, more: Partial<SeriesUnit> = {}): SeriesUnit => ({
  ...{ id: `u${number}`, number, name: `Kit ${number}`, day: start, state: 'open', phase: 'Script', start, finish: start, promise: null },
  ...{ percent: 0, effortMinutes: 600, loggedMinutes: 0, lateDays: 0, balance: null },
  ...more,
});

const otto = { id: 'o2', name: 'Otto Brandt', initials: 'OB' };

/** A line of one a week: one over, one under way, one ahead, one still to be made on a day that moved. */
export const line: SeriesView = {
  ...{ id: 's1', version: 4, kind: 'line', name: 'Talk kits', unitName: 'Kit {n}', client: track.client, lead: track.lead },
  ...{
    template: { id: 'x1', name: 'Gallery talk kit' },
    places: 'start',
    onClosed: 'after',
    aheadDays: 21,
    retainerMinutes: null,
    carry: 'none',
  },
  rhythms: [{ from: '2026-11-02', rule: 'FREQ=WEEKLY;BYDAY=MO', each: 1, isAhead: false }],
  ...{ skipped: [], extra: [], stoppedOn: null },
  roles: [{ roleId: 'r1', role: 'Writer', person: otto }],
  units: [
    unit(1, '2026-11-02', { state: 'finished', finish: '2026-11-13', percent: 100, loggedMinutes: 630 }),
    unit(2, '2026-11-16', { finish: '2026-11-27', percent: 40, loggedMinutes: 240, lateDays: 2 }),
    unit(3, '2026-12-07', { finish: '2026-12-18' }),
  ],
  coming: [{ day: '2026-12-28', on: '2027-01-04', each: 1 }],
};

const balance = { agreed: 480, carriedIn: 120, used: 330, left: 270, over: 0, isOver: false, carriedOut: 0, lost: 0 };

/** A visit a month with agreed hours. */
export const care: SeriesView = {
  ...line,
  ...{ id: 's2', kind: 'repeating', name: 'Monthly care', retainerMinutes: 480, carry: 'next' },
  rhythms: [{ from: '2026-10-20', rule: 'FREQ=MONTHLY;BYMONTHDAY=20', each: 1, isAhead: false }],
  units: [
    unit(1, '2026-10-20', {
      name: 'Care, October',
      state: 'finished',
      finish: '2026-10-22',
      balance: { ...balance, carriedIn: 0, used: 540, left: 0, over: 60, isOver: true, carriedOut: 0, lost: 0 },
    }),
    unit(2, '2026-11-20', { name: 'Care, November', finish: '2026-11-25', loggedMinutes: 330, balance }),
  ],
};

/** What three a week would cost: twice as long, in two weeks. */
export const rhythmTried: RhythmTried = {
  ...{ from: '2026-11-30', weeks: ['2026-11-30', '2026-12-07'], unitsBefore: [1, 1], unitsAfter: [3, 3], searchedWeeks: 26 },
  roles: [
    {
      roleId: 'r1',
      role: 'Writer',
      unitMinutes: 510,
      before: [510, 510],
      after: [1530, 1530],
      room: [900, 900],
      settled: { before: 510, after: 1530, room: 900 },
    },
    {
      roleId: 'r2',
      role: 'Client manager',
      unitMinutes: 30,
      before: [30, 30],
      after: [90, 90],
      room: null,
      settled: { before: 30, after: 90, room: null },
    },
  ],
  people: ease.proposals[0]?.effects.map((effect) => ({ ...effect, load: [] })) ?? [],
  ...{ earliest: '2027-01-11', alone: [{ person: otto, minutes: 90 }] },
};

/** A call every second Tuesday, two of it made. */
export const calls: TaskSeriesView = {
  ...{
    id: 'ts1',
    version: 2,
    engagement: { id: 'e1', name: 'Seed vault wayfinding' },
    title: 'Call',
    rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU',
  },
  ...{ firstDay: '2026-11-24', onClosed: 'after', whenMissed: 'drop', phase: null, skipped: ['2026-12-22'], extra: [], stoppedOn: null },
  made: [
    { id: 't1', title: 'Call', status: 'queued', day: '2026-11-24', start: '2026-11-24' },
    { id: 't9', title: 'Call', status: 'queued', day: '2026-12-08', start: '2026-12-09' },
  ],
  coming: [
    { day: '2026-11-24', on: '2026-11-24', each: 1 },
    { day: '2026-12-08', on: '2026-12-08', each: 1 },
    { day: '2027-01-05', on: '2027-01-05', each: 1 },
  ],
};
