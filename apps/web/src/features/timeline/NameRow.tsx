import type { IsoDay } from '@crew/core';
import type { PlanTask, TaskMove } from '@crew/contract';
import styled from 'styled-components';
import { Baton } from '../../ui/Baton.tsx';
import { PersonMark, Tag, TaskGlyph } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, spanWords } from '../../words/format.ts';
import { ROW } from './geometry.ts';
import type { TimelineRow } from './rows.ts';

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

interface NameRowProps {
  readonly row: TimelineRow;
  readonly index: number;
  readonly today: IsoDay;
  readonly isFocusable: boolean;
  readonly isOpen: boolean;
  readonly move: TaskMove | undefined;
  readonly onFocus: () => void;
  readonly onPress: () => void;
  readonly onFold: () => void;
}

/** The name of a phase or task at the left of its line; the whole row is read out as a sentence. */
export function NameRow({ row, index, today, isFocusable, isOpen: isOpenRow, move, onFocus, onPress, onFold }: NameRowProps) {
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
function taskWords(task: PlanTask, today: IsoDay): string {
  const who = task.kind === 'client' ? 'the client' : task.assignees.map((person) => person.name).join(', ') || 'unassigned';
  const slack =
    task.status === 'done' ? '' : task.slack < 0 ? `, ${count(-task.slack, 'day')} too late` : `, ${count(task.slack, 'day')} of slack`;
  const fixed = task.fixedDay === null ? '' : ', on a fixed day';
  return `${task.title}, ${who}, ${spanWords(task.start, task.due, today)}${slack}${fixed}${task.isCritical ? ', on the longest chain' : ''}`;
}

const phaseWords = (row: Extract<TimelineRow, { kind: 'phase' }>, today: IsoDay): string =>
  `${row.phase.name}, ${spanWords(row.phase.start, row.phase.finish, today)}, ${count(row.tasks, 'task')}`;
