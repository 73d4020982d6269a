import type { IsoDay } from '@crew/core';
import { backBy, perform } from '../../session/perform.ts';
import type { DeskDayTask, DeskPlaces } from '@crew/contract';
import { call } from '../../api/client.ts';
import { dayWords } from '../../words/format.ts';

/** A task that is being arranged: what it is called, and the day it was put on, if it was. */
export interface Arranged {
  readonly id: string;
  readonly title: string;
  readonly placed: { readonly day: IsoDay; readonly minutes: number } | null;
}

export interface Arranging {
  /** Puts it on a day, before another task of that day or last. */
  readonly place: (task: Arranged, day: IsoDay, beforeTaskId?: string | null) => Promise<void>;
  /** How much of it is meant for that day. */
  readonly setMinutes: (task: Arranged, minutes: number) => Promise<void>;
  readonly removeFromDay: (task: Arranged) => Promise<void>;
}

/** Arranging somebody's week; its dates stay, and every step can be undone from the notice that follows. */
export function arranging(personId: string, today: IsoDay): Arranging {
  const doing = async (path: string, body: object, words: string): Promise<void> => {
    await perform({
      send: () => call<DeskPlaces>('POST', path, { ...body, personId }),
      said: words,
      undo: (before) => backBy(() => call('POST', '/desk/places/restore', before)),
    });
  };
  return {
    place: (task, day, beforeTaskId = null) => {
      const { placed } = task;
      const from = placed === null ? {} : { fromDay: placed.day, minutes: placed.minutes };
      return doing(
        '/desk/places',
        { taskId: task.id, day, beforeTaskId, ...from },
        `“${task.title}” is planned for ${dayWords(day, today)}. Its dates do not change.`,
      );
    },
    setMinutes: (task, minutes) => {
      const day = task.placed?.day ?? today;
      return doing(
        '/desk/places',
        { taskId: task.id, day, fromDay: day, minutes },
        `Hours of “${task.title}” changed on ${dayWords(day, today)}.`,
      );
    },
    removeFromDay: (task) => doing('/desk/places/remove', { taskId: task.id }, `“${task.title}” follows the plan again.`),
  };
}

/** A ticket of the week as it is arranged. */
export const arrangedOf = (task: Pick<DeskDayTask, 'id' | 'title' | 'minutes' | 'isPlaced'>, day: IsoDay): Arranged => ({
  id: task.id,
  title: task.title,
  placed: task.isPlaced ? { day, minutes: task.minutes } : null,
});
