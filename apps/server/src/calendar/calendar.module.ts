import type { Area } from '../platform/area.ts';
import { CalendarController } from './calendar.controller.ts';
import { KeepCalendar } from './keep-calendar.ts';
import { KeepTimeOff } from './keep-time-off.ts';
import { ThisWeek } from './this-week.ts';
import { CALENDAR_EVENTS, UndoCalendar } from './undo-calendar.ts';

export const calendar: Area = {
  controllers: [CalendarController],
  providers: [KeepCalendar, KeepTimeOff, ThisWeek, UndoCalendar],
  undoing: [{ kinds: CALENDAR_EVENTS, by: UndoCalendar }],
};
