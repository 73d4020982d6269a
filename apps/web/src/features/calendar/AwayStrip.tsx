import type { AgencyCalendar } from '@crew/contract';
import styled from 'styled-components';
import { PersonMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { hourWords, shortDay, spanWords } from '../../words/format.ts';
import { awayRows, monthsOf, stretchOf, type Stretch } from './away.ts';
import { mondayOf, type IsoDay } from '@crew/core';

const Name = styled.b`
  && {
    font-weight: 500;
  }
`;

const Strip = styled.div`
  padding: 8px 14px 12px;
`;
const Lane = styled.div`
  display: grid;
  grid-template-columns: 132px minmax(0, 1fr);
  gap: 12px;
  align-items: center;
  min-height: 30px;
  > span {
    display: flex;
    align-items: center;
    gap: 8px;
    overflow: hidden;
    white-space: nowrap;
  }
  ${phone} {
    grid-template-columns: 30px minmax(0, 1fr);
    > span b {
      display: none;
    }
  }
`;

const FreeLane = styled(Lane)`
  min-height: 18px;
`;
const Days = styled.div`
  position: relative;
  height: 30px;
  border-left: 1px solid var(--line);
  border-top: 1px solid var(--line-2);
  i {
    position: absolute;
    top: 0;
    bottom: 0;
    background: var(--line-2);
  }
  u {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 0;
    border-left: 2px solid var(--ember);
  }
`;
const Months = styled.div`
  position: relative;
  height: 18px;
  color: var(--ink-2);
  font-size: 12px;
  span {
    position: absolute;
    padding-left: 4px;
    border-left: 1px solid var(--line);
  }
`;
const Away = styled.span<{ $isPart: boolean }>`
  position: absolute;
  top: 7px;
  height: 15px;
  min-width: 5px;
  border-radius: 3px;
  background: ${({ $isPart }) => ($isPart ? 'var(--petrol-mid)' : 'var(--petrol)')};
`;

/** "Dec". */
const monthWords = (day: IsoDay): string => shortDay(day, day).split(' ')[1] as string;
const share = ({ left, width }: Stretch) => ({ left: `${left * 100}%`, width: `${width * 100}%` });

/** The next twenty weeks: who is away when, the closed days behind. */
export function AwayStrip({ calendar, today }: { readonly calendar: AgencyCalendar; readonly today: IsoDay }) {
  const first = mondayOf(today);
  const closed = calendar.closed.flatMap(({ day, name }) => {
    const stretch = stretchOf(day, day, first);
    return stretch === null ? [] : [{ day, name, stretch }];
  });
  const now = stretchOf(today, today, first) as Stretch;
  return (
    <Strip>
      <FreeLane aria-hidden="true">
        <span />
        <Months>
          {monthsOf(first).map(({ day, left }) => (
            <span key={day} style={{ left: `${left * 100}%` }}>
              {monthWords(day)}
            </span>
          ))}
        </Months>
      </FreeLane>
      <ul aria-label="Away in the next twenty weeks">
        {awayRows(calendar.timeOff, first).map(({ person, spans }) => (
          <Lane key={person.id} as="li">
            <span>
              <PersonMark person={person} />
              <Name>{person.name}</Name>
            </span>
            <Days>
              {closed.map(({ day, name, stretch }) => (
                <i key={day} style={share(stretch)} title={`${shortDay(day, today)}: ${name}`} />
              ))}
              <u style={{ left: `${now.left * 100}%` }} title="Today" />
              {spans.map(({ line, stretch }) => {
                const words = `${spanWords(line.from, line.to, today)}${line.minutes === null ? '' : `, ${hourWords(line.minutes)} a day`}${line.note === '' ? '' : `: ${line.note}`}`;
                return (
                  <Away key={line.id} role="img" aria-label={words} title={words} $isPart={line.minutes !== null} style={share(stretch)} />
                );
              })}
            </Days>
          </Lane>
        ))}
      </ul>
    </Strip>
  );
}
