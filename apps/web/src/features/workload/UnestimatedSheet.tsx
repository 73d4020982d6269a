import { Note } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { Workload } from '@crew/contract';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
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
    <Sheet label="No estimate" line="Counted with an assumed effort" onClose={onClose}>
      <SheetTitle>No estimate yet</SheetTitle>
      <Note>Each counts {hourWords(workload.defaultMinutes)}. Open a task and enter its hours to replace the assumption.</Note>
      <ul>
        {workload.unestimated.map((task) => (
          <TaskBehind key={task.id} task={task} today={today} />
        ))}
      </ul>
    </Sheet>
  );
}
