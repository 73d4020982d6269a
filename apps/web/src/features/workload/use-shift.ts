import type { IsoDay } from '@crew/core';
import { perform } from '../../session/perform.ts';
import type { PlansChanged, PlansTried, TaskChange, WorkloadTask } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';

/** A task that is to begin on another day, or to be done by others; null where it stays as it is. */
export interface Shift {
  readonly task: WorkloadTask;
  readonly start: IsoDay | null;
  readonly assigneeIds: readonly string[] | null;
}

/** What changes in one engagement, as the API takes it. */
export interface PlanPart {
  readonly engagementId: string;
  readonly tasks: readonly TaskChange[];
}

/** The change that brings a shift about: a fixed task gets another fixed day, any other may not begin earlier. */
export function partOfShift({ task, start, assigneeIds }: Shift): PlanPart {
  const day = start === null || task.isBegun ? {} : task.fixedDay === null ? { notBefore: start } : { fixedDay: start };
  const people = assigneeIds === null ? {} : { assigneeIds: [...assigneeIds] };
  return { engagementId: task.engagement.id, tasks: [{ id: task.id, version: task.version, ...day, ...people }] };
}

/** Changes of one engagement go together. */
export function mergeParts(parts: readonly PlanPart[]): PlanPart[] {
  const merged = new Map<string, TaskChange[]>();
  for (const { engagementId, tasks } of parts) merged.set(engagementId, [...(merged.get(engagementId) ?? []), ...tasks]);
  return [...merged].map(([engagementId, tasks]) => ({ engagementId, tasks }));
}

export interface Trial {
  /** What it would do, once the server has said so. */
  readonly tried: PlansTried | undefined;
  /** Still being worked out: what is shown is of the choice before. */
  readonly isWorking: boolean;
  readonly problem: string | null;
  readonly isTaking: boolean;
  /** Takes all of it as one step; true when it was saved. The notice that follows undoes it. */
  readonly apply: (words: string) => Promise<boolean>;
}

/** Changes across engagements that are looked at first; nothing is asked while there are none. */
export function useTrial(parts: readonly PlanPart[], window: { readonly from: IsoDay; readonly to: IsoDay }): Trial {
  const [refusal, setRefusal] = useState<{ readonly of: string; readonly words: string } | null>(null);
  const [isTaking, setTaking] = useState(false);
  const body = { parts, from: window.from, to: window.to };
  const key = JSON.stringify(body);
  const { data, error, isValidating } = useSWR<PlansTried, ApiError>(
    parts.length === 0 ? null : ['workload-trial', key],
    () => call<PlansTried>('POST', '/workload/changes/preview', body),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  return {
    tried: parts.length === 0 || error !== undefined ? undefined : data,
    isWorking: isValidating,
    problem: refusal?.of === key ? refusal.words : parts.length === 0 ? null : (error?.message ?? null),
    isTaking,
    apply: async (words) => {
      setTaking(true);
      const { isDone } = await perform({
        send: () => call<PlansChanged>('POST', '/workload/changes', body),
        said: words,
        undo: ({ changeId }) => changeId,
        onTrouble: (trouble) => setRefusal({ of: key, words: trouble }),
      });
      setTaking(false);
      return isDone;
    },
  };
}
