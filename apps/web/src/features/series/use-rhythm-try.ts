import type { RhythmTried, SeriesView } from '@crew/contract';
import { addDays, mondayOf, type OnClosed, paceRule, readRule, type IsoDay } from '@crew/core';
import { useState } from 'react';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { draftFrom, draftOf, ruleOf, type RuleDraft } from './rule-draft.ts';
import { rhythmOn } from './series-words.ts';

/** Another rhythm as it is being made up: how often, how many at a time, from when. */
export interface RhythmAsked {
  readonly draft: RuleDraft;
  readonly each: number;
  readonly from: IsoDay;
  /** The day whose parts fill the slots. */
  readonly day: IsoDay;
}

export interface RhythmTrying {
  readonly asked: RhythmAsked;
  /** Null while a slot is not filled right. */
  readonly rule: string | null;
  readonly onClosed: OnClosed;
  /** Whether it is the rhythm there is. */
  readonly isSame: boolean;
  readonly tried: RhythmTried | undefined;
  readonly isWorking: boolean;
  readonly problem: string | null;
  readonly change: (next: Partial<RhythmAsked>) => void;
  /** Spreads so many units over the agency's open weekdays. */
  readonly setUnits: (units: number, week: readonly number[]) => void;
}

/** The Monday after today: a pace changes with a week. */
export const nextMonday = (today: IsoDay): IsoDay => addDays(mondayOf(today), 7);

/** Another rhythm of a series tried on the real load; nothing is asked while it is the one there is, and nothing is saved. */
export function useRhythmTry(
  series: SeriesView,
  today: IsoDay,
  shown: { readonly from: IsoDay; readonly to: IsoDay } | null,
): RhythmTrying {
  const first = nextMonday(today);
  const present = rhythmOn(series.rhythms, first);
  const [asked, setAsked] = useState<RhythmAsked>(() => ({
    draft: draftOf(present?.rule ?? '', present?.from ?? first) ?? draftFrom(first),
    each: present?.each ?? 1,
    from: first,
    day: present?.from ?? first,
  }));
  const rule = ruleOf(asked.draft);
  const isSame = rule === present?.rule && asked.each === present.each;
  const body = {
    ...{ from: asked.from, rule, each: asked.each },
    ...(shown === null ? {} : { shownFrom: shown.from, shownTo: shown.to }),
  };
  const { data, error, isValidating } = useSWR<RhythmTried, ApiError>(
    rule === null || isSame ? null : ['rhythm-try', series.id, series.version, JSON.stringify(body)],
    () => call<RhythmTried>('POST', `/series/${series.id}/rhythms/preview`, body),
    { keepPreviousData: true, revalidateOnFocus: false },
  );
  return {
    ...{ asked, rule, isSame, onClosed: series.onClosed },
    tried: isSame || rule === null || error !== undefined ? undefined : data,
    isWorking: isValidating,
    problem: isSame || rule === null ? null : (error?.message ?? null),
    change: (next) => setAsked({ ...asked, ...next }),
    setUnits: (units, week) => {
      const weeks = Number(asked.draft.interval);
      const paced = paceRule({ units, weeks: Number.isInteger(weeks) && weeks > 0 ? weeks : 1 }, week);
      if (!paced.ok) return;
      const read = readRule(paced.value.rule);
      if (!read.ok) return;
      setAsked({
        ...asked,
        each: paced.value.each,
        draft: { ...asked.draft, unit: 'week', weekdays: read.value.weekdays.map(({ weekday }) => weekday) },
      });
    },
  };
}
