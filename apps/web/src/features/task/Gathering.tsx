import { perform } from '../../session/perform.ts';
import type { EngagementPlan, PlanTask, TaskSheet } from '@crew/contract';
import { useState } from 'react';
import { DialogTrigger } from 'react-aria-components';
import { call } from '../../api/client.ts';
import { usePlan } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { Tag, TaskGlyph } from '../../ui/marks.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { leavesUnder, taskListOf } from '../task-list/task-list.ts';
import { hourWords } from '../../words/format.ts';
import { additionOf } from './add-task.ts';
import { EditorPanel, ValueButton, type OnEdit } from './editors.tsx';

interface EditorProps {
  readonly task: TaskSheet;
  readonly onEdit: OnEdit;
}

const NONE = 'none';

/** The thing the client gets that a task is for; a new one is named where it is missed. */
export function DeliverableChoice({ task, onEdit }: EditorProps) {
  const { data: plan } = usePlan(task.engagement.id);
  const [name, setName] = useState<string | null>(null);
  const save = (deliverableId: string | null): void => void onEdit({ deliverableId });
  const add = async (): Promise<void> => {
    const path = `/engagements/${task.engagement.id}/deliverables`;
    const added = await perform({ send: () => call<{ id: string }>('POST', path, { name }) });
    if (!added.isDone) return;
    setName(null);
    save(added.answer.id);
  };
  if (name !== null) {
    return (
      <form
        style={{ display: 'flex', gap: 6 }}
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <Field label="" aria-label="Name of the new deliverable" isTight value={name} onChange={setName} autoFocus />
        <Button type="submit" isDisabled={name.trim() === ''}>
          Add
        </Button>
        <Button kind="quiet" onPress={() => setName(null)}>
          Not now
        </Button>
      </form>
    );
  }
  const choices = plan && [{ id: NONE, name: 'None' }, ...plan.deliverables, { id: 'new', name: 'A new one…' }];
  return (
    <Choose
      label="Deliverable"
      isLabelHidden
      choices={choices}
      value={task.deliverableId ?? NONE}
      onChange={(id) => (id === 'new' ? setName('') : save(id === NONE ? null : id))}
    />
  );
}

/** Labels as words between commas. */
export function LabelsEditor({ task, onEdit }: EditorProps) {
  return (
    <DialogTrigger>
      <ValueButton aria-label={`Labels: ${task.labels.join(', ') || 'none'}`}>
        {task.labels.length === 0 ? (
          <span style={{ color: 'var(--ink-2)' }}>none</span>
        ) : (
          task.labels.map((label) => <Tag key={label}>{label}</Tag>)
        )}
      </ValueButton>
      <PopoverPanel>
        <EditorPanel aria-label={`Labels of ${task.title}`}>
          {({ close }) => <LabelsForm task={task} onEdit={onEdit} onClose={close} />}
        </EditorPanel>
      </PopoverPanel>
    </DialogTrigger>
  );
}

/** Words between commas as labels, each once. */
export const readLabels = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((label) => label.trim())
      .filter((label) => label !== ''),
  ),
];

function LabelsForm({ task, onEdit, onClose }: EditorProps & { readonly onClose: () => void }) {
  const [text, setText] = useState(task.labels.join(', '));
  const save = async (): Promise<void> => {
    if (await onEdit({ labels: readLabels(text) })) onClose();
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Field label="Labels, with commas between" value={text} onChange={setText} autoFocus />
      <Button kind="primary" type="submit">
        Save
      </Button>
    </form>
  );
}

interface PartsProps extends Pick<EditorProps, 'task'> {
  readonly onOpen: (taskId: string) => void;
}

/** The subtasks of a task with what they come to, and a field for one more. */
export function Subtasks({ task, onOpen }: PartsProps) {
  const { data: plan } = usePlan(task.engagement.id);
  const { today } = useWho();
  const [title, setTitle] = useState('');
  const parts = (plan?.tasks ?? []).filter((other) => other.parentId === task.id);
  const add = async (): Promise<void> => {
    const { isDone } = await perform(additionOf(task.engagement.id, { phaseId: task.phaseId, parentId: task.id, title }, today));
    if (isDone) setTitle((now) => (now === title ? '' : now));
  };
  const isOver = task.status === 'done' || task.status === 'dropped';
  if (isOver && parts.length === 0) return null;
  return (
    <SheetPart>
      <h3>
        Subtasks <span style={{ color: 'var(--ink-2)', fontWeight: 400 }}>{parts.length === 0 ? '' : sumWords(parts, plan)}</span>
      </h3>
      {parts.map((part) => (
        <ValueButton key={part.id} onPress={() => onOpen(part.id)} style={{ display: 'flex', margin: '0 -5px' }}>
          <TaskGlyph status={part.status} /> {part.title}
        </ValueButton>
      ))}
      {isOver ? null : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (title.trim() !== '') void add();
          }}
        >
          <Field aria-label="Add a subtask" label="" isTight placeholder="Add a subtask" value={title} onChange={setTitle} />
        </form>
      )}
    </SheetPart>
  );
}

/** "2 of 5 done · 14 h" over all tasks below, at any depth, that have none below them. */
function sumWords(parts: readonly PlanTask[], plan: EngagementPlan | undefined): string {
  const leaves = leavesUnder(taskListOf(plan?.tasks ?? []), parts).filter((leaf) => leaf.status !== 'dropped');
  const done = leaves.filter((leaf) => leaf.status === 'done').length;
  const minutes = leaves.reduce((sum, leaf) => sum + (leaf.estimateMinutes ?? 0), 0);
  return `${done} of ${leaves.length} done · ${hourWords(minutes)}`;
}
