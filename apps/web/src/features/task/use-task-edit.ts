import type { Crew, EditTask, PlanEffect, PlanTask, TaskEdited, TaskSheet } from '@crew/contract';
import { useCallback, useState } from 'react';
import { mutate, useSWRConfig, type Cache } from 'swr';
import { call, currentOf } from '../../api/client.ts';
import { inTurn } from '../../api/in-turn.ts';
import { refreshAll } from '../../api/queries.ts';
import { noticeToCome, notify } from '../../ui/toasts.tsx';
import { count, shortDay } from '../../words/format.ts';
import { undoOf } from '../plan-change/use-proposal.ts';
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
  readonly takeTheirs: () => void;
}

/**
 * Changing tasks in place: shown at once, saved behind it, with what moved and an undo in the
 * notice that follows. A change somebody else was faster with is held, both shown, and one chosen.
 */
export function useTaskEdit(today: string): TaskEditing {
  const [conflict, setConflict] = useState<EditConflict | null>(null);
  const { cache } = useSWRConfig();

  const edit = useCallback<TaskEditing['edit']>(
    async (task, change) => {
      const said = noticeToCome();
      await showAtOnce(task.id, change, crewIn(cache));
      try {
        const { task: saved, effect, changeId } = await send(task, change);
        setConflict(null);
        await mutate(`/tasks/${task.id}`, saved, { revalidate: false });
        notify(savedWords(`“${saved.title}” saved.`, effect, today), undoOf(changeId));
        said();
        await refreshAll();
        return true;
      } catch (error) {
        const current = currentOf<TaskSheet>(error);
        if (current === null) notify(error instanceof Error ? error.message : 'This was not saved. Try again.', { tone: 'trouble' });
        else setConflict({ taskId: task.id, wanted: change, current });
        said();
        // What was shown at once did not come to be.
        await refreshAll();
        return false;
      }
    },
    [today, cache],
  );

  return {
    conflict,
    edit,
    keepMine: async () => {
      if (conflict !== null) await edit(conflict.current, conflict.wanted);
    },
    takeTheirs: () => {
      setConflict(null);
      void refreshAll();
    },
  };
}

/** The crew, when it was read already; a freelancer may not see it. */
const crewIn = (cache: Cache): Crew['people'] => (cache.get('/crew')?.data as Crew | undefined)?.people ?? [];

const send = ({ id, version: read }: Pick<PlanTask, 'id' | 'version'>, change: TaskChange): Promise<TaskEdited> =>
  inTurn({ thing: `/tasks/${id}`, read, wholes: notShownAtOnce(change) }, async (version) => {
    const edited = await call<TaskEdited>('PATCH', `/tasks/${id}`, { version, ...change });
    return { ...edited, version: edited.task.version };
  });

/** What was done, with what it moved. */
export function savedWords(done: string, effect: PlanEffect | null, today: string): string {
  const parts = [done];
  if (effect === null) return parts.join(' ');
  const moved = effect.moves.length;
  if (moved > 0) parts.push(`${count(moved, 'task')} moved.`);
  if (effect.finish.from !== effect.finish.to)
    parts.push(`All done by ${shortDay(effect.finish.to, today)}, was ${shortDay(effect.finish.from, today)}.`);
  return parts.join(' ');
}
