import { can, type EngagementPlan, type PlanTask, type TaskMove } from '@crew/contract';
import { compileCalendar, type Calendar, type IsoDay } from '@crew/core';
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import { useWho } from '../../session/session.tsx';
import { phone } from '../../ui/tokens.ts';
import type { Proposing } from '../plan-change/use-proposal.ts';
import { RowShape } from './Bars.tsx';
import { HEAD, ROW } from './geometry.ts';
import { headLabels, type ForecastSpan } from './head-labels.ts';
import { NameRow } from './NameRow.tsx';
import { PrintedTimeline } from './PrintedTimeline.tsx';
import { daysOf, movedPhases, timelineRows, type TimelineRow } from './rows.ts';
import { timeScale, type TimeScale, type Zoom } from './scale.ts';
import { Ground, Marks, TimeHead } from './TimeGround.tsx';
import { DependencyDraft, Dependencies } from './Dependencies.tsx';
import { useBarDrag } from './use-bar-drag.ts';
import { usePrinting } from './use-printing.ts';
import { useRoom } from './use-room.ts';
import { useRowsInView } from './use-rows-in-view.ts';
import { useTimelineKeys } from './use-timeline-keys.ts';

const NAMES = 228;

const Frame = styled.div`
  position: relative;
  overflow: auto;
  max-height: calc(100vh - 150px);
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
const Names = styled.div`
  position: sticky;
  left: 0;
  z-index: 2;
  background: var(--panel);
  border-right: 1px solid var(--line);
`;
const Drawing = styled.svg`
  display: block;
  touch-action: pan-x pan-y;
  user-select: none;
`;

interface TimelineProps {
  readonly plan: EngagementPlan;
  readonly today: IsoDay;
  readonly zoom: Zoom;
  /** Null while there is none that is of today's facts. */
  readonly forecast: ForecastSpan | null;
  readonly proposing: Proposing;
  readonly openTask: string | null;
  readonly onOpen: (taskId: string) => void;
}

/** The plan along time. Dragging and keys propose a change; nothing moves before it is applied. */
export function Timeline({ plan, today, zoom, forecast, proposing, openTask, onOpen }: TimelineProps) {
  const { folded, fold } = useFolded(plan);
  const rows = useMemo(() => timelineRows(plan, folded), [plan, folded]);
  const calendar = useCalendar(plan);
  const moves = useMemo(() => new Map((proposing.effect?.moves ?? []).map((move) => [move.id, move])), [proposing.effect]);
  const phaseSpans = useMemo(() => movedPhases(plan, moves), [plan, moves]);
  const frame = useRef<HTMLDivElement>(null);
  const corner = useRef<HTMLDivElement>(null);
  const room = useRoom(frame, corner);
  const scale = useMemo(() => timeScale(daysOf(plan, today, forecast), zoom, room), [plan, today, forecast, zoom, room]);
  const isPrinting = usePrinting();
  const shown = useRowsInView(frame, rows.length);
  const [hovered, setHovered] = useState<string | null>(null);
  const [focused, setFocused] = useState(0);
  const focusRow = (index: number): void => {
    setFocused(index);
    bringIntoView(frame.current, index);
    requestAnimationFrame(() => frame.current?.querySelector<HTMLElement>(`[data-row="${index}"]`)?.focus({ preventScroll: true }));
  };
  const rowAt = (y: number): TimelineRow | undefined => rows[Math.floor(y / ROW)];
  const isReadOnly = useReadOnly();
  const dragging = useBarDrag({
    ...{ scale, calendar, today, isReadOnly, onOpen, onPropose: proposing.propose },
    taskAt: (y) => taskOf(rowAt(y)),
  });
  const onKeyDown = useTimelineKeys({ rows, focused, onFocus: focusRow, onFold: fold, onOpen, proposing, calendar, today, isReadOnly });
  useInView(frame, { scale, today, rows, openTask });
  return (
    <>
      {isPrinting ? <PrintedTimeline plan={plan} rows={rows} calendar={calendar} today={today} forecast={forecast} /> : null}
      <Frame ref={frame} data-screen-only role="region" aria-label="Timeline">
        <Canvas>
          <Corner ref={corner} />
          <TimeHead scale={scale} today={today} labels={headLabels(scale, { promise: plan.engagement.promise, forecast })} />
          <RowNames {...{ rows, shown, today, openTask, moves, focused, onKeyDown, onOpen }} onFocus={setFocused} onFold={fold} />
          <Drawing
            width={scale.width}
            height={rows.length * ROW}
            aria-hidden="true"
            {...dragging.handlers}
            onMouseMove={(event) => setHovered(rowAt(event.clientY - event.currentTarget.getBoundingClientRect().top)?.id ?? null)}
            onMouseLeave={() => setHovered(null)}
          >
            <Ground rows={rows} shown={shown} scale={scale} calendar={calendar} height={rows.length * ROW} />
            <Dependencies rows={rows} shown={shown} scale={scale} moves={moves} />
            <RowShapes {...{ rows, shown, scale, calendar, today, moves, phaseSpans, dragging }} activeId={hovered ?? openTask} />
            <Marks scale={scale} today={today} height={rows.length * ROW} plan={plan} forecast={forecast} />
            {dragging.dependency === null ? null : (
              <DependencyDraft
                dependency={dragging.dependency}
                row={rows.findIndex((row) => row.id === dragging.dependency?.task.id)}
                scale={scale}
              />
            )}
          </Drawing>
        </Canvas>
      </Frame>
    </>
  );
}

/** Which phases are folded: those that are over at first, and what is pressed from then on. */
function useFolded({ engagement, phases }: EngagementPlan) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(
    () => new Set(engagement.state === 'finished' ? [] : phases.filter(({ state }) => state === 'over').map(({ id }) => id)),
  );
  const fold = useCallback((id: string, isFolded: boolean) => {
    setFolded((before) => (isFolded ? new Set([...before, id]) : new Set([...before].filter((other) => other !== id))));
  }, []);
  return { folded, fold };
}

interface NamesProps extends Pick<TimelineProps, 'today' | 'openTask' | 'onOpen'> {
  readonly rows: readonly TimelineRow[];
  /** The rows in view, by their index. */
  readonly shown: readonly number[];
  readonly moves: ReadonlyMap<string, TaskMove>;
  readonly focused: number;
  readonly onFocus: (index: number) => void;
  readonly onFold: (id: string, isFolded: boolean) => void;
  readonly onKeyDown: (event: KeyboardEvent) => void;
}

/** The names of phases and tasks, one row for each; only those in view are there. */
function RowNames({ rows, shown, today, openTask, moves, focused, onFocus, onFold, onKeyDown, onOpen }: NamesProps) {
  return (
    <Names
      role="treegrid"
      aria-label="Phases and tasks"
      aria-rowcount={rows.length}
      style={{ height: rows.length * ROW }}
      onKeyDown={onKeyDown}
    >
      {shown.map((index) => {
        const row = rows[index] as TimelineRow;
        const fold = (): void => (row.kind === 'phase' ? onFold(row.id, !row.isFolded) : undefined);
        return (
          <NameRow
            key={row.id}
            row={row}
            index={index}
            today={today}
            isFocusable={index === Math.min(focused, rows.length - 1)}
            isOpen={row.id === openTask}
            move={moves.get(row.id)}
            onFocus={() => onFocus(index)}
            onPress={() => (row.kind === 'phase' ? fold() : onOpen(row.id))}
            onFold={() => onFold(row.id, !row.isFolded)}
          />
        );
      })}
    </Names>
  );
}

interface ShapesProps extends Pick<NamesProps, 'rows' | 'shown' | 'moves' | 'today'> {
  readonly scale: TimeScale;
  readonly calendar: Calendar;
  readonly phaseSpans: ReturnType<typeof movedPhases>;
  readonly dragging: ReturnType<typeof useBarDrag>;
  /** The row under the pointer, or else the one whose sheet is open. */
  readonly activeId: string | null;
}

/** The bars of phases and tasks in view. */
function RowShapes({ rows, shown, moves, today, scale, calendar, phaseSpans, dragging, activeId }: ShapesProps) {
  return shown.map((index) => {
    const row = rows[index] as TimelineRow;
    return (
      <RowShape
        key={row.id}
        row={row}
        index={index}
        span={phaseSpans.get(row.id)}
        scale={scale}
        calendar={calendar}
        today={today}
        move={moves.get(row.id)}
        drag={dragging.drag?.id === row.id ? dragging.drag : null}
        isActive={activeId === row.id}
        onGrab={dragging.onGrab}
      />
    );
  });
}

/** Scrolls as little as brings a row below the head and above the end of the frame. */
function bringIntoView(frame: HTMLElement | null, index: number): void {
  if (frame === null) return;
  const [top, bottom] = [index * ROW, (index + 1) * ROW];
  if (top < frame.scrollTop) frame.scrollTop = top;
  else if (bottom > frame.scrollTop + frame.clientHeight - HEAD) frame.scrollTop = bottom - frame.clientHeight + HEAD;
}

/** Who may not edit the plan walks it and opens its tasks. */
const useReadOnly = (): boolean => !can(useWho(), 'plan.edit');

const taskOf = (row: TimelineRow | undefined): PlanTask | null => (row?.kind === 'task' ? row.task : null);

function useCalendar({ calendar }: EngagementPlan): Calendar {
  return useMemo(() => {
    const compiled = compileCalendar(calendar);
    if (!compiled.ok) throw new Error('The agency’s working week is empty. Set it under Calendar.');
    return compiled.value;
  }, [calendar]);
}

interface Shown {
  readonly scale: TimeScale;
  readonly today: IsoDay;
  readonly rows: readonly TimelineRow[];
  readonly openTask: string | null;
}

/** What the timeline scrolls to by itself. */
function useInView(frame: React.RefObject<HTMLDivElement | null>, { scale, today, rows, openTask }: Shown): void {
  useTodayInView(frame, scale, today);
  useOpenInView(frame, rows, openTask);
}

/** The task whose sheet is open stands in view, also when it was opened from elsewhere. */
function useOpenInView(frame: React.RefObject<HTMLDivElement | null>, rows: readonly TimelineRow[], openTask: string | null): void {
  const latest = useRef(rows);
  useEffect(() => {
    latest.current = rows;
  }, [rows]);
  useEffect(() => {
    const index = latest.current.findIndex((row) => row.id === openTask);
    if (index >= 0) bringIntoView(frame.current, index);
  }, [frame, openTask]);
}

/** Today stands in view when the timeline opens, with some of what came before. */
function useTodayInView(frame: React.RefObject<HTMLDivElement | null>, scale: TimeScale, today: IsoDay): void {
  const zoom = scale.zoom;
  const x = useRef(0);
  useEffect(() => {
    x.current = scale.x(today);
  }, [scale, today]);
  useEffect(() => {
    frame.current?.scrollTo?.({ left: Math.max(0, x.current - 90) });
  }, [frame, zoom]);
}
