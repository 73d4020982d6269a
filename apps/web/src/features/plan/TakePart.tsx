import type { PlanChanged, PlanEffect } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { useWho } from '../../app/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { notify } from '../../ui/toasts.tsx';
import { count } from '../../words/format.ts';
import { undoChange } from '../replan/use-proposal.ts';
import { EffectWords } from '../task/EffectWords.tsx';

interface TakeProps {
  /** Where it is taken; `/preview` behind it answers what it would do. */
  readonly path: string;
  /** What is sent; null while nothing is chosen. */
  readonly body: object | null;
  readonly action: string;
  /** What the notice says once it is taken, before how much moved. */
  readonly said: string;
  readonly onTaken: () => void;
}

/** What taking something into a plan would move, and the button that takes it; it can be undone from the notice. */
export function TakePart({ path, body, action, said, onTaken }: TakeProps) {
  const { today } = useWho();
  const [trouble, setTrouble] = useState<string>();
  const { data: effect, error } = useSWR<PlanEffect, ApiError>(
    body === null ? null : [path, JSON.stringify(body)],
    () => call<PlanEffect>('POST', `${path}/preview`, body ?? undefined),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  const take = async (): Promise<void> => {
    try {
      const { changeId, effect: done } = await call<PlanChanged>('POST', path, body ?? undefined);
      await refreshAll();
      const moved = done.moves.length === 0 ? 'No task moved.' : `${count(done.moves.length, 'task')} moved.`;
      notify(`${said} ${moved}`, { undo: () => undoChange(changeId) });
      onTaken();
    } catch (fault) {
      setTrouble(fault instanceof Error ? fault.message : 'This was not saved.');
    }
  };
  const message = trouble ?? error?.message;
  return (
    <>
      {body === null || effect === undefined || error !== undefined ? null : (
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
        <Button kind="primary" isDisabled={body === null || error !== undefined} onPress={() => void take()}>
          {action}
        </Button>
      </div>
    </>
  );
}
