import type { RuleDays } from '@crew/contract';
import type { Occurrence, OnClosed } from '@crew/core';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';

/** The next days of a rule on the agency's calendar; nothing is asked while there is no rule. */
export function useRuleDays(
  rule: string | null,
  from: string,
  onClosed: OnClosed,
): { readonly days: readonly Occurrence[] | undefined; readonly problem: string | null } {
  const body = { rule, from, onClosed };
  const { data, error } = useSWR<RuleDays, ApiError>(
    rule === null || from === '' ? null : ['rule-days', JSON.stringify(body)],
    () => call<RuleDays>('POST', '/rhythms/preview', body),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  return { days: rule === null || error !== undefined ? undefined : data?.days, problem: rule === null ? null : (error?.message ?? null) };
}
