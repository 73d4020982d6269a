import type { IsoDay } from '@crew/core';
import { Trouble } from '../../ui/text.tsx';
import type { PlanEffect } from '@crew/contract';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { narrow } from '../../ui/tokens.ts';
import { count, dayWords, hourWords, shortDay } from '../../words/format.ts';
import type { Proposing } from './use-proposal.ts';

const Words = styled.p`
  margin-top: 10px;
`;

const Moves = styled.ul`
  margin-top: 10px;
`;

const Card = styled.aside`
  position: sticky;
  top: 58px;
  padding: 14px 15px 15px;
  border: 1px solid var(--petrol);
  border-radius: 8px;
  background: var(--panel);
  h2 {
    margin-bottom: 4px;
  }
  > p {
    color: var(--ink-2);
  }
  ${narrow} {
    position: fixed;
    z-index: 25;
    inset: auto 10px 70px 10px;
    top: auto;
    max-height: 60vh;
    overflow: auto;
    box-shadow: 0 6px 22px rgb(10 30 30 / 18%);
  }
`;
const Line = styled.li<{ $isBad?: boolean }>`
  padding: 9px 0 10px;
  border-top: 1px solid var(--line-2);
  strong {
    display: block;
    font-weight: 650;
    color: ${({ $isBad }) => ($isBad ? 'var(--brick)' : 'var(--ink)')};
  }
  small {
    font-size: 12px;
    color: var(--ink-2);
  }
`;
const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 10px;
`;

/** A preview of a change, with the button that applies it. `more` are other ways to apply it. */
export function ProposalPanel({ proposing, more }: { readonly proposing: Proposing; readonly more?: ReactNode }) {
  const { proposal, effect, problem, apply, putBack } = proposing;
  const { today } = useWho();
  if (proposal === null) return null;
  return (
    <Card aria-label="What would change" aria-live="polite">
      <h2>{proposal.title}</h2>
      <p>{proposal.note} Not saved yet.</p>
      {problem !== null ? (
        <Trouble words={problem} />
      ) : effect === undefined ? (
        <Words>Working out what moves…</Words>
      ) : (
        <Moves>
          <EffectLines effect={effect} today={today} />
        </Moves>
      )}
      <Actions>
        <Button kind="primary" isDisabled={effect === undefined || problem !== null} onPress={() => void apply()}>
          Apply
        </Button>
        {more}
        <Button kind="quiet" onPress={putBack}>
          Cancel
        </Button>
      </Actions>
    </Card>
  );
}

/** Each thing that matters in a line: what moves, what clashes, who is overloaded, what happens to the promise. */
function EffectLines({ effect, today }: { readonly effect: PlanEffect; readonly today: IsoDay }) {
  const { moves, held, newConflicts, overloads, briefs } = effect;
  return (
    <>
      <Line>
        <strong>{moves.length === 0 ? 'No tasks move' : count(moves.length, 'task moves', 'tasks move')}</strong>
        <small>{moves.length === 0 ? 'dates stay the same' : movedWords(effect, today)}</small>
      </Line>
      {held.map((task) => (
        <Line key={task.id} $isBad>
          <strong>
            “{task.title}” cannot start before {dayWords(task.start, today)}
          </strong>
          <small>{task.by === null ? 'its phase starts then' : `it waits for “${task.by}”`}</small>
        </Line>
      ))}
      {newConflicts.map((conflict) => (
        <Line key={conflict.id} $isBad>
          <strong>
            “{conflict.title}”{conflict.fixedDay === null ? '' : ` on ${shortDay(conflict.fixedDay, today)}`} misses its date by{' '}
            {count(conflict.days, 'day')}
          </strong>
          <small>{conflict.fixedDay === null ? 'it would end too late' : 'the day is fixed and stays'}</small>
        </Line>
      ))}
      {overloads.map((over) => (
        <Line key={over.person.id} $isBad>
          <strong>
            {over.person.name.split(' ')[0]} would be {hourWords(over.minutes)} over
          </strong>
          <small>from {dayWords(over.firstDay, today)}</small>
        </Line>
      ))}
      {briefs.map((brief) => (
        <Line key={brief.id} $isBad={brief.isLate}>
          <strong>
            Brief for “{brief.title}” by {dayWords(brief.to, today)}
          </strong>
          <small>{brief.isLate ? 'that day has passed' : brief.from === null ? 'new' : `was ${dayWords(brief.from, today)}`}</small>
        </Line>
      ))}
      <PromiseLine effect={effect} today={today} />
    </>
  );
}

function movedWords({ moves }: PlanEffect, today: IsoDay): string {
  const [first] = moves;
  if (first !== undefined && moves.length === 1)
    return `“${first.title}” to ${shortDay(first.to.start, today)} – ${shortDay(first.to.due, today)}`;
  const names = moves.slice(0, 3).map((move) => move.title);
  return `${names.join(', ')}${moves.length > 3 ? ` and ${moves.length - 3} more` : ''}`;
}

function PromiseLine({ effect, today }: { readonly effect: PlanEffect; readonly today: IsoDay }) {
  const { promise, promiseSlack, finish } = effect;
  if (promise === null || promiseSlack === null) {
    return (
      <Line>
        <strong>Finishes {shortDay(finish.to, today)}</strong>
        <small>{finish.from === finish.to ? 'as before' : `was ${shortDay(finish.from, today)}`}; no promised date</small>
      </Line>
    );
  }
  const { from, to } = promiseSlack;
  return (
    <Line $isBad={to < 0}>
      <strong>Promise {shortDay(promise, today)}</strong>
      <small>{to < 0 ? lateWords(from, to) : keptWords(from, to)}</small>
    </Line>
  );
}

const lateWords = (from: number, to: number): string =>
  from === to
    ? `missed by ${count(-to, 'day')}, as before`
    : `missed by ${count(-to, 'day')}, ${from < 0 ? `${-from} before` : 'met before'}`;

function keptWords(from: number, to: number): string {
  if (from === to) return `met, ${count(to, 'day')} of slack as before`;
  return from < 0
    ? `met again, with ${count(to, 'day')} of slack`
    : `met, slack ${to < from ? 'falls' : 'grows'} from ${count(from, 'day')} to ${to}`;
}
