import type { TaskMove } from '@crew/contract';
import { useMemo } from 'react';
import { BAR, BAR_TOP, placeOf, ROW, tiePath } from './geometry.ts';
import type { TimelineRow } from './rows.ts';
import type { TimeScale } from './scale.ts';
import type { TieDrag } from './use-bar-drag.ts';

interface TiesProps {
  readonly rows: readonly TimelineRow[];
  readonly shown: readonly number[];
  readonly scale: TimeScale;
  readonly moves: ReadonlyMap<string, TaskMove>;
}

/** Ties between the tasks in view; those of the longest chain heavier. What is folded away has none. */
export function Ties({ rows, shown, scale, moves }: TiesProps) {
  const indexOf = useMemo(() => new Map(rows.map((row, index) => [row.id, index])), [rows]);
  const [first = 0] = shown;
  const last = shown.at(-1) ?? 0;
  const spanOf = (row: Extract<TimelineRow, { kind: 'task' }>) => moves.get(row.id)?.to ?? row.task;
  return (
    <g pointerEvents="none" fill="none">
      {rows.flatMap((row, index) => {
        if (row.kind !== 'task') return [];
        return row.task.after.flatMap((tie) => {
          const from = indexOf.get(tie.id);
          if (from === undefined || Math.max(from, index) < first || Math.min(from, index) > last) return [];
          const before = rows[from] as Extract<TimelineRow, { kind: 'task' }>;
          const isChain = before.task.isCritical && row.task.isCritical && before.task.status !== 'done';
          const path = tiePath({ ...placeOf(scale, spanOf(before)), row: from }, { ...placeOf(scale, spanOf(row)), row: index }, tie.type);
          return [
            <path key={`${tie.id}-${row.id}`} d={path} stroke={isChain ? 'var(--ink)' : 'var(--joint)'} strokeWidth={isChain ? 1.6 : 1} />,
          ];
        });
      })}
    </g>
  );
}

/** The tie that is being drawn. */
export function TieDraft({ tie, row, scale }: { readonly tie: TieDrag; readonly row: number; readonly scale: TimeScale }) {
  const place = placeOf(scale, tie.task);
  const x = tie.end === 'start' ? place.x : place.x + place.width;
  return (
    <path
      d={`M${x} ${row * ROW + BAR_TOP + BAR / 2} L${tie.x} ${tie.y}`}
      stroke="var(--petrol)"
      strokeWidth={2}
      strokeDasharray="4 3"
      fill="none"
      pointerEvents="none"
    />
  );
}
