import { EditTask, PRIORITY, TASK_STATUS, TASK_STATUS_WORDS, type PlanTask, type TaskStatus, type WaitingOn } from '@crew/contract';
import { useState, type ReactNode } from 'react';
import { Button as AriaButton, Dialog, DialogTrigger, ListBox, Menu, MenuItem, MenuTrigger, type Selection } from 'react-aria-components';
import styled from 'styled-components';
import { useCrew, useWhoShould } from '../../api/queries.ts';
import { Loading } from '../../ui/layout.tsx';
import { Choose, Field, Option, PopoverPanel } from '../../ui/Field.tsx';
import { FormDialog, SmallForm } from '../../ui/form/SmallForm.tsx';
import { minutesIfTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { TaskGlyph } from '../../ui/marks.tsx';
import { hours } from '../../words/format.ts';
import { suggestionWords } from '../crew/suggestion-words.ts';
import type { TaskChange } from './use-task-edit.ts';

const OptionDetail = styled.span`
  display: block;
  font-size: 12px;
  font-weight: 400;
  color: var(--ink-2);
`;

/** Changes a task; true when it was saved. `version` is the one a draft began from, when it is not the one shown now. */
export type OnEdit = (change: TaskChange, version?: number) => Promise<boolean>;

/** A value that is a button: it opens its own small editor. */
export const ValueButton = styled(AriaButton)`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  max-width: 100%;
  min-height: 25px;
  padding: 2px 5px;
  margin: -2px -5px;
  border: 0;
  border-radius: 4px;
  background: transparent;
  text-align: left;
  cursor: pointer;
  &[data-hovered] {
    background: var(--petrol-soft);
  }
`;
export const EditorPanel = styled(Dialog)`
  padding: 8px 9px 9px;
  outline: none;
  display: flex;
  flex-direction: column;
  gap: 6px;
  width: 288px;
`;
const Item = styled(MenuItem)`
  display: flex;
  align-items: center;
  gap: 9px;
  padding: 6px 9px;
  border-radius: 5px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--petrol-soft);
  }
`;
const WAITING: readonly { readonly on: WaitingOn; readonly words: string }[] = [
  { on: 'client', words: 'Waiting on the client' },
  { on: 'colleague', words: 'Waiting on a colleague' },
  { on: 'supplier', words: 'Waiting on a supplier' },
];

type StatusTask = Pick<PlanTask, 'title' | 'status' | 'waitingOn'>;

/** The status of a task, changed where it is read. */
export function StatusMenu({
  task,
  onEdit,
  children,
}: {
  readonly task: StatusTask;
  readonly onEdit: OnEdit;
  readonly children: ReactNode;
}) {
  const choose = (key: string): void => {
    const waiting = WAITING.find(({ on }) => on === key);
    void onEdit(waiting === undefined ? { status: key as TaskStatus } : { status: 'waiting', waitingOn: waiting.on });
  };
  return (
    <MenuTrigger>
      {children}
      <PopoverPanel>
        <Menu aria-label={`Status of ${task.title}`} onAction={(key) => choose(String(key))}>
          {TASK_STATUS.filter((status) => status !== 'waiting').map((status) => (
            <Item key={status} id={status} textValue={TASK_STATUS_WORDS[status]}>
              <TaskGlyph status={status} /> {TASK_STATUS_WORDS[status]}
            </Item>
          ))}
          {WAITING.map(({ on, words }) => (
            <Item key={on} id={on} textValue={words}>
              <TaskGlyph status="waiting" /> {words}
            </Item>
          ))}
        </Menu>
      </PopoverPanel>
    </MenuTrigger>
  );
}

/** Who does it: the first one chosen is named first. */
export function WhoEditor({
  task,
  onEdit,
  children,
}: {
  readonly task: Pick<PlanTask, 'id' | 'title' | 'assignees'>;
  readonly onEdit: OnEdit;
  readonly children: ReactNode;
}) {
  return (
    <DialogTrigger>
      {children}
      <PopoverPanel>
        <WhoList task={task} onEdit={onEdit} />
      </PopoverPanel>
    </DialogTrigger>
  );
}

function WhoList({ task, onEdit }: { readonly task: Pick<PlanTask, 'id' | 'title' | 'assignees'>; readonly onEdit: OnEdit }) {
  const { data: crew } = useCrew();
  const before = task.assignees.map((person) => person.id);
  const save = (keys: Selection): void => {
    if (keys !== 'all') void onEdit({ assigneeIds: [...keys].map(String) });
  };
  const { data: who, error } = useWhoShould(task.id);
  const isAsking = who === undefined && error === undefined;
  const places = new Map(who?.people.map((suggestion, index) => [suggestion.person.id, { suggestion, place: index }]));
  const isAway = (id: string): boolean => who?.away.some((person) => person.id === id) ?? false;
  const placeOf = (id: string): number => places.get(id)?.place ?? Infinity;
  // In order of who should do it; nobody changes places while the list is open, so it waits for that.
  const people = isAsking ? [] : [...(crew?.people ?? [])].sort((left, right) => comparePlaces(placeOf(left.id), placeOf(right.id)));
  const reasonOf = (person: { readonly id: string; readonly roles: readonly string[] }): string => {
    const found = places.get(person.id);
    if (found !== undefined) return suggestionWords(found.suggestion);
    if (isAway(person.id)) return 'away on all of its days';
    const roles = person.roles.join(', ');
    if (who?.role === undefined || who.role === null) return roles;
    return roles === '' ? `not ${who.role}` : `${roles}, not ${who.role}`;
  };
  return (
    <FormDialog aria-label={`Who does ${task.title}`}>
      {isAsking ? <Loading rows={5} /> : null}
      <ListBox
        aria-label="People"
        escapeKeyBehavior="none"
        items={people}
        selectionMode="multiple"
        selectedKeys={before}
        onSelectionChange={save}
      >
        {(person) => (
          <Option id={person.id} textValue={person.name}>
            {before.includes(person.id) ? '✓ ' : ''}
            {person.name}
            <OptionDetail>{reasonOf(person)}</OptionDetail>
          </Option>
        )}
      </ListBox>
    </FormDialog>
  );
}

const comparePlaces = (left: number, right: number): number => (left === right ? 0 : left < right ? -1 : 1);

/** Effort in hours, written as people write it: 1.5, 1:30 or 90m. */
export function EffortEditor({
  task,
  onEdit,
  children,
}: {
  readonly task: Pick<PlanTask, 'title' | 'estimateMinutes' | 'version'>;
  readonly onEdit: OnEdit;
  readonly children: ReactNode;
}) {
  return (
    <DialogTrigger>
      {children}
      <PopoverPanel>
        <EditorPanel aria-label={`Effort of ${task.title}`}>
          {({ close }) => <EffortForm task={task} onEdit={onEdit} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function EffortForm({
  task,
  onEdit,
  onClose,
}: {
  readonly task: Pick<PlanTask, 'title' | 'estimateMinutes' | 'version'>;
  readonly onEdit: OnEdit;
  readonly onClose: () => void;
}) {
  // The version it was opened with: a change made by others since is then noticed.
  const [version] = useState(task.version);
  const form = useInputForm({
    rules: EditTask,
    typed: { estimateMinutes: task.estimateMinutes === null ? '' : hours(task.estimateMinutes) },
    input: ({ estimateMinutes }) => ({ version, estimateMinutes: minutesIfTyped(estimateMinutes) }),
    send: async ({ estimateMinutes = null }) => {
      if (await onEdit({ estimateMinutes }, version)) onClose();
    },
  });
  return (
    <SmallForm form={form} action="Save">
      <Field {...form.bind('estimateMinutes')} label="Hours" autoFocus />
    </SmallForm>
  );
}

const PRIORITY_WORDS: Readonly<Record<PlanTask['priority'], string>> = { low: 'Low', normal: 'Normal', high: 'High' };

/** How much it matters. */
export function PriorityChoice({ task, onEdit }: { readonly task: Pick<PlanTask, 'priority'>; readonly onEdit: OnEdit }) {
  return (
    <Choose
      label="Priority"
      isLabelHidden
      choices={PRIORITY.map((priority) => ({ id: priority, name: PRIORITY_WORDS[priority] }))}
      value={task.priority}
      onChange={(id) => void onEdit({ priority: id as PlanTask['priority'] })}
    />
  );
}
