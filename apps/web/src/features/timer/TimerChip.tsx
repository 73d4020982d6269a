import { lazy, Suspense, useCallback } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { useSearchParams } from 'react-router';
import styled from 'styled-components';
import { useKey } from '../../ui/use-key.ts';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { Loading } from '../../ui/layout.tsx';
import { notify } from '../../ui/toasts.tsx';
import { phone } from '../../ui/tokens.ts';
import { TimerSign } from './TimerButton.tsx';
import { clockWords, useTimer } from './use-timer.ts';

/** Loaded when it is asked for: the bar stands on every page, and forms take a library of their own. */
const StopForm = lazy(() => import('./StopForm.tsx').then((module) => ({ default: module.StopForm })));

const Pill = styled.span<{ $tone: 'running' | 'paused' | 'left' }>`
  display: flex;
  align-items: stretch;
  min-width: 0;
  max-width: 260px;
  margin-left: auto;
  border-radius: 6px;
  color: ${({ $tone }) => ($tone === 'left' ? '#1b1208' : '#fff')};
  background: ${({ $tone }) => ($tone === 'left' ? 'var(--ember)' : $tone === 'running' ? '#0f5f58' : 'var(--bar-2)')};
  button {
    display: flex;
    align-items: center;
    min-height: 26px;
    padding: 0 8px;
    border: 0;
    background: transparent;
    color: inherit;
    font-size: 12.5px;
    cursor: pointer;
  }
  ${phone} {
    .title {
      display: none;
    }
  }
`;
const Words = styled(AriaButton)`
  display: flex;
  gap: 8px;
  min-width: 0;
  align-items: center;
  font-variant-numeric: tabular-nums;
  .title {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

/** One's running timer in the bar, wherever one is; nothing while there is none. `t` starts it on the open task, pauses it, goes on. */
export function TimerChip() {
  const timing = useTimer();
  const { timer, seconds, start, pause } = timing;
  const [search] = useSearchParams();
  const open = search.get('task');
  const turn = useCallback(() => {
    if (timer === undefined) return;
    if (timer === null && (open === null || open.includes(','))) return notify('Open a task to start its timer.');
    void (timer?.isRunning === true ? pause() : start(timer?.task.id ?? (open as string)));
  }, [timer, open, pause, start]);
  useKey('t', turn);
  if (timer === undefined || timer === null) return null;
  // What is paused was not left running, however long it had run.
  const isLeftRunning = timer.isLeft && timer.isRunning;
  const tone = timer.isLeft ? 'left' : timer.isRunning ? 'running' : 'paused';
  return (
    <Pill $tone={tone} role="group" aria-label="Timer">
      {timer.isLeft ? null : (
        <AriaButton aria-label={timer.isRunning ? `Pause ${timer.task.title}` : `Resume ${timer.task.title}`} onPress={turn}>
          <TimerSign isRunning={timer.isRunning} />
        </AriaButton>
      )}
      <FormButton
        label={`Timer on ${timer.task.title}`}
        button={
          <Words aria-label={isLeftRunning ? `Timer left running on ${timer.task.title}` : `${clockWords(seconds)} on ${timer.task.title}`}>
            <span>{isLeftRunning ? 'Left running' : clockWords(seconds)}</span>
            <span className="title">{timer.task.title}</span>
          </Words>
        }
      >
        {(close) => (
          <Suspense fallback={<Loading rows={3} />}>
            <StopForm timing={timing} timer={timer} onClose={close} />
          </Suspense>
        )}
      </FormButton>
    </Pill>
  );
}
