import { LINK_TYPE, LINK_TYPE_WORDS, type EditTask, type LinkType, type PlanTask, type TaskSheet, type TaskTie } from '@crew/contract';
import { useState } from 'react';
import { ComboBox, DialogTrigger, Input, Label, ListBox } from 'react-aria-components';
import styled from 'styled-components';
import { usePlan } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, Option, PopoverPanel } from '../../ui/Field.tsx';
import { TaskGlyph } from '../../ui/marks.tsx';
import { count } from '../../words/format.ts';
import { EditorPanel, ValueButton, type OnEdit } from './editors.tsx';
import { EffectWords } from './EffectWords.tsx';
import { useEffectOf } from './use-effect-of.ts';

const Tied = styled.div`
  display: flex;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 0 6px;
  > button {
    margin-block: 0;
  }
  small {
    color: var(--ink-2);
    font-size: 12px;
  }
`;

type Tie = NonNullable<EditTask['after']>[number];
const tiesOf = (task: Pick<PlanTask, 'after'>): Tie[] => task.after.map(({ id, type, lag }) => ({ taskId: id, type, lag }));

interface TiesProps {
  readonly task: TaskSheet;
  readonly onEdit: OnEdit;
  readonly isReadOnly: boolean;
  readonly onOpen: (taskId: string) => void;
}

/** What a task waits for, each tie in words; new ones by typing, the others changed where they are read. */
export function WaitsFor({ task, onEdit, isReadOnly, onOpen }: TiesProps) {
  return (
    <>
      {task.waitsFor.length === 0 ? <span style={{ color: 'var(--ink-2)' }}>nothing, it can begin </span> : null}
      {task.waitsFor.map((tie) => (
        <Tied key={tie.id}>
          <ValueButton onPress={() => onOpen(tie.id)}>
            <TaskGlyph status={tie.status} /> {tie.title}
          </ValueButton>
          {isReadOnly ? <small>{tieWords(tie)}</small> : <TieTrigger task={task} onEdit={onEdit} tie={tie} />}
        </Tied>
      ))}
      {isReadOnly ? null : <TieTrigger task={task} onEdit={onEdit} tie={null} />}
    </>
  );
}

/** What waits for a task, in words. */
export function HoldsUp({ task, onOpen }: Pick<TiesProps, 'task' | 'onOpen'>) {
  if (task.holdsUp.length === 0) return <span style={{ color: 'var(--ink-2)' }}>nothing</span>;
  return task.holdsUp.map((tie) => (
    <Tied key={tie.id}>
      <ValueButton onPress={() => onOpen(tie.id)}>
        <TaskGlyph status={tie.status} /> {tie.title}
      </ValueButton>
      {tie.type === 'FS' && tie.lag === 0 ? null : <small>{heldWords(tie)}</small>}
    </Tied>
  ));
}

const lagWords = (lag: number): string => (lag === 0 ? '' : `, ${count(Math.abs(lag), 'day')} ${lag > 0 ? 'later' : 'earlier'}`);
const SHORT: Readonly<Record<LinkType, string>> = {
  FS: 'after its end',
  SS: 'begins with it',
  FF: 'ends with it',
  SF: 'ends as it begins',
};

/** "after its end, 2 days later" */
const tieWords = ({ type, lag }: Pick<TaskTie, 'type' | 'lag'>): string => `${SHORT[type]}${lagWords(lag)}`;

const HELD: Readonly<Record<LinkType, string>> = {
  FS: 'begins after this',
  SS: 'begins with this',
  FF: 'ends with this',
  SF: 'ends as this begins',
};
const heldWords = ({ type, lag }: Pick<TaskTie, 'type' | 'lag'>): string => `${HELD[type]}${lagWords(lag)}`;

interface TriggerProps {
  readonly task: TaskSheet;
  readonly onEdit: OnEdit;
  /** The tie to change, or null for a new one. */
  readonly tie: TaskTie | null;
}

function TieTrigger({ task, onEdit, tie }: TriggerProps) {
  return (
    <DialogTrigger>
      {tie === null ? (
        <Button kind="quiet" style={{ padding: 0, minHeight: 24 }}>
          Tie to another task
        </Button>
      ) : (
        <ValueButton aria-label={`Change the tie to ${tie.title}`} style={{ fontSize: 12, color: 'var(--ink-2)', margin: 0 }}>
          {tieWords(tie)}
        </ValueButton>
      )}
      <PopoverPanel style={{ maxHeight: 'none' }}>
        <EditorPanel aria-label={tie === null ? `A new tie of ${task.title}` : `The tie to ${tie.title}`}>
          {({ close }) => <TieForm task={task} onEdit={onEdit} tie={tie} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function TieForm({ task: now, onEdit, tie, onClose }: TriggerProps & { readonly onClose: () => void }) {
  const { today } = useWho();
  const [task] = useState(now);
  const [otherId, setOther] = useState<string | null>(tie?.id ?? null);
  const [type, setType] = useState<LinkType>(tie?.type ?? 'FS');
  const [lag, setLag] = useState(String(tie?.lag ?? 0));
  const days = /^[+-]?\d{1,3}$/.test(lag.trim()) ? Number(lag) : null;
  const others = tiesOf(task).filter((other) => other.taskId !== tie?.id && other.taskId !== otherId);
  const isSame = tie !== null && tie.type === type && tie.lag === days;
  const after = otherId === null || days === null || isSame ? null : [...others, { taskId: otherId, type, lag: days }];
  const { effect, problem } = useEffectOf(task, after === null ? null : { after });
  const save = async (next: Tie[]): Promise<void> => {
    if (await onEdit({ after: next }, task.version)) onClose();
  };
  return (
    <>
      {tie === null ? <OtherTask task={task} onChoose={setOther} /> : null}
      <Choose
        label={tie === null ? 'This task' : `This task, seen from “${tie.title}”`}
        choices={LINK_TYPE.map((id) => ({ id, name: `${LINK_TYPE_WORDS[id]} it` }))}
        value={type}
        onChange={(id) => setType(id as LinkType)}
      />
      <Field
        label="Working days between; −2 lets them overlap"
        inputMode="numeric"
        value={lag}
        onChange={setLag}
        error={days === null ? 'Write a whole number of days, like 2 or -1.' : undefined}
      />
      {problem !== undefined ? (
        <p role="alert" style={{ color: 'var(--brick)' }}>
          {problem}
        </p>
      ) : effect === undefined ? null : (
        <EffectWords effect={effect} today={today} taskId={task.id} />
      )}
      <div>
        <Button kind="primary" isDisabled={after === null || problem !== undefined} onPress={() => after !== null && void save(after)}>
          {tie === null ? 'Tie them' : 'Save'}
        </Button>
        {tie === null ? null : (
          <Button kind="quiet" onPress={() => void save(others)}>
            Remove the tie
          </Button>
        )}
        <Button kind="quiet" onPress={onClose}>
          Put back
        </Button>
      </div>
    </>
  );
}

const Box = styled(Input)`
  width: 100%;
  min-height: 32px;
  padding: 5px 9px;
  border: 1px solid var(--joint);
  border-radius: 5px;
  background: var(--panel);
`;

/** Another task of the same plan, found by number or by any of its words. */
function OtherTask({ task, onChoose }: { readonly task: TaskSheet; readonly onChoose: (id: string | null) => void }) {
  const { data: plan } = usePlan(task.engagement.id);
  const phases = new Map(plan?.phases.map((phase) => [phase.id, phase.name]));
  const others = (plan?.tasks ?? []).filter((other) => other.id !== task.id && other.status !== 'dropped');
  return (
    <ComboBox
      menuTrigger="focus"
      defaultItems={others}
      onSelectionChange={(key) => onChoose(key === null ? null : String(key))}
      defaultFilter={(text, typed) =>
        typed
          .toLowerCase()
          .split(/\s+/)
          .every((word) => text.toLowerCase().includes(word))
      }
    >
      <Label style={{ fontSize: 12, fontWeight: 600, color: 'var(--ink-2)' }}>The other task, by name or number</Label>
      <Box autoFocus />
      <PopoverPanel>
        <ListBox renderEmptyState={() => <p style={{ padding: 8 }}>No task of this plan has these words.</p>}>
          {(other: PlanTask) => (
            <Option id={other.id} textValue={`${other.number} ${other.title}`}>
              {other.number} · {other.title}
              <span style={{ display: 'block', fontSize: 12, fontWeight: 400, color: 'var(--ink-2)' }}>{phases.get(other.phaseId)}</span>
            </Option>
          )}
        </ListBox>
      </PopoverPanel>
    </ComboBox>
  );
}
