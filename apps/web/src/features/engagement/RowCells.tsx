import type { IsoDay } from '@crew/core';
import { OUTSIDE_STATE_WORDS, type PlanTask } from '@crew/contract';
import { memo } from 'react';
import styled from 'styled-components';
import { Meter } from '../../ui/layout.tsx';
import { PersonMark, RepeatMark, Tag, TaskGlyph } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { hours, shortDay, spanWords } from '../../words/format.ts';
import { EffortEditor, StatusMenu, ValueButton, WhoEditor, type OnEdit } from '../task/editors.tsx';
import type { TaskEditing } from '../task/use-task-edit.ts';
import { WhenEditor } from '../task/WhenEditor.tsx';

const BlockValue = styled(ValueButton)`
  display: block;
`;

const FlushValue = styled(ValueButton)`
  margin: 0;
`;

const ClippedTag = styled(Tag)`
  overflow: hidden;
  text-overflow: ellipsis;
`;

const TrackPlace = styled.span`
  display: block;
  width: 74px;
  line-height: 1.2;
`;

const Number = styled.span`
  color: var(--ink-2);
  font-size: 12px;
`;
const GroupGlyph = styled.span`
  padding-left: 5px;
`;
const RowLabel = styled(Tag)`
  margin-left: 7px;
  font-weight: 400;
`;
const TitleText = styled.span<{ $isGroup: boolean; $isDropped: boolean }>`
  ${({ $isGroup }) => ($isGroup ? 'font-weight: 600;' : '')}
  ${({ $isDropped }) => ($isDropped ? 'text-decoration: line-through; color: var(--ink-2);' : '')}
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  ${phone} {
    white-space: normal;
  }
`;
/** On a phone the title takes another line, the days never. */
const WhenValue = styled(ValueButton)`
  white-space: nowrap;
`;
const Small = styled.span`
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
`;

interface RowProps {
  readonly task: PlanTask;
  /** The tasks below it that have none below themselves; those that were dropped are not among them. */
  readonly leaves: readonly PlanTask[];
  readonly today: IsoDay;
  readonly edit: TaskEditing['edit'];
  /** Whether only its status can be changed here, and whether not even that. */
  readonly isReadOnly: boolean;
  readonly isAtRest: boolean;
}

/** What a row says and edits in place; drawn again only when its own task changed. */
export const RowCells = memo(function RowCells({ task, leaves, today, edit, isReadOnly, isAtRest }: RowProps) {
  const onEdit: OnEdit = (change, version = task.version) => edit({ ...task, version }, change);
  const isOpen = task.status !== 'done' && task.status !== 'dropped';
  const isOverdue = isOpen && task.due < today;
  const note = noteOf(task, leaves, today);
  return (
    <>
      <StatusCell task={task} onEdit={onEdit} isFixed={isAtRest} />
      <Number className="wide">{task.number}</Number>
      <TitleCell task={task} />
      <WhoEditor task={task} onEdit={onEdit}>
        <ValueButton className="wide" isDisabled={isReadOnly} aria-label={`Who does ${task.title}: ${whoWords(task)}`}>
          <WhoMarks task={task} />
        </ValueButton>
      </WhoEditor>
      <WhenEditor task={task} today={today} onEdit={onEdit}>
        <WhenValue
          isDisabled={isReadOnly}
          aria-label={`When is ${task.title}`}
          style={isOverdue ? { color: 'var(--brick)', fontWeight: 650 } : undefined}
        >
          {isOverdue ? `due ${shortDay(task.due, today)}` : spanWords(task.start, task.due, today)}
          {task.fixedDay === null ? '' : ' ●'}
        </WhenValue>
      </WhenEditor>
      {task.isGroup ? (
        <span className="wide">
          <Effort {...rolledUp(task, leaves)} />
        </span>
      ) : (
        <EffortEditor task={task} onEdit={onEdit}>
          <BlockValue className="wide" isDisabled={isReadOnly} aria-label={`Effort of ${task.title}`}>
            <Effort estimateMinutes={task.estimateMinutes} loggedMinutes={task.loggedMinutes} />
          </BlockValue>
        </EffortEditor>
      )}
      <Small className="wide" title={note.text} style={note.isBad ? { color: 'var(--brick)' } : undefined}>
        {note.text}
      </Small>
    </>
  );
});

function StatusCell({ task, onEdit, isFixed }: { readonly task: PlanTask; readonly onEdit: OnEdit; readonly isFixed: boolean }) {
  if (task.isGroup || isFixed) {
    return (
      <GroupGlyph>
        <TaskGlyph status={task.status} />
      </GroupGlyph>
    );
  }
  return (
    <StatusMenu task={task} onEdit={onEdit}>
      <FlushValue aria-label={`Change the status of ${task.title}`}>
        <TaskGlyph status={task.status} />
      </FlushValue>
    </StatusMenu>
  );
}

function TitleCell({ task }: { readonly task: PlanTask }) {
  return (
    <TitleText title={task.title} $isGroup={task.isGroup} $isDropped={task.status === 'dropped'}>
      {task.title}
      {task.seriesId === null ? null : <RepeatMark />}
      {task.labels.map((label) => (
        <RowLabel key={label}>{label}</RowLabel>
      ))}
    </TitleText>
  );
}

function whoWords(task: PlanTask): string {
  return task.kind === 'client' ? 'client' : task.assignees.map((person) => person.name).join(', ') || (task.role ?? 'unassigned');
}

function WhoMarks({ task }: { readonly task: PlanTask }) {
  if (task.kind === 'client') return <Tag>client</Tag>;
  if (task.assignees.length > 0) return task.assignees.map((person) => <PersonMark key={person.id} person={person} />);
  return task.role === null ? <Small>—</Small> : <ClippedTag title={task.role}>{task.role}</ClippedTag>;
}

type EffortOf = Pick<PlanTask, 'estimateMinutes' | 'loggedMinutes'>;

/** What the subtasks come to, with what was logged on the task itself. */
function rolledUp(task: PlanTask, leaves: readonly PlanTask[]): EffortOf {
  const estimates = leaves.flatMap((leaf) => (leaf.estimateMinutes === null ? [] : [leaf.estimateMinutes]));
  return {
    estimateMinutes: estimates.length === 0 ? null : estimates.reduce((sum, minutes) => sum + minutes, 0),
    loggedMinutes: leaves.reduce((sum, leaf) => sum + leaf.loggedMinutes, task.loggedMinutes),
  };
}

function Effort({ estimateMinutes, loggedMinutes }: EffortOf) {
  if (estimateMinutes === null) return <Small>{loggedMinutes > 0 ? `${hours(loggedMinutes)} h` : '—'}</Small>;
  const part = estimateMinutes === 0 ? 0 : (loggedMinutes * 100) / estimateMinutes;
  return (
    <TrackPlace>
      {hours(loggedMinutes)} / {hours(estimateMinutes)} h
      <Meter $part={part} />
    </TrackPlace>
  );
}

/** What matters next about a task: a missed day, a brief to send, how far its parts are, then what it waits for. */
function noteOf(task: PlanTask, leaves: readonly PlanTask[], today: IsoDay): { readonly text: string; readonly isBad: boolean } {
  const isOpen = task.status !== 'done' && task.status !== 'dropped';
  if (task.missedDays > 0) return { text: `short ${task.missedDays} d`, isBad: true };
  if (task.outside !== null && isOpen) {
    const isLate = task.outside.state === 'to-brief' && task.outside.briefBy < today;
    if (task.outside.state === 'to-brief') return { text: `brief by ${shortDay(task.outside.briefBy, today)}`, isBad: isLate };
    return { text: OUTSIDE_STATE_WORDS[task.outside.state].toLowerCase(), isBad: false };
  }
  if (task.isGroup) return { text: `${leaves.filter((leaf) => leaf.status === 'done').length} of ${leaves.length}`, isBad: false };
  if (task.openPredecessors > 0 && task.status === 'queued')
    return {
      text: task.after.length === 0 ? 'after other work' : `after ${task.after.map(({ number }) => number).join(', ')}`,
      isBad: false,
    };
  return { text: '', isBad: false };
}
