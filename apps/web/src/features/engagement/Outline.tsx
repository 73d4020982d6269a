import type { IsoDay } from '@crew/core';
import { can, type EngagementPlan, type PlanPhase, type PlanTask, type TaskChange } from '@crew/contract';
import { useCallback, useMemo, useState, type KeyboardEvent } from 'react';
import {
  Button as AriaButton,
  ButtonContext,
  DropIndicator,
  Tree,
  TreeItem,
  TreeItemContent,
  useDragAndDrop,
  type Key,
} from 'react-aria-components';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { Push } from '../../ui/layout.tsx';
import styled from 'styled-components';
import { useKey } from '../../ui/use-key.ts';
import { Button } from '../../ui/Button.tsx';
import { ChooseBox } from '../../ui/ChooseBox.tsx';
import { Tag } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, spanWords } from '../../words/format.ts';
import { leavesUnder, partsOf, taskListOf, topsOf, type TaskList } from '../task-list/task-list.ts';
import type { TaskEditing } from '../task/use-task-edit.ts';
import { AddTask } from './AddTask.tsx';
import { headingsOf, type Gathering, type Heading } from './outline-headings.ts';
import type { Placing } from './place-tasks.ts';
import { PLAN_SHEETS } from './plan-sheets.ts';
import { RowCells } from './RowCells.tsx';
import { dropTasks, moveAmong, moveIn, moveOut } from './tree.ts';
import { useChosen, useFolding } from './use-outline-state.ts';

const List = styled(Tree)`
  outline: none;
`;
const Line = styled.div`
  display: grid;
  grid-template-columns: 10px 20px 12px 30px 32px minmax(120px, 1fr) 86px 140px 88px 84px;
  align-items: center;
  gap: 0 6px;
  min-height: var(--row);
  padding-right: 4px;
  ${phone} {
    grid-template-columns: 0 26px 12px 30px minmax(0, 1fr) auto;
    padding: 6px 2px 6px 0;
    > .wide {
      display: none;
    }
  }
`;
const Item = styled(TreeItem)`
  outline: none;
  border-top: 1px solid var(--line);
  cursor: pointer;
  &[data-hovered] {
    background: var(--sunk);
  }
  &[data-selected] {
    background: var(--petrol-soft);
  }
  &[data-focus-visible] {
    box-shadow: inset 3px 0 0 var(--petrol);
  }
  &[data-drop-target] {
    background: var(--petrol-soft);
    box-shadow: inset 0 0 0 2px var(--petrol);
  }
  &[data-dragging] {
    opacity: 0.5;
  }
`;
const PhaseItem = styled(Item)`
  border-top: 0;
  cursor: default;
  &[data-hovered] {
    background: transparent;
  }
`;
const PhaseHead = styled.div<{ $isFolded: boolean }>`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 3px 11px;
  padding: ${({ $isFolded }) => ($isFolded ? '4px 0' : '14px 0 8px')};
`;
const Small = styled.span`
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
  ${phone} {
    white-space: normal;
  }
`;
const Grip = styled(AriaButton)`
  width: 10px;
  height: 22px;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--ink-3);
  opacity: 0;
  cursor: grab;
  ${Item}:hover &,
  &[data-focus-visible] {
    opacity: 1;
  }
`;
const Chevron = styled(AriaButton)`
  min-width: 12px;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--ink-2);
  font-size: 10px;
  cursor: pointer;
`;
const Here = styled(DropIndicator)`
  &[data-drop-target] {
    height: 2px;
    margin-bottom: -2px;
    background: var(--petrol);
  }
`;

interface OutlineProps {
  readonly plan: EngagementPlan;
  readonly today: IsoDay;
  readonly editing: TaskEditing;
  readonly gathering: Gathering;
  readonly chosen: readonly string[];
  /** Whether tasks are being chosen to be changed together. */
  readonly isChoosing: boolean;
  /** `isByBox`: to be changed together with others that follow, not to be opened. */
  readonly onChoose: (taskIds: readonly string[], isByBox: boolean) => void;
  readonly onHandoff: (handoffId: string) => void;
  /** Applies a change of order at once: it moves no days by itself, and the notice undoes it. */
  readonly onPlace: (placing: Placing) => void;
}

/**
 * The plan as a tree. Arrow keys walk the tasks and the sheet follows; with Alt they move the task up
 * and down, into the one above and out again. Dragging does the same.
 */
export function Outline({ plan, today, editing, gathering, chosen, isChoosing, onChoose, onHandoff, onPlace }: OutlineProps) {
  const mayEdit = can(useWho(), 'plan.edit') && plan.engagement.state !== 'dropped';
  const [addingTo, setAddingTo] = useState<string | null>(null);
  const running = plan.phases.find((phase) => phase.state === 'running')?.id ?? null;
  useKey(
    'n',
    useCallback(() => (mayEdit ? setAddingTo(running) : undefined), [running, mayEdit]),
  );
  const headings = useMemo(() => headingsOf(plan, gathering), [plan, gathering]);
  const all = useMemo(() => taskListOf(plan.tasks), [plan.tasks]);
  const { expanded, expand } = useFolding(plan, headings);
  const { selected, choose, noteBox } = useChosen(plan, chosen, onChoose);
  const { dragAndDropHooks } = usePlaces(plan, { isFixed: !mayEdit || gathering !== 'phase', onPlace });
  const adding = plan.phases.find((phase) => phase.id === addingTo);
  return (
    <div
      onPointerDownCapture={noteBox}
      onKeyDownCapture={(event) => {
        noteBox(event);
        if (mayEdit && gathering === 'phase') placeByKey(event, { plan, onPlace });
      }}
    >
      {adding === undefined ? null : <AddTask engagementId={plan.engagement.id} phase={adding} onClose={() => setAddingTo(null)} />}
      <List
        aria-label={gathering === 'phase' ? 'Tasks by phase' : 'Tasks by deliverable'}
        selectionMode="multiple"
        selectionBehavior="replace"
        escapeKeyBehavior="none"
        disabledKeys={headings.map((heading) => heading.id)}
        disabledBehavior="selection"
        selectedKeys={selected}
        data-choosing={isChoosing || undefined}
        onSelectionChange={choose}
        onAction={(key) => (plan.tasks.some((task) => task.id === key) ? onChoose([String(key)], false) : undefined)}
        expandedKeys={expanded}
        onExpandedChange={expand}
        dragAndDropHooks={dragAndDropHooks}
      >
        {headings.map((heading) => (
          <HeadingItem
            key={heading.id}
            {...{ heading, all, today, onHandoff }}
            editing={{ edit: editing.edit, isReadOnly: !mayEdit, isAtRest: plan.engagement.state === 'dropped' }}
            isFolded={!expanded.has(heading.id)}
            onAdd={mayEdit ? () => setAddingTo(heading.id) : null}
          />
        ))}
      </List>
    </div>
  );
}

/** How the rows are edited; with `isAtRest` not even their status. */
interface RowEditing {
  readonly edit: TaskEditing['edit'];
  readonly isReadOnly: boolean;
  readonly isAtRest: boolean;
}

interface HeadingProps extends Pick<OutlineProps, 'today' | 'onHandoff'> {
  readonly editing: RowEditing;
  readonly heading: Heading;
  /** Every task of the plan. */
  readonly all: TaskList<PlanTask>;
  readonly isFolded: boolean;
  /** Null for who may not add to the plan. */
  readonly onAdd: (() => void) | null;
}

/** A phase or a deliverable with the tasks below it. */
function HeadingItem({ heading, all, today, editing, isFolded, onAdd, onHandoff }: HeadingProps) {
  const { id, name, phase, tasks, list } = heading;
  return (
    <PhaseItem id={id} textValue={name} aria-label={name}>
      <TreeItemContent>
        <PhaseHead $isFolded={isFolded}>
          <Chevron slot="chevron" aria-label={isFolded ? 'Expand' : 'Collapse'}>
            {isFolded ? '▸' : '▾'}
          </Chevron>
          <h2>{name}</h2>
          {phase === null ? (
            <Small>{doneWords(tasks)}</Small>
          ) : (
            <PhaseLine phase={phase} tasks={tasks} today={today} isAtRest={editing.isAtRest} onAdd={onAdd} onHandoff={onHandoff} />
          )}
        </PhaseHead>
      </TreeItemContent>
      <Branch tasks={topsOf(list)} list={list} depth={0} all={all} today={today} editing={editing} />
    </PhaseItem>
  );
}

interface BranchProps {
  readonly tasks: readonly PlanTask[];
  readonly list: TaskList<PlanTask>;
  readonly depth: number;
  /** Every task of the plan. */
  readonly all: TaskList<PlanTask>;
  readonly today: IsoDay;
  readonly editing: RowEditing;
}

const NO_TASKS: readonly PlanTask[] = [];
const liveLeaves = (task: PlanTask, all: TaskList<PlanTask>): readonly PlanTask[] =>
  leavesUnder(all, [task]).filter((leaf) => leaf.status !== 'dropped');

/** The tasks below one, and below those. */
function Branch({ tasks, list, depth, all, today, editing }: BranchProps) {
  return tasks.map((task) => (
    <Item key={task.id} id={task.id} textValue={task.title} aria-label={task.title}>
      <TreeItemContent>
        {({ isExpanded }) => (
          <Line style={{ paddingLeft: depth * 18 }}>
            <Grip slot="drag" aria-label={`Move ${task.title}`}>
              <GripMark />
            </Grip>
            {editing.isReadOnly ? <span /> : <ChooseBox title={task.title} />}
            {task.isGroup ? (
              <Chevron slot="chevron" aria-label={isExpanded ? 'Collapse' : 'Expand'}>
                {isExpanded ? '▾' : '▸'}
              </Chevron>
            ) : (
              <span />
            )}
            {/* The item has buttons of its own, above; to those of the cells it says nothing, so they need not listen. */}
            <ButtonContext.Provider value={null}>
              <RowCells task={task} leaves={task.isGroup ? liveLeaves(task, all) : NO_TASKS} today={today} {...editing} />
            </ButtonContext.Provider>
          </Line>
        )}
      </TreeItemContent>
      <Branch tasks={partsOf(list, task.id)} list={list} depth={depth + 1} all={all} today={today} editing={editing} />
    </Item>
  ));
}

const GripMark = () => (
  <svg width="8" height="12" viewBox="0 0 8 12" aria-hidden="true" fill="currentColor">
    {[2, 6, 10].flatMap((y) => [1.5, 6].map((x) => <circle key={`${x}${y}`} cx={x} cy={y} r={1.1} />))}
  </svg>
);

/** Dragging tasks within the tree: before, behind or onto others, or onto a phase. */
function usePlaces(plan: EngagementPlan, { isFixed, onPlace }: { readonly isFixed: boolean; readonly onPlace: OutlineProps['onPlace'] }) {
  const isTask = (key: Key): boolean => plan.tasks.some((task) => task.id === key);
  return useDragAndDrop({
    getItems: (keys) => [...keys].filter(isTask).map((key) => ({ 'text/plain': plan.tasks.find((task) => task.id === key)?.title ?? '' })),
    isDisabled: isFixed,
    getDropOperation: (target) => (target.type === 'item' && (isTask(target.key) || target.dropPosition === 'on') ? 'move' : 'cancel'),
    onMove: ({ keys, target }) => {
      const [ids, drop] = [[...keys].map(String), { key: String(target.key), place: target.dropPosition }];
      onPlace((now) => dropTasks(ids, drop, now));
    },
    renderDropIndicator: (target) => <Here target={target} />,
  });
}

/** Alt with the arrows: up or down, into the one above, out again. */
function placeByKey(event: KeyboardEvent, { plan, onPlace }: Pick<OutlineProps, 'plan' | 'onPlace'>): void {
  const row = event.target instanceof HTMLElement ? event.target.closest<HTMLElement>('[role="row"]') : null;
  const task = plan.tasks.find((candidate) => candidate.id === row?.dataset['key']);
  if (!event.altKey || event.ctrlKey || event.metaKey || task === undefined) return;
  const step = STEPS[event.key];
  if (step === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  onPlace(({ tasks }) => {
    const now = tasks.find(({ id }) => id === task.id);
    const change = now === undefined ? null : step(now, tasks);
    return change === null ? null : [change];
  });
}

/** What Alt with an arrow does to a task among the others. */
const STEPS: Readonly<Record<string, (task: PlanTask, tasks: readonly PlanTask[]) => TaskChange | null>> = {
  ArrowUp: (task, tasks) => moveAmong(task, tasks, -1),
  ArrowDown: (task, tasks) => moveAmong(task, tasks, 1),
  ArrowRight: moveIn,
  ArrowLeft: moveOut,
};

interface PhaseLineProps {
  readonly phase: PlanPhase;
  readonly tasks: readonly PlanTask[];
  readonly today: IsoDay;
  readonly isAtRest: boolean;
  readonly onAdd: (() => void) | null;
  readonly onHandoff: (handoffId: string) => void;
}

function PhaseLine({ phase, tasks, today, isAtRest, onAdd, onHandoff }: PhaseLineProps) {
  const [, openSheet] = useOpenSheet(PLAN_SHEETS);
  const me = useWho();
  return (
    <>
      {phase.rounds === null && phase.round === 1 ? null : <Tag>{roundWords(phase)}</Tag>}
      <Small>{phaseWords(phase, doneWords(tasks), today)}</Small>
      <Push />
      {phase.state === 'running' && phase.gate.all > 0 && phase.handoffId !== null && !isAtRest ? (
        <Button kind="quiet" onPress={() => onHandoff(phase.handoffId as string)}>
          gate: {phase.gate.clear} of {phase.gate.all} clear
        </Button>
      ) : null}
      {isAtRest || !can(me, 'engagement.edit') ? null : (
        <Button kind="quiet" aria-label={`Edit the phase ${phase.name}`} onPress={() => openSheet({ kind: 'phase', id: phase.id })}>
          Edit
        </Button>
      )}
      {phase.state === 'over' || onAdd === null ? null : (
        <Button kind="quiet" onPress={onAdd}>
          Add task
        </Button>
      )}
    </>
  );
}

/** "round 2 of 3"; beyond what was agreed it says so. */
function roundWords({ round, rounds, state }: PlanPhase): string {
  if (rounds === null) return `round ${round}`;
  if (round > rounds) return `round ${round}, ${count(rounds, 'round')} agreed`;
  return state === 'ahead' ? `${count(rounds, 'round')} agreed` : `round ${round} of ${rounds}`;
}

/** "3 of 9 done": what has subtasks counts by them. */
function doneWords(tasks: readonly PlanTask[]): string {
  const live = tasks.filter((task) => task.status !== 'dropped' && !task.isGroup);
  return `${live.filter((task) => task.status === 'done').length} of ${live.length} done`;
}

function phaseWords(phase: PlanPhase, done: string, today: IsoDay): string {
  const span = spanWords(phase.start, phase.finish, today);
  if (phase.state === 'over') return `${done} · ${span}`;
  if (phase.state === 'running') return `${done} · ${phase.percent} % by effort · ${span}`;
  return `starts when it is picked up · planned ${span} · ${done}`;
}
