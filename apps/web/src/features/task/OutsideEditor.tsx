import { OUTSIDE_STATE, OUTSIDE_STATE_WORDS, type EditTask, type OutsideState, type OutsideWork, type TaskSheet } from '@crew/contract';
import { useState } from 'react';
import { DialogTrigger } from 'react-aria-components';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { count, dayWords } from '../../words/format.ts';
import { EditorPanel, ValueButton, type OnEdit } from './editors.tsx';
import { EffectWords } from './EffectWords.tsx';
import { useEffectOf } from './use-effect-of.ts';

type Outside = NonNullable<EditTask['outside']>;

/** When the brief goes out, or how far the maker is: the one thing to know. Late is a brief that should have gone. */
export function briefWords(
  outside: Pick<OutsideWork, 'state' | 'briefBy'>,
  today: string,
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
      <ValueButton aria-label={task.outside === null ? 'Done outside: no' : `Done outside by ${task.outside.maker}`}>
        {task.outside === null || brief === null ? (
          <span style={{ color: 'var(--ink-2)' }}>no, the crew does it</span>
        ) : (
          <span>
            {task.outside.maker} · <span style={brief.isLate ? { color: 'var(--brick)', fontWeight: 650 } : undefined}>{brief.text}</span>
          </span>
        )}
      </ValueButton>
      <PopoverPanel style={{ maxHeight: 'none' }}>
        <EditorPanel aria-label={`Done outside: ${task.title}`}>
          {({ close }) => <OutsideForm task={task} onEdit={onEdit} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

const dayCount = (text: string): number | null => (/^\d{1,3}$/.test(text.trim()) ? Number(text) : null);

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

function OutsideForm({ task: now, onEdit, onClose }: FormProps) {
  const { today } = useWho();
  const [task] = useState(now);
  const before = toOutside(task.outside);
  const [maker, setMaker] = useState(before?.maker ?? '');
  const [turnaround, setTurnaround] = useState(String(before?.turnaroundDays ?? 5));
  const [buffer, setBuffer] = useState(String(before?.bufferDays ?? 2));
  const [neededOn, setNeededOn] = useState(before?.neededOn ?? '');
  const [state, setState] = useState<OutsideState>(before?.state ?? 'to-brief');
  const [turnaroundDays, bufferDays] = [dayCount(turnaround), dayCount(buffer)];
  const wanted: Outside | null =
    maker.trim() === '' || turnaroundDays === null || bufferDays === null
      ? null
      : { maker: maker.trim(), turnaroundDays, bufferDays, neededOn: neededOn === '' ? null : neededOn, state };
  const isChanged = wanted !== null && JSON.stringify(wanted) !== JSON.stringify(before);
  const { effect, problem } = useEffectOf(task, isChanged ? { outside: wanted } : null);
  const save = async (outside: Outside | null): Promise<void> => {
    if (await onEdit({ outside }, task.version)) onClose();
  };
  const wrong = 'Write a whole number of working days.';
  return (
    <>
      <Field
        label="Who makes it"
        value={maker}
        onChange={setMaker}
        autoFocus={before === null}
        placeholder="A workshop, a printer, a studio"
        isTight
      />
      <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 8 }}>
        <Field
          label="They take, days"
          inputMode="numeric"
          value={turnaround}
          onChange={setTurnaround}
          error={turnaroundDays === null ? wrong : undefined}
          isTight
        />
        <Field
          label="Our buffer, days"
          inputMode="numeric"
          value={buffer}
          onChange={setBuffer}
          error={bufferDays === null ? wrong : undefined}
          isTight
        />
      </div>
      <DayField
        label="Needed on"
        today={today}
        value={neededOn}
        onChange={setNeededOn}
        placeholder="when what waits for it begins"
        isTight
      />
      <Choose
        label="How far it is"
        choices={OUTSIDE_STATE.map((id) => ({ id, name: OUTSIDE_STATE_WORDS[id] }))}
        value={state}
        onChange={(id) => setState(id as OutsideState)}
      />
      {wanted === null ? null : (
        <p style={{ fontSize: 12, color: 'var(--ink-2)' }}>
          The brief goes out {count(wanted.turnaroundDays + wanted.bufferDays, 'working day')} before it is needed.
        </p>
      )}
      {problem !== undefined ? (
        <p role="alert">{problem}</p>
      ) : effect === undefined ? null : (
        <EffectWords effect={effect} today={today} taskId={task.id} />
      )}
      <div>
        <Button kind="primary" isDisabled={!isChanged || problem !== undefined} onPress={() => void save(wanted)}>
          Save
        </Button>
        {before === null ? null : (
          <Button kind="quiet" onPress={() => void save(null)}>
            Not outside any more
          </Button>
        )}
        <Button kind="quiet" onPress={onClose}>
          Put back
        </Button>
      </div>
    </>
  );
}
