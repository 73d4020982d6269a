import type { IsoDay } from '@crew/core';
import type { EngagementPlan, PlanPhase, PlanTask, TaskChange } from '@crew/contract';
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
  type Selection,
} from 'react-aria-components';
import styled from 'styled-components';
import { useKey } from '../../ui/use-key.ts';
import { Button } from '../../ui/Button.tsx';
import { Tag } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, spanWords } from '../../words/format.ts';
import { groupTasks, leavesUnder, partsOf, taskListOf, topsOf, type TaskGroup, type TaskList } from '../task-list/task-list.ts';
import type { TaskEditing } from '../task/use-task-edit.ts';
import { AddTask } from './AddTask.tsx';
import type { Placing } from './place-tasks.ts';
import { RowCells } from './RowCells.tsx';
import { dropTasks, moveAmong, moveIn, moveOut } from './tree.ts';

const List = styled(Tree)`
  outline: none;
`;
const Line = styled.div`
  display: grid;
  grid-template-columns: 10px 12px 30px 32px minmax(120px, 1fr) 86px 140px 88px 84px;
  align-items: center;
  gap: 0 6px;
  min-height: var(--row);
  padding-right: 4px;
  ${phone} {
    grid-template-columns: 0 12px 30px minmax(0, 1fr) auto;
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

/** By which the tasks are gathered. */
export type Gathering = 'phase' | 'deliverable';

interface OutlineProps {
  readonly plan: EngagementPlan;
  readonly today: IsoDay;
  readonly editing: TaskEditing;
  readonly gathering: Gathering;
  readonly chosen: readonly string[];
  readonly onChoose: (taskIds: readonly string[]) => void;
  readonly onHandoff: (handoffId: string) => void;
  /** Takes a change of places at once: it moves no days by itself, and the notice undoes it. */
  readonly onPlace: (placing: Placing) => void;
}

/**
 * The plan as a tree. Arrow keys walk the tasks and the sheet follows; with Alt they move the
 * task among its like, into the one above and out again. Dragging does the same.
 */
export function Outline({ plan, today, editing, gathering, chosen, onChoose, onHandoff, onPlace }: OutlineProps) {
  const [addingTo, setAddingTo] = useState<string | null>(null);
  const running = plan.phases.find((phase) => phase.state === 'running')?.id ?? null;
  useKey(
    'n',
    useCallback(() => setAddingTo(running), [running]),
  );
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const headings = useMemo(() => headingsOf(plan, gathering), [plan, gathering]);
  const all = useMemo(() => taskListOf(plan.tasks), [plan.tasks]);
  const foldable = [...headings.map((heading) => heading.id), ...plan.tasks.filter((task) => task.isGroup).map((task) => task.id)];
  const isFoldedAtFirst = (id: string): boolean =>
    plan.engagement.state !== 'finished' && plan.phases.some((phase) => phase.id === id && phase.state === 'over');
  const expanded = new Set<Key>(foldable.filter((id) => turned.has(id) === isFoldedAtFirst(id)));
  const expand = (keys: Set<Key>): void => setTurned(new Set(foldable.filter((id) => keys.has(id) === isFoldedAtFirst(id))));
  const { selected, choose } = useChosen(plan, chosen, onChoose);
  const { dragAndDropHooks } = usePlaces(plan, gathering, onPlace);
  const adding = plan.phases.find((phase) => phase.id === addingTo);
  return (
    <div onKeyDownCapture={(event) => gathering === 'phase' && placeByKey(event, { plan, onPlace })}>
      {adding === undefined ? null : <AddTask engagementId={plan.engagement.id} phase={adding} onClose={() => setAddingTo(null)} />}
      <List
        aria-label={gathering === 'phase' ? 'Tasks by phase' : 'Tasks by deliverable'}
        selectionMode="multiple"
        selectionBehavior="replace"
        escapeKeyBehavior="none"
        disabledKeys={headings.map((heading) => heading.id)}
        disabledBehavior="selection"
        selectedKeys={selected}
        onSelectionChange={choose}
        onAction={(key) => (plan.tasks.some((task) => task.id === key) ? onChoose([String(key)]) : undefined)}
        expandedKeys={expanded}
        onExpandedChange={expand}
        dragAndDropHooks={dragAndDropHooks}
      >
        {headings.map((heading) => {
          const isFolded = !expanded.has(heading.id);
          return (
            <PhaseItem key={heading.id} id={heading.id} textValue={heading.name} aria-label={heading.name}>
              <TreeItemContent>
                <PhaseHead $isFolded={isFolded}>
                  <Chevron slot="chevron" aria-label={isFolded ? 'Show' : 'Fold'}>
                    {isFolded ? '▸' : '▾'}
                  </Chevron>
                  <h2>{heading.name}</h2>
                  {heading.phase === null ? (
                    <Small>{doneWords(heading.tasks)}</Small>
                  ) : (
                    <PhaseLine
                      phase={heading.phase}
                      tasks={heading.tasks}
                      today={today}
                      onAdd={() => setAddingTo(heading.id)}
                      onHandoff={onHandoff}
                    />
                  )}
                </PhaseHead>
              </TreeItemContent>
              <Branch tasks={topsOf(heading.list)} list={heading.list} depth={0} all={all} today={today} editing={editing} />
            </PhaseItem>
          );
        })}
      </List>
    </div>
  );
}

interface Chosen {
  readonly selected: Selection;
  /** The address as last seen, and as it will be once what was said has arrived there. */
  readonly seen: string;
  readonly awaited: readonly string[];
}

/**
 * What is chosen, as the list itself last said it: it remembers from where a row of tasks is
 * chosen with Shift, which ids do not. The address follows a moment later; when it says
 * something the list did not, such as after Back, the list follows the address.
 */
function useChosen(plan: EngagementPlan, chosen: readonly string[], onChoose: OutlineProps['onChoose']) {
  const address = chosen.join();
  const [state, setState] = useState<Chosen>({ selected: new Set(chosen), seen: address, awaited: [] });
  if (address !== state.seen) {
    const index = state.awaited.indexOf(address);
    if (index >= 0) setState({ ...state, seen: address, awaited: state.awaited.slice(index + 1) });
    else setState({ selected: new Set(chosen), seen: address, awaited: [] });
  }
  return {
    selected: state.selected,
    choose: (keys: Selection): void => {
      const ids = keys === 'all' ? plan.tasks.map((task) => task.id) : [...keys].map(String);
      setState((before) => ({ ...before, selected: keys, awaited: [...before.awaited, ids.join()] }));
      onChoose(ids);
    },
  };
}

interface Heading extends TaskGroup<PlanTask> {
  readonly phase: PlanPhase | null;
  /** The tasks below it, apart from the others: a part of another heading's task stands at the top here. */
  readonly list: TaskList<PlanTask>;
}

function headingsOf({ phases, deliverables, tasks }: EngagementPlan, gathering: Gathering): Heading[] {
  const groups =
    gathering === 'deliverable'
      ? groupTasks(tasks, deliverables, { keyOf: (task) => task.deliverableId, other: 'No deliverable' })
      : groupTasks(tasks, phases, { keyOf: (task) => task.phaseId });
  return groups.map((group) => ({
    ...group,
    phase: phases.find(({ id }) => id === group.id) ?? null,
    list: taskListOf(group.tasks),
  }));
}

interface BranchProps {
  readonly tasks: readonly PlanTask[];
  readonly list: TaskList<PlanTask>;
  readonly depth: number;
  /** Every task of the plan. */
  readonly all: TaskList<PlanTask>;
  readonly today: IsoDay;
  readonly editing: TaskEditing;
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
            {task.isGroup ? (
              <Chevron slot="chevron" aria-label={isExpanded ? 'Fold' : 'Show'}>
                {isExpanded ? '▾' : '▸'}
              </Chevron>
            ) : (
              <span />
            )}
            {/* The item has buttons of its own, above; to those of the cells it says nothing, so they need not listen. */}
            <ButtonContext.Provider value={null}>
              <RowCells task={task} leaves={task.isGroup ? liveLeaves(task, all) : NO_TASKS} today={today} edit={editing.edit} />
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
function usePlaces(plan: EngagementPlan, gathering: Gathering, onPlace: OutlineProps['onPlace']) {
  const isTask = (key: Key): boolean => plan.tasks.some((task) => task.id === key);
  return useDragAndDrop({
    getItems: (keys) => [...keys].filter(isTask).map((key) => ({ 'text/plain': plan.tasks.find((task) => task.id === key)?.title ?? '' })),
    isDisabled: gathering !== 'phase',
    getDropOperation: (target) => (target.type === 'item' && (isTask(target.key) || target.dropPosition === 'on') ? 'move' : 'cancel'),
    onMove: ({ keys, target }) => {
      const [ids, drop] = [[...keys].map(String), { key: String(target.key), place: target.dropPosition }];
      onPlace((now) => dropTasks(ids, drop, now));
    },
    renderDropIndicator: (target) => <Here target={target} />,
  });
}

/** Alt with the arrows: among its like, into the one above, out again. */
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
  readonly onAdd: () => void;
  readonly onHandoff: (handoffId: string) => void;
}

function PhaseLine({ phase, tasks, today, onAdd, onHandoff }: PhaseLineProps) {
  return (
    <>
      {phase.rounds === null ? null : <Tag>{count(phase.rounds, 'round')} agreed</Tag>}
      <Small>{phaseWords(phase, doneWords(tasks), today)}</Small>
      <span style={{ flex: 1 }} />
      {phase.state === 'running' && phase.gate.all > 0 && phase.handoffId !== null ? (
        <Button kind="quiet" onPress={() => onHandoff(phase.handoffId as string)}>
          gate: {phase.gate.clear} of {phase.gate.all} clear
        </Button>
      ) : null}
      {phase.state === 'over' ? null : (
        <Button kind="quiet" onPress={onAdd}>
          Add task
        </Button>
      )}
    </>
  );
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
