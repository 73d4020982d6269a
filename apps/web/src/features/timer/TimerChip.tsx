import { Toned } from '../../ui/text.tsx';
import { Muted } from '../../ui/layout.tsx';
import { can, StopTimer, type TimerView } from '@crew/contract';
import { useCallback } from 'react';
import { Button as AriaButton, Link } from 'react-aria-components';
import { useSearchParams } from 'react-router';
import styled from 'styled-components';
import { useWho } from '../../session/session.tsx';
import { useKey } from '../../ui/use-key.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { minutesTyped, textIfTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { notify } from '../../ui/toasts.tsx';
import { phone } from '../../ui/tokens.ts';
import { dayWords, hours } from '../../words/format.ts';
import { TimerSign } from './TimerButton.tsx';
import { clockWords, useTimer, type Timing } from './use-timer.ts';

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
  const tone = timer.isLeft ? 'left' : timer.isRunning ? 'running' : 'paused';
  return (
    <Pill $tone={tone} role="group" aria-label="Timer">
      {timer.isLeft ? null : (
        <AriaButton aria-label={timer.isRunning ? `Pause ${timer.task.title}` : `Go on with ${timer.task.title}`} onPress={turn}>
          <TimerSign isRunning={timer.isRunning} />
        </AriaButton>
      )}
      <FormButton
        label={`Timer on ${timer.task.title}`}
        button={
          <Words aria-label={timer.isLeft ? `Timer left running on ${timer.task.title}` : `${clockWords(seconds)} on ${timer.task.title}`}>
            <span>{timer.isLeft ? 'Left running' : clockWords(seconds)}</span>
            <span className="title">{timer.task.title}</span>
          </Words>
        }
      >
        {(close) => <StopForm timing={timing} timer={timer} onClose={close} />}
      </FormButton>
    </Pill>
  );
}

interface StopProps {
  readonly timing: Timing;
  readonly timer: TimerView;
  readonly onClose: () => void;
}

/** Stopping: what it counted is logged; of one left running somebody has to say how much was work. */
function StopForm({ timing, timer, onClose }: StopProps) {
  const me = useWho();
  const form = useInputForm({
    rules: StopTimer,
    typed: { minutes: timer.guessMinutes === null ? '' : hours(timer.guessMinutes), note: '', reason: '' },
    input: ({ minutes, note, reason }) => ({
      ...(timer.isLeft ? { minutes: minutesTyped(minutes) } : {}),
      note: textIfTyped(note),
      ...(timer.isClosed ? { reason } : {}),
    }),
    send: async (input) => {
      if (await timing.stop(input)) onClose();
    },
  });
  return (
    <>
      <p style={{ marginBottom: 8 }}>
        <Link href={`/desk?task=${timer.task.id}`} style={{ color: 'var(--petrol)', fontWeight: 600 }}>
          {timer.task.title}
        </Link>
        <br />
        <Muted>
          {timer.task.engagement.name}
          {timer.isLeft ? ` · left running since ${dayWords(timer.day, me.today)}. How much of it was work?` : ''}
        </Muted>
      </p>
      {timer.isClosed && !can(me, 'time.close') ? (
        <Toned as="p" $tone="waiting">
          The time of that day is closed. Ask a lead to log what was work, then throw the timer away.
        </Toned>
      ) : (
        <SmallForm form={form} action={timer.isLeft ? 'Log it' : `Stop and log ${clockWords(timing.seconds)}`}>
          {timer.isLeft ? <Field {...form.bind('minutes')} label="Hours" autoFocus /> : null}
          {timer.isClosed ? (
            <Field {...form.bind('reason')} label="Why it is logged although that day is closed" placeholder="It is kept" />
          ) : null}
          <Field {...form.bind('note')} label="Note" placeholder="What was done" />
        </SmallForm>
      )}
      <Button
        kind="quiet"
        style={{ marginTop: 6, paddingLeft: 0 }}
        onPress={() => {
          onClose();
          void timing.discard();
        }}
      >
        Throw it away, log nothing
      </Button>
    </>
  );
}
