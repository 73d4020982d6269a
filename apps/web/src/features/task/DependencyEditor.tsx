import { Quiet } from '../../ui/text.tsx';
import {
  DEPENDENCY_TYPE,
  DEPENDENCY_TYPE_WORDS,
  type EditTask,
  type DependencyType,
  type PlanTask,
  type TaskSheet,
  type TaskDependency,
} from '@crew/contract';
import { useState } from 'react';
import { DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { usePlan } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { Find } from '../../ui/Find.tsx';
import { Unreadable, wholeTyped } from '../../ui/form/typed.ts';
import type { Reading } from '../../ui/form/use-input-form.ts';
import { TaskGlyph } from '../../ui/marks.tsx';
import { count } from '../../words/format.ts';
import { EditorPanel, ValueButton, type OnEdit } from './editors.tsx';
import { PreviewedForm } from './PreviewedForm.tsx';
import { useChangeForm } from './use-change-form.ts';
import type { TaskChange } from './use-task-edit.ts';

const SmallValue = styled(ValueButton)`
  font-size: 12px;
  color: var(--ink-2);
  margin: 0;
`;

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
      {task.waitsFor.length === 0 ? <Quiet>nothing, it can start </Quiet> : null}
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
  if (task.holdsUp.length === 0) return <Quiet>nothing</Quiet>;
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
const SHORT: Readonly<Record<DependencyType, string>> = {
  FS: 'after its end',
  SS: 'starts with it',
  FF: 'ends with it',
  SF: 'ends as it starts',
};

/** "after its end, 2 days later" */
const dependencyWords = ({ type, lag }: Pick<TaskDependency, 'type' | 'lag'>): string => `${SHORT[type]}${lagWords(lag)}`;

const HELD: Readonly<Record<DependencyType, string>> = {
  FS: 'starts after this',
  SS: 'starts with this',
  FF: 'ends with this',
  SF: 'ends as this starts',
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
        <Button kind="text">New dependency…</Button>
      ) : (
        <SmallValue aria-label={`Edit dependency on ${dependency.title}`}>{dependencyWords(dependency)}</SmallValue>
      )}
      <PopoverPanel $isWhole>
        <EditorPanel aria-label={dependency === null ? `New dependency of ${task.title}` : `Dependency on ${dependency.title}`}>
          {({ close }) => <DependencyForm task={task} onEdit={onEdit} dependency={dependency} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function DependencyForm({ task: now, onEdit, dependency, onClose }: TriggerProps & { readonly onClose: () => void }) {
  const [task] = useState(now);
  const { form, isChanged, seen } = useChangeForm({
    task,
    typed: typedOf(dependency),
    change: (typed: DependencyTyped) => changeOf(task, dependency, typed),
    onEdit,
    onDone: onClose,
  });
  const remove = async (): Promise<void> => {
    if (await onEdit({ after: othersOf(task, dependency) }, task.version)) onClose();
  };
  const other =
    dependency === null ? null : (
      <Button kind="quiet" onPress={() => void remove()}>
        Remove dependency
      </Button>
    );
  return (
    <PreviewedForm
      {...{ form, seen, isChanged, other }}
      taskId={task.id}
      action={dependency === null ? 'Add dependency' : 'Save'}
      onCancel={onClose}
    >
      {dependency === null ? <OtherTask task={task} onChoose={(otherId) => form.set({ otherId })} /> : null}
      <Choose
        {...form.bind('type')}
        label={dependency === null ? 'This task' : `This task, seen from “${dependency.title}”`}
        choices={DEPENDENCY_TYPE.map((id) => ({ id, name: `${DEPENDENCY_TYPE_WORDS[id]} it` }))}
      />
      <Field {...form.bind('lag')} label="Lag in working days (−2 overlaps)" inputMode="numeric" error={form.bind('after').error} />
    </PreviewedForm>
  );
}

interface DependencyTyped {
  readonly otherId: string | null;
  readonly type: DependencyType;
  readonly lag: string;
  /** Where its fault stands: all dependencies are sent together. */
  readonly after: null;
}

const typedOf = (dependency: TaskDependency | null): DependencyTyped => ({
  ...{ otherId: dependency?.id ?? null, type: dependency?.type ?? 'FS', lag: String(dependency?.lag ?? 0), after: null },
});

const othersOf = (task: TaskSheet, dependency: TaskDependency | null): Dependency[] =>
  dependenciesOf(task).filter((other) => other.taskId !== dependency?.id);

/** All dependencies of the task, with the one that is typed; nothing while none is, or it is as it was. */
function changeOf(task: TaskSheet, dependency: TaskDependency | null, { otherId, type, lag: text }: DependencyTyped): Reading<TaskChange> {
  const lag = wholeTyped(text);
  if (otherId === null || (dependency?.type === type && dependency.lag === lag)) return {};
  if (lag instanceof Unreadable) return { after: lag };
  const others = othersOf(task, dependency).filter((other) => other.taskId !== otherId);
  return { after: [...others, { taskId: otherId, type, lag }] };
}

/** Another task of the same plan, found by number or by any of its words. */
function OtherTask({ task, onChoose }: { readonly task: TaskSheet; readonly onChoose: (id: string | null) => void }) {
  const { data: plan } = usePlan(task.engagement.id);
  const phases = new Map(plan?.phases.map((phase) => [phase.id, phase.name]));
  const others = (plan?.tasks ?? []).filter((other) => other.id !== task.id && other.status !== 'dropped');
  return (
    <Find
      label="The other task, by name or number"
      autoFocus
      choices={others.map(({ id, number, title, phaseId }) => ({
        ...{ id, name: `${number} · ${title}`, words: `${number} ${title}`, detail: phases.get(phaseId) },
      }))}
      onChoose={onChoose}
      none="No task in this plan matches."
    />
  );
}
