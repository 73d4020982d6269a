import { type EngagementPlan, type PlanTask, type TaskMove } from '@crew/contract';
import { compileCalendar, isOpen, type Calendar } from '@crew/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import { Baton } from '../../ui/Baton.tsx';
import { PersonMark, Tag, TaskGlyph } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, shortDay, spanWords } from '../../words/format.ts';
import type { Proposing } from '../replan/use-proposal.ts';
import { PhaseLine, TaskBar } from './Bars.tsx';
import { HEAD, placeOf, ROW } from './geometry.ts';
import { daysOf, movedPhases, timelineRows, type TimelineRow } from './rows.ts';
import { dayNumber, ticksOf, timeScale, type TimeScale, type Zoom } from './scale.ts';
import { TieDraft, Ties } from './Ties.tsx';
import { useBarDrag } from './use-bar-drag.ts';
import { usePrinting } from './use-printing.ts';
import { useRowsInView } from './use-rows-in-view.ts';
import { useTimelineKeys } from './use-timeline-keys.ts';

const NAMES = 228;

const Frame = styled.div<{ $isPrinting: boolean }>`
  position: relative;
  overflow: auto;
  max-height: ${({ $isPrinting }) => ($isPrinting ? 'none' : 'calc(100vh - 150px)')};
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 8px;
  &:focus-visible {
    outline: 2px solid var(--petrol);
  }
`;
const Canvas = styled.div`
  display: grid;
  grid-template-columns: ${NAMES}px auto;
  width: max-content;
  ${phone} {
    grid-template-columns: 130px auto;
  }
`;
const Corner = styled.div`
  position: sticky;
  left: 0;
  top: 0;
  z-index: 4;
  height: ${HEAD}px;
  background: var(--panel);
  border-right: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
`;
const Head = styled.svg`
  position: sticky;
  top: 0;
  z-index: 3;
  display: block;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
`;
const Names = styled.div`
  position: sticky;
  left: 0;
  z-index: 2;
  background: var(--panel);
  border-right: 1px solid var(--line);
`;
const Row = styled.div<{ $isPhase: boolean; $depth: number; $isOpen: boolean }>`
  position: absolute;
  left: 0;
  right: 0;
  height: ${ROW}px;
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 0 11px 0 ${({ $isPhase, $depth }) => ($isPhase ? 8 : 14 + $depth * 15)}px;
  border-top: 1px solid var(--line-2);
  cursor: pointer;
  background: ${({ $isPhase, $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : $isPhase ? 'var(--sunk)' : 'var(--panel)')};
  font-size: ${({ $isPhase }) => ($isPhase ? '13.5px' : '13px')};
  font-weight: ${({ $isPhase }) => ($isPhase ? 650 : 400)};
  &:hover {
    background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'var(--sunk)')};
  }
  &:focus-visible {
    outline-offset: -2px;
  }
`;
const Cell = styled.span`
  display: flex;
  flex: 1;
  align-items: center;
  gap: 8px;
  min-width: 0;
  > .name {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  ${phone} {
    > .who {
      display: none;
    }
  }
`;
const Fold = styled.span`
  flex: none;
  width: 11px;
  text-align: center;
  color: var(--ink-2);
  font-size: 10px;
`;
const Drawing = styled.svg`
  display: block;
  touch-action: pan-x pan-y;
  user-select: none;
`;

interface TimelineProps {
  readonly plan: EngagementPlan;
  readonly today: string;
  readonly zoom: Zoom;
  readonly proposing: Proposing;
  readonly openTask: string | null;
  readonly onOpen: (taskId: string) => void;
}

/** The plan along time. Dragging proposes, keys propose; nothing moves before it is taken. */
export function Timeline({ plan, today, zoom, proposing, openTask, onOpen }: TimelineProps) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(
    () =>
      new Set(plan.engagement.state === 'finished' ? [] : plan.phases.filter((phase) => phase.state === 'over').map((phase) => phase.id)),
  );
  const rows = useMemo(() => timelineRows(plan, folded), [plan, folded]);
  const scale = useMemo(() => timeScale(daysOf(plan, today), zoom), [plan, today, zoom]);
  const calendar = useCalendar(plan);
  const moves = useMemo(() => new Map((proposing.effect?.moves ?? []).map((move) => [move.id, move])), [proposing.effect]);
  const phaseSpans = useMemo(() => movedPhases(plan, moves), [plan, moves]);
  const frame = useRef<HTMLDivElement>(null);
  const isPrinting = usePrinting();
  const inView = useRowsInView(frame, rows.length);
  const shown = isPrinting ? rows.map((_, index) => index) : inView;
  const [hovered, setHovered] = useState<string | null>(null);
  const [focused, setFocused] = useState(0);
  const fold = useCallback((id: string, isFolded: boolean) => {
    setFolded((before) => (isFolded ? new Set([...before, id]) : new Set([...before].filter((other) => other !== id))));
  }, []);
  const focusRow = (index: number): void => {
    setFocused(index);
    bringIntoView(frame.current, index);
    requestAnimationFrame(() => frame.current?.querySelector<HTMLElement>(`[data-row="${index}"]`)?.focus({ preventScroll: true }));
  };
  const rowAt = (y: number): TimelineRow | undefined => rows[Math.floor(y / ROW)];
  const dragging = useBarDrag({
    ...{ scale, calendar, today, onOpen, onPropose: proposing.propose },
    taskAt: (y) => taskOf(rowAt(y)),
  });
  const onKeyDown = useTimelineKeys({ rows, focused, onFocus: focusRow, onFold: fold, onOpen, proposing, calendar, today });
  useTodayInView(frame, scale, today);
  const height = rows.length * ROW;
  return (
    <Frame ref={frame} $isPrinting={isPrinting} role="region" aria-label="Timeline">
      <Canvas>
        <Corner />
        <TimeHead scale={scale} today={today} promise={plan.engagement.promise} />
        <Names role="treegrid" aria-label="Phases and tasks" aria-rowcount={rows.length} style={{ height }} onKeyDown={onKeyDown}>
          {shown.map((index) => {
            const row = rows[index] as TimelineRow;
            return (
              <NameRow
                key={row.id}
                row={row}
                index={index}
                today={today}
                isFocusable={index === Math.min(focused, rows.length - 1)}
                isOpen={row.id === openTask}
                move={moves.get(row.id)}
                onFocus={() => setFocused(index)}
                onPress={() => (row.kind === 'phase' ? fold(row.id, !row.isFolded) : onOpen(row.id))}
                onFold={() => fold(row.id, !row.isFolded)}
              />
            );
          })}
        </Names>
        <Drawing
          width={scale.width}
          height={height}
          aria-hidden="true"
          {...dragging.handlers}
          onMouseMove={(event) => setHovered(rowAt(event.clientY - event.currentTarget.getBoundingClientRect().top)?.id ?? null)}
          onMouseLeave={() => setHovered(null)}
        >
          <Ground rows={rows} shown={shown} scale={scale} calendar={calendar} height={height} plan={plan} />
          <Ties rows={rows} shown={shown} scale={scale} moves={moves} />
          {shown.map((index) => {
            const row = rows[index] as TimelineRow;
            return row.kind === 'phase' ? (
              <PhaseLine key={row.id} phase={row.phase} span={phaseSpans.get(row.id)} row={index} scale={scale} />
            ) : (
              <TaskBar
                key={row.id}
                task={row.task}
                row={index}
                scale={scale}
                calendar={calendar}
                today={today}
                move={moves.get(row.id)}
                drag={dragging.drag?.id === row.id ? dragging.drag : null}
                isActive={hovered === row.id || (openTask === row.id && hovered === null)}
                onGrab={dragging.onGrab}
              />
            );
          })}
          <Marks scale={scale} today={today} height={height} plan={plan} />
          {dragging.tie === null ? null : (
            <TieDraft tie={dragging.tie} row={rows.findIndex((row) => row.id === dragging.tie?.task.id)} scale={scale} />
          )}
        </Drawing>
      </Canvas>
    </Frame>
  );
}

/** Scrolls as little as brings a row below the head and above the end of the frame. */
function bringIntoView(frame: HTMLElement | null, index: number): void {
  if (frame === null) return;
  const [top, bottom] = [index * ROW, (index + 1) * ROW];
  if (top < frame.scrollTop) frame.scrollTop = top;
  else if (bottom > frame.scrollTop + frame.clientHeight - HEAD) frame.scrollTop = bottom - frame.clientHeight + HEAD;
}

const taskOf = (row: TimelineRow | undefined): PlanTask | null => (row?.kind === 'task' ? row.task : null);

function useCalendar({ calendar }: EngagementPlan): Calendar {
  return useMemo(() => {
    const compiled = compileCalendar(calendar);
    if (!compiled.ok) throw new Error('The agency has no working day in its week. Give it one under Calendar.');
    return compiled.value;
  }, [calendar]);
}

/** Today stands in view when the timeline opens, with some of what came before. */
function useTodayInView(frame: React.RefObject<HTMLDivElement | null>, scale: TimeScale, today: string): void {
  const zoom = scale.zoom;
  const x = useRef(0);
  useEffect(() => {
    x.current = scale.x(today);
  }, [scale, today]);
  useEffect(() => {
    frame.current?.scrollTo?.({ left: Math.max(0, x.current - 90) });
  }, [frame, zoom]);
}

interface NameRowProps {
  readonly row: TimelineRow;
  readonly index: number;
  readonly today: string;
  readonly isFocusable: boolean;
  readonly isOpen: boolean;
  readonly move: TaskMove | undefined;
  readonly onFocus: () => void;
  readonly onPress: () => void;
  readonly onFold: () => void;
}

function NameRow({ row, index, today, isFocusable, isOpen: isOpenRow, move, onFocus, onPress, onFold }: NameRowProps) {
  const isPhase = row.kind === 'phase';
  const canFold = isPhase || row.task.isGroup;
  return (
    <Row
      role="row"
      data-row={index}
      aria-rowindex={index + 1}
      aria-level={isPhase ? 1 : row.depth + 2}
      aria-selected={isOpenRow}
      {...(canFold ? { 'aria-expanded': !row.isFolded } : {})}
      tabIndex={isFocusable ? 0 : -1}
      $isPhase={isPhase}
      $depth={isPhase ? 0 : row.depth}
      $isOpen={isOpenRow}
      style={{ top: index * ROW, fontWeight: move === undefined ? undefined : 650 }}
      onFocus={onFocus}
      onClick={onPress}
    >
      <Cell role="gridcell" aria-label={isPhase ? phaseWords(row, today) : taskWords(row.task, today)}>
        {canFold ? (
          <Fold
            aria-hidden="true"
            onClick={(event) => {
              event.stopPropagation();
              onFold();
            }}
          >
            {row.isFolded ? '▸' : '▾'}
          </Fold>
        ) : null}
        {isPhase ? (
          <span className="name" title={row.phase.stateLine}>
            {row.phase.name}
          </span>
        ) : (
          <>
            <TaskGlyph status={row.task.status} />
            <span className="name" title={row.task.title}>
              {row.task.title}
            </span>
            <span className="who" aria-hidden="true">
              <Who task={row.task} />
            </span>
          </>
        )}
        {isPhase ? <Baton state={row.phase.baton} size={12} /> : null}
      </Cell>
    </Row>
  );
}

function Who({ task }: { readonly task: PlanTask }) {
  if (task.kind === 'client') return <Tag>client</Tag>;
  const [first] = task.assignees;
  return first === undefined ? null : <PersonMark person={first} />;
}

/** What the drawing shows, for those who listen. */
function taskWords(task: PlanTask, today: string): string {
  const who = task.kind === 'client' ? 'the client' : task.assignees.map((person) => person.name).join(', ') || 'nobody yet';
  const slack =
    task.status === 'done' ? '' : task.slack < 0 ? `, ${count(-task.slack, 'day')} too late` : `, ${count(task.slack, 'day')} of slack`;
  const fixed = task.fixedDay === null ? '' : ', on a fixed day';
  return `${task.title}, ${who}, ${spanWords(task.start, task.due, today)}${slack}${fixed}${task.isCritical ? ', on the longest chain' : ''}`;
}

const phaseWords = (row: Extract<TimelineRow, { kind: 'phase' }>, today: string): string =>
  `${row.phase.name}, ${spanWords(row.phase.start, row.phase.finish, today)}, ${count(row.tasks, 'task')}`;

function TimeHead({ scale, today, promise }: { readonly scale: TimeScale; readonly today: string; readonly promise: string | null }) {
  return (
    <Head width={scale.width} height={HEAD} aria-hidden="true">
      {ticksOf(scale).map((tick) => (
        <g key={tick.day}>
          <path d={`M${tick.x + 0.5} 4 V${HEAD}`} stroke="var(--line)" />
          <text x={tick.x + 4} y={17} fontSize={11.5} fontWeight={600} fill="var(--ink-2)">
            {tick.label}
          </text>
        </g>
      ))}
      <path d={`M${scale.x(today) - 4} ${HEAD - 6} h8 l-4 6 z`} fill="var(--ink)" />
      {promise === null ? null : (
        <text
          x={scale.right(promise) + 4}
          y={17}
          fontSize={11.5}
          fontWeight={700}
          fill="var(--ink)"
          style={{ paintOrder: 'stroke' }}
          stroke="var(--panel)"
          strokeWidth={4}
        >
          promise {shortDay(promise, today)}
        </text>
      )}
    </Head>
  );
}

interface GroundProps {
  readonly rows: readonly TimelineRow[];
  readonly shown: readonly number[];
  readonly scale: TimeScale;
  readonly calendar: Calendar;
  readonly height: number;
  readonly plan: EngagementPlan;
}

/** Bands of phases, the lines of the head going down, and closed days where a day can be seen. */
function Ground({ rows, shown, scale, calendar, height }: GroundProps) {
  const closed: number[] = [];
  if (scale.dayPx >= 9) for (let day = scale.from; day <= scale.to; day++) if (!isOpen(calendar, day)) closed.push(day);
  return (
    <>
      {shown.map((index) =>
        rows[index]?.kind === 'phase' ? (
          <rect key={index} x={0} y={index * ROW} width={scale.width} height={ROW} fill="var(--sunk)" />
        ) : null,
      )}
      {closed.map((day) => (
        <rect
          key={day}
          x={(day - scale.from) * scale.dayPx}
          y={0}
          width={scale.dayPx}
          height={height}
          fill="var(--ground)"
          opacity={0.55}
        />
      ))}
      {ticksOf(scale).map((tick) => (
        <path key={tick.day} d={`M${tick.x + 0.5} 0 V${height}`} stroke="var(--line-2)" />
      ))}
      {shown.map((index) => (
        <path key={`l${index}`} d={`M0 ${index * ROW + 0.5} H${scale.width}`} stroke="var(--line-2)" />
      ))}
    </>
  );
}

/** Today, the promise, and how far the plan goes beyond it. */
function Marks({
  scale,
  today,
  height,
  plan,
}: {
  readonly scale: TimeScale;
  readonly today: string;
  readonly height: number;
  readonly plan: EngagementPlan;
}) {
  const { promise, finish } = plan.engagement;
  const now = (dayNumber(today) - scale.from + 0.5) * scale.dayPx;
  return (
    <g pointerEvents="none">
      <path d={`M${now} 0 V${height}`} stroke="var(--ink)" strokeWidth={1.6} strokeDasharray="2 3" />
      {promise === null ? null : <path d={`M${scale.right(promise)} 0 V${height}`} stroke="var(--ink)" strokeWidth={2.2} />}
      {promise !== null && finish > promise ? (
        <rect
          x={scale.right(promise)}
          y={0}
          width={placeOf(scale, { start: promise, due: finish }).width - scale.dayPx}
          height={4}
          fill="var(--brick)"
        />
      ) : null}
    </g>
  );
}
