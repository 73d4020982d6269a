import type { EChartsCoreOption } from 'echarts/core';
import { useEffect, useRef } from 'react';

interface ChartProps {
  /** What it shows, in words: for those who do not see it. */
  readonly label: string;
  readonly height: number;
  /** Made anew when what is shown changes; colours come from the tokens that are in force. */
  readonly option: (colour: (token: string) => string) => EChartsCoreOption;
  /** What pressing a point does, by its place in the series; the same can be had without a pointer elsewhere. */
  readonly onPick?: (place: number) => void;
}

/** A curve or bars where they say more than a number. The library comes with the first one that is shown. */
export function Chart({ label, height, option, onPick }: ChartProps) {
  const pick = useRef(onPick);
  useEffect(() => {
    pick.current = onPick;
  });
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = place.current;
    if (element === null) return;
    let remove: (() => void) | null = null;
    let isGone = false;
    const styles = getComputedStyle(document.documentElement);
    void import('./chart.ts').then(({ drawChart }) => {
      if (!isGone)
        remove = drawChart(
          element,
          option((token) => styles.getPropertyValue(`--${token}`).trim()),
          (index) => pick.current?.(index),
        );
    });
    return () => {
      isGone = true;
      remove?.();
    };
  }, [option]);
  return <div ref={place} role="img" aria-label={label} style={{ height }} />;
}
