import { CompleteEngagement, OPEN_TASKS, type EngagementPlan, type PlanChanged, type PlanEffect } from '@crew/contract';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { useEngagements } from '../../api/queries.ts';
import { performOrThrow } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { Muted } from '../../ui/layout.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { Trouble } from '../../ui/text.tsx';
import { count } from '../../words/format.ts';
import { EffectWords } from '../task/EffectWords.tsx';

interface CompleteProps {
  readonly plan: EngagementPlan;
  readonly onClose: () => void;
}

type OpenTasks = CompleteEngagement['openTasks'];
type Typed = {
  readonly openTasks: OpenTasks;
  readonly moveTo: string | null;
  readonly reason: string;
};

const WORDS: Readonly<Record<OpenTasks, { readonly name: string; readonly detail: string }>> = {
  leave: { name: 'Leave open', detail: 'they stay open here but on nobody’s desk' },
  complete: { name: 'Complete', detail: 'done today' },
  move: { name: 'Move to another engagement', detail: 'with their people, steps and the effort that is left' },
};

/** Completes an engagement in one step: it asks about open tasks, and for a reason when a gate is not clear. */
export function CompleteSheet({ plan, onClose }: CompleteProps) {
  const { engagement } = plan;
  const left = plan.tasks.filter((task) => !task.isGroup && task.status !== 'done' && task.status !== 'dropped');
  const unclear = plan.phases.filter(({ state, gate }) => state === 'running' && gate.clear < gate.all);
  const typed: Typed = { openTasks: 'leave', moveTo: null, reason: '' };
  const form = useInputForm({
    rules: CompleteEngagement,
    typed,
    input: ({ openTasks, moveTo, reason }) => ({
      version: engagement.version,
      openTasks: left.length === 0 ? 'leave' : openTasks,
      ...(openTasks === 'move' && moveTo !== null ? { moveTo } : {}),
      ...(reason.trim() === '' ? {} : { reason }),
    }),
    send: async (input) => {
      await performOrThrow({
        send: () => call<PlanChanged>('POST', `/engagements/${engagement.id}/complete`, input),
        said: `“${engagement.name}” is completed.`,
        undo: ({ changeId }) => changeId,
      });
      onClose();
    },
  });
  const moveTo = form.values.openTasks === 'move' ? form.values.moveTo : null;
  return (
    <Sheet label="Complete engagement" line={engagement.client.name} onClose={onClose}>
      <SheetTitle>Complete engagement</SheetTitle>
      <Muted>What is still running ends today. The engagement moves to Finished and can be reopened.</Muted>
      <SheetPart>
        <SmallForm form={form} action="Complete engagement" onCancel={onClose}>
          {left.length === 0 ? null : <OpenTaskFields form={form} engagementId={engagement.id} left={left.length} />}
          {moveTo === null ? null : <MoveEffect engagement={engagement} moveTo={moveTo} />}
          {unclear.length === 0 ? null : (
            <Field
              {...form.bind('reason')}
              label={`${unclear.map(({ name, gate }) => `${name}: ${count(gate.all - gate.clear, 'check')} open`).join(', ')}. Why complete anyway?`}
            />
          )}
        </SmallForm>
      </SheetPart>
    </Sheet>
  );
}

interface FieldsProps {
  readonly form: InputForm<Typed>;
  readonly engagementId: string;
  readonly left: number;
}

function OpenTaskFields({ form, engagementId, left }: FieldsProps) {
  const isMoving = form.values.openTasks === 'move';
  const { data: others } = useEngagements({ roleIds: isMoving ? null : undefined });
  return (
    <>
      <Choose
        {...form.bind('openTasks')}
        label={`${count(left, 'task is', 'tasks are')} still open`}
        choices={OPEN_TASKS.map((id) => ({ id, ...WORDS[id] }))}
      />
      {isMoving ? (
        <Choose
          {...form.bind('moveTo')}
          label="Engagement they move to"
          choices={others?.filter(({ id }) => id !== engagementId).map(({ id, name, client }) => ({ id, name, detail: client.name }))}
        />
      ) : null}
    </>
  );
}

/** What the tasks that go on elsewhere would move there. */
function MoveEffect({ engagement, moveTo }: { readonly engagement: EngagementPlan['engagement']; readonly moveTo: string }) {
  const { today } = useWho();
  const path = `/engagements/${engagement.id}/complete/preview`;
  const body = { version: engagement.version, openTasks: 'move', moveTo };
  const { data: effect, error } = useSWR<PlanEffect, ApiError>([path, JSON.stringify(body)], () => call<PlanEffect>('POST', path, body), {
    revalidateOnFocus: false,
  });
  return (
    <>
      {effect === undefined ? null : <EffectWords effect={effect} today={today} />}
      <Trouble words={error?.message} />
    </>
  );
}
