import type { HandoffSpeedColumn, HandoffSpeedPoint, HandoffSpeed } from '@crew/contract';
import type { EChartsCoreOption } from 'echarts/core';
import { hours } from '../../words/format.ts';
import { daysText } from './speed-words.ts';

/** Where the three curves of a column stand, in pixels from its top. */
export const ROWS = {
  days: { top: 14, height: 84 },
  wait: { top: 134, height: 84 },
  back: { top: 254, height: 60 },
} as const;
export const CURVES_HEIGHT = 326;

/** The ends of the scales, the same in every column. */
export interface Scales {
  readonly days: number;
  readonly waitHours: number;
}

/** A number a scale can end with: 4, 8, 10, 20, 40 … so that its half is a number to read. */
const roundUp = (value: number): number => {
  const steps = [2, 4, 6, 8, 10, 12, 16, 20, 30, 40, 60, 80, 120, 160, 240, 400];
  return steps.find((step) => step >= value) ?? Math.ceil(value / 100) * 100;
};

export function scalesOf(columns: readonly HandoffSpeedColumn[]): Scales {
  const points = columns.flatMap((column) => column.points);
  const largest = (values: readonly (number | null)[]): number => Math.max(1, ...values.map((value) => value ?? 0));
  return {
    days: roundUp(largest([...points.map(({ days }) => days), ...columns.map(({ plannedDays }) => plannedDays)])),
    waitHours: roundUp(largest(points.map(({ waitMinutes }) => (waitMinutes ?? 0) / 60))),
  };
}

type Colour = (token: string) => string;

interface Curve {
  readonly index: number;
  readonly token: string;
  readonly value: (point: HandoffSpeedPoint) => number | null;
  readonly label: (point: HandoffSpeedPoint) => string;
  readonly cases: (point: HandoffSpeedPoint) => number;
}

const CURVES: readonly Curve[] = [
  { index: 0, token: 'petrol', value: ({ days }) => days, label: ({ days }) => `${daysText(days ?? 0)} d`, cases: ({ cases }) => cases },
  {
    ...{ index: 1, token: 'amber', cases: ({ waits }) => waits },
    value: ({ waitMinutes }) => (waitMinutes === null ? null : waitMinutes / 60),
    label: ({ waitMinutes }) => `${hours(waitMinutes ?? 0)} h`,
  },
  {
    ...{ index: 2, token: 'brick', cases: ({ cases }) => cases },
    value: ({ back, cases }) => (cases === 0 ? null : back / cases),
    label: ({ back, cases }) => `${back} of ${cases}`,
  },
];

/** The three curves of a column: a hollow point stands for one handoff only. */
export function curvesOf(
  column: HandoffSpeedColumn,
  { scales, marks, chosen }: { readonly scales: Scales; readonly marks: HandoffSpeed['marks']; readonly chosen: number | null },
): (colour: Colour) => EChartsCoreOption {
  const { points, plannedDays } = column;
  return (colour) => ({
    grid: Object.values(ROWS).map(({ top, height }) => ({ left: 8, right: 50, top, height })),
    xAxis: CURVES.map(({ index }) => ({
      ...{ gridIndex: index, type: 'value', min: -0.2, max: points.length - 0.8 },
      ...{ axisLine: { show: false }, axisTick: { show: false }, axisLabel: { show: false }, splitLine: { show: false } },
    })),
    yAxis: [scales.days, scales.waitHours, 1].map((max, index) => ({
      ...{ gridIndex: index, min: 0, max, interval: max / 2 },
      ...{ axisLine: { show: false }, axisTick: { show: false }, axisLabel: { show: false } },
      splitLine: { lineStyle: { color: colour('line-2') } },
    })),
    series: CURVES.map((curve) => seriesOf(curve, points, { colour, chosen, lines: linesOf(curve.index, { plannedDays, marks, points }) })),
  });
}

function seriesOf(
  { index, token, value, label, cases }: Curve,
  points: readonly HandoffSpeedPoint[],
  { colour, chosen, lines }: { readonly colour: Colour; readonly chosen: number | null; readonly lines: readonly object[] },
): object {
  const last = points.findLastIndex((point) => value(point) !== null);
  return {
    ...{
      type: 'line',
      xAxisIndex: index,
      yAxisIndex: index,
      connectNulls: true,
      symbol: 'circle',
      lineStyle: { color: colour(token), width: 1.5 },
    },
    data: points.map((point, place) => ({
      value: [place, value(point)],
      symbolSize: place === chosen ? 11 : 7,
      itemStyle: { color: cases(point) === 1 ? colour('panel') : colour(token), borderColor: colour(token), borderWidth: 1.5 },
      label: {
        ...{ show: place === last, position: 'right', color: index === 2 && point.back === 0 ? colour('ink-2') : colour(token) },
        ...{ fontWeight: 600, fontSize: 12, formatter: label(point) },
      },
    })),
    markLine: { silent: true, symbol: 'none', label: { show: false }, lineStyle: { type: 'dotted', color: colour('ink-3') }, data: lines },
  };
}

/** The planned length, and when something was changed that may have changed the wait. */
function linesOf(
  index: number,
  {
    plannedDays,
    marks,
    points,
  }: { readonly plannedDays: number | null; readonly marks: HandoffSpeed['marks']; readonly points: readonly HandoffSpeedPoint[] },
): readonly object[] {
  if (index === 0) return plannedDays === null ? [] : [{ yAxis: plannedDays }];
  if (index !== 1) return [];
  return marks.flatMap(({ day }) => {
    const place = points.findIndex(({ month }) => month === day.slice(0, 7));
    return place < 0 ? [] : [{ xAxis: place + Number(day.slice(8)) / 31 - 0.5 }];
  });
}
