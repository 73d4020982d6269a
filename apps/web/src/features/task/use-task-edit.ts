import type { IsoDay } from '@crew/core';
import { perform, wayBack } from '../../session/perform.ts';
import type { ChangeFollowed, Crew, EditTask, PlanEffect, PlanTask, TaskEdited, TaskSheet, TimerState } from '@crew/contract';
import { useCallback, useState } from 'react';
import { mutate, useSWRConfig, type Cache } from 'swr';
import { call, currentOf, patchWholes } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { count, shortDay } from '../../words/format.ts';
import { stopTimer } from '../timer/use-timer.ts';
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
  /** Whether what was typed is safe: saved, or held beside what somebody else saved. Then its form can close. */
  readonly edit: (task: Pick<PlanTask, 'id' | 'version' | 'title'>, change: TaskChange) => Promise<boolean>;
  readonly keepMine: () => Promise<void>;
  readonly keepTheirs: () => void;
}

/**
 * Changing tasks in place: shown at once, saved behind it, with what moved and an undo in the
 * notice that follows. Done or dropped, one's own timer on it is stopped and logged. A change
 * somebody else was faster with is held, both shown, and one chosen; `onConflict` opens what
 * shows them.
 */
export function useTaskEdit(today: IsoDay, onConflict: (taskId: string) => void): TaskEditing {
  const [conflict, setConflict] = useState<EditConflict | null>(null);
  const { cache } = useSWRConfig();

  const edit = useCallback<TaskEditing['edit']>(
    async (task, change) => {
      let isHeld = false;
      const { isDone } = await perform({
        send: async () => {
          // In here, so that `u` pressed as soon as the change is seen waits for it.
          await showAtOnce(task.id, change, crewIn(cache));
          const edited = await send(task, change);
          setConflict(null);
          await mutate(`/tasks/${task.id}`, edited.task, { revalidate: false });
          return edited;
        },
        said: ({ task: saved, effect }) => savedWords(`“${saved.title}” saved.`, effect, today),
        undo: ({ changeId }) => changeId,
        after: async ({ changeId }) => {
          if (isOver(change) && isTimed(cache, task.id)) await stopTimer();
          if (changeId !== null && isStatus(change)) await tellFollowed(changeId, task.title, today);
        },
        onTrouble: (words, error) => {
          const current = currentOf<TaskSheet>(error);
          if (current === null) notify(words, { tone: 'trouble' });
          else {
            isHeld = true;
            setConflict({ taskId: task.id, wanted: change, current });
            onConflict(task.id);
          }
        },
      });
      return isDone || isHeld;
    },
    [today, cache, onConflict],
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

/** Whether nothing is left to be done on it. */
const isOver = ({ status }: TaskChange): boolean => status === 'done' || status === 'dropped';

/** Whether one's own timer is on a task and can be stopped at once; one left running first asks what was work. */
function isTimed(cache: Cache, taskId: string): boolean {
  const timer = (cache.get('/timer')?.data as TimerState | undefined)?.timer ?? null;
  return timer !== null && timer.task.id === taskId && !timer.isLeft && !timer.isClosed;
}

const isStatus = (change: TaskChange): boolean => change.status !== undefined;

/** The plan behind a status is there a moment later; it is asked for so often, with these pauses, until it is. */
const ASK_AFTER_MS = [600, 1500, 4000];

/** Says what a status moved, with the way back, once the plan behind it is there; what moved nothing needs no word. */
async function tellFollowed(changeId: string, title: string, today: IsoDay): Promise<void> {
  for (const pause of ASK_AFTER_MS) {
    await new Promise((resolve) => setTimeout(resolve, pause));
    const followed = await call<ChangeFollowed>('GET', `/changes/${changeId}/followed`).catch(() => null);
    if (followed === null) return;
    if (!followed.isPlanned) continue;
    if (followed.moves.length > 0) notify(`“${title}” saved. ${followedWords(followed, today)}`, wayBack(changeId));
    return;
  }
}

/** "It moved 3 tasks: Print (now due Thu 3 Dec), Bind, Send." */
export function followedWords({ moves }: ChangeFollowed, today: IsoDay): string {
  const named = moves.slice(0, 3).map((move) => (move.due === null ? move.title : `${move.title} (now due ${shortDay(move.due, today)})`));
  return `It moved ${count(moves.length, 'task')}: ${named.join(', ')}${moves.length > 3 ? ' …' : ''}.`;
}

/** What was done, with what it moved. */
export function savedWords(done: string, effect: PlanEffect | null, today: IsoDay): string {
  const parts = [done];
  if (effect === null) return parts.join(' ');
  const moved = effect.moves.length;
  if (moved > 0) parts.push(`${count(moved, 'task')} moved.`);
  if (effect.finish.from !== effect.finish.to)
    parts.push(`Finishes ${shortDay(effect.finish.to, today)}, was ${shortDay(effect.finish.from, today)}.`);
  return parts.join(' ');
}
