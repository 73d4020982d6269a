import { perform } from '../../session/perform.ts';
import type { PlanChanged, PlanEffect, TaskChange } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { count } from '../../words/format.ts';

/** A change of the plan that is previewed and not applied yet. */
export interface Proposal {
  /** "If Concept boards ends 2 days later" */
  readonly title: string;
  /** What was done to bring it about. */
  readonly note: string;
  readonly tasks: readonly TaskChange[];
}

export interface Proposing {
  readonly proposal: Proposal | null;
  /** What it would do, once the server has said so. */
  readonly effect: PlanEffect | undefined;
  readonly problem: string | null;
  readonly propose: (proposal: Proposal) => void;
  /** Applies it, all or nothing; the notice that follows undoes it. */
  readonly apply: () => Promise<void>;
  readonly putBack: () => void;
}

/** A change of one engagement's plan: previewed first, then applied by one button. */
export function useProposal(engagementId: string): Proposing {
  const [proposal, setProposal] = useState<Proposal | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const { data, error } = useSWR<PlanEffect, ApiError>(
    proposal === null ? null : ['proposal', engagementId, JSON.stringify(proposal.tasks)],
    () => call<PlanEffect>('POST', `/engagements/${engagementId}/changes/preview`, { tasks: proposal?.tasks }),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  const show = (next: Proposal | null): void => {
    setProposal(next);
    setRefusal(null);
  };
  return {
    proposal,
    effect: proposal === null ? undefined : data,
    problem: refusal ?? (proposal === null ? null : (error?.message ?? null)),
    propose: show,
    putBack: () => show(null),
    apply: async () => {
      if (proposal === null) return;
      const { isDone } = await perform({
        send: () => call<PlanChanged>('POST', `/engagements/${engagementId}/changes`, { tasks: proposal.tasks }),
        said: ({ effect }) => appliedWords(effect),
        undo: ({ changeId }) => changeId,
        onTrouble: setRefusal,
      });
      if (isDone) show(null);
    },
  };
}

const appliedWords = (effect: PlanEffect): string =>
  effect.moves.length === 0 ? 'Saved. No tasks moved.' : `Saved. ${count(effect.moves.length, 'task')} moved.`;
