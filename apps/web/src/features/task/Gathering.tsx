import { Light, Note, Quiet, Trouble } from '../../ui/text.tsx';
import { perform, performOrThrow, type Performed } from '../../session/perform.ts';
import { AddDeliverable, EditTask, type EngagementPlan, type PlanEffect, type PlanTask, type TaskSheet } from '@crew/contract';
import { useState } from 'react';
import { DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { usePlan } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Inline } from '../../ui/layout.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { OneMore } from '../../ui/form/OneMore.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { wordsTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Tag, TaskGlyph } from '../../ui/marks.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { leavesUnder, taskListOf } from '../task-list/task-list.ts';
import { count, hourWords } from '../../words/format.ts';
import { additionOf, tasksOf } from './add-task.ts';
import { EffectWords } from './EffectWords.tsx';
import { EditorPanel, ValueButton, type OnEdit } from './editors.tsx';

const WideValue = styled(ValueButton)`
  display: flex;
  margin: 0 -5px;
`;

interface EditorProps {
  readonly task: TaskSheet;
  readonly onEdit: OnEdit;
}

const NONE = 'none';

/** The thing the client gets that a task is for; a new one is named where it is missed. */
export function DeliverableChoice({ task, onEdit }: EditorProps) {
  const { data: plan } = usePlan(task.engagement.id);
  const [isNew, setNew] = useState(false);
  const save = (deliverableId: string | null): void => void onEdit({ deliverableId });
  if (isNew) {
    const added = (id: string): void => {
      setNew(false);
      save(id);
    };
    return <NewDeliverable engagementId={task.engagement.id} onAdded={added} onCancel={() => setNew(false)} />;
  }
  const choices = plan && [{ id: NONE, name: 'None' }, ...plan.deliverables, { id: 'new', name: 'New deliverable…' }];
  return (
    <Choose
      label="Deliverable"
      isLabelHidden
      choices={choices}
      value={task.deliverableId ?? NONE}
      onChange={(id) => (id === 'new' ? setNew(true) : save(id === NONE ? null : id))}
    />
  );
}

interface NewDeliverableProps {
  readonly engagementId: string;
  readonly onAdded: (id: string) => void;
  readonly onCancel: () => void;
}

function NewDeliverable({ engagementId, onAdded, onCancel }: NewDeliverableProps) {
  const form = useInputForm({
    rules: AddDeliverable,
    typed: { name: '' },
    input: (typed) => typed,
    send: async (input) => {
      const path = `/engagements/${engagementId}/deliverables`;
      onAdded((await performOrThrow({ send: () => call<{ id: string }>('POST', path, input) })).id);
    },
  });
  return (
    <SmallForm form={form} action="Add" onCancel={onCancel}>
      <Field {...form.bind('name')} label="" aria-label="Name of the new deliverable" isTight autoFocus />
    </SmallForm>
  );
}

/** Labels as words between commas. */
export function LabelsEditor({ task, onEdit }: EditorProps) {
  return (
    <DialogTrigger>
      <ValueButton aria-label={`Labels: ${task.labels.join(', ') || 'none'}`}>
        {task.labels.length === 0 ? <Quiet>none</Quiet> : task.labels.map((label) => <Tag key={label}>{label}</Tag>)}
      </ValueButton>
      <PopoverPanel>
        <EditorPanel aria-label={`Labels of ${task.title}`}>
          {({ close }) => <LabelsForm task={task} onEdit={onEdit} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function LabelsForm({ task, onEdit, onClose }: EditorProps & { readonly onClose: () => void }) {
  const form = useInputForm({
    rules: EditTask,
    typed: { labels: task.labels.join(', ') },
    input: ({ labels }) => ({ version: task.version, labels: wordsTyped(labels) }),
    send: async ({ labels = [] }) => {
      if (await onEdit({ labels })) onClose();
    },
  });
  return (
    <SmallForm form={form} action="Save">
      <Field {...form.bind('labels')} label="Labels, separated by commas" autoFocus />
    </SmallForm>
  );
}

interface PartsProps extends Pick<EditorProps, 'task'> {
  readonly onOpen: (taskId: string) => void;
}

/** A subtask that waits to be applied; the field is answered then. */
interface Asked {
  readonly title: string;
  readonly answer: (added: { readonly isDone: boolean }) => void;
}

/** The subtasks of a task with what they come to, and a field for one more. */
export function Subtasks({ task, onOpen }: PartsProps) {
  const { data: plan } = usePlan(task.engagement.id);
  const { today } = useWho();
  const parts = (plan?.tasks ?? []).filter((other) => other.parentId === task.id);
  const [asked, setAsked] = useState<Asked | null>(null);
  const add = (title: string): Promise<Performed<unknown>> =>
    perform(additionOf(task.engagement.id, { phaseId: task.phaseId, parentId: task.id, title }, today));
  // The first one takes the task's own length and hours out of the plan: that is seen first.
  const ask = (title: string): Promise<{ readonly isDone: boolean }> =>
    task.isGroup ? add(title) : new Promise((answer) => setAsked({ title, answer }));
  const decide = async (isApplied: boolean): Promise<void> => {
    asked?.answer(isApplied ? await add(asked.title) : { isDone: false });
    setAsked(null);
  };
  const isOver = task.status === 'done' || task.status === 'dropped';
  if (isOver && parts.length === 0) return null;
  return (
    <SheetPart>
      <h3>
        Subtasks <Light>{parts.length === 0 ? '' : sumWords(parts, plan)}</Light>
      </h3>
      {parts.map((part) => (
        <WideValue key={part.id} onPress={() => onOpen(part.id)}>
          <TaskGlyph status={part.status} /> {part.title}
        </WideValue>
      ))}
      {isOver ? null : <OneMore label="Add a subtask" onAdd={ask} />}
      {asked === null ? null : <FirstSubtask task={task} title={asked.title} onDecide={(isApplied) => void decide(isApplied)} />}
    </SheetPart>
  );
}

interface FirstProps extends Pick<EditorProps, 'task'> {
  readonly title: string;
  readonly onDecide: (isApplied: boolean) => void;
}

/** What a first subtask would do: its task is then as long as its parts, and its own hours no longer count. */
function FirstSubtask({ task, title, onDecide }: FirstProps) {
  const { today } = useWho();
  const path = `${tasksOf(task.engagement.id)}/preview`;
  const { data: effect, error } = useSWR<PlanEffect, ApiError>([path, task.id, title], () =>
    call<PlanEffect>('POST', path, { phaseId: task.phaseId, parentId: task.id, title }),
  );
  const own = task.estimateMinutes === null ? count(task.days, 'day') : `${count(task.days, 'day')} and ${hourWords(task.estimateMinutes)}`;
  return (
    <div role="group" aria-label={`Add ${title}`}>
      <Note $isSmall>Its subtasks then set dates and effort; its own {own} no longer count.</Note>
      <Trouble words={error?.message ?? null} />
      {effect === undefined ? null : <EffectWords effect={effect} today={today} taskId={task.id} />}
      <Inline as="span">
        <Button kind="primary" onPress={() => onDecide(true)}>
          Apply
        </Button>
        <Button kind="quiet" onPress={() => onDecide(false)}>
          Cancel
        </Button>
      </Inline>
    </div>
  );
}

/** "2 of 5 done · 14 h" over all tasks below, at any depth, that have none below them. */
function sumWords(parts: readonly PlanTask[], plan: EngagementPlan | undefined): string {
  const leaves = leavesUnder(taskListOf(plan?.tasks ?? []), parts).filter((leaf) => leaf.status !== 'dropped');
  const done = leaves.filter((leaf) => leaf.status === 'done').length;
  const minutes = leaves.reduce((sum, leaf) => sum + (leaf.estimateMinutes ?? 0), 0);
  return `${done} of ${leaves.length} done · ${hourWords(minutes)}`;
}
