import type { AgencyCalendar } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { HolidayPicker } from './HolidayPicker.tsx';

interface HolidaySheetProps {
  readonly calendar: AgencyCalendar;
  readonly today: IsoDay;
  readonly onClose: () => void;
}

/** Public holidays beside the calendar. */
export function HolidaySheet({ calendar, today, onClose }: HolidaySheetProps) {
  return (
    <Sheet label="Public holidays" line="Calendar" onClose={onClose}>
      <SheetTitle>Public holidays</SheetTitle>
      <HolidayPicker calendar={calendar} today={today} cancelWords="Cancel" onClose={onClose} />
    </Sheet>
  );
}
