import type { PlanTask } from '@crew/contract';
import { useState, type ReactNode } from 'react';
import { DialogTrigger } from 'react-aria-components';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Field, PopoverPanel } from '../../ui/Field.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { dayWords } from '../../words/format.ts';
import { EditorPanel, type OnEdit } from './editors.tsx';
import { EffectWords } from './EffectWords.tsx';
import { useEffectOf } from './use-effect-of.ts';
import type { TaskChange } from './use-task-edit.ts';

interface WhenProps {
  readonly task: Pick<PlanTask, 'id' | 'title' | 'version' | 'start' | 'due' | 'days' | 'fixedDay' | 'notBefore' | 'realStart' | 'isGroup'>;
  readonly today: string;
  readonly onEdit: OnEdit;
  readonly children: ReactNode;
}

/** When: a first day and a length. Shows what would move before anything does. */
export function WhenEditor(props: WhenProps) {
  return (
    <DialogTrigger>
      {props.children}
      <PopoverPanel style={{ maxHeight: 'none' }}>
        <EditorPanel aria-label={`When is ${props.task.title}`}>{({ close }) => <WhenForm {...props} onClose={close} />}</EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

/** What is chosen; null while it cannot be saved. */
function changeOf(
  task: WhenProps['task'],
  { start, days, isKept }: { readonly start: string; readonly days: number | null; readonly isKept: boolean },
): TaskChange | null {
  if (days === null) return null;
  const length = task.isGroup || days === task.days ? {} : { days };
  if (task.realStart !== null) return length;
  if (start === '') return { ...length, fixedDay: null, notBefore: null };
  if (isKept) return { ...length, ...(start === task.fixedDay ? {} : { fixedDay: start, notBefore: null }) };
  const moved = start === task.start ? {} : { notBefore: start };
  return { ...length, ...moved, ...(task.fixedDay === null ? {} : { fixedDay: null }) };
}

function WhenForm({ task: now, today, onEdit, onClose }: WhenProps & { readonly onClose: () => void }) {
  // The form speaks of the task as it was when it was opened, whatever others do meanwhile.
  const [task] = useState(now);
  const [start, setStart] = useState(task.start);
  const [days, setDays] = useState(String(task.days));
  const [isKept, setKept] = useState(task.fixedDay !== null);
  const length = /^\d{1,4}$/.test(days.trim()) ? Number(days) : null;
  const change = changeOf(task, { start, days: length, isKept });
  const isChanged = change !== null && Object.keys(change).length > 0;
  const { effect, problem } = useEffectOf(task, isChanged ? change : null);
  const save = async (): Promise<void> => {
    if (isChanged && (await onEdit(change, task.version))) onClose();
  };
  return (
    <>
      {task.realStart === null ? (
        <DayField label="First day" today={today} value={start} onChange={setStart} />
      ) : (
        <p style={{ fontSize: 12.5, color: 'var(--ink-2)' }}>It began {dayWords(task.realStart, today)}.</p>
      )}
      {task.isGroup ? (
        <p style={{ fontSize: 12.5, color: 'var(--ink-2)' }}>Its subtasks decide how long it takes.</p>
      ) : (
        <Field
          label="Working days"
          inputMode="numeric"
          value={days}
          onChange={setDays}
          error={length === null ? 'Write a whole number of days.' : undefined}
        />
      )}
      {task.realStart !== null || task.isGroup ? null : (
        <Tick isSelected={isKept} onChange={setKept}>
          Keep it on this day
        </Tick>
      )}
      {task.realStart !== null ? null : <Rule task={task} isKept={isKept} start={start} today={today} onFree={() => setStart('')} />}
      {problem !== undefined ? (
        <p role="alert">{problem}</p>
      ) : effect === undefined ? null : (
        <EffectWords effect={effect} today={today} taskId={task.id} />
      )}
      <div>
        <Button kind="primary" isDisabled={!isChanged || problem !== undefined} onPress={() => void save()}>
          {effect !== undefined && effect.moves.some((move) => move.id !== task.id) ? 'Let it move' : 'Save'}
        </Button>
        <Button kind="quiet" onPress={onClose}>
          Put back
        </Button>
      </div>
    </>
  );
}

interface RuleProps extends Pick<WhenProps, 'task' | 'today'> {
  readonly isKept: boolean;
  readonly start: string;
  readonly onFree: () => void;
}

/** What the planner makes of the day, in a sentence, with the way back to as soon as it can be. */
function Rule({ task, isKept, start, today, onFree }: RuleProps) {
  const isFree = start === '' || (start === task.start && task.notBefore === null);
  return (
    <p style={{ fontSize: 12, color: 'var(--ink-2)' }}>
      {isKept && start !== ''
        ? 'The planner never moves it, and says when the plan cannot keep it.'
        : isFree
          ? 'The planner places it as early as it can be.'
          : `It begins ${dayWords(start === task.start ? (task.notBefore ?? start) : start, today)} at the earliest, later when what it waits for is later. `}
      {isFree || isKept ? null : (
        <Button kind="quiet" onPress={onFree} style={{ minHeight: 20, padding: 0, fontSize: 12 }}>
          As soon as it can
        </Button>
      )}
    </p>
  );
}
