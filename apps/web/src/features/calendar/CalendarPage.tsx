import { can } from '@crew/contract';
import styled from 'styled-components';
import { useCalendar } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { ErrorNote, Loading, Muted, Page, PageHead, WithSheet } from '../../ui/layout.tsx';
import { narrow } from '../../ui/tokens.ts';
import { AgencyWeek } from './AgencyWeek.tsx';
import { ClosedDays } from './ClosedDays.tsx';
import { HolidaySheet } from './HolidaySheet.tsx';
import { TimeOff } from './TimeOff.tsx';

/** One below the other where a sheet takes the room of one. */
const Halves = styled.div<{ $hasSheet: boolean }>`
  display: grid;
  grid-template-columns: ${({ $hasSheet }) => ($hasSheet ? 'minmax(0, 1fr)' : 'minmax(0, 1fr) 400px')};
  gap: 14px;
  align-items: start;
  > div {
    display: flex;
    flex-direction: column;
    gap: 14px;
    min-width: 0;
  }
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const CALENDAR_SHEETS = { things: [], named: ['holidays'] } as const;

/** When the agency works and who is away: what every date and every load is counted on. */
export function CalendarPage() {
  const me = useWho();
  const { data: calendar, error } = useCalendar();
  const [sheet, open] = useOpenSheet(CALENDAR_SHEETS);
  return (
    <Page>
      <PageHead>
        <h1>Calendar</h1>
        <Muted>Dates and workload are planned on these days</Muted>
      </PageHead>
      {error ? (
        <ErrorNote error={error} />
      ) : calendar === undefined ? (
        <Loading rows={12} />
      ) : (
        <WithSheet $isOpen={sheet !== null}>
          <Halves $hasSheet={sheet !== null}>
            <div>
              <TimeOff calendar={calendar} today={me.today} />
            </div>
            <div>
              <AgencyWeek calendar={calendar} today={me.today} mayEdit={can(me, 'calendar.edit')} />
              <ClosedDays
                calendar={calendar}
                today={me.today}
                mayEdit={can(me, 'calendar.edit')}
                onHolidays={() => open({ kind: 'holidays' })}
              />
            </div>
          </Halves>
          {sheet === null ? null : <HolidaySheet calendar={calendar} today={me.today} onClose={() => open(null)} />}
        </WithSheet>
      )}
    </Page>
  );
}
