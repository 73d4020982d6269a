import type { IsoDay } from '@crew/core';
import { can, StopTimer, type TimerView } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { minutesTyped, textIfTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Muted } from '../../ui/layout.tsx';
import { Toned } from '../../ui/text.tsx';
import { dayWords, hours } from '../../words/format.ts';
import { clockWords, type Timing } from './use-timer.ts';

const About = styled.p`
  margin-bottom: 8px;
  a {
    color: var(--petrol);
    font-weight: 600;
  }
`;
const Discard = styled(Button)`
  margin-top: 9px;
`;

/** Why it is asked how much was work. */
const longWords = (timer: TimerView, now: { readonly today: IsoDay; readonly seconds: number }): string =>
  timer.isRunning && timer.day < now.today
    ? `left running since ${dayWords(timer.day, now.today)}.`
    : `it has counted ${clockWords(now.seconds)}.`;

interface StopProps {
  readonly timing: Timing;
  readonly timer: TimerView;
  readonly onClose: () => void;
}

/** Stopping: what it counted is logged; of one left running somebody has to say how much was work. */
export function StopForm({ timing, timer, onClose }: StopProps) {
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
      <About>
        <Link href={`/desk?task=${timer.task.id}`}>{timer.task.title}</Link>
        <br />
        <Muted>
          {timer.task.engagement.name}
          {timer.isLeft ? ` · ${longWords(timer, { today: me.today, seconds: timing.seconds })} How much of it was work?` : ''}
        </Muted>
      </About>
      {timer.isClosed && !can(me, 'time.close') ? (
        <Toned as="p" $tone="waiting">
          The time of that day is closed. Ask a lead to log what was work, then discard the timer.
        </Toned>
      ) : (
        <SmallForm form={form} action={timer.isLeft ? 'Log time' : `Stop and log ${clockWords(timing.seconds)}`}>
          {timer.isLeft ? <Field {...form.bind('minutes')} label="Hours" autoFocus /> : null}
          {timer.isClosed ? (
            <Field {...form.bind('reason')} label="Why it is logged although that day is closed" placeholder="Kept in the history" />
          ) : null}
          <Field {...form.bind('note')} label="Note" placeholder="What was done" />
        </SmallForm>
      )}
      <Discard
        kind="text"
        onPress={() => {
          onClose();
          void timing.discard();
        }}
      >
        Discard timer
      </Discard>
    </>
  );
}
