import type { PlanTask } from '@crew/contract';
import type { Calendar, IsoDay } from '@crew/core';
import { useRef, type KeyboardEvent } from 'react';
import { moveProposal, stretchProposal } from '../plan-change/proposals.ts';
import type { Proposing } from '../plan-change/use-proposal.ts';
import type { TimelineRow } from './rows.ts';

interface KeyContext {
  readonly rows: readonly TimelineRow[];
  readonly focused: number;
  readonly onFocus: (row: number) => void;
  readonly onFold: (id: string, isFolded: boolean) => void;
  readonly onOpen: (taskId: string) => void;
  readonly proposing: Proposing;
  readonly calendar: Calendar;
  readonly today: IsoDay;
  /** Nothing is moved, only walked and opened. */
  readonly isReadOnly: boolean;
}

/**
 * The timeline by keyboard: arrows walk and fold, Enter opens. With Alt the arrows move the
 * bar by working days, with Alt and Shift they make it longer or shorter; each step shows what
 * would move, Enter takes it, Escape puts it back.
 */
export function useTimelineKeys(context: KeyContext): (event: KeyboardEvent) => void {
  const steps = useRef<{ id: string; moved: number; longer: number }>({ id: '', moved: 0, longer: 0 });
  const { proposing } = context;
  return (event) => {
    const row = context.rows[context.focused];
    if (row === undefined || event.ctrlKey || event.metaKey) return;
    const handled = event.altKey ? row.kind === 'task' && step(event, row.task) : walk(event, row);
    if (handled) event.preventDefault();
  };

  function step(event: KeyboardEvent, task: PlanTask): boolean {
    if (context.isReadOnly || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return false;
    const by = event.key === 'ArrowRight' ? 1 : -1;
    if (steps.current.id !== task.id || proposing.proposal === null) steps.current = { id: task.id, moved: 0, longer: 0 };
    const now = steps.current;
    if (event.shiftKey) now.longer = Math.max(1 - task.days, now.longer + by);
    else now.moved += by;
    const proposal = event.shiftKey
      ? stretchProposal(task, task.days + now.longer)
      : moveProposal(task, context.calendar, { days: now.moved, today: context.today });
    if (proposal === null) proposing.putBack();
    else proposing.propose(proposal);
    return true;
  }

  function walk(event: KeyboardEvent, row: TimelineRow): boolean {
    const { rows, focused } = context;
    const go = (to: number): boolean => {
      context.onFocus(Math.min(rows.length - 1, Math.max(0, to)));
      return true;
    };
    switch (event.key) {
      case 'ArrowDown':
        return go(focused + 1);
      case 'ArrowUp':
        return go(focused - 1);
      case 'Home':
        return go(0);
      case 'End':
        return go(rows.length - 1);
      case 'ArrowRight':
      case 'ArrowLeft':
        if (row.kind === 'task' && !row.task.isGroup) return false;
        context.onFold(row.id, event.key === 'ArrowLeft');
        return true;
      case 'Enter':
        if (proposing.proposal !== null) void proposing.apply();
        else if (row.kind === 'task') context.onOpen(row.task.id);
        else context.onFold(row.id, !row.isFolded);
        return true;
      case 'Escape':
        if (proposing.proposal === null) return false;
        proposing.putBack();
        return true;
      default:
        return false;
    }
  }
}
