import { Light, Quiet } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { DryRun } from '@crew/contract';
import { useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Tick } from '../../ui/Tick.tsx';
import { count, hourWords, spanWords } from '../../words/format.ts';
import { inOneRow } from './in-one-row.ts';
import type { StartState } from './use-start-form.ts';

const Line = styled.li<{ $isPhase?: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px 60px 146px;
  gap: 10px;
  align-items: center;
  min-height: 29px;
  padding: 0 14px 0 ${({ $isPhase }) => ($isPhase ? '14px' : '38px')};
  border-top: 1px solid var(--line-2);
  background: ${({ $isPhase }) => ($isPhase ? 'var(--sunk)' : 'transparent')};
  font-weight: ${({ $isPhase }) => ($isPhase ? 650 : 400)};
  > span {
    font-weight: 400;
    font-size: 12.5px;
    color: var(--ink-2);
  }
  @media (max-width: 720px) {
    grid-template-columns: minmax(0, 1fr) 110px;
    > .wide {
      display: none;
    }
  }
`;
const Turn = styled(AriaButton)`
  min-height: 26px;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--petrol);
  font-size: 12.5px;
  text-align: left;
  cursor: pointer;
`;

type Phase = DryRun['phases'][number];
type Task = DryRun['tasks'][number];

/** The template as it stands whole and what was added to it, with the dates of what is kept. */
export function Parts({ state, run, today }: { readonly state: StartState; readonly run: DryRun; readonly today: IsoDay }) {
  const shown = state.whole ?? run;
  const ofTemplate = new Set([...shown.phases, ...shown.tasks].map((part) => part.id));
  const addedTasks = run.tasks.filter((task) => !ofTemplate.has(task.id));
  const kept = new Map([...run.phases, ...run.tasks].map((part) => [part.id, part]));
  const datesOf = (id: string): string => {
    const part = kept.get(id);
    return part === undefined ? 'left out' : spanWords(part.start, part.finish, today);
  };
  return (
    <ul>
      {inOneRow(shown.phases, run.phases).map((phase) => (
        <PhaseParts
          key={phase.id}
          phase={phase}
          tasks={[...shown.tasks, ...addedTasks].filter((task) => task.phaseId === phase.id)}
          state={state}
          isAdded={!ofTemplate.has(phase.id)}
          datesOf={datesOf}
        />
      ))}
    </ul>
  );
}

interface PhasePartsProps {
  readonly phase: Phase;
  readonly tasks: readonly Task[];
  readonly state: StartState;
  readonly isAdded: boolean;
  readonly datesOf: (id: string) => string;
}

function PhaseParts({ phase, tasks, state, isAdded, datesOf }: PhasePartsProps) {
  const { form } = state;
  const [wanted, setOpen] = useState<boolean | null>(null);
  // What was just put into it is seen without asking.
  const isOpen = wanted ?? [...form.addTasks, ...form.addKept].some((added) => added.phaseId === phase.id);
  const isKept = !form.withoutPhases.includes(phase.id);
  return (
    <li>
      <ul>
        <Line $isPhase>
          <Tick isSelected={isKept} onChange={() => (isAdded ? state.removePhase(phase.id) : state.toggle('withoutPhases', phase.id))}>
            {phase.name}
            {isAdded ? <Light> · added</Light> : null}
          </Tick>
          <span className="wide">{phase.role}</span>
          <Turn className="wide" aria-expanded={isOpen} onPress={() => setOpen(!isOpen)}>
            {isOpen ? 'hide' : count(tasks.length, 'task')}
          </Turn>
          <span>{datesOf(phase.id)}</span>
        </Line>
        {isOpen && isKept ? tasks.map((task) => <TaskPart key={task.id} task={task} state={state} dates={datesOf(task.id)} />) : null}
      </ul>
    </li>
  );
}

function TaskPart({ task, state, dates }: { readonly task: Task; readonly state: StartState; readonly dates: string }) {
  const { form } = state;
  const isAdded = form.addTasks.some((added) => added.taskId === task.id);
  return (
    <Line>
      <Tick
        isSelected={!form.withoutTasks.includes(task.id)}
        onChange={() => (isAdded ? state.removeTask(task.id) : state.toggle('withoutTasks', task.id))}
      >
        {task.title}
        {isAdded ? <Quiet> · added</Quiet> : null}
      </Tick>
      <span className="wide">{task.kind === 'client' ? 'the client' : (task.person?.name ?? task.role)}</span>
      <span className="wide">{task.estimateMinutes === null ? '' : hourWords(task.estimateMinutes)}</span>
      <span>{dates}</span>
    </Line>
  );
}
