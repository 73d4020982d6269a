import { TASK_STATUS, TASK_STATUS_WORDS, type TaskStatus } from '@crew/contract';
import { Panel, PanelBody, PanelHead } from '../../ui/layout.tsx';
import { TaskGlyph } from '../../ui/marks.tsx';
import { ListRows, MeaningRow } from './parts.tsx';

/** What each status of a task says, and what follows from it. */
const MEANINGS: Readonly<Record<TaskStatus, string>> = {
  queued: 'Nobody has started. Its dates follow the plan.',
  active: 'Somebody is working on it.',
  review: 'The work is there; somebody looks at it before it counts as done.',
  waiting: 'It cannot go on until the client, a colleague or a supplier has done something.',
  done: 'Finished. What waits for it can start, and the gate of its phase counts it.',
  dropped: 'Not needed any more. It counts in nothing and stays in the history.',
};

/** The statuses of tasks, each with its glyph and its meaning. */
export function StatusesPanel() {
  return (
    <Panel aria-label="Statuses">
      <PanelHead>
        <h2>Statuses</h2>
      </PanelHead>
      <PanelBody>
        <ListRows>
          {TASK_STATUS.map((status) => (
            <MeaningRow key={status}>
              <TaskGlyph status={status} />
              <div>
                <strong>{TASK_STATUS_WORDS[status]}</strong>
                <small>{MEANINGS[status]}</small>
              </div>
            </MeaningRow>
          ))}
        </ListRows>
      </PanelBody>
    </Panel>
  );
}
