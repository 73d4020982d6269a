import type { WorkloadTask } from '@crew/contract';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { hueVar } from '../../ui/tokens.ts';
import { hourWords, spanWords } from '../../words/format.ts';
import { pathOf } from './path-of.ts';
import { packLanes } from './columns.ts';
import type { GridLayout } from './grid-layout.ts';
import { landingWords } from './use-ticket-drag.ts';
import { STOP } from './use-grid-keys.ts';

const LANE_PX = 26;
const LEAST_PX = 26;

const Lanes = styled.div`
  position: relative;
  align-self: stretch;
`;
const Ticket = styled.button<{ $isDragged: boolean; $isComing: boolean }>`
  position: absolute;
  height: 21px;
  padding: 1px 6px 0 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--panel);
  font-size: 12px;
  text-align: left;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  touch-action: none;
  cursor: ${({ $isComing }) => ($isComing ? 'pointer' : 'grab')};
  color: ${({ $isComing }) => ($isComing ? 'var(--ink-2)' : 'var(--ink)')};
  ${({ $isDragged }) => ($isDragged ? 'z-index: 5; pointer-events: none; opacity: 0.85; border-color: var(--petrol);' : '')}
`;

const Landing = styled.span`
  position: absolute;
  z-index: 6;
  padding: 2px 8px;
  border-radius: 4px;
  background: var(--ink);
  color: var(--panel);
  font-size: 11.5px;
  white-space: nowrap;
  pointer-events: none;
`;

interface LanesProps {
  readonly tasks: readonly WorkloadTask[];
  /** Whose tasks these are; null for nobody's. */
  readonly owner: string | null;
  readonly layout: GridLayout;
}

/** Tasks on their days: dragged to another day or person, or opened to do the same by keyboard. */
export function TicketLanes({ tasks, owner, layout }: LanesProps) {
  const { columns, columnPx, today, dragging, onShift } = layout;
  const { placed, count } = packLanes(tasks, columns);
  const { drag, grab, isClick } = dragging;
  const lifted = drag?.from === owner ? placed.find(({ task }) => task.id === drag.task.id) : undefined;
  const navigate = useNavigate();
  const wordsOf = (task: WorkloadTask): string =>
    [
      ...[task.title, task.engagement.name, spanWords(task.start, task.due, today), hourWords(task.minutes)],
      ...(task.isComing ? ['not created yet'] : []),
    ].join(', ');
  return (
    <Lanes style={{ width: columns.length * columnPx, height: Math.max(1, count) * LANE_PX + 10 }}>
      {placed.map(({ task, lane, first, last }) => {
        const isDragged = drag?.task.id === task.id && drag.from === owner;
        return (
          <Ticket
            key={task.id}
            {...STOP}
            type="button"
            $isDragged={isDragged}
            $isComing={task.isComing}
            onPointerDown={(event) => (task.isComing ? undefined : grab(event, task, owner))}
            onClick={() => {
              if (task.isComing) void navigate(pathOf(task));
              else if (isClick()) onShift({ task, start: null, assigneeIds: null });
            }}
            title={wordsOf(task)}
            aria-label={task.isComing ? `Open the series of ${wordsOf(task)}` : `Move or reassign ${wordsOf(task)}`}
            style={{
              top: 6 + lane * LANE_PX,
              left: first * columnPx + 1,
              width: Math.max(LEAST_PX, (last - first + 1) * columnPx - 2),
              borderLeft: `4px solid ${hueVar(task.engagement.hue)}`,
              borderStyle: task.likelihood === null && !task.isComing ? undefined : 'dashed',
              ...(isDragged ? { transform: `translate(${drag.dx}px, ${drag.dy}px)` } : {}),
            }}
          >
            {task.title}
          </Ticket>
        );
      })}
      {lifted === undefined || drag === null ? null : (
        <Landing style={{ top: 6 + (lifted.lane + 1) * LANE_PX + drag.dy, left: Math.max(0, lifted.first * columnPx + drag.dx) }}>
          {landingWords(drag, layout)}
        </Landing>
      )}
    </Lanes>
  );
}
