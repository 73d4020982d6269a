import type { IsoDay } from '@crew/core';
import type { Workload } from '@crew/contract';
import { useCallback, useMemo } from 'react';
import { Chart } from '../../ui/Chart.tsx';
import { Muted, Panel, PanelHead, PanelBody } from '../../ui/layout.tsx';
import { count } from '../../words/format.ts';
import { curveOption, curveWords, loadByWeek } from './load-curve.ts';

/** The hours of everybody shown, week by week: where they rise above what is open, and where there is room. */
export function LoadCurve({ workload, today }: { readonly workload: Workload; readonly today: IsoDay }) {
  const { rows } = workload;
  const weeks = useMemo(() => loadByWeek(workload, rows), [workload, rows]);
  const option = useCallback((colour: (token: string) => string) => curveOption(weeks, today, colour), [weeks, today]);
  if (weeks.length < 2 || rows.length === 0) return null;
  return (
    <Panel $space="above">
      <PanelHead>
        <h2>Hours by week</h2>
        <Muted>{count(rows.length, 'person', 'people')}; one person’s overload is not offset by others’ free time</Muted>
      </PanelHead>
      <PanelBody>
        <Chart label={curveWords(weeks, today)} height={170} option={option} />
      </PanelBody>
    </Panel>
  );
}
