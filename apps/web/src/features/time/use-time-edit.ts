import type { IsoDay } from '@crew/core';
import { backBy, perform } from '../../session/perform.ts';
import type { TimeEntryView } from '@crew/contract';
import { call } from '../../api/client.ts';
import { hourWords } from '../../words/format.ts';

/** What of an entry can be put right. */
export type TimeChange = Partial<Pick<TimeEntryView, 'minutes' | 'startMinute' | 'note' | 'isChargeable' | 'day'>>;

export interface TimeEditing {
  readonly log: (taskId: string, day: IsoDay, minutes: number) => Promise<void>;
  readonly correct: (entry: TimeEntryView, change: TimeChange) => Promise<void>;
  readonly remove: (taskId: string, entry: TimeEntryView) => Promise<void>;
}

/** Logging and putting right; what was refused is told, what was taken out can be brought back. `reason` goes along where time is closed. */
export function timeEditing(personId: string, reason: string): TimeEditing {
  const why = reason.trim() === '' ? {} : { reason: reason.trim() };
  const whose = { personId, ...why };
  return {
    log: async (taskId, day, minutes) =>
      void (await perform({ send: () => call('POST', `/tasks/${taskId}/time`, { day, minutes, ...whose }) })),
    correct: async ({ id, version }, change) =>
      void (await perform({ send: () => call('PATCH', `/time/${id}`, { version, ...change, ...why }) })),
    remove: async (taskId, { id, version, day, minutes, startMinute, note, isChargeable }) =>
      void (await perform({
        send: () => call('POST', `/time/${id}/remove`, { version, ...why }),
        said: `${hourWords(minutes)} removed.`,
        undo: () => backBy(() => call('POST', `/tasks/${taskId}/time`, { day, minutes, startMinute, note, isChargeable, ...whose })),
      })),
  };
}
