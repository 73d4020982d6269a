import type { DryRun, RoleNeed, Suggestion } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useDryRun } from '../../api/queries.ts';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Muted, Panel, PanelHead } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count, dayWords, hours, hourWords, spanWords } from '../../words/format.ts';
import type { StartState } from './use-start-form.ts';

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

const NOBODY = 'nobody';

/** Everything that will be made: its end, its people, its phases and tasks; each can be left out. */
export function Review({ state, run, today }: { readonly state: StartState; readonly run: DryRun; readonly today: string }) {
  return (
    <Stack aria-busy={state.isComputing}>
      {state.problem === undefined ? null : <ErrorNote error={state.problem} />}
      <Sum aria-label="What it comes to" aria-live="polite">
        <span>
          {state.form.from === 'promise' ? 'start by' : 'starts'} <strong>{dayWords(run.start, today)}</strong>
        </span>
        <span>
          ends <strong>{dayWords(run.finish, today)}</strong>
        </span>
        <span>
          <strong>{count(run.tasks.length, 'task')}</strong> in {count(run.phases.length, 'phase')}, {hourWords(run.effortMinutes)}
        </span>
        <span>skips {count(run.closedDays, 'closed day')}</span>
        <PromiseWords run={run} today={today} />
        {run.overloads.map((over) => (
          <span key={over.person.id} style={{ color: 'var(--brick)' }}>
            {over.person.name.split(' ')[0]} goes over by {hourWords(over.minutes)}, from {dayWords(over.firstDay, today)}
          </span>
        ))}
        {run.overloads.length === 0 ? <span style={{ color: 'var(--moss)' }}>overloads nobody</span> : null}
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
          <h2>What will be made</h2>
          <Muted>take the tick away from what this client does not need</Muted>
        </PanelHead>
        <Parts state={state} run={run} today={today} />
      </Panel>
    </Stack>
  );
}

function PromiseWords({ run, today }: { readonly run: DryRun; readonly today: string }) {
  if (run.promise === null) return null;
  const isKept = run.finish <= run.promise;
  return (
    <span style={{ color: isKept ? 'var(--moss)' : 'var(--brick)' }}>
      {isKept ? `keeps the promise of ${dayWords(run.promise, today)}` : `misses the promise of ${dayWords(run.promise, today)}`}
    </span>
  );
}

function RoleLine({ need, onChoose }: { readonly need: RoleNeed; readonly onChoose: (personId: string | null) => void }) {
  const choices = [
    ...need.suggestions.map((suggestion) => ({ id: suggestion.person.id, name: suggestion.person.name, detail: reasonWords(suggestion) })),
    { id: NOBODY, name: 'Nobody yet', detail: 'the tasks wait for somebody to be chosen' },
  ];
  const chosen = need.suggestions.find((suggestion) => suggestion.person.id === need.chosen?.id);
  return (
    <li>
      <h3>
        {need.role}{' '}
        <span style={{ fontWeight: 400, color: 'var(--ink-2)' }}>
          {count(need.tasks, 'task')}, {hourWords(need.minutes)}
        </span>
      </h3>
      <Choose
        label={need.role}
        isLabelHidden
        choices={choices}
        value={need.chosen?.id ?? NOBODY}
        onChange={(id) => onChoose(id === NOBODY ? null : id)}
      />
      <small style={chosen?.isFull ? { color: 'var(--brick)' } : undefined}>
        {chosen === undefined ? 'nobody yet' : reasonWords(chosen)}
      </small>
    </li>
  );
}

/** The reason for a suggestion, in words. */
function reasonWords({ freeMinutes, isFull, pastEngagements }: Suggestion): string {
  const room = isFull ? `${hours(-freeMinutes)} h short in that time` : `${hours(freeMinutes)} h free beside it`;
  return pastEngagements === 0 ? room : `${room} · knows the client, ${count(pastEngagements, 'engagement')}`;
}

/** The template as it stands whole, with the dates of what is kept. */
function Parts({ state, run, today }: { readonly state: StartState; readonly run: DryRun; readonly today: string }) {
  const { data: whole } = useDryRun(run.template.id, '');
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const kept = new Map([...run.phases, ...run.tasks].map((part) => [part.id, part]));
  const shown = whole ?? run;
  const turn = (id: string): void =>
    setOpen((before) => (before.has(id) ? new Set([...before].filter((other) => other !== id)) : new Set([...before, id])));
  return (
    <ul>
      {shown.phases.map((phase) => {
        const tasks = shown.tasks.filter((task) => task.phaseId === phase.id);
        const isKept = !state.form.withoutPhases.includes(phase.id);
        const dates = kept.get(phase.id);
        return (
          <li key={phase.id}>
            <ul>
              <Line $isPhase>
                <Tick isSelected={isKept} onChange={() => state.toggle('withoutPhases', phase.id)}>
                  {phase.name}
                </Tick>
                <span className="wide">{phase.role}</span>
                <button
                  type="button"
                  style={{
                    border: 0,
                    background: 'transparent',
                    color: 'var(--petrol)',
                    cursor: 'pointer',
                    textAlign: 'left',
                    padding: 0,
                    fontSize: 12.5,
                  }}
                  className="wide"
                  aria-expanded={open.has(phase.id)}
                  onClick={() => turn(phase.id)}
                >
                  {open.has(phase.id) ? 'hide' : count(tasks.length, 'task')}
                </button>
                <span>{dates === undefined ? 'left out' : spanWords(dates.start, dates.finish, today)}</span>
              </Line>
              {open.has(phase.id) && isKept
                ? tasks.map((task) => {
                    const dated = kept.get(task.id);
                    return (
                      <Line key={task.id}>
                        <Tick
                          isSelected={!state.form.withoutTasks.includes(task.id)}
                          onChange={() => state.toggle('withoutTasks', task.id)}
                        >
                          {task.title}
                        </Tick>
                        <span className="wide">{task.kind === 'client' ? 'the client' : task.role}</span>
                        <span className="wide">{task.estimateMinutes === null ? '' : hourWords(task.estimateMinutes)}</span>
                        <span>{dated === undefined ? 'left out' : spanWords(dated.start, dated.finish, today)}</span>
                      </Line>
                    );
                  })
                : null}
            </ul>
          </li>
        );
      })}
    </ul>
  );
}
