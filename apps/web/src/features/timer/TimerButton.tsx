import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { clockWords, useTimer } from './use-timer.ts';

/** Two bars while it runs, a point to the right while it does not: drawn, so that it looks the same everywhere. */
export function TimerSign({ isRunning, size = 11 }: { readonly isRunning: boolean; readonly size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden="true" fill="currentColor">
      {isRunning ? <path d="M2 1h3v10H2zM7 1h3v10H7z" /> : <path d="M2.5 1l8 5-8 5z" />}
    </svg>
  );
}

interface TimedTask {
  readonly id: string;
  readonly title: string;
}

/** Starting the timer on a task, pausing it, going on. */
export function TimerButton({ task }: { readonly task: TimedTask }) {
  const { timer, seconds, start, pause } = useTimer();
  const isHere = timer?.task.id === task.id;
  const isRunning = isHere && timer.isRunning;
  return (
    <Button
      isDisabled={timer === undefined}
      aria-label={isRunning ? `Pause the timer on ${task.title}` : isHere ? `Resume ${task.title}` : `Start the timer on ${task.title}`}
      onPress={() => void (isRunning ? pause() : start(task.id))}
    >
      <TimerSign isRunning={isRunning} size={9} /> {isHere ? clockWords(seconds) : 'Start timer'}
    </Button>
  );
}

const Square = styled(AriaButton)`
  display: grid;
  place-items: center;
  flex: none;
  width: 36px;
  height: 34px;
  border: 0;
  border-radius: 6px;
  background: var(--petrol);
  color: var(--on-petrol);
  cursor: pointer;
  &[data-hovered] {
    background: color-mix(in srgb, var(--petrol) 88%, var(--ink));
  }
`;
const Count = styled.span`
  font:
    650 23px 'Bricolage Grotesque Variable',
    sans-serif;
  font-variant-numeric: tabular-nums;
`;

/** The timer of the one thing now: a large button, and what it has counted. */
export function NowTimer({ task, part }: { readonly task: TimedTask; readonly part: 'button' | 'count' }) {
  const { timer, seconds, start, pause } = useTimer();
  const isHere = timer?.task.id === task.id;
  const isRunning = isHere && timer.isRunning;
  if (part === 'count') return isHere ? <Count role="timer">{clockWords(seconds)}</Count> : null;
  return (
    <Square
      aria-label={isRunning ? 'Pause the timer' : isHere ? 'Resume' : 'Start the timer'}
      onPress={() => void (isRunning ? pause() : start(task.id))}
    >
      <TimerSign isRunning={isRunning} size={14} />
    </Square>
  );
}
