import type { IsoDay } from '@crew/core';
import type { CrewTime, TimeEntryView, WeekSheet } from '@crew/contract';
import { otto, galleries } from './samples.ts';

/* A week of time, as of 2026-11-23. */

const entry = (id: string, day: IsoDay, minutes: number, more: Partial<TimeEntryView> = {}): TimeEntryView => ({
  ...{ id, day, minutes, startMinute: null, note: '', isChargeable: true, version: 1 },
  ...more,
});

/** Otto's last week: Thursday has two entries at the same time, Wednesday was forgotten, Monday is closed. */
export const weekSheet: WeekSheet = {
  person: otto,
  days: (['16', '17', '18', '19', '20', '21', '22'] as const).map((day, index) => ({
    date: `2026-11-${day}`,
    capacity: index < 5 ? 450 : 0,
    isOff: index > 4,
    isLocked: index === 0,
    isForgotten: index === 2,
  })),
  rows: [
    {
      task: { id: 't1', title: 'Signs set', isOpen: true, isChargeable: true },
      engagement: galleries,
      isAtHand: true,
      entries: [
        entry('n1', '2026-11-16', 420),
        entry('n2', '2026-11-19', 240, { startMinute: 540, note: 'With Teo' }),
        entry('n3', '2026-11-19', 60, { startMinute: 780, isChargeable: false }),
      ],
    },
    {
      task: { id: 't2', title: 'Posts dug', isOpen: false, isChargeable: false },
      engagement: galleries,
      isAtHand: true,
      entries: [entry('n4', '2026-11-19', 90, { startMinute: 765, isChargeable: false }), entry('n5', '2026-11-17', 450)],
    },
    {
      ...{ task: { id: 't8', title: 'Depot tidied', isOpen: true, isChargeable: false }, isAtHand: false, entries: [] },
      engagement: { id: 'e9', name: 'In the house', hue: 'slate' },
    },
  ],
  overlaps: [
    { day: '2026-11-19', first: 'n2', second: 'n4', minutes: 15 },
    { day: '2026-11-19', first: 'n4', second: 'n3', minutes: 60 },
  ],
  closedThrough: '2026-11-16',
};

/** The crew's week, closed through its Monday, with one change after that. */
export const crewTime: CrewTime = {
  dates: weekSheet.days.map((day) => day.date),
  people: [{ person: otto, minutes: [420, 450, 0, 390, 0, 0, 0], capacity: [450, 450, 450, 450, 450, 0, 0], chargeableMinutes: 630 }],
  closedThrough: '2026-11-16',
  lateChanges: [
    {
      ...{ id: '7', at: '2026-11-20T15:20:00Z', who: 'Odalys Renn', whose: 'Otto Brandt', task: 'Signs set', what: 'time-corrected' },
      ...{ day: '2026-11-16', from: 450, to: 420, reason: 'Counted twice' },
    },
  ],
};
