import type { DependencyType, PlanTask } from '@crew/contract';
import type { Calendar, IsoDay } from '@crew/core';
import { useRef, useState, type PointerEvent } from 'react';
import { moveProposal, stretchProposal, dependencyProposal, workingStep, canMove } from '../plan-change/proposals.ts';
import type { Proposal } from '../plan-change/use-proposal.ts';
import type { BarDrag, Grab } from './Bars.tsx';
import { placeOf } from './geometry.ts';
import type { TimeScale } from './scale.ts';

/** A dependency being drawn: from which end of which task, to where the pointer is. */
export interface DependencyDrag {
  readonly task: PlanTask;
  readonly end: 'start' | 'end';
  readonly x: number;
  readonly y: number;
}

export interface BarDragging {
  readonly drag: BarDrag | null;
  readonly dependency: DependencyDrag | null;
  readonly onGrab: Grab;
  /** On the drawing itself, so that a drag goes on outside its bar. */
  readonly handlers: {
    readonly onPointerMove: (event: PointerEvent<SVGSVGElement>) => void;
    readonly onPointerUp: (event: PointerEvent<SVGSVGElement>) => void;
    readonly onPointerCancel: () => void;
  };
}

interface DragContext {
  readonly scale: TimeScale;
  readonly calendar: Calendar;
  readonly today: IsoDay;
  /** Bars are only opened. */
  readonly isReadOnly: boolean;
  /** The task on the row under a height. */
  readonly taskAt: (y: number) => PlanTask | null;
  readonly onPropose: (proposal: Proposal) => void;
  readonly onOpen: (taskId: string) => void;
}

interface Held {
  readonly task: PlanTask;
  readonly kind: Parameters<Grab>[2];
  readonly fromX: number;
}

/** Less than this is a click. */
const SLIP_PX = 4;

/** Dragging bars and dependencies. Nothing changes by dragging: letting go proposes, and the proposal shows what would move. */
export function useBarDrag(context: DragContext): BarDragging {
  const held = useRef<Held | null>(null);
  const [drag, setDrag] = useState<BarDrag | null>(null);
  const [dependency, setDependency] = useState<DependencyDrag | null>(null);
  const letGo = (): void => {
    held.current = null;
    setDrag(null);
    setDependency(null);
  };
  return {
    drag,
    dependency,
    onGrab: (event, task, kind) => {
      if (event.button !== 0) return;
      event.preventDefault();
      event.stopPropagation();
      const svg = event.currentTarget.ownerSVGElement;
      svg?.setPointerCapture(event.pointerId);
      held.current = { task, kind, fromX: event.clientX };
    },
    handlers: {
      onPointerMove: (event) => {
        const now = held.current;
        if (now === null || context.isReadOnly) return;
        const px = event.clientX - now.fromX;
        const box = event.currentTarget.getBoundingClientRect();
        if (now.kind === 'dependency-start' || now.kind === 'dependency-end') {
          setDependency({
            task: now.task,
            end: now.kind === 'dependency-start' ? 'start' : 'end',
            x: event.clientX - box.left,
            y: event.clientY - box.top,
          });
        } else if (Math.abs(px) >= SLIP_PX && (now.kind === 'stretch' || canMove(now.task))) {
          setDrag({ id: now.task.id, kind: now.kind, px: Math.round(px / context.scale.dayPx) * context.scale.dayPx });
        }
      },
      onPointerUp: (event) => {
        const now = held.current;
        if (now === null) return;
        const box = event.currentTarget.getBoundingClientRect();
        const at = { x: event.clientX - box.left, y: event.clientY - box.top, px: event.clientX - now.fromX };
        const proposal = context.isReadOnly ? null : proposalOf(now, context, at);
        if (proposal !== null) context.onPropose(proposal);
        else if (Math.abs(event.clientX - now.fromX) < SLIP_PX && now.kind === 'move') context.onOpen(now.task.id);
        letGo();
      },
      onPointerCancel: letGo,
    },
  };
}

function proposalOf(
  held: Held,
  context: DragContext,
  at: { readonly x: number; readonly y: number; readonly px: number },
): Proposal | null {
  const { scale, calendar, today } = context;
  const calendarDays = Math.round(at.px / scale.dayPx);
  if (held.kind === 'move')
    return moveProposal(held.task, calendar, { days: workingStep(calendar, held.task.start, calendarDays).days, today });
  if (held.kind === 'stretch') {
    // Reaching over closed days counts only the open ones.
    const longer = workingStep(calendar, held.task.due, calendarDays).days;
    return stretchProposal(held.task, Math.max(1, held.task.days + longer));
  }
  const target = context.taskAt(at.y);
  if (target === null) return null;
  return dependencyProposal(held.task, target, dependencyType(held.kind, target, { x: at.x, scale }));
}

/** Which kind of dependency: the end it was drawn from, and the half of the bar it was dropped on. */
function dependencyType(
  from: 'dependency-start' | 'dependency-end',
  target: PlanTask,
  { x, scale }: { readonly x: number; readonly scale: TimeScale },
): DependencyType {
  const place = placeOf(scale, target);
  const isOnEnd = x > place.x + place.width * 0.6;
  if (from === 'dependency-end') return isOnEnd ? 'FF' : 'FS';
  return isOnEnd ? 'SF' : 'SS';
}
