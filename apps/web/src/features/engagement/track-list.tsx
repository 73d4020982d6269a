import type { IsoDay } from '@crew/core';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { phone } from '../../ui/tokens.ts';
import { monthTicks, type TrackWindow } from './window.ts';

/** The columns of the list, those of its head too. */
export const COLUMNS = '268px minmax(0, 1fr) 208px';

/** A row of the list. */
export const TrackListRow = styled.div`
  display: grid;
  grid-template-columns: ${COLUMNS};
  align-items: center;
  min-height: 60px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  position: relative;
  &:is(li):last-child,
  li:last-child > & {
    border-bottom: 0;
  }
  &:hover {
    background: var(--sunk);
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    gap: 7px;
    padding: 12px;
  }
`;
export const NameOfRow = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  padding-right: 12px;
  min-width: 0;
  > div {
    flex: 1;
    min-width: 0;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
/** The whole row is the link; its text is only the name. */
export const RowLink = styled(Link)`
  display: block;
  font-weight: 600;
  text-decoration: none;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;
export const TimeOfRow = styled.div`
  position: relative;
  height: 100%;
  display: flex;
  flex-direction: column;
  justify-content: center;
  padding-top: 12px;
  ${phone} {
    display: none;
  }
`;
export const TodayLine = styled.span`
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px dotted var(--ink-2);
  pointer-events: none;
`;
export const StandOfRow = styled.div`
  padding-left: 14px;
  font-size: 12.5px;
  line-height: 1.3;
  strong {
    font-weight: 650;
  }
  strong,
  small {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    display: block;
    font-size: 11.5px;
    color: var(--ink-2);
  }
  ${phone} {
    padding: 0;
    small {
      white-space: normal;
    }
  }
`;

/** The head of the list, over its columns. */
export const TrackHead = styled.div`
  position: relative;
  display: grid;
  grid-template-columns: ${COLUMNS};
  align-items: end;
  height: 31px;
  padding: 0 14px 5px;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  color: var(--ink-2);
  ${phone} {
    display: none;
  }
`;
const Months = styled.div`
  position: relative;
  align-self: stretch;
`;
const Month = styled.span`
  position: absolute;
  bottom: -5px;
  padding: 0 0 4px 4px;
  border-left: 1px solid var(--line);
  height: 22px;
  color: var(--ink);
`;
const TodayWord = styled.span`
  position: absolute;
  top: 0;
  transform: translateX(-50%);
  font-weight: 650;
  font-size: 11px;
  color: var(--ink);
  padding: 0 3px;
`;

/** With more months than this there is no room to name the year. */
const MOST_YEARLY = 6;

/** The months over a list along time, and today. */
export function MonthTicks({ window, today }: { readonly window: TrackWindow; readonly today: IsoDay | null }) {
  const ticks = monthTicks(window);
  return (
    <Months>
      {ticks.map((tick) => (
        <Month key={tick.day} style={{ left: `${window.scale(tick.day)}%` }}>
          {ticks.length > MOST_YEARLY ? tick.name.slice(0, 3) : tick.name}
        </Month>
      ))}
      {today === null ? null : <TodayWord style={{ left: `${window.scale(today)}%` }}>today</TodayWord>}
    </Months>
  );
}
