import type { IsoDay } from '@crew/core';
import { dayWithoutYear } from '../../words/format.ts';
import type { TimeScale } from './scale.ts';

/** About how wide a letter of the head is, in pixels. */
const LETTER = 5.7;
const SPACE = 4;

/** When an engagement will likely and safely be finished, by its forecast. */
export interface ForecastSpan {
  readonly likely: IsoDay;
  readonly safe: IsoDay;
}

export interface HeadLabel {
  readonly x: number;
  readonly text: string;
}

interface Marked {
  readonly promise: IsoDay | null;
  readonly forecast: ForecastSpan | null;
}

/** What the head says beside its ticks: the promise and the forecast, each at its day; in one line where they would lie on each other. */
export function headLabels(scale: TimeScale, { promise, forecast }: Marked): HeadLabel[] {
  const labels = [
    ...(promise === null ? [] : [{ x: scale.right(promise) + SPACE, text: `promise ${dayWithoutYear(promise)}` }]),
    ...(forecast === null
      ? []
      : [
          {
            x: scale.right(forecast.likely) + SPACE,
            text: `likely ${dayWithoutYear(forecast.likely)}, safe ${dayWithoutYear(forecast.safe)}`,
          },
        ]),
  ].sort((left, right) => left.x - right.x);
  const [first, second] = labels;
  if (first === undefined || second === undefined || endOf(first) < second.x) return labels.map((label) => inside(label, scale));
  return [inside({ x: first.x, text: `${first.text} · ${second.text}` }, scale)];
}

/** Moved left as far as it needs to be read whole. */
const inside = (label: HeadLabel, scale: TimeScale): HeadLabel => ({
  ...label,
  x: Math.max(SPACE, Math.min(label.x, scale.width - label.text.length * LETTER - SPACE)),
});

const endOf = ({ x, text }: HeadLabel): number => x + text.length * LETTER;

/** Whether a tick's own label would lie under one of these: then it is left out; its line stays. */
export const isUnder = (labels: readonly HeadLabel[], tick: { readonly x: number; readonly label: string }): boolean =>
  labels.some((label) => tick.x + SPACE < endOf(label) && tick.x + SPACE + tick.label.length * LETTER > label.x);
