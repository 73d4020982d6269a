import type { EditTask, PlanEffect, PlanTask } from '@crew/contract';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import type { TaskChange } from './use-task-edit.ts';

/** What a change would do, or why it cannot be made. */
export interface Effect {
  readonly effect: PlanEffect | undefined;
  readonly problem: string | undefined;
}

/** What a change of a task would do, asked of the server; nothing while there is no change. */
export function useEffectOf(task: Pick<PlanTask, 'id' | 'version'>, change: TaskChange | null): Effect {
  const asked: EditTask | null = change === null ? null : { version: task.version, ...change };
  const { data, error } = useSWR<PlanEffect, ApiError>(asked === null ? null : ['effect', task.id, JSON.stringify(asked)], () =>
    call<PlanEffect>('POST', `/tasks/${task.id}/preview`, asked as EditTask),
  );
  return { effect: data, problem: error?.message };
}
