import type { CalendarEffect, PreviewCalendar } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import styled from 'styled-components';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { Note, Toned } from '../../ui/text.tsx';
import { count, dayWords, hourWords, shortDay } from '../../words/format.ts';

const List = styled.ul`
  display: flex;
  flex-direction: column;
  gap: 4px;
  max-height: 190px;
  margin: 0 0 8px;
  padding: 7px 9px;
  overflow: auto;
  border: 1px solid var(--petrol);
  border-radius: 6px;
  font-size: 12.5px;
`;

interface EffectProps {
  readonly change: PreviewCalendar;
  readonly today: IsoDay;
}

/** What another calendar would do to everything open, before it is saved. */
export function CalendarEffectNote({ change, today }: EffectProps) {
  const { data, error } = useSWR<CalendarEffect, ApiError>(
    ['calendar-effect', JSON.stringify(change)],
    () => call<CalendarEffect>('POST', '/calendar/preview', change),
    { revalidateOnFocus: false, keepPreviousData: true },
  );
  if (error !== undefined) return <Note $isSmall>{error.message}</Note>;
  if (data === undefined) return <Note $isSmall>Working out the effect…</Note>;
  const { engagements, overloads } = data;
  if (engagements.length + overloads.length === 0) return <Note $isSmall>No plan changes, and nobody is overloaded.</Note>;
  return (
    <List aria-label="What this would do" aria-live="polite" tabIndex={0}>
      {engagements.map((engagement) => (
        <Toned key={engagement.id} as="li" $tone={isBad(engagement) ? 'bad' : null}>
          <strong>{engagement.name}</strong>: {lineWords(engagement, today)}
        </Toned>
      ))}
      {overloads.map(({ person, minutes, firstDay }) => (
        <Toned key={person.id} as="li" $tone="bad">
          {person.name} would be {hourWords(minutes)} over from {dayWords(firstDay, today)}
        </Toned>
      ))}
    </List>
  );
}

type Line = CalendarEffect['engagements'][number];

const isBad = ({ finish, promise, fixed }: Line): boolean =>
  fixed.length > 0 || (promise !== null && finish.to > promise && finish.to > finish.from);

function lineWords({ finish, promise, moves, fixed }: Line, today: IsoDay): string {
  const kept = promise === null ? '' : finish.to > promise ? `; promised ${shortDay(promise, today)}` : '; the promised date is met';
  return [
    ...(finish.from === finish.to ? [] : [`finishes ${shortDay(finish.to, today)}, was ${shortDay(finish.from, today)}${kept}`]),
    ...(moves === 0 ? [] : [`${count(moves, 'task')} ahead ${moves === 1 ? 'moves' : 'move'}`]),
    ...fixed.map((task) => `“${task.title}” is fixed to ${dayWords(task.day, today)}, which would be closed`),
  ].join('; ');
}
