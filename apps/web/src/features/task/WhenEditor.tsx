import { Note } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { PlanTask } from '@crew/contract';
import { useState, type ReactNode } from 'react';
import { DialogTrigger } from 'react-aria-components';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Field, PopoverPanel } from '../../ui/Field.tsx';
import { wholeTyped } from '../../ui/form/typed.ts';
import type { Reading } from '../../ui/form/use-input-form.ts';
import { Tick } from '../../ui/Tick.tsx';
import { dayWords } from '../../words/format.ts';
import { EditorPanel, type OnEdit } from './editors.tsx';
import { PreviewedForm } from './PreviewedForm.tsx';
import { useChangeForm } from './use-change-form.ts';
import type { TaskChange } from './use-task-edit.ts';

interface WhenProps {
  readonly task: Pick<PlanTask, 'id' | 'title' | 'version' | 'start' | 'due' | 'days' | 'fixedDay' | 'notBefore' | 'realStart' | 'isGroup'>;
  readonly today: IsoDay;
  readonly onEdit: OnEdit;
  readonly children: ReactNode;
}

/** When: a first day and a length. Shows what would move before anything does. */
export function WhenEditor(props: WhenProps) {
  return (
    <DialogTrigger>
      {props.children}
      <PopoverPanel $isWhole>
        <EditorPanel aria-label={`When is ${props.task.title}`}>{({ close }) => <WhenForm {...props} onClose={close} />}</EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

interface WhenTyped {
  readonly start: IsoDay | '';
  readonly days: string;
  readonly isKept: boolean;
}

/** What was changed, as input of the contract. */
function changeOf(task: WhenProps['task'], { start, days: text, isKept }: WhenTyped): Reading<TaskChange> {
  const days = wholeTyped(text);
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
  const { form, isChanged, seen } = useChangeForm({
    task,
    typed: { start: task.start as IsoDay | '', days: String(task.days), isKept: task.fixedDay !== null },
    change: (typed: WhenTyped) => changeOf(task, typed),
    onEdit,
    onDone: onClose,
  });
  const { start, isKept } = form.values;
  const hasBegun = task.realStart !== null;
  const movesOthers = seen.effect?.moves.some((move) => move.id !== task.id) === true;
  return (
    <PreviewedForm {...{ form, seen, isChanged }} taskId={task.id} action={movesOthers ? 'Apply' : 'Save'} onCancel={onClose}>
      {task.realStart === null ? (
        <DayField {...form.bind('start')} label="First day" today={today} />
      ) : (
        <Note $isSmall>Started on {dayWords(task.realStart, today)}.</Note>
      )}
      {task.isGroup ? (
        <Note $isSmall>Its subtasks set its length.</Note>
      ) : (
        <Field {...form.bind('days')} label="Working days" inputMode="numeric" />
      )}
      {hasBegun || task.isGroup ? null : (
        <Tick
          {...form.bindTick('isKept')}
          onChange={(isFixed) => {
            form.set({ isKept: isFixed });
            // Fixed to the day it has, nothing moves: it is saved at once, like everything else in its place.
            if (isFixed && start === task.start)
              void onEdit({ fixedDay: task.start, notBefore: null }, task.version).then((isSaved) => isSaved && onClose());
          }}
        >
          Fix to this date
        </Tick>
      )}
      {hasBegun ? null : <Rule task={task} isKept={isKept} start={start} today={today} onFree={() => form.set({ start: '' })} />}
    </PreviewedForm>
  );
}

interface RuleProps extends Pick<WhenProps, 'task' | 'today'> {
  readonly isKept: boolean;
  readonly start: IsoDay | '';
  readonly onFree: () => void;
}

/** What the planner makes of the day, in a sentence, with the way back to as soon as it can be. */
function Rule({ task, isKept, start, today, onFree }: RuleProps) {
  const isFree = start === '' || (start === task.start && task.notBefore === null);
  return (
    <Note $isSmall>
      {isKept && start !== ''
        ? 'The planner never moves it, and warns if the plan cannot meet it.'
        : isFree
          ? 'Scheduled as early as possible.'
          : `Starts ${dayWords(start === task.start ? (task.notBefore ?? start) : start, today)} at the earliest, or later if it has to wait. `}
      {isFree || isKept ? null : (
        <Button kind="text" onPress={onFree}>
          As soon as possible
        </Button>
      )}
    </Note>
  );
}
