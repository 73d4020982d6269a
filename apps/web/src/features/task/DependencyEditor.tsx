import { Trouble } from '../../ui/text.tsx';
import {
  LINK_TYPE,
  LINK_TYPE_WORDS,
  type EditTask,
  type LinkType,
  type PlanTask,
  type TaskSheet,
  type TaskDependency,
} from '@crew/contract';
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

type Dependency = NonNullable<EditTask['after']>[number];
const dependenciesOf = (task: Pick<PlanTask, 'after'>): Dependency[] => task.after.map(({ id, type, lag }) => ({ taskId: id, type, lag }));

interface DependenciesProps {
  readonly task: TaskSheet;
  readonly onEdit: OnEdit;
  readonly isReadOnly: boolean;
  readonly onOpen: (taskId: string) => void;
}

/** What a task waits for, each dependency in words; new ones by typing, the others changed where they are read. */
export function WaitsFor({ task, onEdit, isReadOnly, onOpen }: DependenciesProps) {
  return (
    <>
      {task.waitsFor.length === 0 ? <span style={{ color: 'var(--ink-2)' }}>nothing, it can begin </span> : null}
      {task.waitsFor.map((dependency) => (
        <Tied key={dependency.id}>
          <ValueButton onPress={() => onOpen(dependency.id)}>
            <TaskGlyph status={dependency.status} /> {dependency.title}
          </ValueButton>
          {isReadOnly ? (
            <small>{dependencyWords(dependency)}</small>
          ) : (
            <DependencyTrigger task={task} onEdit={onEdit} dependency={dependency} />
          )}
        </Tied>
      ))}
      {isReadOnly ? null : <DependencyTrigger task={task} onEdit={onEdit} dependency={null} />}
    </>
  );
}

/** What waits for a task, in words. */
export function HoldsUp({ task, onOpen }: Pick<DependenciesProps, 'task' | 'onOpen'>) {
  if (task.holdsUp.length === 0) return <span style={{ color: 'var(--ink-2)' }}>nothing</span>;
  return task.holdsUp.map((dependency) => (
    <Tied key={dependency.id}>
      <ValueButton onPress={() => onOpen(dependency.id)}>
        <TaskGlyph status={dependency.status} /> {dependency.title}
      </ValueButton>
      {dependency.type === 'FS' && dependency.lag === 0 ? null : <small>{heldWords(dependency)}</small>}
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
const dependencyWords = ({ type, lag }: Pick<TaskDependency, 'type' | 'lag'>): string => `${SHORT[type]}${lagWords(lag)}`;

const HELD: Readonly<Record<LinkType, string>> = {
  FS: 'begins after this',
  SS: 'begins with this',
  FF: 'ends with this',
  SF: 'ends as this begins',
};
const heldWords = ({ type, lag }: Pick<TaskDependency, 'type' | 'lag'>): string => `${HELD[type]}${lagWords(lag)}`;

interface TriggerProps {
  readonly task: TaskSheet;
  readonly onEdit: OnEdit;
  /** The one that is changed, or null for a new one. */
  readonly dependency: TaskDependency | null;
}

function DependencyTrigger({ task, onEdit, dependency }: TriggerProps) {
  return (
    <DialogTrigger>
      {dependency === null ? (
        <Button kind="quiet" style={{ padding: 0, minHeight: 24 }}>
          New dependency…
        </Button>
      ) : (
        <ValueButton aria-label={`Edit dependency on ${dependency.title}`} style={{ fontSize: 12, color: 'var(--ink-2)', margin: 0 }}>
          {dependencyWords(dependency)}
        </ValueButton>
      )}
      <PopoverPanel style={{ maxHeight: 'none' }}>
        <EditorPanel aria-label={dependency === null ? `New dependency of ${task.title}` : `Dependency on ${dependency.title}`}>
          {({ close }) => <DependencyForm task={task} onEdit={onEdit} dependency={dependency} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function DependencyForm({ task: now, onEdit, dependency, onClose }: TriggerProps & { readonly onClose: () => void }) {
  const { today } = useWho();
  const [task] = useState(now);
  const [otherId, setOther] = useState<string | null>(dependency?.id ?? null);
  const [type, setType] = useState<LinkType>(dependency?.type ?? 'FS');
  const [lag, setLag] = useState(String(dependency?.lag ?? 0));
  const days = /^[+-]?\d{1,3}$/.test(lag.trim()) ? Number(lag) : null;
  const others = dependenciesOf(task).filter((other) => other.taskId !== dependency?.id && other.taskId !== otherId);
  const isSame = dependency !== null && dependency.type === type && dependency.lag === days;
  const after = otherId === null || days === null || isSame ? null : [...others, { taskId: otherId, type, lag: days }];
  const { effect, problem } = useEffectOf(task, after === null ? null : { after });
  const save = async (next: Dependency[]): Promise<void> => {
    if (await onEdit({ after: next }, task.version)) onClose();
  };
  return (
    <>
      {dependency === null ? <OtherTask task={task} onChoose={setOther} /> : null}
      <Choose
        label={dependency === null ? 'This task' : `This task, seen from “${dependency.title}”`}
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
        <Trouble words={problem} />
      ) : effect === undefined ? null : (
        <EffectWords effect={effect} today={today} taskId={task.id} />
      )}
      <div>
        <Button kind="primary" isDisabled={after === null || problem !== undefined} onPress={() => after !== null && void save(after)}>
          {dependency === null ? 'Add dependency' : 'Save'}
        </Button>
        {dependency === null ? null : (
          <Button kind="quiet" onPress={() => void save(others)}>
            Remove dependency
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
