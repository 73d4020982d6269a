import type { IsoDay } from '@crew/core';
import type { PlacedInWeek } from '@crew/contract';
import { call } from '../../api/client.ts';
import { perform } from '../../session/perform.ts';

/** Puts tasks into a week, or into none; one notice and one undo for all of them. */
export const placeInWeek = (taskIds: readonly string[], week: IsoDay | null, words: string): Promise<unknown> =>
  perform({
    send: () => call<PlacedInWeek>('POST', '/week-plan/places', { tasks: taskIds.map((taskId) => ({ taskId, week })) }),
    said: words,
    undo: ({ changeId }) => changeId,
  });
