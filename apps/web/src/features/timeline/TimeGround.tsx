import type { EngagementPlan } from '@crew/contract';
import { isOpen, type Calendar } from '@crew/core';
import styled from 'styled-components';
import { shortDay } from '../../words/format.ts';
import { HEAD, placeOf, ROW } from './geometry.ts';
import type { TimelineRow } from './rows.ts';
import { dayNumber, ticksOf, type Tick, type TimeScale } from './scale.ts';

const Head = styled.svg`
  position: sticky;
  top: 0;
  z-index: 3;
  display: block;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
`;

/** About how wide a letter of the head is, in pixels. */
const LETTER = 5.7;

/** The head of the drawing: which day, week, month or quarter begins where, today, and the promise. */
export function TimeHead({
  scale,
  today,
  promise,
}: {
  readonly scale: TimeScale;
  readonly today: string;
  readonly promise: string | null;
}) {
  const word = promise === null ? '' : `promise ${shortDay(promise, today)}`;
  const place = promise === null ? 0 : scale.right(promise) + 4;
  // A label that would lie under the promise is left out; its line stays.
  const isCovered = (tick: Tick): boolean =>
    word !== '' && tick.x + 4 < place + word.length * LETTER && tick.x + 4 + tick.label.length * LETTER > place;
  return (
    <Head width={scale.width} height={HEAD} aria-hidden="true">
      {ticksOf(scale).map((tick) => (
        <g key={tick.day}>
          <path d={`M${tick.x + 0.5} 4 V${HEAD}`} stroke="var(--line)" />
          <text x={tick.x + 4} y={17} fontSize={11.5} fontWeight={600} fill="var(--ink-2)">
            {isCovered(tick) ? '' : tick.label}
          </text>
        </g>
      ))}
      <path d={`M${scale.x(today) - 4} ${HEAD - 6} h8 l-4 6 z`} fill="var(--ink)" />
      {promise === null ? null : (
        <text
          x={place}
          y={17}
          fontSize={11.5}
          fontWeight={700}
          fill="var(--ink)"
          style={{ paintOrder: 'stroke' }}
          stroke="var(--panel)"
          strokeWidth={4}
        >
          {word}
        </text>
      )}
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

/** Today, the promise, and how far the plan goes beyond it. */
export function Marks({
  scale,
  today,
  height,
  plan,
}: {
  readonly scale: TimeScale;
  readonly today: string;
  readonly height: number;
  readonly plan: EngagementPlan;
}) {
  const { promise, finish } = plan.engagement;
  const now = (dayNumber(today) - scale.from + 0.5) * scale.dayPx;
  return (
    <g pointerEvents="none">
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
