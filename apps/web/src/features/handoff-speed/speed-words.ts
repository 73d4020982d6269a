import { longMonth, shortMonth, type HandoffSpeed, type HandoffSpeedColumn, type HandoffSpeedPoint } from '@crew/contract';
import { count, hours } from '../../words/format.ts';

const indexOf = (month: string): number => Number(month.slice(5)) - 1;
/** "Nov" of `2026-11`. */
export const monthShort = (month: string): string => shortMonth(indexOf(month));
/** "November" of `2026-11`. */
export const monthInFull = (month: string): string => longMonth(indexOf(month));

/** A median of whole days may lie between two. */
export const daysText = (days: number): string => (Number.isInteger(days) ? String(days) : days.toFixed(1));

const lastWith = (points: readonly HandoffSpeedPoint[], has: (point: HandoffSpeedPoint) => boolean): HandoffSpeedPoint | undefined =>
  points.findLast(has);

/** The sentence above the curves: how fast handoffs are picked up, how many came back, and which column runs furthest over its plan. */
export function summaryOf({ all, columns, months }: Pick<HandoffSpeed, 'all' | 'columns' | 'months'>): readonly string[] {
  const [first, last] = [all.points[0], all.points.at(-1)];
  const back = all.points.reduce((sum, point) => sum + point.back, 0);
  const cases = all.points.reduce((sum, point) => sum + point.cases, 0);
  if (cases === 0) return ['Nothing was handed off in these months.'];
  const picked =
    last === undefined || last.waitMinutes === null
      ? 'Nothing handed off this month is picked up yet'
      : `Usually picked up after ${hours(last.waitMinutes)} working hours this month`;
  const before =
    first === undefined || first.waitMinutes === null || first === last
      ? ''
      : `, ${hours(first.waitMinutes)} in ${monthInFull(months[0] ?? '')}`;
  const over = furthestOver(columns);
  return [
    `${picked}${before}.`,
    `${back} of ${count(cases, 'handoff')} came back with a question.`,
    ...(over === null ? [] : [`${over.name} runs furthest over its plan: ${daysText(over.days)} days, planned ${daysText(over.planned)}.`]),
  ];
}

function furthestOver(
  columns: readonly HandoffSpeedColumn[],
): { readonly name: string; readonly days: number; readonly planned: number } | null {
  const over = columns.flatMap(({ name, plannedDays, points }) => {
    const days = lastWith(points, (point) => point.days !== null)?.days ?? null;
    return days === null || plannedDays === null || days <= plannedDays ? [] : [{ name, days, planned: plannedDays }];
  });
  return over.sort((left, right) => right.days - right.planned - (left.days - left.planned))[0] ?? null;
}

/** A column as it is told to somebody who does not see its curves. */
export function columnWords({ name, plannedDays, points }: HandoffSpeedColumn): string {
  const said = points.map(({ month, cases, days, waitMinutes, back }) => {
    const took = days === null ? 'no phase over' : `${daysText(days)} days`;
    const waited = waitMinutes === null ? 'none picked up' : `picked up after ${hours(waitMinutes)} h`;
    return `${monthInFull(month)}: ${took}, ${waited}, ${back} of ${cases} back`;
  });
  return `${name}${plannedDays === null ? '' : `, planned ${daysText(plannedDays)} days`}. ${said.join('; ')}`;
}
