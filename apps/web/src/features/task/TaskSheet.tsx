import { TASK_STATUS_WORDS, type TaskSheet as Task, type TaskTie } from '@crew/contract';
import { useState } from 'react';
import { Button as AriaButton, Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { refreshAll, useTask } from '../../api/queries.ts';
import { useWho } from '../../app/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field, PopoverPanel } from '../../ui/Field.tsx';
import { ErrorNote, Loading, Meter } from '../../ui/layout.tsx';
import { PersonMark, Tag, TaskGlyph } from '../../ui/marks.tsx';
import { Facts, Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { notify } from '../../ui/toasts.tsx';
import { count, dayWords, hours, hourWords, instantWords, parseHours } from '../../words/format.ts';
import { ConflictNote } from './ConflictNote.tsx';
import { EffortEditor, PriorityChoice, StatusMenu, ValueButton, WhenEditor, WhoEditor, type OnEdit } from './editors.tsx';
import { happenedWords } from './happened.ts';
import { useDraft } from './use-draft.ts';
import type { TaskEditing } from './use-task-edit.ts';

const Title = styled.input`
  width: 100%;
  border: 1px solid transparent;
  border-radius: 5px;
  background: transparent;
  padding: 2px 5px;
  margin: 0 -6px;
  font:
    650 19px/1.25 'Bricolage Grotesque Variable',
    sans-serif;
  &:hover {
    border-color: var(--line);
  }
  &:focus {
    background: var(--panel);
    border-color: var(--petrol);
    outline: none;
  }
`;
const Line = styled.p`
  color: var(--ink-2);
  font-size: 12.5px;
`;
const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 11px;
`;
const StepButton = styled(AriaButton)<{ $isDone: boolean }>`
  display: flex;
  align-items: center;
  gap: 9px;
  width: 100%;
  min-height: 27px;
  padding: 3px 0;
  border: 0;
  background: transparent;
  text-align: left;
  cursor: pointer;
  color: ${({ $isDone }) => ($isDone ? 'var(--ink-2)' : 'var(--ink)')};
  &::before {
    content: '${({ $isDone }) => ($isDone ? '✓' : '')}';
    display: grid;
    place-items: center;
    flex: none;
    width: 14px;
    height: 14px;
    border-radius: 3px;
    font-size: 10px;
    color: var(--panel);
    background: ${({ $isDone }) => ($isDone ? 'var(--moss)' : 'transparent')};
    border: 1.5px solid ${({ $isDone }) => ($isDone ? 'var(--moss)' : 'var(--ink-2)')};
  }
`;
const Log = styled.ul`
  display: flex;
  flex-direction: column;
  gap: 5px;
  font-size: 12.5px;
  color: var(--ink-2);
  strong {
    color: var(--ink);
    font-weight: 600;
  }
`;

interface TaskSheetProps {
  readonly taskId: string;
  readonly editing: TaskEditing;
  readonly onClose: () => void;
  readonly onOpen: (taskId: string) => void;
}

/** A task beside the list: everything is edited where it is read. */
export function TaskSheet({ taskId, editing, onClose, onOpen }: TaskSheetProps) {
  const { data: task, error } = useTask(taskId);
  return (
    <Sheet label="Task" line={task === undefined ? '' : `${task.engagement.name} · ${task.number}`} onClose={onClose}>
      {error ? (
        <ErrorNote error={error} />
      ) : task === undefined ? (
        <Loading rows={6} />
      ) : (
        <TaskBody key={task.id} task={task} editing={editing} onOpen={onOpen} />
      )}
    </Sheet>
  );
}

function TaskBody({
  task,
  editing,
  onOpen,
}: {
  readonly task: Task;
  readonly editing: TaskEditing;
  readonly onOpen: (taskId: string) => void;
}) {
  const me = useWho();
  const { today, access } = me;
  const onEdit: OnEdit = (change, undo, version = task.version) => editing.edit({ ...task, version }, change, undo);
  const isMine = access === 'freelancer';
  const isMet = editing.conflict?.taskId === task.id;
  return (
    <>
      <TitleField task={task} isReadOnly={isMine} isMet={isMet} onEdit={onEdit} />
      <Line>
        {task.phase} · {task.isShownToClient ? 'shown to client' : 'not shown to client'}
      </Line>
      {editing.conflict !== null && isMet ? <ConflictNote conflict={editing.conflict} editing={editing} today={today} /> : null}
      <Actions>
        <StatusMenu task={task} onEdit={onEdit}>
          <Button kind="primary" aria-label={`Status: ${TASK_STATUS_WORDS[task.status]}`}>
            {statusWords(task)} <span aria-hidden="true">▾</span>
          </Button>
        </StatusMenu>
        <LogTime task={task} today={today} />
      </Actions>
      <Facts>
        <dt>Who</dt>
        <dd>
          <WhoEditor task={task} onEdit={onEdit}>
            <ValueButton isDisabled={isMine} aria-label={`Who: ${task.assignees.map((person) => person.name).join(', ') || 'nobody yet'}`}>
              <WhoWords task={task} />
            </ValueButton>
          </WhoEditor>
        </dd>
        <dt>When</dt>
        <dd>
          <WhenEditor task={task} today={today} onEdit={onEdit}>
            <ValueButton isDisabled={isMine}>
              <span>
                {dayWords(task.start, today)}
                {task.due === task.start ? '' : ` – ${dayWords(task.due, today)}`} <Slack task={task} />
              </span>
            </ValueButton>
          </WhenEditor>
          {task.missedDays > 0 ? (
            <Line style={{ color: 'var(--brick)' }}>The plan misses this day by {count(task.missedDays, 'day')}.</Line>
          ) : null}
        </dd>
        <dt>Effort</dt>
        <dd>
          <EffortEditor task={task} onEdit={onEdit}>
            <ValueButton isDisabled={isMine}>
              {task.estimateMinutes === null ? 'not estimated' : `${hours(task.loggedMinutes)} of ${hourWords(task.estimateMinutes)}`}
            </ValueButton>
          </EffortEditor>
          <Meter $part={task.estimateMinutes ? (task.loggedMinutes * 100) / task.estimateMinutes : 0} />
        </dd>
        <dt>Waits for</dt>
        <dd>
          <Ties ties={task.waitsFor} onOpen={onOpen} none="nothing, it can begin" />
        </dd>
        <dt>Holds up</dt>
        <dd>
          <Ties ties={task.holdsUp} onOpen={onOpen} none="nothing" />
        </dd>
        <dt>Priority</dt>
        <dd>{isMine ? task.priority : <PriorityChoice task={task} onEdit={onEdit} />}</dd>
      </Facts>
      <Description task={task} isReadOnly={isMine} isMet={isMet} onEdit={onEdit} />
      <Steps task={task} />
      <SheetPart>
        <h3>What happened</h3>
        <Log>
          {task.happened.length === 0 ? <li>Nothing has been changed since it was made.</li> : null}
          {task.happened.map((line) => (
            <li key={line.id}>
              <strong>{line.who ?? 'The planner'}</strong> {happenedWords(line)} · {instantWords(line.at, me)}
            </li>
          ))}
        </Log>
      </SheetPart>
    </>
  );
}

function statusWords(task: Task): string {
  return task.status === 'waiting'
    ? `Waiting on ${task.waitingOn === 'client' ? 'the client' : `a ${task.waitingOn ?? 'colleague'}`}`
    : TASK_STATUS_WORDS[task.status];
}

interface TextProps {
  readonly task: Task;
  readonly isReadOnly: boolean;
  readonly isMet: boolean;
  readonly onEdit: OnEdit;
}

function TitleField({ task, isReadOnly, isMet, onEdit }: TextProps) {
  const draft = useDraft(task.title, task.version, isMet);
  const save = (): void => {
    if (draft.value.trim() === '' || draft.value === draft.base) return draft.drop();
    void onEdit({ title: draft.value }, { title: draft.base }, draft.version).then((isSaved) => {
      if (isSaved) draft.drop();
    });
  };
  return (
    <Title
      aria-label="Title"
      value={draft.value}
      readOnly={isReadOnly}
      onChange={(event) => draft.change(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
    />
  );
}

/** What there is to know, saved when it is left. */
function Description({ task, isReadOnly, isMet, onEdit }: TextProps) {
  const draft = useDraft(task.description, task.version, isMet);
  const save = (): void => {
    if (draft.value === draft.base) return draft.drop();
    // What was refused stays in the field: a description is too long to be typed twice.
    void onEdit({ description: draft.value }, { description: draft.base }, draft.version).then((isSaved) => {
      if (isSaved) draft.drop();
    });
  };
  return (
    <SheetPart>
      <Field
        isLong
        isTight
        label="What there is to know"
        value={draft.value}
        onChange={draft.change}
        onBlur={save}
        isReadOnly={isReadOnly}
        placeholder="Context, links, what good looks like"
      />
    </SheetPart>
  );
}

function WhoWords({ task }: { readonly task: Task }) {
  if (task.kind === 'client') return <Tag>client</Tag>;
  if (task.assignees.length === 0) return <Tag>{task.role ?? 'nobody yet'}</Tag>;
  return (
    <>
      {task.assignees.map((person) => (
        <span key={person.id} style={{ display: 'inline-flex', gap: 5, alignItems: 'center' }}>
          <PersonMark person={person} /> {person.name}
        </span>
      ))}
    </>
  );
}

function Slack({ task }: { readonly task: Task }) {
  if (task.status === 'done' || task.status === 'dropped') return null;
  const isLate = task.slack < 0;
  const words = isLate
    ? `${count(-task.slack, 'day')} too late for the promise`
    : task.slack === 0
      ? 'no slack'
      : `${count(task.slack, 'day')} of slack`;
  return <span style={{ color: isLate ? 'var(--brick)' : 'var(--ink-2)' }}> · {words}</span>;
}

function Ties({
  ties,
  onOpen,
  none,
}: {
  readonly ties: readonly TaskTie[];
  readonly onOpen: (taskId: string) => void;
  readonly none: string;
}) {
  if (ties.length === 0) return <span style={{ color: 'var(--ink-2)' }}>{none}</span>;
  return (
    <>
      {ties.map((tie) => (
        <ValueButton key={tie.id} onPress={() => onOpen(tie.id)} style={{ display: 'flex', margin: '0 -5px' }}>
          <TaskGlyph status={tie.status} /> {tie.title}
        </ValueButton>
      ))}
    </>
  );
}

function Steps({ task }: { readonly task: Task }) {
  const [text, setText] = useState('');
  const keep = async (work: Promise<Task>): Promise<boolean> => {
    try {
      await mutate(`/tasks/${task.id}`, await work, { revalidate: false });
      await refreshAll();
      return true;
    } catch (error) {
      notify(error instanceof Error ? error.message : 'This was not saved.', { tone: 'trouble' });
      return false;
    }
  };
  // Whoever types on while the step is being kept is not interrupted; what was refused stays in the field.
  const add = async (title: string): Promise<void> => {
    if (await keep(call<Task>('POST', `/tasks/${task.id}/steps`, { title }))) setText((now) => (now === title ? '' : now));
  };
  return (
    <SheetPart>
      <h3>
        Steps{' '}
        {task.stepsAll > 0 ? (
          <span style={{ color: 'var(--ink-2)', fontWeight: 400 }}>{`${task.stepsDone} of ${task.stepsAll}`}</span>
        ) : null}
      </h3>
      {task.steps.map((step) => (
        <StepButton
          key={step.id}
          $isDone={step.isDone}
          aria-pressed={step.isDone}
          onPress={() => void keep(call<Task>('PATCH', `/steps/${step.id}`, { isDone: !step.isDone }))}
        >
          {step.title}
        </StepButton>
      ))}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() !== '') void add(text);
        }}
      >
        <Field aria-label="Add a step" label="" isTight placeholder="Add a step" value={text} onChange={setText} />
      </form>
    </SheetPart>
  );
}

function LogTime({ task, today }: { readonly task: Task; readonly today: string }) {
  return (
    <DialogTrigger>
      <Button>Log time</Button>
      <PopoverPanel>
        <Dialog aria-label={`Log time on ${task.title}`} style={{ outline: 'none', padding: 9, width: 250 }}>
          {({ close }) => <LogTimeForm task={task} today={today} onClose={close} />}
        </Dialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function LogTimeForm({ task, today, onClose }: { readonly task: Task; readonly today: string; readonly onClose: () => void }) {
  const [text, setText] = useState('');
  const [day, setDay] = useState(today);
  const [trouble, setTrouble] = useState<string>();
  const save = async (): Promise<void> => {
    const minutes = parseHours(text);
    if (minutes === null || minutes === 0) return setTrouble('Write hours as 1.5, 1:30 or 90m.');
    try {
      await mutate(`/tasks/${task.id}`, await call<Task>('POST', `/tasks/${task.id}/time`, { day, minutes }), { revalidate: false });
      await refreshAll();
      notify(`${hourWords(minutes)} logged on “${task.title}”.`);
      onClose();
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'This was not saved.');
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Field label="Hours" value={text} onChange={setText} error={trouble} autoFocus />
      <Field label="Day" type="date" value={day} onChange={setDay} />
      <Button kind="primary" type="submit">
        Log it
      </Button>
    </form>
  );
}
