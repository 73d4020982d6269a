import type { TemplateTaskView } from '@crew/contract';
import type { TemplateContent, TemplateTask } from '@crew/core';
import styled, { css } from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Muted } from '../../ui/layout.tsx';
import { TaskGlyph } from '../../ui/marks.tsx';
import { Toned } from '../../ui/text.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { hours, hourWords, parseHours, spanWords, count } from '../../words/format.ts';
import { leavesUnder, partsOf, taskListOf } from '../task-list/task-list.ts';
import { anchorWords, whenOf } from './anchor-words.ts';
import { editTask } from './content.ts';
import { Grid, PlaceBar, type LineProps } from './outline-parts.tsx';

const DaysCell = styled(TextCell)`
  width: 58px;
`;

const TaskRow = styled(Grid)<{ $isOpen: boolean }>`
  min-height: 29px;
  border-top: 1px solid var(--line-2);
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'transparent')};
  > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Name = styled.span<{ $depth: number }>`
  display: flex;
  align-items: center;
  gap: 8px;
  padding-left: ${({ $depth }) => $depth * 16}px;
`;
const cut = css`
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;
const Cut = styled.span`
  ${cut}
`;
const CutNote = styled(Muted)`
  ${cut}
`;
const CutButton = styled(Button)`
  ${cut}
  display: block;
  max-width: 100%;
  color: var(--ink-2);
  font-weight: 400;
`;

/** A task as the working copy has it, or as the dry run does. */
export type AnyTask = TemplateTask | TemplateTaskView;

const isContent = (task: AnyTask): task is TemplateTask => 'helperRoleIds' in task;

type TaskLineProps = LineProps & { readonly task: AnyTask; readonly depth: number; readonly dates: TemplateTaskView | undefined };

/** A task with who, how much and when, beside its place in the dry run. */
export function TaskLine({ task, depth, dates, scale, today, editor, isOpen, onOpen }: TaskLineProps) {
  const isClients = task.kind === 'client';
  return (
    <TaskRow $isOpen={isOpen}>
      <Name $depth={depth} title={task.title}>
        <TaskGlyph status="queued" />
        {editor === null ? (
          <Cut>{task.title}</Cut>
        ) : (
          <TextCell
            label={`Title of ${task.title}`}
            value={task.title}
            onSave={(title) => (title.trim() === '' ? false : editor.edit(editTask(task.id, { title: title.trim() })))}
          />
        )}
      </Name>
      {isClients ? (
        <Toned $tone="waiting" className="wide">
          the client
        </Toned>
      ) : (
        <span className="wide" title={dates?.person === null ? undefined : dates?.person?.name}>
          {dates?.person?.name ?? dates?.role ?? '—'}
        </span>
      )}
      <EffortCell task={task} editor={editor} />
      <WhenCell task={task} editor={editor} onOpen={onOpen} />
      {dates === undefined ? null : (
        <PlaceBar
          scale={scale}
          start={dates.start}
          finish={dates.finish}
          tone={isClients ? 'client' : 'task'}
          title={`${spanWords(dates.start, dates.finish, today)} · ${count(dates.slack, 'day')} of slack`}
        />
      )}
    </TaskRow>
  );
}

type CellProps = Pick<LineProps, 'editor'> & { readonly task: AnyTask };

/** Its effort, typed where it has one of its own. */
function EffortCell({ task, editor }: CellProps) {
  const { minutes, isSum } = effortOf(task, editor?.content.tasks ?? []);
  if (editor === null || isSum || task.kind === 'client') return <span>{minutes === null ? '—' : hourWords(minutes)}</span>;
  return (
    <span>
      <DaysCell
        label={`Effort of ${task.title}, in hours`}
        value={minutes === null ? '' : `${hours(minutes)} h`}
        placeholder="—"
        onSave={(text) => {
          const typed = text.trim() === '' ? null : parseHours(text);
          if (text.trim() !== '' && typed === null) return false;
          editor.edit(editTask(task.id, { estimateMinutes: typed }));
        }}
      />
    </span>
  );
}

/** When it is, in a sentence; who edits opens all it presets with it. */
function WhenCell({ task, editor, onOpen }: CellProps & Pick<LineProps, 'onOpen'>) {
  const when = anchorWords(isContent(task) ? whenOf(task, editor?.content as TemplateContent) : task);
  if (editor === null) {
    return (
      <CutNote className="wide" title={when}>
        {when}
      </CutNote>
    );
  }
  return (
    <span className="wide" title={when}>
      <CutButton kind="text" aria-label={`${task.title}: when, who and all it presets`} onPress={() => onOpen(task.id)}>
        {when}
      </CutButton>
    </span>
  );
}

/** What a task takes; with subtasks it is what they take. */
function effortOf(task: AnyTask, all: readonly TemplateTask[]): { readonly minutes: number | null; readonly isSum: boolean } {
  const list = taskListOf<AnyTask>(all);
  const isSum = partsOf(list, task.id).length > 0 || ('isGroup' in task && task.isGroup);
  if (!isSum) return { minutes: task.estimateMinutes, isSum };
  return { minutes: leavesUnder(list, [task]).reduce((sum, leaf) => sum + (leaf.estimateMinutes ?? 0), 0), isSum };
}
