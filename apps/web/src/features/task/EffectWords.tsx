import type { IsoDay } from '@crew/core';
import type { PlanEffect } from '@crew/contract';
import { Toned } from '../../ui/text.tsx';
import styled from 'styled-components';
import { count, dayWords, hourWords, shortDay } from '../../words/format.ts';

const List = styled.ul`
  display: flex;
  flex-direction: column;
  gap: 5px;
  padding: 7px 9px;
  border: 1px solid var(--petrol);
  border-radius: 6px;
  font-size: 12.5px;
  strong {
    font-weight: 650;
  }
`;
const Bad = styled.li`
  color: var(--brick);
`;

interface EffectProps {
  readonly effect: PlanEffect;
  readonly today: IsoDay;
  /** The one task that is changed, when it is one. */
  readonly taskId?: string | null;
}

/** What a change would do, in sentences. Nothing has been saved yet. */
export function EffectWords({ effect, today, taskId = null }: EffectProps) {
  const others = effect.moves.filter((move) => move.id !== taskId);
  const own = effect.moves.find((move) => move.id === taskId);
  const { finish, promise } = effect;
  return (
    <List aria-label="What this would do" aria-live="polite">
      {own === undefined ? null : (
        <li>
          This task: {shortDay(own.from.start, today)} – {shortDay(own.from.due, today)} becomes{' '}
          <strong>{`${shortDay(own.to.start, today)} – ${shortDay(own.to.due, today)}`}</strong>
        </li>
      )}
      <li>
        <strong>{movesWords(others.length, taskId === null ? '' : 'other ')}</strong>
        {others.length === 0
          ? ''
          : `: ${others
              .slice(0, 3)
              .map((move) => move.title)
              .join(', ')}${others.length > 3 ? ' …' : ''}`}
      </li>
      {effect.held.map((task) => (
        <Bad key={task.id}>
          It cannot start before {dayWords(task.start, today)}
          {task.by === null ? '' : `: it waits for “${task.by}”`}
        </Bad>
      ))}
      {effect.newConflicts.map((conflict) => (
        <Bad key={conflict.id}>
          “{conflict.title}” misses its date by {count(conflict.days, 'day')}
        </Bad>
      ))}
      {effect.overloads.map((over) => (
        <Bad key={over.person.id}>
          {over.person.name.split(' ')[0]} would be {hourWords(over.minutes)} over from {dayWords(over.firstDay, today)}
        </Bad>
      ))}
      {effect.briefs.map((brief) => (
        <Toned key={brief.id} as="li" $tone={brief.isLate ? 'bad' : null}>
          Brief for “{brief.title}” by {dayWords(brief.to, today)}
          {brief.isLate ? ', which has passed' : ''}
        </Toned>
      ))}
      {finish.from === finish.to ? (
        <li>
          Finishes {shortDay(finish.to, today)}, as before
          <Spare slack={effect.promiseSlack} />
        </li>
      ) : (
        <FinishMoves from={finish.from} to={finish.to} promise={promise} today={today} />
      )}
    </List>
  );
}

const movesWords = (moves: number, other: string): string =>
  moves === 0 ? `No ${other}task moves` : count(moves, `${other}task moves`, `${other}tasks move`);

function FinishMoves({
  from,
  to,
  promise,
  today,
}: {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly promise: IsoDay | null;
  readonly today: IsoDay;
}) {
  const Line = promise !== null && to > promise ? Bad : 'li';
  return (
    <Line>
      Finishes <strong>{shortDay(to, today)}</strong>, was {shortDay(from, today)}
      {promise === null ? '' : to > promise ? `; promised ${shortDay(promise, today)}` : '; the promised date is met'}
    </Line>
  );
}

/** How much is to spare, where another promise makes it another. */
function Spare({ slack }: { readonly slack: PlanEffect['promiseSlack'] }) {
  if (slack === null || slack.from === slack.to) return null;
  return (
    <>
      :{' '}
      <Toned as="strong" $tone={slack.to < 0 ? 'bad' : null}>
        {spareWords(slack.to)}
      </Toned>
      , was {spareWords(slack.from)}
    </>
  );
}

const spareWords = (days: number): string =>
  days === 0 ? 'nothing to spare' : days > 0 ? `${count(days, 'day')} to spare` : `${count(-days, 'day')} too late`;
