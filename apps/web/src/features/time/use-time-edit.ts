import type { TimeEntryView } from '@crew/contract';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { hourWords } from '../../words/format.ts';

/** What of an entry can be put right. */
export type TimeChange = Partial<Pick<TimeEntryView, 'minutes' | 'startMinute' | 'note' | 'isChargeable' | 'day'>>;

export interface TimeEditing {
  readonly log: (taskId: string, day: string, minutes: number) => Promise<void>;
  readonly correct: (entry: TimeEntryView, change: TimeChange) => Promise<void>;
  readonly remove: (taskId: string, entry: TimeEntryView) => Promise<void>;
}

/** Logging and putting right; what was refused is told, what was taken out can be brought back. `reason` goes along where time is closed. */
export function timeEditing(personId: string, reason: string): TimeEditing {
  const why = reason.trim() === '' ? {} : { reason: reason.trim() };
  const whose = { personId, ...why };
  const doing = async (work: () => Promise<void>): Promise<void> => {
    try {
      await work();
    } catch (error) {
      notify(error instanceof Error ? error.message : 'This was not saved. Try again.', { tone: 'trouble' });
    }
    await refreshAll();
  };
  return {
    log: (taskId, day, minutes) => doing(async () => void (await call('POST', `/tasks/${taskId}/time`, { day, minutes, ...whose }))),
    correct: (entry, change) =>
      doing(async () => void (await call('PATCH', `/time/${entry.id}`, { version: entry.version, ...change, ...why }))),
    remove: (taskId, entry) =>
      doing(async () => {
        await call('POST', `/time/${entry.id}/remove`, { version: entry.version, ...why });
        const { day, minutes, startMinute, note, isChargeable } = entry;
        notify(`${hourWords(minutes)} taken out.`, {
          undo: async () => {
            await call('POST', `/tasks/${taskId}/time`, { day, minutes, startMinute, note, isChargeable, ...whose });
            await refreshAll();
          },
        });
      }),
  };
}
