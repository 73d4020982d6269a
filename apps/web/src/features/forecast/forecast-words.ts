import type { IsoDay } from '@crew/core';
import type { ForecastView } from '@crew/contract';
import type { EChartsCoreOption } from 'echarts/core';
import { count, shortDay } from '../../words/format.ts';

/** "kept in 23 of 100 runs". */
export const chanceWords = ({ chance }: ForecastView): string => (chance === null ? '' : `met in ${chance} % of runs`);

/** Where the lengths come from, honestly. */
export function basisWords({ basis }: ForecastView): string {
  if (basis.finishedTasks === 0)
    return 'Your agency has no finished tasks yet, so durations are assumed: half take as long as planned or less, four of five at most 1.4 times as long.';
  const own = basis.ownRoles.length === 0 ? '' : ` Own record: ${basis.ownRoles.join(', ')}.`;
  const shared =
    basis.sharedRoles.length === 0 ? '' : ` Too few finished tasks of their own, so based on everyone’s: ${basis.sharedRoles.join(', ')}.`;
  return `Based on ${count(basis.finishedTasks, 'finished task')} of your agency.${own}${shared}`;
}

interface Drawing {
  readonly colour: (token: string) => string;
  readonly today: IsoDay;
}

/** How the runs spread over days as bars, and the share done by then as a curve; the promise stands across it. */
export function spreadOption(forecast: ForecastView, { colour, today }: Drawing): EChartsCoreOption {
  const days = forecast.spread.map(({ date }) => date);
  let sum = 0;
  const done = forecast.spread.map(({ runs }) => Math.round(((sum += runs) * 1000) / forecast.runs) / 10);
  const shares = forecast.spread.map(({ runs }) => Math.round((runs * 1000) / forecast.runs) / 10);
  const promised = forecast.promise === null ? -1 : days.findLastIndex((day) => day <= (forecast.promise as string));
  const line = { color: colour('line-2') };
  const text = { color: colour('ink-2'), fontSize: 11 };
  return {
    grid: { left: 34, right: 8, top: 14, bottom: 22 },
    tooltip: {
      trigger: 'axis',
      backgroundColor: colour('ink'),
      borderWidth: 0,
      textStyle: { color: colour('panel'), fontSize: 12 },
      formatter: (points: readonly { readonly dataIndex: number }[]) => {
        const index = points[0]?.dataIndex ?? 0;
        return `${shortDay(days[index] ?? today, today)}: finished in ${done[index] ?? 0} % of runs`;
      },
    },
    xAxis: {
      type: 'category',
      data: days.map((day) => shortDay(day, today)),
      axisTick: { show: false },
      axisLine: { lineStyle: { color: colour('line') } },
      axisLabel: { ...text, hideOverlap: true },
    },
    yAxis: { type: 'value', max: 100, interval: 50, splitLine: { lineStyle: line }, axisLabel: { ...text, formatter: '{value} %' } },
    series: [
      { type: 'bar', data: shares, itemStyle: { color: colour('petrol-soft') }, barCategoryGap: '10%' },
      {
        type: 'line',
        data: done,
        symbol: 'none',
        lineStyle: { color: colour('petrol'), width: 2 },
        markLine: {
          silent: true,
          symbol: 'none',
          label: { formatter: 'promise', ...text, color: colour('ink') },
          lineStyle: { color: colour('ink'), type: 'solid' },
          data: promised === -1 ? [] : [{ xAxis: promised }],
        },
      },
    ],
  };
}
