import { EditTask, type PlanTask } from '@crew/contract';
import type { FieldValues } from 'react-hook-form';
import { Unreadable } from '../../ui/form/typed.ts';
import { useInputForm, type InputForm, type Reading } from '../../ui/form/use-input-form.ts';
import type { OnEdit } from './editors.tsx';
import { useEffectOf, type Effect } from './use-effect-of.ts';
import type { TaskChange } from './use-task-edit.ts';

interface ChangeOptions<Typed> {
  /** The task as it was when the form was opened. */
  readonly task: Pick<PlanTask, 'id' | 'version'>;
  readonly typed: Typed;
  /** What of the task is changed by what is typed; nothing, while nothing is. */
  readonly change: (typed: Typed) => Reading<TaskChange>;
  readonly onEdit: OnEdit;
  readonly onDone: () => void;
}

/** A form that changes a task's plan, with what it would move asked at each change. */
export function useChangeForm<Typed extends FieldValues>({
  task,
  typed,
  change,
  onEdit,
  onDone,
}: ChangeOptions<Typed>): {
  readonly form: InputForm<Typed>;
  readonly isChanged: boolean;
  readonly seen: Effect;
} {
  const form = useInputForm<Typed, EditTask>({
    rules: EditTask,
    typed,
    input: (now) => ({ version: task.version, ...change(now) }),
    send: async ({ version, ...changed }) => {
      if (await onEdit(changed, version)) onDone();
    },
  });
  const changed = change(form.values);
  const isChanged = Object.keys(changed).length > 0;
  const isRead = !Object.values(changed).some((value) => value instanceof Unreadable);
  const seen = useEffectOf(task, isChanged && isRead ? (changed as TaskChange) : null);
  return { form, isChanged, seen };
}
