import { Trouble } from '../../ui/text.tsx';
import { perform } from '../../session/perform.ts';
import type { PlanChanged, PlanEffect } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import styled from 'styled-components';
import { call, type ApiError } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { count } from '../../words/format.ts';
import { EffectWords } from '../task/EffectWords.tsx';

const Effect = styled.div`
  margin-top: 8px;
`;

const Apply = styled.div`
  display: flex;
  gap: 8px;
  margin-top: 10px;
`;

/** What was done, and how it is undone. */
interface Applied {
  readonly effect: PlanEffect;
  readonly changeId: string | null;
}

interface ApplyProps {
  /** The address and body of the preview; null while nothing is chosen. */
  readonly ask: { readonly path: string; readonly body: object } | null;
  readonly apply: () => Promise<Applied>;
  readonly action: string;
  /** What the notice says once it is applied, before how much moved. */
  readonly said: string;
  readonly onApplied: () => void;
  /** For a part that was opened by a button of its own. */
  readonly onCancel?: () => void;
}

/** Applies a change of a plan by its address; the answer names the change that undoes it. */
export const applyAt = (path: string, body: object): Promise<Applied> => call<PlanChanged>('POST', path, body);

/** What adding something to a plan would move, and the button that applies it; it can be undone from the notice. */
export function ApplyPart({ ask, apply, action, said, onApplied, onCancel }: ApplyProps) {
  const { today } = useWho();
  const [trouble, setTrouble] = useState<string>();
  const { data: effect, error } = useSWR<PlanEffect, ApiError>(
    ask === null ? null : [ask.path, JSON.stringify(ask.body)],
    () => call<PlanEffect>('POST', ask?.path ?? '', ask?.body),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  const run = async (): Promise<void> => {
    const { isDone } = await perform({
      send: apply,
      said: ({ effect: { moves } }) => `${said} ${moves.length === 0 ? 'No tasks moved.' : `${count(moves.length, 'task')} moved.`}`,
      undo: ({ changeId }) => changeId,
      onTrouble: setTrouble,
    });
    if (isDone) onApplied();
  };
  const message = trouble ?? error?.message;
  return (
    <>
      {effect === undefined || error !== undefined ? null : (
        <Effect>
          <EffectWords effect={effect} today={today} />
        </Effect>
      )}
      <Trouble words={message} />
      <Apply>
        <Button kind="primary" isDisabled={effect === undefined || error !== undefined} onPress={() => void run()}>
          {action}
        </Button>
        {onCancel === undefined ? null : (
          <Button kind="quiet" onPress={onCancel}>
            Cancel
          </Button>
        )}
      </Apply>
    </>
  );
}
