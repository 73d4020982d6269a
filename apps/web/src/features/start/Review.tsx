import { Light, Toned } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { DryRun, RoleNeed, Suggestion } from '@crew/contract';
import styled from 'styled-components';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Muted, Panel, PanelHead } from '../../ui/layout.tsx';
import { count, dayWords, hours, hourWords } from '../../words/format.ts';
import { Tick } from '../../ui/Tick.tsx';
import { AddParts } from './AddParts.tsx';
import { LatePromise } from './LatePromise.tsx';
import { Parts } from './Parts.tsx';
import type { StartState } from './use-start-form.ts';
import { Unestimated } from '../../ui/Unestimated.tsx';

const Stack = styled.div`
  display: flex;
  flex-direction: column;
  gap: 14px;
`;
const Sum = styled(Panel)`
  display: flex;
  flex-wrap: wrap;
  gap: 5px 22px;
  padding: 11px 14px;
  strong {
    font-weight: 650;
  }
`;
const Roles = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 12px 16px;
  padding: 12px 14px 14px;
  small {
    display: block;
    margin-top: 3px;
    font-size: 12px;
    color: var(--ink-2);
  }
  h3 {
    margin-bottom: 4px;
  }
`;
const Things = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 18px;
  padding: 8px 14px;
  border-bottom: 1px solid var(--line-2);
  span {
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;
const NOBODY = 'nobody';
const NO_HOURS = 'has no working hours in that time';

/** Everything that will be made: its end, its people, its phases and tasks; each can be left out. */
export function Review({ state, run, today }: { readonly state: StartState; readonly run: DryRun; readonly today: IsoDay }) {
  return (
    <Stack aria-busy={state.isComputing}>
      {state.problem === undefined ? null : <ErrorNote error={state.problem} />}
      {run.late === null || run.promise === null ? null : <LatePromise late={run.late} promise={run.promise} today={today} state={state} />}
      <Sum aria-label="Result" aria-live="polite">
        <span>
          {startWords(run.start < today, state.form.from)} <strong>{dayWords(run.start, today)}</strong>
        </span>
        <span>
          ends <strong>{dayWords(run.finish, today)}</strong>
        </span>
        <span>
          <strong>{count(run.tasks.length, 'task')}</strong> in {count(run.phases.length, 'phase')}
          {run.effortMinutes === 0 ? '' : `, ${hourWords(run.effortMinutes)}`}
        </span>
        <Unestimated {...run.unestimated} />
        <span>skips {count(run.closedDays, 'closed day')}</span>
        <PromiseWords run={run} today={today} />
        {run.overloads.map((over) => (
          <Toned key={over.person.id} $tone="bad">
            {over.person.name.split(' ')[0]} would be {hourWords(over.minutes)} over from {dayWords(over.firstDay, today)}
          </Toned>
        ))}
        {run.overloads.length === 0 ? <Toned $tone="good">overloads nobody</Toned> : null}
      </Sum>
      <Panel>
        <PanelHead>
          <h2>Who does it</h2>
          <Muted>suggested by role, free hours and who knows the client</Muted>
        </PanelHead>
        <Roles>
          {run.roles.map((need) => (
            <RoleLine
              key={need.roleId}
              need={need}
              onChoose={(personId) => state.change({ roles: { ...state.form.roles, [need.roleId]: personId } })}
            />
          ))}
        </Roles>
      </Panel>
      <Panel>
        <PanelHead>
          <h2>What will be created</h2>
          <Muted>untick what this client does not need</Muted>
        </PanelHead>
        <Deliverables state={state} run={run} />
        <AddParts state={state} run={run} />
        <Parts state={state} run={run} today={today} />
      </Panel>
    </Stack>
  );
}

/** The things the client gets; one that is not wanted takes along all that is done for it alone. */
function Deliverables({ state, run }: { readonly state: StartState; readonly run: DryRun }) {
  const counts = new Map<string, number>();
  for (const task of [
    ...(state.whole ?? run).tasks,
    ...run.tasks.filter((task) => !state.whole?.tasks.some((other) => other.id === task.id)),
  ])
    if (task.deliverable !== null && !task.isGroup) counts.set(task.deliverable, (counts.get(task.deliverable) ?? 0) + 1);
  if (counts.size === 0) return null;
  return (
    <Things role="group" aria-label="Deliverables">
      <span>The client gets</span>
      {[...counts].map(([name, tasks]) => (
        <Tick
          key={name}
          isSelected={!state.form.withoutDeliverables.includes(name)}
          onChange={() => state.toggle('withoutDeliverables', name)}
        >
          {name} <span>{count(tasks, 'task')}</span>
        </Tick>
      ))}
    </Things>
  );
}

/** What the first day is to somebody who reads it today. */
function startWords(isPast: boolean, from: StartState['form']['from']): string {
  if (from === 'start') return 'starts';
  return isPast ? 'would have had to start by' : 'start by';
}

function PromiseWords({ run, today }: { readonly run: DryRun; readonly today: IsoDay }) {
  // That it cannot be kept is said above, with what can be done.
  if (run.promise === null || run.late !== null) return null;
  const isKept = run.finish <= run.promise;
  return (
    <Toned $tone={isKept ? 'good' : 'bad'}>
      {isKept ? `meets the promised date, ${dayWords(run.promise, today)}` : `misses the promised date, ${dayWords(run.promise, today)}`}
    </Toned>
  );
}

function RoleLine({ need, onChoose }: { readonly need: RoleNeed; readonly onChoose: (personId: string | null) => void }) {
  const isAway = need.chosen !== null && !need.suggestions.some((suggestion) => suggestion.person.id === need.chosen?.id);
  const choices = [
    ...(isAway && need.chosen !== null ? [{ id: need.chosen.id, name: need.chosen.name, detail: NO_HOURS }] : []),
    ...need.suggestions.map((suggestion) => ({ id: suggestion.person.id, name: suggestion.person.name, detail: reasonWords(suggestion) })),
    { id: NOBODY, name: 'Unassigned', detail: 'its tasks stay unassigned' },
  ];
  const chosen = need.suggestions.find((suggestion) => suggestion.person.id === need.chosen?.id);
  return (
    <li>
      <h3>
        {need.role}{' '}
        <Light>
          {count(need.tasks, 'task')}, {hourWords(need.minutes)}
        </Light>
      </h3>
      <Choose
        label={need.role}
        isLabelHidden
        choices={choices}
        value={need.chosen?.id ?? NOBODY}
        onChange={(id) => onChoose(id === NOBODY ? null : id)}
      />
      <Toned as="small" $tone={chosen?.isFull || isAway ? 'bad' : null}>
        {isAway ? NO_HOURS : chosen === undefined ? 'unassigned' : reasonWords(chosen)}
      </Toned>
    </li>
  );
}

/** The reason for a suggestion, in words. */
function reasonWords({ freeMinutes, isFull, pastEngagements }: Suggestion): string {
  const room = isFull ? `would be ${hours(-freeMinutes)} h over` : `${hours(freeMinutes)} h free afterwards`;
  return pastEngagements === 0 ? room : `${room} · ${count(pastEngagements, 'engagement')} with them`;
}
