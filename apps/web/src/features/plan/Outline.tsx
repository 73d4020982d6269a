import type { EngagementPlan, PlanPhase, PlanTask } from '@crew/contract';
import { useCallback, useState } from 'react';
import { GridList, GridListHeader, GridListItem, GridListSection, type Key } from 'react-aria-components';
import styled from 'styled-components';
import { call, type ApiError } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { useKey } from '../../app/use-key.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { Meter } from '../../ui/layout.tsx';
import { PersonMark, Tag, TaskGlyph } from '../../ui/marks.tsx';
import { notify } from '../../ui/toasts.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, hours, shortDay, spanWords } from '../../words/format.ts';
import { EffortEditor, StatusMenu, ValueButton, WhenEditor, WhoEditor, type OnEdit } from '../task/editors.tsx';
import type { TaskEditing } from '../task/use-task-edit.ts';

const List = styled(GridList)`
  outline: none;
`;
const PhaseHead = styled(GridListHeader)<{ $isFolded: boolean }>`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 3px 11px;
  padding: ${({ $isFolded }) => ($isFolded ? '4px 0' : '14px 0 8px')};
`;
const Row = styled(GridListItem)`
  display: grid;
  grid-template-columns: 30px 34px minmax(120px, 1fr) 92px 124px 92px 74px;
  align-items: center;
  gap: 0 6px;
  min-height: var(--row);
  padding: 0 4px 0 2px;
  border-top: 1px solid var(--line);
  cursor: pointer;
  outline: none;
  &[data-hovered] {
    background: var(--sunk);
  }
  &[data-selected] {
    background: var(--petrol-soft);
  }
  &[data-focus-visible] {
    box-shadow: inset 3px 0 0 var(--petrol);
  }
  ${phone} {
    grid-template-columns: 30px minmax(0, 1fr) auto;
    padding: 6px 2px;
    > .wide {
      display: none;
    }
  }
`;
const Number = styled.span`
  color: var(--ink-2);
  font-size: 12px;
`;
const TitleText = styled.span`
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;
const Small = styled.span`
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
`;

interface OutlineProps {
  readonly plan: EngagementPlan;
  readonly today: string;
  readonly editing: TaskEditing;
  readonly openTask: string | null;
  readonly onOpen: (taskId: string) => void;
  readonly onHandoff: (handoffId: string) => void;
}

/** The plan phase by phase. Arrow keys walk the tasks and the sheet follows. */
export function Outline({ plan, today, editing, openTask, onOpen, onHandoff }: OutlineProps) {
  const select = (keys: 'all' | Set<Key>): void => {
    const [key] = keys === 'all' ? [] : keys;
    if (key !== undefined) onOpen(String(key));
  };
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const [addingTo, setAddingTo] = useState<string | null>(null);
  const running = plan.phases.find((phase) => phase.state === 'running')?.id ?? null;
  useKey(
    'n',
    useCallback(() => setAddingTo(running), [running]),
  );
  const isFolded = (phase: PlanPhase): boolean => phase.state === 'over' && !unfolded.has(phase.id) && plan.engagement.state !== 'finished';
  const turn = (id: string): void =>
    setUnfolded((before) => (before.has(id) ? new Set([...before].filter((other) => other !== id)) : new Set([...before, id])));
  const adding = plan.phases.find((phase) => phase.id === addingTo);
  return (
    <div>
      {adding === undefined ? null : <AddTask engagementId={plan.engagement.id} phase={adding} onClose={() => setAddingTo(null)} />}
      <List
        aria-label="Tasks by phase"
        selectionMode="single"
        escapeKeyBehavior="none"
        selectionBehavior="replace"
        selectedKeys={openTask === null ? [] : [openTask]}
        onSelectionChange={select}
        onAction={(key) => onOpen(String(key))}
      >
        {plan.phases.map((phase) => (
          <GridListSection key={phase.id} id={`phase-${phase.id}`}>
            <PhaseHead $isFolded={isFolded(phase)}>
              <PhaseLine
                phase={phase}
                tasks={plan.tasks.filter((task) => task.phaseId === phase.id)}
                today={today}
                isFolded={isFolded(phase)}
                onAdd={() => setAddingTo(phase.id)}
                onFold={() => turn(phase.id)}
                onHandoff={onHandoff}
              />
            </PhaseHead>
            {(isFolded(phase) ? [] : plan.tasks.filter((task) => task.phaseId === phase.id)).map((task) => (
              <TaskRow key={task.id} task={task} today={today} editing={editing} />
            ))}
          </GridListSection>
        ))}
      </List>
    </div>
  );
}

interface PhaseLineProps {
  readonly phase: PlanPhase;
  readonly tasks: readonly PlanTask[];
  readonly today: string;
  readonly isFolded: boolean;
  readonly onAdd: () => void;
  readonly onFold: () => void;
  readonly onHandoff: (handoffId: string) => void;
}

function PhaseLine({ phase, tasks, today, isFolded, onAdd, onFold, onHandoff }: PhaseLineProps) {
  const live = tasks.filter((task) => task.status !== 'dropped');
  const done = live.filter((task) => task.status === 'done').length;
  return (
    <>
      <h2>{phase.name}</h2>
      {phase.rounds === null ? null : <Tag>{count(phase.rounds, 'round')} agreed</Tag>}
      <Small>{phaseWords(phase, `${done} of ${live.length} done`, today)}</Small>
      <span style={{ flex: 1 }} />
      {phase.state === 'running' && phase.gate.all > 0 && phase.handoffId !== null ? (
        <Button kind="quiet" onPress={() => onHandoff(phase.handoffId as string)}>
          gate: {phase.gate.clear} of {phase.gate.all} clear
        </Button>
      ) : null}
      {phase.state === 'over' ? (
        <Button kind="quiet" aria-expanded={!isFolded} onPress={onFold}>
          {isFolded ? `Show ${count(tasks.length, 'task')}` : 'Fold'}
        </Button>
      ) : (
        <Button kind="quiet" onPress={onAdd}>
          Add task
        </Button>
      )}
    </>
  );
}

function phaseWords(phase: PlanPhase, done: string, today: string): string {
  const span = spanWords(phase.start, phase.finish, today);
  if (phase.state === 'over') return `${done} · ${span}`;
  if (phase.state === 'running') return `${done} · ${phase.percent} % by effort · ${span}`;
  return `starts when it is picked up · planned ${span} · ${done}`;
}

const AddBar = styled.form`
  position: sticky;
  top: 54px;
  z-index: 5;
  display: flex;
  align-items: start;
  gap: 8px;
  margin-bottom: 6px;
  padding: 10px 12px 0;
  background: var(--panel);
  border: 1px solid var(--petrol);
  border-radius: 7px;
  > div {
    flex: 0 1 440px;
  }
  > button {
    margin-top: 20px;
  }
`;

/** Stands outside the list: a list takes typed letters as a search among its rows. */
function AddTask({
  engagementId,
  phase,
  onClose,
}: {
  readonly engagementId: string;
  readonly phase: PlanPhase;
  readonly onClose: () => void;
}) {
  const [title, setTitle] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const add = async (): Promise<void> => {
    try {
      await call('POST', `/engagements/${engagementId}/tasks`, { phaseId: phase.id, title });
      await refreshAll();
      notify(`“${title}” added to ${phase.name}.`);
      onClose();
    } catch (error) {
      setTrouble((error as ApiError).message);
    }
  };
  return (
    <AddBar
      aria-label={`New task in ${phase.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div>
        <Field label={`New task in ${phase.name}`} value={title} onChange={setTitle} error={trouble} autoFocus />
      </div>
      <Button kind="primary" type="submit">
        Add
      </Button>
      <Button kind="quiet" onPress={onClose}>
        Not now
      </Button>
    </AddBar>
  );
}

function TaskRow({ task, today, editing }: { readonly task: PlanTask; readonly today: string; readonly editing: TaskEditing }) {
  const onEdit: OnEdit = (change, undo, version = task.version) => editing.edit({ ...task, version }, change, undo);
  const isOpen = task.status !== 'done' && task.status !== 'dropped';
  const isOverdue = isOpen && task.due < today;
  return (
    <Row id={task.id} textValue={task.title}>
      <StatusMenu task={task} onEdit={onEdit}>
        <ValueButton aria-label={`Change the status of ${task.title}`} style={{ margin: 0 }}>
          <TaskGlyph status={task.status} />
        </ValueButton>
      </StatusMenu>
      <Number className="wide">{task.number}</Number>
      <TitleText
        title={task.title}
        style={task.status === 'dropped' ? { textDecoration: 'line-through', color: 'var(--ink-2)' } : undefined}
      >
        {task.title}
      </TitleText>
      <WhoEditor task={task} onEdit={onEdit}>
        <ValueButton className="wide" aria-label={`Who does ${task.title}: ${whoWords(task)}`}>
          <WhoMarks task={task} />
        </ValueButton>
      </WhoEditor>
      <WhenEditor task={task} today={today} onEdit={onEdit}>
        <ValueButton aria-label={`When is ${task.title}`} style={isOverdue ? { color: 'var(--brick)', fontWeight: 650 } : undefined}>
          {isOverdue ? `due ${shortDay(task.due, today)}` : spanWords(task.start, task.due, today)}
          {task.fixedDay === null ? '' : ' ●'}
        </ValueButton>
      </WhenEditor>
      <EffortEditor task={task} onEdit={onEdit}>
        <ValueButton className="wide" aria-label={`Effort of ${task.title}`} style={{ display: 'block' }}>
          <Effort task={task} />
        </ValueButton>
      </EffortEditor>
      <Small className="wide" style={task.missedDays > 0 ? { color: 'var(--brick)' } : undefined}>
        {noteWords(task)}
      </Small>
    </Row>
  );
}

function whoWords(task: PlanTask): string {
  return task.kind === 'client' ? 'client' : task.assignees.map((person) => person.name).join(', ') || (task.role ?? 'nobody yet');
}

function WhoMarks({ task }: { readonly task: PlanTask }) {
  if (task.kind === 'client') return <Tag>client</Tag>;
  if (task.assignees.length > 0) return task.assignees.map((person) => <PersonMark key={person.id} person={person} />);
  return task.role === null ? (
    <Small>—</Small>
  ) : (
    <Tag title={task.role} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
      {task.role}
    </Tag>
  );
}

function Effort({ task }: { readonly task: PlanTask }) {
  if (task.estimateMinutes === null) return <Small>{task.loggedMinutes > 0 ? `${hours(task.loggedMinutes)} h` : '—'}</Small>;
  const part = task.estimateMinutes === 0 ? 0 : (task.loggedMinutes * 100) / task.estimateMinutes;
  return (
    <span style={{ display: 'block', width: 74, lineHeight: 1.2 }}>
      {hours(task.loggedMinutes)} / {hours(task.estimateMinutes)} h
      <Meter $part={part} />
    </span>
  );
}

/** What matters next about a task: a missed day, then what it waits for. */
function noteWords(task: PlanTask): string {
  if (task.missedDays > 0) return `short ${task.missedDays} d`;
  if (task.openPredecessors > 0 && task.status === 'queued') return `after ${task.after.join(', ')}`;
  return '';
}
