import type { IsoDay } from '@crew/core';
import { TASK_STATUS_WORDS, type TaskSheet } from '@crew/contract';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { useWho } from '../../session/session.tsx';
import { count, hourWords, shortDay, spanWords } from '../../words/format.ts';
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

/** Where in the sheet a field stands. */
export type ConflictPlace = 'title' | 'status' | 'who' | 'when' | 'effort' | 'waits' | 'priority' | 'lead' | 'description' | 'enclosed';

type Field = Exclude<keyof TaskChange, 'id'>;
interface FieldWords<Value> {
  readonly place: ConflictPlace;
  /** What was wanted, in words. */
  readonly yours: (value: Value, today: IsoDay) => string;
  /** The same, as it is now. */
  readonly now: (task: TaskSheet, today: IsoDay) => string;
}

const whenNow = (task: TaskSheet, today: IsoDay): string => `${count(task.days, 'working day')}, ${spanWords(task.start, task.due, today)}`;
const visible = (isShown: boolean): string => (isShown ? 'shown to client' : 'not shown to client');
const chargeable = (isChargeable: boolean): string => (isChargeable ? 'chargeable' : 'not chargeable');
const early = (isEarly: boolean): string => (isEarly ? 'can start early' : 'starts with its phase');
const effort = (minutes: number | null): string => (minutes === null ? 'not estimated' : hourWords(minutes));
const listed = (names: readonly string[], none: string): string => names.join(', ') || none;

/** Every field that is edited in a sheet: where it stands, and both sides in words. */
const FIELDS: { readonly [Name in Field]-?: FieldWords<Exclude<TaskChange[Name], undefined>> } = {
  title: { place: 'title', yours: (title) => title, now: ({ title }) => title },
  status: { place: 'status', yours: (status) => TASK_STATUS_WORDS[status], now: ({ status }) => TASK_STATUS_WORDS[status] },
  waitingOn: {
    place: 'status',
    yours: (whom) => `waiting on ${whom}`,
    now: ({ waitingOn }) => (waitingOn === null ? 'not waiting' : `waiting on ${waitingOn}`),
  },
  assigneeIds: {
    place: 'who',
    yours: (ids) => count(ids.length, 'person', 'people'),
    now: ({ assignees }) =>
      listed(
        assignees.map(({ name }) => name),
        'nobody',
      ),
  },
  days: { place: 'when', yours: (days) => count(days, 'working day'), now: whenNow },
  fixedDay: {
    place: 'when',
    yours: (day, today) => (day === null ? 'placed by the planner' : `fixed to ${shortDay(day, today)}`),
    now: whenNow,
  },
  notBefore: {
    place: 'when',
    yours: (day, today) => (day === null ? 'as early as possible' : `not before ${shortDay(day, today)}`),
    now: whenNow,
  },
  estimateMinutes: { place: 'effort', yours: effort, now: ({ estimateMinutes }) => effort(estimateMinutes) },
  after: {
    place: 'waits',
    yours: (after) => count(after.length, 'dependency', 'dependencies'),
    now: ({ after }) => count(after.length, 'dependency', 'dependencies'),
  },
  priority: { place: 'priority', yours: (priority) => `${priority} priority`, now: ({ priority }) => `${priority} priority` },
  isShownToClient: { place: 'lead', yours: visible, now: ({ isShownToClient }) => visible(isShownToClient) },
  isChargeable: { place: 'lead', yours: chargeable, now: (task) => chargeable(task.isChargeable) },
  mayStartEarly: { place: 'lead', yours: early, now: ({ mayStartEarly }) => early(mayStartEarly) },
  deliverableId: {
    place: 'lead',
    yours: (id) => (id === null ? 'no deliverable' : 'your deliverable'),
    now: ({ deliverableId }) => (deliverableId === null ? 'no deliverable' : 'the deliverable as shown'),
  },
  labels: { place: 'lead', yours: (labels) => listed(labels, 'no labels'), now: ({ labels }) => listed(labels, 'no labels') },
  outside: {
    place: 'lead',
    yours: (outside) => outside?.maker ?? 'no outside maker',
    now: ({ outside }) => outside?.maker ?? 'no outside maker',
  },
  description: {
    place: 'description',
    yours: (text) => text || 'no description',
    now: ({ description }) => description || 'no description',
  },
  fileIds: {
    place: 'enclosed',
    yours: (ids) => count(ids.length, 'file'),
    now: ({ files }) =>
      listed(
        files.map(({ name }) => name),
        'no files',
      ),
  },
  pageLinks: {
    place: 'enclosed',
    yours: (links) =>
      listed(
        links.map(({ title }) => title),
        'no links',
      ),
    now: ({ pageLinks }) =>
      listed(
        pageLinks.map(({ title }) => title),
        'no links',
      ),
  },
  customFields: { place: 'enclosed', yours: () => 'your custom fields', now: () => 'the custom fields as shown' },
};

const fieldsOf = (wanted: TaskChange): readonly Field[] => (Object.keys(FIELDS) as Field[]).filter((field) => wanted[field] !== undefined);

interface PlacedProps {
  readonly at: ConflictPlace;
  readonly task: Pick<TaskSheet, 'id'>;
  readonly editing: TaskEditing;
}

/** The conflict of a task, where the field it is about stands; nothing anywhere else. */
export function ConflictAt({ at, task, editing }: PlacedProps) {
  const { today } = useWho();
  const { conflict } = editing;
  if (conflict === null || conflict.taskId !== task.id) return null;
  const [first = 'title'] = fieldsOf(conflict.wanted);
  return FIELDS[first].place === at ? <ConflictNote conflict={conflict} editing={editing} today={today} /> : null;
}

/** Somebody else changed the same field: both versions are shown, one is chosen, nothing is lost. */
export function ConflictNote({
  conflict,
  editing,
  today,
}: {
  readonly conflict: EditConflict;
  readonly editing: TaskEditing;
  readonly today: IsoDay;
}) {
  const { wanted, current } = conflict;
  const fields = fieldsOf(wanted);
  const yours = fields.map((field) => (FIELDS[field] as FieldWords<unknown>).yours(wanted[field], today));
  const now = [...new Set(fields.map((field) => FIELDS[field].now(current, today)))];
  return (
    <Note role="alert" ref={(note) => note?.scrollIntoView?.({ block: 'nearest' })}>
      <strong>Somebody changed this task since you opened it.</strong>
      <dl>
        <dt>There now</dt>
        <dd>{now.join(', ')}</dd>
        <dt>Yours</dt>
        <dd>{yours.join(', ')}</dd>
      </dl>
      <Button kind="primary" onPress={() => void editing.keepMine()}>
        Keep my version
      </Button>{' '}
      <Button onPress={editing.keepTheirs}>Use their version</Button>
    </Note>
  );
}
