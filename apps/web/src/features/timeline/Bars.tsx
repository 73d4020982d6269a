import type { PlanPhase, PlanTask, TaskMove } from '@crew/contract';
import { parseDay, workingDaysBetween, type Calendar, type IsoDay } from '@crew/core';
import { memo, type PointerEvent } from 'react';
import styled from 'styled-components';
import { count, shortDay } from '../../words/format.ts';
import { canMove, canStretch } from '../plan-change/proposals.ts';
import { BAR, BAR_TOP, placeOf, ROW, slackEnd, type BarPlace } from './geometry.ts';
import type { TimelineRow } from './rows.ts';
import type { TimeScale } from './scale.ts';

const Edge = styled.rect`
  cursor: ew-resize;
`;

const Knob = styled.circle`
  cursor: crosshair;
`;

/** A bar that is being dragged: by how many pixels it moved or grew. */
export interface BarDrag {
  readonly id: string;
  readonly kind: 'move' | 'stretch';
  readonly px: number;
}

export type Grab = (event: PointerEvent<SVGElement>, task: PlanTask, kind: BarDrag['kind'] | 'dependency-start' | 'dependency-end') => void;

interface TaskBarProps {
  readonly task: PlanTask;
  readonly row: number;
  readonly scale: TimeScale;
  readonly calendar: Calendar;
  readonly today: IsoDay;
  readonly move: TaskMove | undefined;
  readonly drag: BarDrag | null;
  readonly isActive: boolean;
  readonly onGrab: Grab;
}

const FILL: Readonly<Record<PlanTask['status'], readonly [fill: string, stroke: string]>> = {
  queued: ['var(--petrol-soft)', 'var(--petrol-mid)'],
  active: ['var(--petrol)', 'var(--petrol)'],
  review: ['var(--petrol-mid)', 'var(--petrol)'],
  waiting: ['var(--amber-soft)', 'var(--amber)'],
  done: ['var(--moss-soft)', 'var(--moss)'],
  dropped: ['none', 'var(--joint)'],
};

/** A task along time: its bar, how far it can slip, how it was promised, and where it would go. */
const TaskBar = memo(function TaskBar({ task, row, scale, calendar, today, move, drag, isActive, onGrab }: TaskBarProps) {
  const shown = move === undefined ? { start: task.start, due: task.due } : move.to;
  const place = dragged(placeOf(scale, shown), drag);
  const [fill, stroke] = task.kind === 'client' && task.status === 'queued' ? FILL.waiting : FILL[task.status];
  const top = row * ROW + BAR_TOP;
  const tail = move === undefined && drag === null ? slackEnd(scale, task, calendar) : null;
  const right = place.x + place.width;
  const isLate = task.expected > task.due && task.status !== 'done' && task.status !== 'dropped';
  return (
    <g>
      {task.baselineStart === null || task.baselineDue === null ? null : (
        <BaselineLine place={placeOf(scale, { start: task.baselineStart, due: task.baselineDue })} row={row} />
      )}
      {tail === null ? null : <rect x={right} y={top + 6} width={Math.max(0, tail - right)} height={3} rx={1.5} fill="var(--chip)" />}
      {isLate && move === undefined ? (
        <path
          d={`M${right} ${top + BAR / 2} H${scale.right(task.expected)}`}
          stroke="var(--brick)"
          strokeWidth="2"
          strokeDasharray="3 2"
          fill="none"
        />
      ) : null}
      {move === undefined ? null : <Ghost place={placeOf(scale, move.from)} top={top} />}
      <g style={{ cursor: canMove(task) ? 'grab' : 'default' }} onPointerDown={(event) => onGrab(event, task, 'move')} data-task={task.id}>
        <Shape task={task} place={place} top={top} fill={fill} stroke={stroke} />
      </g>
      {canStretch(task) && isActive ? (
        <Edge x={right - 4} y={top} width={8} height={BAR} fill="transparent" onPointerDown={(event) => onGrab(event, task, 'stretch')} />
      ) : null}
      {isActive ? <DependencyHandles task={task} place={place} top={top} onGrab={onGrab} /> : null}
      <Words
        task={task}
        x={tail === null ? right + (isActive ? 17 : 7) : tail + 7}
        top={top}
        today={today}
        move={move}
        calendar={calendar}
      />
    </g>
  );
});

function dragged(place: BarPlace, drag: BarDrag | null): BarPlace {
  if (drag === null) return place;
  return drag.kind === 'move' ? { ...place, x: place.x + drag.px } : { ...place, width: Math.max(4, place.width + drag.px) };
}

interface ShapeProps {
  readonly task: PlanTask;
  readonly place: BarPlace;
  readonly top: number;
  readonly fill: string;
  readonly stroke: string;
}

/** A bar; a thin bracket for what has subtasks; a post for a milestone; a heavy edge on the longest chain. */
function Shape({ task, place, top, fill, stroke }: ShapeProps) {
  const isChain = task.isCritical && task.status !== 'done' && task.status !== 'dropped';
  const edge = isChain ? { stroke: 'var(--ink)', strokeWidth: 2 } : { stroke, strokeWidth: 1 };
  const { x, width } = place;
  if (task.isGroup) {
    return (
      <path
        d={`M${x} ${top + 11} V${top + 4} H${x + width} V${top + 11}`}
        fill="none"
        stroke={isChain ? 'var(--ink)' : 'var(--ink-2)'}
        strokeWidth={isChain ? 3.5 : 2.5}
      />
    );
  }
  if (task.days === 0) {
    const post = x + width;
    return (
      <>
        <rect x={post - 12} y={top - 2} width={16} height={19} fill="transparent" />
        <path d={`M${post - 1} ${top - 2} V${top + 17}`} {...edge} strokeWidth={2.2} stroke={isChain ? 'var(--ink)' : 'var(--petrol)'} />
        <path d={`M${post - 1} ${top - 2} h-9 v7 h9 z`} fill={task.status === 'done' ? 'var(--moss)' : 'var(--petrol)'} />
      </>
    );
  }
  return (
    <>
      <rect x={x + 0.5} y={top} width={Math.max(2, width - 1)} height={BAR} rx={2.5} fill={fill} {...edge} />
      {task.status === 'dropped' ? <path d={`M${x} ${top + BAR} L${x + width} ${top}`} stroke={stroke} /> : null}
      {task.fixedDay === null ? null : <path d={`M${x - 1} ${top - 5} h9 l-4.5 5.5 z`} fill="var(--ink)" />}
    </>
  );
}

function Ghost({ place, top }: { readonly place: BarPlace; readonly top: number }) {
  return (
    <rect
      x={place.x + 0.5}
      y={top}
      width={Math.max(2, place.width - 1)}
      height={BAR}
      rx={2.5}
      fill="none"
      stroke="var(--joint)"
      strokeDasharray="3 2"
    />
  );
}

function BaselineLine({ place, row }: { readonly place: BarPlace; readonly row: number }) {
  return <rect x={place.x} y={row * ROW + BAR_TOP + BAR + 2.5} width={place.width} height={1.6} fill="var(--ink-3)" opacity={0.75} />;
}

/** Where a dependency to another task is drawn from. */
function DependencyHandles({
  task,
  place,
  top,
  onGrab,
}: Pick<TaskBarProps, 'task' | 'onGrab'> & { readonly place: BarPlace; readonly top: number }) {
  const y = top + BAR / 2;
  return (
    <>
      {(['dependency-start', 'dependency-end'] as const).map((end) => (
        <Knob
          key={end}
          cx={end === 'dependency-start' ? place.x - 8 : place.x + place.width + 9}
          cy={y}
          r={4}
          fill="var(--panel)"
          stroke="var(--petrol)"
          strokeWidth={1.6}
          onPointerDown={(event) => onGrab(event, task, end)}
        >
          <title>
            {end === 'dependency-start'
              ? 'Dependency from the start: drag to another task'
              : 'Dependency from the end: drag to another task'}
          </title>
        </Knob>
      ))}
    </>
  );
}

interface WordsProps extends Pick<TaskBarProps, 'task' | 'today' | 'move' | 'calendar'> {
  readonly x: number;
  readonly top: number;
}

/** What a bar cannot say by its shape. */
function Words({ task, x, top, today, move, calendar }: WordsProps) {
  const style = { fontSize: 11.5, fontWeight: 600 } as const;
  if (move !== undefined) {
    const days = workingDaysBetween(calendar, parseDay(move.from.due) as number, parseDay(move.to.due) as number);
    return days === 0 ? null : (
      <text x={x} y={top + 11.5} fill="var(--ink)" {...style}>
        {days > 0 ? '+' : '−'}
        {count(Math.abs(days), 'day')}
      </text>
    );
  }
  if (task.missedDays === 0 || task.fixedDay === null) return null;
  return (
    <text x={x} y={top + 11.5} fill="var(--brick)" {...style}>
      fixed {shortDay(task.fixedDay, today)}, short by {count(task.missedDays, 'day')}
    </text>
  );
}

/** A phase along time, with how much of it is done. */
const PhaseLine = memo(function PhaseLine({
  phase,
  span,
  row,
  scale,
}: {
  readonly phase: PlanPhase;
  /** Where it would lie, while a change is looked at. */
  readonly span: { readonly start: IsoDay; readonly due: IsoDay } | undefined;
  readonly row: number;
  readonly scale: TimeScale;
}) {
  const place = placeOf(scale, span ?? { start: phase.start, due: phase.finish });
  const top = row * ROW + 10;
  const ahead = phase.state === 'ahead';
  const part = phase.state === 'over' ? 100 : phase.percent;
  return (
    <g>
      {phase.baselineStart === null || phase.baselineFinish === null ? null : (
        <rect
          x={scale.x(phase.baselineStart)}
          y={top + 11.5}
          width={Math.max(2, scale.right(phase.baselineFinish) - scale.x(phase.baselineStart))}
          height={1.6}
          fill="var(--ink-3)"
          opacity={0.75}
        />
      )}
      <rect
        x={place.x + 0.75}
        y={top}
        width={Math.max(2, place.width - 1.5)}
        height={9}
        rx={2.5}
        fill="var(--panel)"
        stroke={ahead ? 'var(--joint)' : 'var(--petrol)'}
        strokeWidth={1.5}
      />
      {part === 0 ? null : (
        <rect x={place.x + 0.75} y={top} width={Math.max(2, ((place.width - 1.5) * part) / 100)} height={9} rx={2.5} fill="var(--petrol)" />
      )}
    </g>
  );
});

interface RowShapeProps extends Omit<TaskBarProps, 'task' | 'row'> {
  readonly row: TimelineRow;
  readonly index: number;
  /** Where a phase would lie when some of its tasks move. */
  readonly span: { readonly start: IsoDay; readonly due: IsoDay } | undefined;
}

/** What stands in a row of the drawing: a phase's line, or a task's bar. */
export function RowShape({ row, index, span, ...bar }: RowShapeProps) {
  return row.kind === 'phase' ? (
    <PhaseLine phase={row.phase} span={span} row={index} scale={bar.scale} />
  ) : (
    <TaskBar task={row.task} row={index} {...bar} />
  );
}
