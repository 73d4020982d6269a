import { Toned } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { DeskTask } from '@crew/contract';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Panel, PanelHead, Muted } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { NO_DAY_TYPED, dayTyped } from '../../ui/form/typed.ts';
import type { Reading } from '../../ui/form/use-input-form.ts';
import { phone } from '../../ui/tokens.ts';
import { dayWords, hourWords } from '../../words/format.ts';
import { WhoEditor } from '../task/editors.tsx';
import { PreviewedForm } from '../task/PreviewedForm.tsx';
import { useChangeForm } from '../task/use-change-form.ts';
import type { TaskChange, TaskEditing } from '../task/use-task-edit.ts';
import type { Arranging } from './use-arrange.ts';

const Row = styled.li`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px 11px;
  padding: 8px 14px;
  border-top: 1px solid var(--line-2);
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;
const Title = styled(AriaButton)`
  flex: 1 1 220px;
  min-width: 0;
  padding: 0;
  border: 0;
  background: transparent;
  text-align: left;
  cursor: pointer;
`;
const Answers = styled.span`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px;
  ${phone} {
    width: 100%;
  }
`;

interface OverdueProps {
  readonly tasks: readonly DeskTask[];
  readonly today: IsoDay;
  /** Those that are planned for today already. */
  readonly forToday: ReadonlySet<string>;
  readonly mayGive: boolean;
  readonly arranging: Arranging;
  readonly editing: TaskEditing;
  readonly onOpen: (taskId: string) => void;
}

/** Overdue work is decided on first: do it, move it, reassign it, or drop it. */
export function OverdueAsk({ tasks, today, onOpen, ...props }: OverdueProps) {
  return (
    <Panel $space="below" aria-label="Overdue">
      <PanelHead $isPlain>
        <Toned as="h2" $tone="bad">
          Overdue: decide what to do
        </Toned>
        <Muted>{tasks.length}</Muted>
      </PanelHead>
      <ul>
        {tasks.map((task) => (
          <Row key={task.id}>
            <HueMark $hue={task.engagement.client.hue} />
            <Title onPress={() => onOpen(task.id)}>
              {task.title}
              <small>
                {task.engagement.name} · <Toned $tone="bad">was due {dayWords(task.due, today)}</Toned> ·{' '}
                {task.estimateMinutes === null ? 'no estimate' : `${hourWords(task.remainingMinutes)} left`}
                {task.holdsUp > 0 ? ` · holds up ${task.holdsUp}` : ''}
              </small>
            </Title>
            <OneAnswer task={task} today={today} {...props} />
          </Row>
        ))}
      </ul>
    </Panel>
  );
}

function OneAnswer({
  task,
  today,
  forToday,
  mayGive,
  arranging,
  editing,
}: Omit<OverdueProps, 'tasks' | 'onOpen'> & { readonly task: DeskTask }) {
  const whoTask = { id: task.id, title: task.title, assignees: task.assignees };
  return (
    <Answers role="group" aria-label={`Decide what to do with ${task.title}`}>
      {forToday.has(task.id) ? (
        <Muted>planned for today</Muted>
      ) : (
        <Button onPress={() => void arranging.place({ id: task.id, title: task.title, placed: null }, today)}>Do it today</Button>
      )}
      {mayGive ? (
        <>
          <FormButton button={<Button>Move…</Button>} label={`Move ${task.title}`} width={320}>
            {(close) => <MoveForm task={task} today={today} editing={editing} onClose={close} />}
          </FormButton>
          <WhoEditor task={whoTask} onEdit={(change) => editing.edit(task, change)}>
            <Button>Reassign…</Button>
          </WhoEditor>
        </>
      ) : null}
      <Button kind="danger" onPress={() => void editing.edit(task, { status: 'dropped' })}>
        Drop
      </Button>
    </Answers>
  );
}

/** Another day to begin on: what that moves is shown before it is saved. */
function MoveForm({
  task,
  today,
  editing,
  onClose,
}: {
  readonly task: DeskTask;
  readonly today: IsoDay;
  readonly editing: TaskEditing;
  readonly onClose: () => void;
}) {
  const { form, isChanged, seen } = useChangeForm({
    task,
    typed: { notBefore: NO_DAY_TYPED },
    change: ({ notBefore }): Reading<TaskChange> => (notBefore === '' ? {} : { notBefore: dayTyped(notBefore) }),
    onEdit: (change) => editing.edit(task, change),
    onDone: onClose,
  });
  return (
    <PreviewedForm {...{ form, seen, isChanged }} taskId={task.id} action="Apply" onCancel={onClose}>
      <DayField {...form.bind('notBefore')} label="Starts on" today={today} autoFocus />
    </PreviewedForm>
  );
}
