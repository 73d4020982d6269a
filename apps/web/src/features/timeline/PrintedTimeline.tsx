import type { EngagementPlan, TaskMove } from '@crew/contract';
import type { Calendar, IsoDay } from '@crew/core';
import styled from 'styled-components';
import { RowShape } from './Bars.tsx';
import { HEAD, ROW } from './geometry.ts';
import { headLabels, type ForecastSpan } from './head-labels.ts';
import { NameRow } from './NameRow.tsx';
import { daysOf, type TimelineRow } from './rows.ts';
import { fittingScale } from './scale.ts';
import { Ground, Marks, TimeHead } from './TimeGround.tsx';
import { Dependencies } from './Dependencies.tsx';

/** A sheet of A4 across, in pixels of the page, less its margins; the first one carries the head of the engagement. */
const SHEET = { width: 1040, rows: 22, firstRows: 18, names: 228 } as const;

const Part = styled.div`
  display: grid;
  grid-template-columns: ${SHEET.names}px auto;
  width: max-content;
  break-inside: avoid;
  break-after: page;
  border: 1px solid var(--line);
  &:last-child {
    break-after: auto;
  }
`;
const Names = styled.div`
  position: relative;
  overflow: hidden;
  border-right: 1px solid var(--line);
`;
const nothing = (): void => undefined;
/** On paper nothing is moved, dragged or pointed at. */
const STILL = { span: undefined, move: undefined, drag: null, isActive: false, onGrab: nothing } as const;
const noMoves: ReadonlyMap<string, TaskMove> = new Map();

interface PrintedProps {
  readonly plan: EngagementPlan;
  readonly rows: readonly TimelineRow[];
  readonly calendar: Calendar;
  readonly today: IsoDay;
  readonly forecast: ForecastSpan | null;
}

/** The timeline on paper: all of its time on the width of a sheet, and as many sheets as it has rows, each with its days above. */
export function PrintedTimeline({ plan, rows, calendar, today, forecast }: PrintedProps) {
  const scale = fittingScale(daysOf(plan, today, forecast), SHEET.width - SHEET.names);
  const height = rows.length * ROW;
  const labels = headLabels(scale, { promise: plan.engagement.promise, forecast });
  return (
    <>
      {sheetsOf(rows.length).map(({ from, to }) => {
        const shown = rows.slice(from, to).map((_, index) => from + index);
        return (
          <Part key={from}>
            <div style={{ height: HEAD, borderRight: '1px solid var(--line)', borderBottom: '1px solid var(--line)' }} />
            <TimeHead scale={scale} today={today} labels={labels} />
            <Names style={{ height: (to - from) * ROW }}>
              <div style={{ position: 'absolute', inset: `${-from * ROW}px 0 auto 0` }}>
                {shown.map((index) => (
                  <NameRow
                    key={index}
                    row={rows[index] as TimelineRow}
                    index={index}
                    today={today}
                    isFocusable={false}
                    isOpen={false}
                    move={undefined}
                    onFocus={nothing}
                    onPress={nothing}
                    onFold={nothing}
                  />
                ))}
              </div>
            </Names>
            <svg width={scale.width} height={(to - from) * ROW} viewBox={`0 ${from * ROW} ${scale.width} ${(to - from) * ROW}`}>
              <Ground rows={rows} shown={shown} scale={scale} calendar={calendar} height={height} />
              <Dependencies rows={rows} shown={shown} scale={scale} moves={noMoves} />
              {shown.map((index) => (
                <RowShape key={index} row={rows[index] as TimelineRow} index={index} {...{ scale, calendar, today }} {...STILL} />
              ))}
              <Marks scale={scale} today={today} height={height} plan={plan} forecast={forecast} />
            </svg>
          </Part>
        );
      })}
    </>
  );
}

/** Which rows stand on which sheet. */
export function sheetsOf(rows: number): { readonly from: number; readonly to: number }[] {
  const sheets = [{ from: 0, to: Math.min(rows, SHEET.firstRows) }];
  for (let from = SHEET.firstRows; from < rows; from += SHEET.rows) sheets.push({ from, to: Math.min(rows, from + SHEET.rows) });
  return sheets;
}
