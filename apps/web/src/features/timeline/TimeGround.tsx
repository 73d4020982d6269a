import type { EngagementPlan } from '@crew/contract';
import { isOpen, type Calendar, type IsoDay } from '@crew/core';
import styled from 'styled-components';
import { HEAD, placeOf, ROW } from './geometry.ts';
import { isUnder, type ForecastSpan, type HeadLabel } from './head-labels.ts';
import type { TimelineRow } from './rows.ts';
import { dayNumber, ticksOf, type TimeScale } from './scale.ts';

const HaloText = styled.text`
  paint-order: stroke;
`;

const Head = styled.svg`
  position: sticky;
  top: 0;
  z-index: 3;
  display: block;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
`;

interface HeadProps {
  readonly scale: TimeScale;
  readonly labels: readonly HeadLabel[];
  readonly today: IsoDay;
}

/** The head of the drawing: which day, week, month or quarter begins where, today, the promise and the forecast. */
export function TimeHead({ scale, labels, today }: HeadProps) {
  return (
    <Head width={scale.width} height={HEAD} aria-hidden="true">
      {ticksOf(scale).map((tick) => (
        <g key={tick.day}>
          <path d={`M${tick.x + 0.5} 4 V${HEAD}`} stroke="var(--line)" />
          <text x={tick.x + 4} y={17} fontSize={11.5} fontWeight={600} fill="var(--ink-2)">
            {isUnder(labels, tick) ? '' : tick.label}
          </text>
        </g>
      ))}
      <path d={`M${scale.x(today) - 4} ${HEAD - 6} h8 l-4 6 z`} fill="var(--ink)" />
      {labels.map((label) => (
        <HaloText
          key={label.text}
          x={label.x}
          y={17}
          fontSize={11.5}
          fontWeight={700}
          fill="var(--ink)"
          stroke="var(--panel)"
          strokeWidth={4}
        >
          {label.text}
        </HaloText>
      ))}
    </Head>
  );
}

interface GroundProps {
  readonly rows: readonly TimelineRow[];
  readonly shown: readonly number[];
  readonly scale: TimeScale;
  readonly calendar: Calendar;
  readonly height: number;
}

/** Bands of phases, the lines of the head going down, and closed days where a day can be seen. */
export function Ground({ rows, shown, scale, calendar, height }: GroundProps) {
  const closed: number[] = [];
  if (scale.dayPx >= 9) for (let day = scale.from; day <= scale.to; day++) if (!isOpen(calendar, day)) closed.push(day);
  return (
    <>
      {shown.map((index) =>
        rows[index]?.kind === 'phase' ? (
          <rect key={index} x={0} y={index * ROW} width={scale.width} height={ROW} fill="var(--sunk)" />
        ) : null,
      )}
      {closed.map((day) => (
        <rect
          key={day}
          x={(day - scale.from) * scale.dayPx}
          y={0}
          width={scale.dayPx}
          height={height}
          fill="var(--ground)"
          opacity={0.55}
        />
      ))}
      {ticksOf(scale).map((tick) => (
        <path key={tick.day} d={`M${tick.x + 0.5} 0 V${height}`} stroke="var(--line-2)" />
      ))}
      {shown.map((index) => (
        <path key={`l${index}`} d={`M0 ${index * ROW + 0.5} H${scale.width}`} stroke="var(--line-2)" />
      ))}
    </>
  );
}

interface MarksProps {
  readonly scale: TimeScale;
  readonly today: IsoDay;
  readonly height: number;
  readonly plan: EngagementPlan;
  readonly forecast: ForecastSpan | null;
}

/** Today, the promise, how far the plan goes beyond it, and from when to when it will likely and safely be finished. */
export function Marks({ scale, today, height, plan, forecast }: MarksProps) {
  const { promise, finish } = plan.engagement;
  const now = (dayNumber(today) - scale.from + 0.5) * scale.dayPx;
  return (
    <g pointerEvents="none">
      {forecast === null ? null : (
        <g stroke="var(--petrol-mid)" strokeWidth={1.4}>
          <rect
            x={scale.right(forecast.likely)}
            y={0}
            width={scale.right(forecast.safe) - scale.right(forecast.likely)}
            height={height}
            stroke="none"
            fill="var(--petrol-soft)"
            opacity={0.5}
          />
          <path d={`M${scale.right(forecast.likely)} 0 V${height}`} />
          <path d={`M${scale.right(forecast.safe)} 0 V${height}`} strokeDasharray="5 4" />
        </g>
      )}
      <path d={`M${now} 0 V${height}`} stroke="var(--ink)" strokeWidth={1.6} strokeDasharray="2 3" />
      {promise === null ? null : <path d={`M${scale.right(promise)} 0 V${height}`} stroke="var(--ink)" strokeWidth={2.2} />}
      {promise !== null && finish > promise ? (
        <rect
          x={scale.right(promise)}
          y={0}
          width={placeOf(scale, { start: promise, due: finish }).width - scale.dayPx}
          height={4}
          fill="var(--brick)"
        />
      ) : null}
    </g>
  );
}
