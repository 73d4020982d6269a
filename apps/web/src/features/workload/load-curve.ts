import type { Workload, WorkloadRow } from '@crew/contract';
import type { EChartsCoreOption } from 'echarts/core';
import { hours, shortDay } from '../../words/format.ts';
import { mondayOf, sumDays, type IsoDay } from '@crew/core';

/** One week of everybody shown; minutes. */
export interface LoadWeek {
  readonly monday: IsoDay;
  /** What fits into somebody's day, and what lies beyond it. */
  readonly within: number;
  readonly over: number;
  readonly open: number;
}

/** The days of a window by week, summed over people. A day that is too full is over however free others are. */
export function loadByWeek(workload: Pick<Workload, 'dates'>, rows: readonly Pick<WorkloadRow, 'load' | 'capacity'>[]): LoadWeek[] {
  const weeks = new Map<IsoDay, { first: number; end: number }>();
  workload.dates.forEach(({ date }, index) => {
    const monday = mondayOf(date);
    weeks.set(monday, { first: weeks.get(monday)?.first ?? index, end: index + 1 });
  });
  return [...weeks].map(([monday, days]) => {
    const sums = rows.map((row) => sumDays(row, days));
    const total = (pick: (sum: (typeof sums)[number]) => number): number => sums.reduce((all, sum) => all + pick(sum), 0);
    return {
      monday,
      within: total(({ load, over }) => load - over),
      over: total(({ over }) => over),
      open: total(({ capacity }) => capacity),
    };
  });
}

/** The weeks in words, for those who do not see the curve. */
export const curveWords = (weeks: readonly LoadWeek[], today: IsoDay): string =>
  weeks
    .map(({ monday, within, over, open }) => {
      const beyond = over > 0 ? `, ${hours(over)} of it over` : '';
      return `week of ${shortDay(monday, today)}: ${hours(within + over)} of ${hours(open)} h planned${beyond}`;
    })
    .join('; ');

const toHours = (minutes: number): number => Number(hours(minutes));

/** Planned hours as bars, what is over on top of them, open hours as a line of steps. */
export function curveOption(weeks: readonly LoadWeek[], today: IsoDay, colour: (token: string) => string): EChartsCoreOption {
  const text = { color: colour('ink-2'), fontSize: 10.5 };
  const bar = (name: string, token: string, minutes: readonly number[]) => ({
    ...{ name, type: 'bar', stack: 'planned', barMaxWidth: 34, data: minutes.map(toHours), itemStyle: { color: colour(token) } },
  });
  return {
    grid: { left: 36, right: 10, top: 26, bottom: 20 },
    legend: { top: 0, left: 0, itemWidth: 11, itemHeight: 9, itemGap: 14, textStyle: { color: colour('ink-2'), fontSize: 11 } },
    tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => `${String(value)} h` },
    xAxis: {
      type: 'category',
      data: weeks.map(({ monday }) => shortDay(monday, today)),
      axisTick: { show: false },
      axisLine: { lineStyle: { color: colour('line') } },
      axisLabel: { ...text, hideOverlap: true },
    },
    yAxis: { type: 'value', splitNumber: 3, splitLine: { lineStyle: { color: colour('line-2') } }, axisLabel: text },
    series: [
      bar(
        'planned',
        'petrol-mid',
        weeks.map(({ within }) => within),
      ),
      bar(
        'over',
        'brick',
        weeks.map(({ over }) => over),
      ),
      {
        ...{ name: 'open', type: 'line', step: 'middle', symbol: 'none', data: weeks.map(({ open }) => toHours(open)) },
        ...{ lineStyle: { color: colour('ink'), width: 1.5 }, itemStyle: { color: colour('ink') } },
      },
    ],
  };
}
