import type { DryRun } from '@crew/contract';
import { useState } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import { useEngagements, usePlan, useTemplateContent, useTemplates } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, PopoverPanel } from '../../ui/Field.tsx';
import { Loading } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count } from '../../words/format.ts';
import type { StartState } from './use-start-form.ts';

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
    <div style={{ display: 'flex', flexWrap: 'wrap', gap: 8, padding: '8px 14px' }}>
      <DialogTrigger>
        <Button>Add phases from a template…</Button>
        <PopoverPanel style={{ maxHeight: 'none' }}>
          <Dialog aria-label="Add phases from a template" style={{ outline: 'none', padding: 10, width: 330 }}>
            {({ close }) => <PhasesForm state={state} run={run} onClose={close} />}
          </Dialog>
        </PopoverPanel>
      </DialogTrigger>
      <DialogTrigger>
        <Button>Add a task from an engagement…</Button>
        <PopoverPanel style={{ maxHeight: 'none' }}>
          <Dialog aria-label="Add a task from an engagement" style={{ outline: 'none', padding: 10, width: 330 }}>
            {({ close }) => <TaskForm state={state} run={run} onClose={close} />}
          </Dialog>
        </PopoverPanel>
      </DialogTrigger>
    </div>
  );
}

function PhasesForm({ state, run, onClose }: FormProps) {
  const { data: templates = [] } = useTemplates();
  const [sourceId, setSource] = useState<string | null>(null);
  const choices = templates
    .filter((template) => template.id !== run.template.id && !template.isArchived && template.kind !== 'task')
    .map(({ id, name, phases, taskCount }) => ({ id, name, detail: `${count(phases.length, 'phase')}, ${count(taskCount, 'task')}` }));
  return (
    <>
      <Choose label="From" isTight choices={choices} value={sourceId} onChange={setSource} />
      {sourceId === null ? null : <PhaseTicks key={sourceId} sourceId={sourceId} state={state} run={run} onClose={onClose} />}
    </>
  );
}

function PhaseTicks({ sourceId, state, run, onClose }: FormProps & { readonly sourceId: string }) {
  const { data: source } = useTemplateContent(sourceId);
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  if (source === undefined) return <Loading rows={2} />;
  const phases = source.content.phases.filter((phase) => !run.phases.some((there) => there.id === phase.id));
  if (phases.length === 0) return <p style={{ marginTop: 8 }}>All of it is in there already.</p>;
  const ids = chosen ?? (phases.length === 1 ? phases.map((phase) => phase.id) : []);
  const turn = (id: string): void => setChosen(ids.includes(id) ? ids.filter((other) => other !== id) : [...ids, id]);
  const add = (): void => {
    state.change({ addPhases: [...state.form.addPhases, { templateId: sourceId, phaseIds: [...ids] }] });
    onClose();
  };
  return (
    <>
      <ul style={{ margin: '8px 0', maxHeight: 260, overflow: 'auto' }}>
        {phases.map((phase) => (
          <li key={phase.id}>
            <Tick isSelected={ids.includes(phase.id)} onChange={() => turn(phase.id)}>
              {phase.name}
            </Tick>
          </li>
        ))}
      </ul>
      <Button kind="primary" isDisabled={ids.length === 0} onPress={add}>
        Put {count(ids.length, 'phase')} at the end
      </Button>
    </>
  );
}

function TaskForm({ state, run, onClose }: FormProps) {
  const { data: open = [] } = useEngagements(false);
  const { data: finished = [] } = useEngagements(true);
  const [engagementId, setEngagement] = useState<string | null>(null);
  const choices = [...open, ...finished].map(({ id, name, client }) => ({ id, name, detail: client.name }));
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
    <div style={{ display: 'flex', flexDirection: 'column', gap: 8, marginTop: 8 }}>
      <Choose label="The task" isTight choices={choices} value={taskId} onChange={choose} />
      <Choose
        label="Put it into"
        isTight
        choices={run.phases.map((phase) => ({ id: phase.id, name: phase.name }))}
        value={phaseId}
        onChange={setPhase}
      />
      <Button kind="primary" isDisabled={taskId === null || phaseId === null} onPress={add}>
        Put it there
      </Button>
    </div>
  );
}
