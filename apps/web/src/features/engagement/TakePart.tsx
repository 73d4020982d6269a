import type { PlanChanged, PlanEffect } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { useWho } from '../../app/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { notify, type Undo } from '../../ui/toasts.tsx';
import { count } from '../../words/format.ts';
import { undoOf } from '../plan-change/use-proposal.ts';
import { EffectWords } from '../task/EffectWords.tsx';

/** What was done, and how it is taken back. */
interface Taken {
  readonly effect: PlanEffect;
  readonly undo?: Undo;
}

interface TakeProps {
  /** Where it is asked what it would do, and with what; null while nothing is chosen. */
  readonly ask: { readonly path: string; readonly body: object } | null;
  readonly take: () => Promise<Taken>;
  readonly action: string;
  /** What the notice says once it is taken, before how much moved. */
  readonly said: string;
  readonly onTaken: () => void;
}

/** Takes a change of a plan by its address; the answer names the change it is undone by. */
export const takeAt = async (path: string, body: object): Promise<Taken> => {
  const { changeId, effect } = await call<PlanChanged>('POST', path, body);
  return { effect, ...undoOf(changeId) };
};

/** What taking something into a plan would move, and the button that takes it; it can be undone from the notice. */
export function TakePart({ ask, take, action, said, onTaken }: TakeProps) {
  const { today } = useWho();
  const [trouble, setTrouble] = useState<string>();
  const { data: effect, error } = useSWR<PlanEffect, ApiError>(
    ask === null ? null : [ask.path, JSON.stringify(ask.body)],
    () => call<PlanEffect>('POST', ask?.path ?? '', ask?.body),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  const run = async (): Promise<void> => {
    try {
      const { effect: done, undo } = await take();
      await refreshAll();
      const moved = done.moves.length === 0 ? 'No task moved.' : `${count(done.moves.length, 'task')} moved.`;
      notify(`${said} ${moved}`, undo === undefined ? {} : { undo });
      onTaken();
    } catch (fault) {
      setTrouble(fault instanceof Error ? fault.message : 'This was not saved.');
    }
  };
  const message = trouble ?? error?.message;
  return (
    <>
      {ask === null || effect === undefined || error !== undefined ? null : (
        <div style={{ marginTop: 8 }}>
          <EffectWords effect={effect} today={today} />
        </div>
      )}
      {message === undefined ? null : (
        <p role="alert" style={{ color: 'var(--brick)' }}>
          {message}
        </p>
      )}
      <div style={{ marginTop: 10 }}>
        <Button kind="primary" isDisabled={ask === null || error !== undefined} onPress={() => void run()}>
          {action}
        </Button>
      </div>
    </>
  );
}
