import type { IsoDay } from '@crew/core';
import { perform } from '../../session/perform.ts';
import type { Crew, EditTask, PlanEffect, PlanTask, TaskEdited, TaskSheet } from '@crew/contract';
import { useCallback, useState } from 'react';
import { mutate, useSWRConfig, type Cache } from 'swr';
import { currentOf, patchWholes } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { count, shortDay } from '../../words/format.ts';
import { notShownAtOnce, showAtOnce } from './show-at-once.ts';

/** What somebody wants to change; the version is added here. */
export type TaskChange = Omit<EditTask, 'version'>;

/** A change that met another: what was wanted, and the task as it is now. */
export interface EditConflict {
  readonly taskId: string;
  readonly wanted: TaskChange;
  readonly current: TaskSheet;
}

export interface TaskEditing {
  readonly conflict: EditConflict | null;
  readonly edit: (task: Pick<PlanTask, 'id' | 'version' | 'title'>, change: TaskChange) => Promise<boolean>;
  readonly keepMine: () => Promise<void>;
  readonly keepTheirs: () => void;
}

/**
 * Changing tasks in place: shown at once, saved behind it, with what moved and an undo in the
 * notice that follows. A change somebody else was faster with is held, both shown, and one chosen.
 */
export function useTaskEdit(today: IsoDay): TaskEditing {
  const [conflict, setConflict] = useState<EditConflict | null>(null);
  const { cache } = useSWRConfig();

  const edit = useCallback<TaskEditing['edit']>(
    async (task, change) => {
      await showAtOnce(task.id, change, crewIn(cache));
      const { isDone } = await perform({
        send: async () => {
          const edited = await send(task, change);
          setConflict(null);
          await mutate(`/tasks/${task.id}`, edited.task, { revalidate: false });
          return edited;
        },
        said: ({ task: saved, effect }) => savedWords(`“${saved.title}” saved.`, effect, today),
        undo: ({ changeId }) => changeId,
        onTrouble: (words, error) => {
          const current = currentOf<TaskSheet>(error);
          if (current === null) notify(words, { tone: 'trouble' });
          else setConflict({ taskId: task.id, wanted: change, current });
        },
      });
      return isDone;
    },
    [today, cache],
  );

  return {
    conflict,
    edit,
    keepMine: async () => {
      if (conflict !== null) await edit(conflict.current, conflict.wanted);
    },
    keepTheirs: () => {
      setConflict(null);
      void refreshAll();
    },
  };
}

/** The crew, when it was read already; a freelancer may not see it. */
const crewIn = (cache: Cache): Crew['people'] => (cache.get('/crew')?.data as Crew | undefined)?.people ?? [];

const send = ({ id, version }: Pick<PlanTask, 'id' | 'version'>, change: TaskChange): Promise<TaskEdited> =>
  patchWholes<TaskEdited>(`/tasks/${id}`, { version, ...change }, notShownAtOnce(change));

/** What was done, with what it moved. */
export function savedWords(done: string, effect: PlanEffect | null, today: IsoDay): string {
  const parts = [done];
  if (effect === null) return parts.join(' ');
  const moved = effect.moves.length;
  if (moved > 0) parts.push(`${count(moved, 'task')} moved.`);
  if (effect.finish.from !== effect.finish.to)
    parts.push(`All done by ${shortDay(effect.finish.to, today)}, was ${shortDay(effect.finish.from, today)}.`);
  return parts.join(' ');
}
