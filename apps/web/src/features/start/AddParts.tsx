import { Stack } from '../../ui/text.tsx';
import type { DryRun } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useEngagements, usePlan } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Loading } from '../../ui/layout.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { KeptChoice } from '../template/KeptPicker.tsx';
import { PhasePicker } from '../template/PhasePicker.tsx';
import type { StartState } from './use-start-form.ts';

const Choices = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 8px 14px;
`;

const PhaseForm = styled.div`
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin-top: 8px;
`;

interface PartsProps {
  readonly state: StartState;
  readonly run: DryRun;
}
interface FormProps extends PartsProps {
  readonly onClose: () => void;
}

/** What this client needs besides: phases of other templates, tasks that went well elsewhere. */
export function AddParts({ state, run }: PartsProps) {
  return (
    <Choices>
      <FormButton button={<Button>Add phases from a template…</Button>} label="Add phases from a template" width={330}>
        {(close) => (
          <PhasePicker
            exceptId={run.template.id}
            without={run.phases.map((phase) => phase.id)}
            row={run.phases.map(({ id, name }) => ({ id, name }))}
            onPick={({ id }, phaseIds, behindPhaseId) => {
              const place = behindPhaseId === undefined ? {} : { behindPhaseId };
              state.change({ addPhases: [...state.form.addPhases, { templateId: id, phaseIds: [...phaseIds], ...place }] });
              close();
            }}
          />
        )}
      </FormButton>
      <FormButton button={<Button>Add a task from an engagement…</Button>} label="Add a task from an engagement" width={330}>
        {(close) => <TaskForm state={state} run={run} onClose={close} />}
      </FormButton>
      <FormButton button={<Button>Add saved task…</Button>} label="Add saved task" width={330}>
        {(close) => <KeptForm state={state} run={run} onClose={close} />}
      </FormButton>
    </Choices>
  );
}

function KeptForm({ state, run, onClose }: FormProps) {
  const [templateId, setTemplate] = useState<string | null>(null);
  const [phaseId, setPhase] = useState<string | null>(run.phases[0]?.id ?? null);
  return (
    <Stack gap={8}>
      <KeptChoice value={templateId} onChange={setTemplate} />
      <IntoPhase run={run} value={phaseId} onChange={setPhase} />
      <Button
        kind="primary"
        isDisabled={templateId === null || phaseId === null}
        onPress={() => {
          if (templateId === null || phaseId === null) return;
          state.change({ addKept: [...state.form.addKept, { templateId, phaseId }] });
          onClose();
        }}
      >
        Add here
      </Button>
    </Stack>
  );
}

interface IntoProps {
  readonly run: DryRun;
  readonly value: string | null;
  readonly onChange: (id: string) => void;
}

const IntoPhase = ({ run, value, onChange }: IntoProps) => (
  <Choose
    label="Add to"
    isTight
    choices={run.phases.map((phase) => ({ id: phase.id, name: phase.name }))}
    value={value}
    onChange={onChange}
  />
);

function TaskForm({ state, run, onClose }: FormProps) {
  const { data: open } = useEngagements();
  const { data: finished } = useEngagements({ isFinished: true });
  const [engagementId, setEngagement] = useState<string | null>(null);
  const choices = open && finished && [...open, ...finished].map(({ id, name, client }) => ({ id, name, detail: client.name }));
  return (
    <>
      <Choose label="Of" isTight choices={choices} value={engagementId} onChange={setEngagement} />
      {engagementId === null ? null : (
        <TaskChoice key={engagementId} engagementId={engagementId} state={state} run={run} onClose={onClose} />
      )}
    </>
  );
}

function TaskChoice({ engagementId, state, run, onClose }: FormProps & { readonly engagementId: string }) {
  const { data: plan } = usePlan(engagementId);
  const [taskId, setTask] = useState<string | null>(null);
  const [phaseId, setPhase] = useState<string | null>(null);
  if (plan === undefined) return <Loading rows={2} />;
  const phaseOf = new Map(plan.phases.map((phase) => [phase.id, phase.name]));
  const isThere = (id: string): boolean => run.tasks.some((task) => task.id === id);
  const choices = plan.tasks
    .filter((task) => task.status !== 'dropped' && !isThere(task.id))
    .map((task) => ({ id: task.id, name: task.title, detail: phaseOf.get(task.phaseId) ?? '' }));
  const choose = (id: string): void => {
    setTask(id);
    // Most often it goes where it was.
    const was = phaseOf.get(plan.tasks.find((task) => task.id === id)?.phaseId ?? '');
    setPhase(run.phases.find((phase) => phase.name === was)?.id ?? phaseId);
  };
  const add = (): void => {
    if (taskId === null || phaseId === null) return;
    state.change({ addTasks: [...state.form.addTasks, { taskId, phaseId }] });
    onClose();
  };
  return (
    <PhaseForm>
      <Choose label="The task" isTight choices={choices} value={taskId} onChange={choose} />
      <IntoPhase run={run} value={phaseId} onChange={setPhase} />
      <Button kind="primary" isDisabled={taskId === null || phaseId === null} onPress={add}>
        Add here
      </Button>
    </PhaseForm>
  );
}
