import type { IsoDay } from '@crew/core';
import type { LineRole, SeriesUnit } from '@crew/contract';
import type { EChartsCoreOption } from 'echarts/core';
import { hours, hourWords, shortDay } from '../../words/format.ts';

const toHours = (minutes: number): number => Number(hours(minutes));

/** Axes, legend place and grid that all charts of hours share. */
const frame = (names: readonly string[], colour: (token: string) => string) => ({
  grid: { left: 30, right: 8, top: 26, bottom: 22 },
  legend: { top: 0, left: 0, itemWidth: 11, itemHeight: 9, itemGap: 12, textStyle: { color: colour('ink-2'), fontSize: 11 } },
  tooltip: { trigger: 'axis' as const, valueFormatter: (value: unknown) => `${String(value)} h` },
  xAxis: {
    type: 'category' as const,
    data: names,
    axisTick: { show: false },
    axisLine: { lineStyle: { color: colour('line') } },
    axisLabel: { color: colour('ink-2'), fontSize: 10.5, hideOverlap: true },
  },
  yAxis: {
    type: 'value' as const,
    splitNumber: 3,
    splitLine: { lineStyle: { color: colour('line-2') } },
    axisLabel: { color: colour('ink-2'), fontSize: 10.5 },
  },
});

/** The hours a line needs from one role in each week, now and then, under the hours it has beside its other work. */
export function hoursOption(
  { role, weeks }: { readonly role: LineRole; readonly weeks: readonly IsoDay[] },
  colour: (token: string) => string,
): EChartsCoreOption {
  return {
    ...frame(
      weeks.map((week) => shortDay(week, week)),
      colour,
    ),
    series: [
      { name: 'now', type: 'bar', data: role.before.map(toHours), itemStyle: { color: colour('joint') }, barGap: '10%' },
      { name: 'then', type: 'bar', data: role.after.map(toHours), itemStyle: { color: colour('petrol') } },
      ...(role.room === null
        ? []
        : [
            {
              name: 'room',
              type: 'line',
              step: 'middle',
              symbol: 'none',
              data: role.room.map(toHours),
              lineStyle: { color: colour('ink'), width: 1.5 },
              itemStyle: { color: colour('ink') },
            },
          ]),
    ],
  };
}

/** Agreed and carried hours of each period against what was used of them. */
export function retainerOption(units: readonly SeriesUnit[], colour: (token: string) => string): EChartsCoreOption {
  const balances = units.map(({ balance }) => balance);
  const bar = (name: string, { token, stack }: { readonly token: string; readonly stack: string }, minutes: readonly number[]) => ({
    ...{ name, type: 'bar', stack, data: minutes.map(toHours), itemStyle: { color: colour(token) }, barMaxWidth: 22 },
  });
  return {
    ...frame(
      units.map(({ start }) => shortDay(start, start)),
      colour,
    ),
    series: [
      bar(
        'agreed',
        { token: 'petrol-mid', stack: 'agreed' },
        balances.map((balance) => balance?.agreed ?? 0),
      ),
      bar(
        'carried in',
        { token: 'petrol-soft', stack: 'agreed' },
        balances.map((balance) => balance?.carriedIn ?? 0),
      ),
      bar(
        'used',
        { token: 'petrol', stack: 'used' },
        balances.map((balance) => (balance === null ? 0 : balance.used - balance.over)),
      ),
      bar(
        'over',
        { token: 'brick', stack: 'used' },
        balances.map((balance) => balance?.over ?? 0),
      ),
    ],
  };
}

/** The same in words, for screen readers. */
export const retainerLabel = (units: readonly SeriesUnit[]): string =>
  units
    .map(({ name, balance }) =>
      balance === null ? name : `${name}: ${hourWords(balance.used)} used of ${hourWords(balance.agreed + balance.carriedIn)}`,
    )
    .join('; ');
