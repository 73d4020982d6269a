import { PRIORITY, TASK_STATUS, TASK_STATUS_WORDS, type EngagementPlan, type PlanTask } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Tag } from '../../ui/marks.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { minutesTyped, Unreadable, wholeTyped } from '../../ui/form/typed.ts';
import { count, hourWords } from '../../words/format.ts';
import { leavesUnder, taskListOf } from '../task-list/task-list.ts';
import { bulkProposal, type BulkStep } from './bulk.ts';
import type { Proposal } from '../plan-change/use-proposal.ts';

const RemoveLabel = styled(Button)`
  min-height: 0;
  padding: 0 2px;
`;

const Line = styled.form`
  display: flex;
  align-items: end;
  gap: 6px;
  margin-bottom: 10px;
  > :first-child {
    flex: 1;
    min-width: 0;
  }
`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 10px;
`;

interface BulkProps {
  readonly plan: EngagementPlan;
  readonly chosen: readonly PlanTask[];
  readonly onPropose: (proposal: Proposal) => void;
  readonly onClose: () => void;
}

/** Changes many tasks at once: each step is previewed before it is applied, and one undo reverts all of it. */
export function BulkPanel({ plan, chosen, onPropose, onClose }: BulkProps) {
  const step = (what: BulkStep): void => onPropose(bulkProposal(chosen, what, plan));
  const labels = [...new Set(chosen.flatMap((task) => task.labels))];
  const minutes = leavesUnder(taskListOf(plan.tasks), chosen).reduce((sum, task) => sum + (task.estimateMinutes ?? 0), 0);
  return (
    <Sheet isLow label="Selected tasks" line={`${hourWords(minutes)} of effort`} onClose={onClose}>
      <SheetTitle>{count(chosen.length, 'task')} selected</SheetTitle>
      <Typed label="Move by working days (−2 moves earlier)" read={shiftTyped} onRead={(days) => step({ kind: 'shift', days })} />
      <Typed label="Effort of each, in hours" read={minutesTyped} onRead={(effort) => step({ kind: 'effort', minutes: effort })} />
      <ChoiceSteps plan={plan} onStep={step} />
      <Typed
        label="Add label"
        read={(text) => text.trim() || new Unreadable('Write a word or two.')}
        onRead={(label) => step({ kind: 'label', label, isRemoved: false })}
      />
      <LabelSteps labels={labels} onStep={step} />
      <SheetPart>
        <Button kind="danger" onPress={() => step({ kind: 'delete' })}>
          Remove from plan
        </Button>
      </SheetPart>
    </Sheet>
  );
}

interface StepsProps {
  readonly onStep: (step: BulkStep) => void;
}

/** What is chosen for all of them from a list. */
function ChoiceSteps({ plan, onStep }: StepsProps & Pick<BulkProps, 'plan'>) {
  const { data: crew } = useCrew();
  const nameIn = (list: readonly { readonly id: string; readonly name: string }[] | undefined, id: string): string =>
    list?.find((one) => one.id === id)?.name ?? '';
  const orNone = (id: string): string | null => (id === NOBODY ? null : id);
  return (
    <Pair>
      <Choose
        label="Who does them"
        placeholder="Choose"
        value={null}
        choices={
          crew && [
            { id: NOBODY, name: 'Nobody' },
            ...crew.people.map((person) => ({ id: person.id, name: person.name, detail: person.roles.join(', ') })),
          ]
        }
        onChange={(id) => onStep({ kind: 'assign', personId: orNone(id), name: nameIn(crew?.people, id).split(' ')[0] ?? '' })}
      />
      <Choose
        label="Status"
        value={null}
        choices={TASK_STATUS.filter((status) => status !== 'waiting').map((id) => ({ id, name: TASK_STATUS_WORDS[id] }))}
        onChange={(id) => onStep({ kind: 'status', status: id, words: TASK_STATUS_WORDS[id] })}
      />
      <Choose
        label="Priority"
        value={null}
        choices={PRIORITY.map((id) => ({ id, name: `${id[0]?.toUpperCase()}${id.slice(1)}` }))}
        onChange={(id) => onStep({ kind: 'priority', priority: id })}
      />
      <Choose
        label="Deliverable"
        value={null}
        choices={[{ id: NOBODY, name: 'None' }, ...plan.deliverables]}
        onChange={(id) => onStep({ kind: 'deliverable', id: orNone(id), name: nameIn(plan.deliverables, id) })}
      />
      <Choose
        label="Phase"
        value={null}
        choices={plan.phases.filter((phase) => phase.state !== 'over')}
        onChange={(id) => onStep({ kind: 'phase', id, name: nameIn(plan.phases, id) })}
      />
    </Pair>
  );
}

const Tags = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

/** Labels that some of them have, each to be removed from all. */
function LabelSteps({ labels, onStep }: StepsProps & { readonly labels: readonly string[] }) {
  if (labels.length === 0) return null;
  return (
    <Tags>
      {labels.map((label) => (
        <Tag key={label}>
          {label}{' '}
          <RemoveLabel
            kind="quiet"
            aria-label={`Remove the label ${label}`}
            onPress={() => onStep({ kind: 'label', label, isRemoved: true })}
          >
            ✕
          </RemoveLabel>
        </Tag>
      ))}
    </Tags>
  );
}

const NOBODY = 'nobody';

/** Days to move by; moving by none is no change. */
function shiftTyped(text: string): number | Unreadable {
  const days = wholeTyped(text);
  return days === 0 ? new Unreadable('Write a whole number of days, other than 0.') : days;
}

interface TypedProps<Value> {
  readonly label: string;
  readonly read: (text: string) => Value | Unreadable;
  readonly onRead: (value: Value) => void;
}

/** A value that is typed, then previewed. */
function Typed<Value>({ label, read, onRead }: TypedProps<Value>) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string>();
  return (
    <Line
      aria-label={label}
      onSubmit={(event) => {
        event.preventDefault();
        const value = read(text);
        setFault(value instanceof Unreadable ? value.message : undefined);
        if (!(value instanceof Unreadable)) onRead(value);
      }}
    >
      <Field label={label} value={text} onChange={setText} isTight error={fault} />
      <Button type="submit">Preview</Button>
    </Line>
  );
}
