import type { IsoDay } from '@crew/core';
import type { LatePromise as Late, Omission } from '@crew/contract';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Muted, Panel } from '../../ui/layout.tsx';
import { count, dayWords, hourWords } from '../../words/format.ts';
import type { StartState } from './use-start-form.ts';

const Note = styled(Panel)`
  padding: 11px 14px;
  border-left: 4px solid var(--brick);
`;
const Choices = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
`;
const Parts = styled.ul`
  margin-top: 10px;
  li {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 2px 10px;
    padding: 3px 0;
  }
`;

const LIST = { phase: 'withoutPhases', deliverable: 'withoutDeliverables', task: 'withoutTasks' } as const;

interface LateProps {
  readonly late: Late;
  readonly promise: IsoDay;
  readonly today: IsoDay;
  readonly state: Pick<StartState, 'change' | 'toggle'>;
}

/** Why a promise cannot be kept: by how much, the earliest finish, and what could be left out for it. */
export function LatePromise({ late, promise, today, state }: LateProps) {
  const { start, finish, days, omissions } = late;
  return (
    <Note role="note" aria-label="The promised date cannot be met">
      <p>
        <strong>The promised date {dayWords(promise, today)} cannot be met.</strong> Starting {dayWords(start, today)}, the work ends{' '}
        <strong>{dayWords(finish, today)}</strong> at the earliest, {count(days, 'working day')} too late.
      </p>
      <Choices>
        <Button onPress={() => state.change({ from: 'start', start, promise: finish })}>Promise {dayWords(finish, today)} instead</Button>
        <Button onPress={() => state.change({ from: 'start', start, promise })}>Start {dayWords(start, today)} anyway</Button>
      </Choices>
      {omissions.length === 0 ? null : (
        <Parts aria-label="What could be left out">
          {omissions.map((part) => (
            <li key={`${part.kind} ${part.id}`}>
              <Button kind="text" onPress={() => state.toggle(LIST[part.kind], part.id)}>
                Leave out {part.name}
              </Button>
              <Muted>{omissionWords(part)}</Muted>
            </li>
          ))}
        </Parts>
      )}
    </Note>
  );
}

const KIND_WORDS: Readonly<Record<Omission['kind'], string>> = { phase: 'phase', deliverable: 'deliverable', task: 'task' };

const omissionWords = ({ kind, minutes, days, isEnough }: Omission): string =>
  [
    KIND_WORDS[kind],
    ...(minutes === 0 ? [] : [hourWords(minutes)]),
    `${count(days, 'working day')} earlier`,
    ...(isEnough ? ['the promised date is met'] : []),
  ].join(' · ');
