import type { IsoDay } from '@crew/core';
import { can, TASK_STATUS_WORDS, type TaskSheet as Task } from '@crew/contract';
import { Toned } from '../../ui/text.tsx';
import { Link } from 'react-aria-components';
import { useLocation } from 'react-router';
import styled from 'styled-components';
import { Explain } from '../explain/Explain.tsx';
import { useCrew, useTask } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Meter, Inline } from '../../ui/layout.tsx';
import { PersonMark, Tag } from '../../ui/marks.tsx';
import { Fact, Facts, Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count, dayWords, hours, hourWords, instantWords, spanWords } from '../../words/format.ts';
import { CustomFields } from '../field/CustomFields.tsx';
import { historyOf, ThingHistory } from '../history/ThingHistory.tsx';
import { FileList } from '../file/FileList.tsx';
import { RepeatsPart } from '../series/RepeatsPart.tsx';
import { RepeatsValue } from '../series/RepeatsValue.tsx';
import { TimerButton } from '../timer/TimerButton.tsx';
import { ConflictAt } from './ConflictNote.tsx';
import { EffortEditor, PriorityChoice, StatusMenu, ValueButton, WhoEditor, type OnEdit } from './editors.tsx';
import { DeliverableChoice, LabelsEditor, Subtasks } from './Gathering.tsx';
import { KeepAsTemplate } from './KeepAsTemplate.tsx';
import { PageLinkList } from './PageLinkList.tsx';
import { LogTime } from './LogTime.tsx';
import { OutsideEditor } from './OutsideEditor.tsx';
import { Steps } from './Steps.tsx';
import { Description, TitleField } from './texts.tsx';
import { HoldsUp, WaitsFor } from './DependencyEditor.tsx';
import { WaysOut } from './WaysOut.tsx';
import type { TaskEditing } from './use-task-edit.ts';
import { PeopleHere } from '../presence/PeopleHere.tsx';
import { WhenEditor } from './WhenEditor.tsx';

const RoomyTag = styled(Tag)`
  padding: 5px 10px;
`;

const Line = styled.p`
  color: var(--ink-2);
  font-size: 12.5px;
`;

const LateLine = styled(Line)`
  color: var(--brick);
`;
const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 11px;
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
    <Sheet
      label="Task"
      line={task === undefined ? '' : <EngagementLine task={task} />}
      others={<PeopleHere kind="task" id={taskId} />}
      onClose={onClose}
    >
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

/** The engagement it is of, and its number there; a link, except on the page of that engagement. */
function EngagementLine({ task: { engagement, number } }: { readonly task: Task }) {
  const { pathname } = useLocation();
  const plan = `/engagements/${engagement.id}`;
  return (
    <>
      {pathname === plan ? engagement.name : <Link href={plan}>{engagement.name}</Link>} · {number}
    </>
  );
}

const Options = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
`;

interface PartProps {
  readonly task: Task;
  readonly editing: TaskEditing;
  readonly onEdit: OnEdit;
  /** Somebody of the crew works on it; a lead decides about it. */
  readonly isMine: boolean;
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
  const { today } = me;
  const onEdit: OnEdit = (change, version = task.version) => editing.edit({ ...task, version }, change);
  const isMine = !can(me, 'plan.edit');
  const isMet = editing.conflict?.taskId === task.id;
  const part: PartProps = { task, editing, onEdit, isMine };
  return (
    <>
      <TitleField task={task} isReadOnly={isMine} isMet={isMet} onEdit={onEdit} />
      <Line>
        {task.phase}
        {isMine ? ` · ${task.isShownToClient ? 'shown to client' : 'not shown to client'}` : ''}
      </Line>
      <ConflictAt at="title" {...part} />
      <TaskActions {...part} />
      <ConflictAt at="status" {...part} />
      <Facts>
        <PlanFacts {...part} />
        <Fact name="Waits for">
          <WaitsFor task={task} onEdit={onEdit} isReadOnly={isMine} onOpen={onOpen} />
          <ConflictAt at="waits" {...part} />
        </Fact>
        <Fact name="Holds up">
          <HoldsUp task={task} onOpen={onOpen} />
        </Fact>
        <Fact name="Priority">
          {isMine ? task.priority : <PriorityChoice task={task} onEdit={onEdit} />}
          <ConflictAt at="priority" {...part} />
        </Fact>
        {isMine ? null : <LeadFacts {...part} />}
      </Facts>
      <ConflictAt at="lead" {...part} />
      <Description task={task} isReadOnly={isMine} isMet={isMet} onEdit={onEdit} />
      <ConflictAt at="description" {...part} />
      <WaysOut ways={task.ways} engagement={task.engagement} />
      <Steps task={task} />
      {isMine || task.seriesId === null ? null : <RepeatsPart task={task} today={today} />}
      {isMine ? null : <Subtasks task={task} onOpen={onOpen} />}
      <Enclosed {...part} />
      <ConflictAt at="enclosed" {...part} />
      <SheetPart>
        <h3>History</h3>
        <ThingHistory query={historyOf('task', task.id)} />
      </SheetPart>
      {can(me, 'template.edit') ? <KeepAsTemplate task={task} /> : null}
    </>
  );
}

/** What is done with it all day: status, timer, time by hand. */
function TaskActions({ task, onEdit }: PartProps) {
  const { today } = useWho();
  const isTimed = !task.isGroup && task.status !== 'done' && task.status !== 'dropped' && task.kind !== 'client';
  return (
    <Actions>
      {task.isGroup ? (
        <RoomyTag>{statusWords(task)}, as its subtasks are</RoomyTag>
      ) : (
        <StatusMenu task={task} onEdit={onEdit}>
          <Button kind="primary" aria-label={`Status: ${TASK_STATUS_WORDS[task.status]}`}>
            {statusWords(task)} <span aria-hidden="true">▾</span>
          </Button>
        </StatusMenu>
      )}
      {isTimed ? <TimerButton task={task} /> : null}
      <LogTime task={task} today={today} />
    </Actions>
  );
}

/** Who, when, how much. */
function PlanFacts(part: PartProps) {
  const { task, onEdit, isMine } = part;
  const { today } = useWho();
  return (
    <>
      <Fact name="Who">
        <WhoEditor task={task} onEdit={onEdit}>
          <ValueButton isDisabled={isMine} aria-label={`Who: ${task.assignees.map((person) => person.name).join(', ') || 'unassigned'}`}>
            <WhoWords task={task} />
          </ValueButton>
        </WhoEditor>
        <ConflictAt at="who" {...part} />
      </Fact>
      <Fact name="When">
        <WhenEditor task={task} today={today} onEdit={onEdit}>
          <ValueButton isDisabled={isMine}>
            <span>
              {dayWords(task.start, today)}
              {task.due === task.start ? '' : ` – ${dayWords(task.due, today)}`} <Slack task={task} /> <Explain word="slack" />
            </span>
          </ValueButton>
        </WhenEditor>
        <ConflictAt at="when" {...part} />
        <Drift task={task} today={today} />
        {task.missedDays > 0 ? <LateLine>The plan misses this day by {count(task.missedDays, 'day')}.</LateLine> : null}
      </Fact>
      <Fact name="Effort">
        <EffortEditor task={task} onEdit={onEdit}>
          <ValueButton isDisabled={isMine || task.isGroup}>{effortWords(task)}</ValueButton>
        </EffortEditor>
        <ConflictAt at="effort" {...part} />
        {task.isGroup ? null : <Meter $part={task.estimateMinutes ? (task.loggedMinutes * 100) / task.estimateMinutes : 0} />}
      </Fact>
    </>
  );
}

/** Fields that only leads decide. */
function LeadFacts({ task, onEdit }: PartProps) {
  const { today } = useWho();
  return (
    <>
      <Fact name="Options">
        <Options>
          <Tick isSelected={task.isShownToClient} onChange={(isShownToClient) => void onEdit({ isShownToClient })}>
            Visible to client
          </Tick>
          <Tick isSelected={task.isChargeable} onChange={(isChargeable) => void onEdit({ isChargeable })}>
            Chargeable
          </Tick>
          <Tick isSelected={task.mayStartEarly} onChange={(mayStartEarly) => void onEdit({ mayStartEarly })}>
            Can start before its phase
          </Tick>
        </Options>
      </Fact>
      <Fact name="Repeats">
        <RepeatsValue task={task} today={today} />
      </Fact>
      <Fact name="Outside maker">
        <OutsideEditor task={task} onEdit={onEdit} />
      </Fact>
      <Fact name="Deliverable">
        <DeliverableChoice task={task} onEdit={onEdit} />
      </Fact>
      <Fact name="Labels">
        <LabelsEditor task={task} onEdit={onEdit} />
      </Fact>
    </>
  );
}

/** Files, web links and custom fields. */
function Enclosed({ task, onEdit, isMine }: PartProps) {
  const me = useWho();
  const { data: crew } = useCrew(!isMine);
  const fileIds = task.files.map((file) => file.id);
  const setFiles = (next: string[]): void => void onEdit({ fileIds: next });
  return (
    <>
      <FileList
        files={task.files.map((file) => ({ ...file, detail: `${file.addedBy ?? 'somebody'}, ${instantWords(file.addedAt, me)}` }))}
        note="For whoever does the task. Drop files here."
        onAdd={(added, replaced) => setFiles([...fileIds.filter((id) => !replaced.includes(id)), ...added.map((file) => file.id)])}
        onRemove={(id) => setFiles(fileIds.filter((other) => other !== id))}
      />
      <PageLinkList
        pageLinks={task.pageLinks}
        {...(isMine ? {} : { onChange: (pageLinks) => void onEdit({ pageLinks: [...pageLinks] }) })}
      />
      <CustomFields
        entries={task.customFields}
        people={crew?.people ?? task.fieldPeople}
        onChange={(customFields) => void onEdit({ customFields: [...customFields] })}
      />
    </>
  );
}

const effortWords = (task: Task): string => {
  if (task.isGroup) return 'the sum of its subtasks';
  return task.estimateMinutes === null ? 'not estimated' : `${hours(task.loggedMinutes)} of ${hourWords(task.estimateMinutes)}`;
};

/** The baseline days, once they differ. */
function Drift({ task, today }: { readonly task: Task; readonly today: IsoDay }) {
  const { baselineStart, baselineDue, due } = task;
  if (baselineStart === null || baselineDue === null || baselineDue === due) return null;
  return (
    <Line>
      {due > baselineDue ? 'Later' : 'Earlier'} than the baseline: {spanWords(baselineStart, baselineDue, today)}
    </Line>
  );
}

function statusWords(task: Task): string {
  return task.status === 'waiting'
    ? `Waiting on ${task.waitingOn === 'client' ? 'the client' : `a ${task.waitingOn ?? 'colleague'}`}`
    : TASK_STATUS_WORDS[task.status];
}

function WhoWords({ task }: { readonly task: Task }) {
  if (task.kind === 'client') return <Tag>client</Tag>;
  if (task.assignees.length === 0) return <Tag>{task.role ?? 'unassigned'}</Tag>;
  return (
    <>
      {task.assignees.map((person) => (
        <Inline key={person.id} as="span" $gap={5}>
          <PersonMark person={person} /> {person.name}
        </Inline>
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
  return <Toned $tone={isLate ? 'bad' : 'quiet'}> · {words}</Toned>;
}
