import { memo } from 'react';
import styled from 'styled-components';
import type { Cell, Column } from './columns.ts';

const BarsImage = styled.svg`
  display: block;
`;

const PatternImage = styled.svg`
  position: absolute;
`;

/** Height of a full day or week in pixels; what is above sticks out over the line. */
const FULL = 30;
const HEIGHT = 55;
const BASE = 50;
const FULL_DAY_MINUTES = 450;
const MOST_OVER = 11;

interface LoadBarsProps {
  readonly cells: readonly Cell[];
  readonly columns: readonly Column[];
  readonly columnPx: number;
  readonly label: string;
  /** How it would be, drawn as an outline over what is. */
  readonly tried: readonly Cell[] | null;
}

/**
 * One person's bars, drawn as a handful of paths however many days there are: the frame is
 * what is open, the fill what is planned, lighter what is only likely, hatched brick what is too much.
 */
export const LoadBars = memo(function LoadBars({ cells, columns, columnPx, label, tried }: LoadBarsProps) {
  const gap = columnPx > 20 ? 2 : 1;
  const fullMinutes = FULL_DAY_MINUTES * ((columns[0]?.places.length ?? 1) > 1 ? 5 : 1);
  const px = (minutes: number): number => (minutes * FULL) / fullMinutes;
  const bar = (index: number, height: number, base = BASE): string =>
    `M${index * columnPx + gap} ${base}v${-height}h${columnPx - 2 * gap}v${height}z`;
  const paths = (draw: (cell: Cell, index: number) => string): string => cells.map(draw).join('');
  const inLine = (cell: Cell): number => px(cell.load - cell.over);
  // What is only likely stands on top of the rest, so it is the first to be over.
  const firm = (cell: Cell): number => px(Math.min(cell.load - cell.over, cell.load - cell.likely));
  const overPx = (cell: Cell): number => Math.max(4, Math.min(MOST_OVER, px(cell.over)));
  return (
    <BarsImage width={columns.length * columnPx} height={HEIGHT} role="img" aria-label={label}>
      <path
        stroke="var(--line)"
        d={columns.map((column, index) => (column.opensGroup ? `M${index * columnPx} 0V${HEIGHT}` : '')).join('')}
      />
      <path fill="url(#load-away)" d={paths((cell, index) => (cell.isOff ? bar(index, FULL) : ''))} />
      <path fill="var(--line-2)" d={paths((cell, index) => (cell.capacity > 0 ? bar(index, Math.max(3, px(cell.capacity))) : ''))} />
      <path fill="var(--petrol-mid)" d={paths((cell, index) => (cell.over === 0 && firm(cell) > 0 ? bar(index, firm(cell)) : ''))} />
      <path fill="var(--petrol)" d={paths((cell, index) => (cell.over > 0 && firm(cell) > 0 ? bar(index, firm(cell)) : ''))} />
      <path
        fill="var(--petrol-soft)"
        stroke="var(--petrol-mid)"
        strokeWidth="0.8"
        d={paths((cell, index) => (inLine(cell) - firm(cell) > 0.5 ? bar(index, inLine(cell) - firm(cell), BASE - firm(cell)) : ''))}
      />
      <path
        fill="url(#load-over)"
        stroke="var(--brick)"
        d={paths((cell, index) => (cell.over > 0 ? bar(index, overPx(cell), BASE - px(cell.capacity)) : ''))}
      />
      {tried === null ? null : <Tried {...{ cells, tried, bar, px }} />}
      {columnPx < 26
        ? null
        : cells.map((cell, index) =>
            cell.over === 0 ? null : (
              <text
                key={columns[index]?.from}
                x={(index + 0.5) * columnPx}
                y={BASE - px(cell.capacity) - overPx(cell) - 2.5}
                textAnchor="middle"
                fontSize="9.5"
                fontWeight="700"
                fill="var(--brick)"
              >
                +{overHours(cell.over)}
              </text>
            ),
          )}
    </BarsImage>
  );
});

interface TriedProps {
  readonly cells: readonly Cell[];
  readonly tried: readonly Cell[];
  readonly px: (minutes: number) => number;
  readonly bar: (index: number, height: number) => string;
}

/** How it would be, where it would be otherwise. */
function Tried({ cells, tried, px, bar }: TriedProps) {
  const outline = (cell: Cell, index: number): string =>
    cell.load === cells[index]?.load ? '' : bar(index, Math.min(px(cell.capacity) + MOST_OVER, Math.max(1, px(cell.load))));
  return <path fill="none" stroke="var(--ink)" strokeWidth="1.4" strokeDasharray="3 2" d={tried.map(outline).join('')} />;
}

const overHours = (minutes: number): string => (Math.max(6, minutes) / 60).toFixed(1);

/** The hatchings that all rows share. */
export function LoadPatterns() {
  return (
    <PatternImage width="0" height="0" aria-hidden="true">
      <defs>
        <pattern id="load-over" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="4" height="4" fill="var(--brick-soft)" />
          <rect width="1.2" height="4" fill="var(--brick)" />
        </pattern>
        <pattern id="load-away" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--sunk)" />
          <rect width="1.2" height="5" fill="var(--line)" />
        </pattern>
      </defs>
    </PatternImage>
  );
}
