import type { IsoDay } from '@crew/core';
import type { Workload } from '@crew/contract';
import { Sheet } from '../../ui/Sheet.tsx';
import { hourWords } from '../../words/format.ts';
import { TaskBehind } from './PersonSheet.tsx';

/** Work nobody has estimated, by name: it is counted, never hidden. */
export function UnestimatedSheet({
  workload,
  today,
  onClose,
}: {
  readonly workload: Workload;
  readonly today: IsoDay;
  readonly onClose: () => void;
}) {
  return (
    <Sheet label="No estimate" line="Counted, but guessed" onClose={onClose}>
      <h2 style={{ fontSize: 17 }}>No estimate yet</h2>
      <p style={{ color: 'var(--ink-2)', margin: '5px 0 12px' }}>
        Each counts {hourWords(workload.defaultMinutes)}. Open one and write its hours: the load is then no guess.
      </p>
      <ul>
        {workload.unestimated.map((task) => (
          <TaskBehind key={task.id} task={task} today={today} />
        ))}
      </ul>
    </Sheet>
  );
}
