import type { IsoDay } from '@crew/core';
import type { TriedEngagement, Workload } from '@crew/contract';
import { useState } from 'react';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';

/** What is tried: which work, from when, by whom. */
export interface Asked {
  readonly templateId: string | null;
  readonly start: IsoDay;
  readonly roles: readonly { readonly roleId: string; readonly personId: string | null }[];
}

export interface Trying {
  readonly asked: Asked;
  readonly tried: TriedEngagement | undefined;
  readonly isWorking: boolean;
  readonly problem: string | null;
  readonly change: (next: Partial<Pick<Asked, 'templateId' | 'start' | 'roles'>>) => void;
}

/** A new engagement that is looked at over the load; nothing is asked before a template is chosen, and nothing is saved. */
export function useTry(isOpen: boolean, today: IsoDay, window: Pick<Workload, 'from' | 'to'>): Trying {
  const [choice, setChoice] = useState<Asked>({ templateId: null, start: today, roles: [] });
  const { templateId, start, roles } = choice;
  // Whether it would fit is computed for all of it, however likely it is.
  const body = { templateId, start, ...(roles.length === 0 ? {} : { roles }), from: window.from, to: window.to };
  const { data, error, isValidating } = useSWR<TriedEngagement, ApiError>(
    !isOpen || templateId === null ? null : ['workload-try', JSON.stringify(body)],
    () => call<TriedEngagement>('POST', '/workload/try', body),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  return {
    asked: choice,
    tried: isOpen && templateId !== null && error === undefined ? data : undefined,
    isWorking: isValidating,
    problem: error?.message ?? null,
    change: (next) => setChoice({ ...choice, ...next }),
  };
}
