import type { TaskMove } from '@crew/contract';
import { useMemo } from 'react';
import { BAR, BAR_TOP, placeOf, ROW, dependencyPath } from './geometry.ts';
import type { TimelineRow } from './rows.ts';
import type { TimeScale } from './scale.ts';
import type { DependencyDrag } from './use-bar-drag.ts';

interface DependenciesProps {
  readonly rows: readonly TimelineRow[];
  readonly shown: readonly number[];
  readonly scale: TimeScale;
  readonly moves: ReadonlyMap<string, TaskMove>;
}

/** Dependencies between the tasks in view; those of the longest chain heavier. What is folded away has none. */
export function Dependencies({ rows, shown, scale, moves }: DependenciesProps) {
  const indexOf = useMemo(() => new Map(rows.map((row, index) => [row.id, index])), [rows]);
  const [first = 0] = shown;
  const last = shown.at(-1) ?? 0;
  const spanOf = (row: Extract<TimelineRow, { kind: 'task' }>) => moves.get(row.id)?.to ?? row.task;
  return (
    <g pointerEvents="none" fill="none">
      {rows.flatMap((row, index) => {
        if (row.kind !== 'task') return [];
        return row.task.after.flatMap((dependency) => {
          const from = indexOf.get(dependency.id);
          if (from === undefined || Math.max(from, index) < first || Math.min(from, index) > last) return [];
          const before = rows[from] as Extract<TimelineRow, { kind: 'task' }>;
          const isChain = before.task.isCritical && row.task.isCritical && before.task.status !== 'done';
          const path = dependencyPath(
            { ...placeOf(scale, spanOf(before)), row: from },
            { ...placeOf(scale, spanOf(row)), row: index },
            dependency.type,
          );
          return [
            <path
              key={`${dependency.id}-${row.id}`}
              d={path}
              stroke={isChain ? 'var(--ink)' : 'var(--joint)'}
              strokeWidth={isChain ? 1.6 : 1}
            />,
          ];
        });
      })}
    </g>
  );
}

/** The dependency that is being drawn. */
export function DependencyDraft({
  dependency,
  row,
  scale,
}: {
  readonly dependency: DependencyDrag;
  readonly row: number;
  readonly scale: TimeScale;
}) {
  const place = placeOf(scale, dependency.task);
  const x = dependency.end === 'start' ? place.x : place.x + place.width;
  return (
    <path
      d={`M${x} ${row * ROW + BAR_TOP + BAR / 2} L${dependency.x} ${dependency.y}`}
      stroke="var(--petrol)"
      strokeWidth={2}
      strokeDasharray="4 3"
      fill="none"
      pointerEvents="none"
    />
  );
}
