import type { IsoDay } from '@crew/core';
import { TASK_STATUS_WORDS, type TaskSheet } from '@crew/contract';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { count, hourWords, spanWords } from '../../words/format.ts';
import type { EditConflict, TaskChange, TaskEditing } from './use-task-edit.ts';

const Note = styled.div`
  margin-top: 10px;
  padding: 10px 12px;
  border: 1px solid var(--amber);
  border-radius: 7px;
  background: var(--amber-soft);
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 3px 10px;
    margin: 7px 0 9px;
  }
  dt {
    color: var(--ink-2);
  }
  dd {
    margin: 0;
    font-weight: 600;
  }
`;

/** Somebody was faster: both shown, one chosen, nothing lost. */
export function ConflictNote({
  conflict,
  editing,
  today,
}: {
  readonly conflict: EditConflict;
  readonly editing: TaskEditing;
  readonly today: IsoDay;
}) {
  return (
    <Note role="alert">
      <strong>Somebody changed this task since you opened it.</strong>
      <dl>
        <dt>There now</dt>
        <dd>{nowWords(conflict.wanted, conflict.current, today)}</dd>
        <dt>Yours</dt>
        <dd>{wantedWords(conflict.wanted)}</dd>
      </dl>
      <Button kind="primary" onPress={() => void editing.keepMine()}>
        Keep my version
      </Button>{' '}
      <Button onPress={editing.keepTheirs}>Use their version</Button>
    </Note>
  );
}

function wantedWords(wanted: TaskChange): string {
  const words: string[] = [];
  if (wanted.title !== undefined) words.push(wanted.title);
  if (wanted.status !== undefined) words.push(TASK_STATUS_WORDS[wanted.status]);
  if (wanted.estimateMinutes !== undefined)
    words.push(wanted.estimateMinutes === null ? 'not estimated' : hourWords(wanted.estimateMinutes));
  if (wanted.days !== undefined) words.push(`${wanted.days} working days`);
  if (wanted.fixedDay !== undefined) words.push(wanted.fixedDay === null ? 'placed by the planner' : `from ${wanted.fixedDay}`);
  if (wanted.assigneeIds !== undefined) words.push(`${wanted.assigneeIds.length} people`);
  if (wanted.priority !== undefined) words.push(`${wanted.priority} priority`);
  if (wanted.description !== undefined) words.push(wanted.description || 'nothing written');
  if (wanted.isShownToClient !== undefined) words.push(wanted.isShownToClient ? 'shown to client' : 'not shown to client');
  if (wanted.mayStartEarly !== undefined) words.push(wanted.mayStartEarly ? 'may begin early' : 'begins with its phase');
  if (wanted.isChargeable !== undefined) words.push(wanted.isChargeable ? 'charged to the client' : 'not charged');
  if (wanted.fileIds !== undefined) words.push(count(wanted.fileIds.length, 'file'));
  if (wanted.pageLinks !== undefined) words.push(wanted.pageLinks.map((link) => link.title).join(', ') || 'no links');
  if (wanted.ownFields !== undefined) words.push('your custom fields');
  return words.join(', ');
}

/** The same fields, as they are now. */
function nowWords(wanted: TaskChange, now: TaskSheet, today: IsoDay): string {
  const words: string[] = [];
  if (wanted.title !== undefined) words.push(now.title);
  if (wanted.status !== undefined) words.push(TASK_STATUS_WORDS[now.status]);
  if (wanted.estimateMinutes !== undefined) words.push(now.estimateMinutes === null ? 'not estimated' : hourWords(now.estimateMinutes));
  if (wanted.days !== undefined || wanted.fixedDay !== undefined)
    words.push(`${now.days} working days, ${spanWords(now.start, now.due, today)}`);
  if (wanted.assigneeIds !== undefined) words.push(now.assignees.map((person) => person.name).join(', ') || 'nobody');
  if (wanted.priority !== undefined) words.push(`${now.priority} priority`);
  if (wanted.description !== undefined) words.push(now.description || 'nothing written');
  if (wanted.fileIds !== undefined) words.push(now.files.map((file) => file.name).join(', ') || 'no files');
  if (wanted.pageLinks !== undefined) words.push(now.pageLinks.map((link) => link.title).join(', ') || 'no links');
  if (wanted.ownFields !== undefined) words.push('the custom fields as shown');
  if (wanted.isShownToClient !== undefined) words.push(now.isShownToClient ? 'shown to client' : 'not shown to client');
  if (wanted.mayStartEarly !== undefined) words.push(now.mayStartEarly ? 'may begin early' : 'begins with its phase');
  if (wanted.isChargeable !== undefined) words.push(now.isChargeable ? 'charged to the client' : 'not charged');
  return words.join(', ');
}
