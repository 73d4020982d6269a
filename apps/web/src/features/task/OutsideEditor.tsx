import { Quiet, Note } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import { OUTSIDE_STATE, OUTSIDE_STATE_WORDS, type EditTask, type OutsideState, type OutsideWork, type TaskSheet } from '@crew/contract';
import { useState } from 'react';
import { DialogTrigger } from 'react-aria-components';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { Pair } from '../../ui/form/Pair.tsx';
import { Unreadable, wholeTyped } from '../../ui/form/typed.ts';
import { count, dayWords } from '../../words/format.ts';
import { EditorPanel, ValueButton, type OnEdit } from './editors.tsx';
import { PreviewedForm } from './PreviewedForm.tsx';
import { useChangeForm } from './use-change-form.ts';

type Outside = NonNullable<EditTask['outside']>;

/** When the brief goes out, or how far the maker is: the one thing to know. Late is a brief that should have gone. */
export function briefWords(
  outside: Pick<OutsideWork, 'state' | 'briefBy'>,
  today: IsoDay,
): { readonly text: string; readonly isLate: boolean } {
  if (outside.state !== 'to-brief') return { text: OUTSIDE_STATE_WORDS[outside.state].toLowerCase(), isLate: false };
  const isLate = outside.briefBy < today;
  return {
    text: isLate ? `brief was due ${dayWords(outside.briefBy, today)}` : `send the brief by ${dayWords(outside.briefBy, today)}`,
    isLate,
  };
}

/** The part an outside maker does: who, how long they take, and how far it is, apart from the task's own status. */
export function OutsideEditor({ task, onEdit }: { readonly task: TaskSheet; readonly onEdit: OnEdit }) {
  const { today } = useWho();
  const brief = task.outside === null ? null : briefWords(task.outside, today);
  return (
    <DialogTrigger>
      <ValueButton aria-label={task.outside === null ? 'Outside maker: none' : `Outside maker: ${task.outside.maker}`}>
        {task.outside === null || brief === null ? (
          <Quiet>none</Quiet>
        ) : (
          <span>
            {task.outside.maker} · <span style={brief.isLate ? { color: 'var(--brick)', fontWeight: 650 } : undefined}>{brief.text}</span>
          </span>
        )}
      </ValueButton>
      <PopoverPanel $isWhole>
        <EditorPanel aria-label={`Outside maker of ${task.title}`}>
          {({ close }) => <OutsideForm task={task} onEdit={onEdit} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function toOutside(outside: OutsideWork | null): Outside | null {
  if (outside === null) return null;
  const { maker, turnaroundDays, bufferDays, neededOn, state } = outside;
  return { maker, turnaroundDays, bufferDays, neededOn, state };
}

interface FormProps {
  readonly task: TaskSheet;
  readonly onEdit: OnEdit;
  readonly onClose: () => void;
}

interface OutsideTyped {
  readonly maker: string;
  readonly turnaround: string;
  readonly buffer: string;
  readonly neededOn: IsoDay | '';
  readonly state: OutsideState;
  /** Where its faults stand: the outside part is sent as a whole. */
  readonly outside: null;
}

const typedOf = (outside: Outside | null): OutsideTyped => ({
  ...{ maker: outside?.maker ?? '', neededOn: outside?.neededOn ?? '', state: outside?.state ?? 'to-brief', outside: null },
  ...{ turnaround: String(outside?.turnaroundDays ?? 5), buffer: String(outside?.bufferDays ?? 2) },
});

/** The outside part as it is typed, or what of it cannot be read. */
function outsideTyped({ maker, turnaround, buffer, neededOn, state }: OutsideTyped): Outside | Unreadable {
  const [turnaroundDays, bufferDays] = [wholeTyped(turnaround), wholeTyped(buffer)];
  if (turnaroundDays instanceof Unreadable) return turnaroundDays;
  if (bufferDays instanceof Unreadable) return bufferDays;
  return { maker: maker.trim(), turnaroundDays, bufferDays, neededOn: neededOn === '' ? null : neededOn, state };
}

function OutsideForm({ task: now, onEdit, onClose }: FormProps) {
  const { today } = useWho();
  const [task] = useState(now);
  const before = toOutside(task.outside);
  const { form, isChanged, seen } = useChangeForm({
    task,
    typed: typedOf(before),
    change: (typed: OutsideTyped) => {
      const outside = outsideTyped(typed);
      // Nothing is asked of the server before a maker is named.
      const isAsItWas = JSON.stringify(outside) === JSON.stringify(before);
      return isAsItWas || typed.maker.trim() === '' ? {} : { outside };
    },
    onEdit,
    onDone: onClose,
  });
  const remove = async (): Promise<void> => {
    if (await onEdit({ outside: null }, task.version)) onClose();
  };
  const wanted = outsideTyped(form.values);
  const other =
    before === null ? null : (
      <Button kind="quiet" onPress={() => void remove()}>
        Remove outside maker
      </Button>
    );
  return (
    <PreviewedForm {...{ form, seen, isChanged, other }} taskId={task.id} action="Save" onCancel={onClose}>
      <Field
        {...form.bind('maker')}
        label="Outside maker"
        autoFocus={before === null}
        placeholder="A workshop, a printer, a studio"
        isTight
        error={form.bind('outside').error}
      />
      <Pair>
        <Field {...form.bind('turnaround')} label="Turnaround, working days" inputMode="numeric" isTight />
        <Field {...form.bind('buffer')} label="Our buffer, working days" inputMode="numeric" isTight />
      </Pair>
      <DayField {...form.bind('neededOn')} label="Needed on" today={today} placeholder="when the next task starts" isTight />
      <Choose {...form.bind('state')} label="Progress" choices={OUTSIDE_STATE.map((id) => ({ id, name: OUTSIDE_STATE_WORDS[id] }))} />
      {wanted instanceof Unreadable ? null : (
        <Note $isSmall>The brief goes out {count(wanted.turnaroundDays + wanted.bufferDays, 'working day')} before it is needed.</Note>
      )}
    </PreviewedForm>
  );
}
