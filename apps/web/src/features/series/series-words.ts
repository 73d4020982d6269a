import type { RhythmView, SeriesUnit, SeriesView } from '@crew/contract';
import { paceOf, parseDay, type Carry, type IsoDay } from '@crew/core';
import { hours, hourWords, shortDay } from '../../words/format.ts';
import { placeOrdinal, ruleWords } from '../../words/rhythm.ts';

type Rhythm = Pick<RhythmView, 'from' | 'rule' | 'each'>;

/** "3 a week", "1 every second week"; a rule that is no pace in its own words. */
export function rhythmWords({ from, rule, each }: Rhythm, today: IsoDay): string {
  const pace = paceOf({ rule, each }, parseDay(from) ?? 0);
  const end = /;(COUNT|UNTIL)=/.test(rule);
  if (pace === null || end) return `${each === 1 ? '' : `${each} `}${ruleWords(rule, today)}`;
  return `${pace.units} ${pace.weeks === 1 ? 'a week' : `every ${placeOrdinal(pace.weeks)} week`}`;
}

/** The rhythm that holds on a day: the last that has begun, or the first there is. */
export const rhythmOn = (rhythms: readonly RhythmView[], day: IsoDay): RhythmView | undefined =>
  [...rhythms].reverse().find((rhythm) => rhythm.from <= day) ?? rhythms[0];

/** Open units: those whose days have come, and those that wait for theirs. */
export function openUnits(
  series: Pick<SeriesView, 'units'>,
  today: IsoDay,
): { readonly running: readonly SeriesUnit[]; readonly ahead: readonly SeriesUnit[] } {
  const open = series.units.filter((unit) => unit.state === 'open' || unit.state === 'proposal');
  return { running: open.filter((unit) => unit.start <= today), ahead: open.filter((unit) => unit.start > today) };
}

/** "3 under way, 3 ahead". */
export const countWords = (running: number, ahead: number): string =>
  [...(running > 0 ? [`${running} under way`] : []), ...(ahead > 0 ? [`${ahead} ahead`] : [])].join(', ') || 'nothing open';

/** How many of a series run, and how many wait for their day. */
export function openWords(series: Pick<SeriesView, 'units'>, today: IsoDay): string {
  const { running, ahead } = openUnits(series, today);
  return countWords(running.length, ahead.length);
}

/** "6.6 of 7.1 h left"; of a period that is over what became of it: "0.6 of 7.1 h carried over". */
export function leftWords({ agreed, carriedIn, left, over, isOver, carriedOut, lost }: NonNullable<SeriesUnit['balance']>): string {
  const all = hourWords(agreed + carriedIn);
  if (over > 0) return `${hourWords(over)} over ${all}`;
  if (!isOver) return `${hours(left)} of ${all} left`;
  if (carriedOut + lost === 0) return `all of ${all} used`;
  if (carriedOut === 0) return `${hours(lost)} of ${all} lost`;
  return `${hours(carriedOut)} of ${all} carried over${lost === 0 ? '' : `, ${hourWords(lost)} lost`}`;
}

/** What is left of agreed hours, and where it came from: "6.6 of 7.1 h left, 0.6 h carried in". */
export function balanceWords({ balance }: Pick<SeriesUnit, 'balance'>): string {
  if (balance === null) return '';
  return `${leftWords(balance)}${balance.carriedIn > 0 ? `, ${hourWords(balance.carriedIn)} carried in` : ''}`;
}

export const CARRY_WORDS: Readonly<Record<Carry, string>> = {
  none: 'are lost',
  next: 'carry into the next period, then expire',
  all: 'are kept until used',
};

/** The next day something of it begins: "next Tue 1 Dec", or that nothing does. */
export function nextWords(series: Pick<SeriesView, 'units' | 'coming' | 'stoppedOn'>, today: IsoDay): string {
  const next = [...openUnits(series, today).ahead.map(({ start }) => start), ...series.coming.map(({ on }) => on)].sort()[0];
  if (next !== undefined) return `next ${shortDay(next, today)}`;
  return series.stoppedOn === null ? 'nothing more to come' : `stopped from ${shortDay(series.stoppedOn, today)}`;
}
