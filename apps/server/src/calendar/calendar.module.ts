import type { Area } from '../platform/area.ts';
import { CalendarController } from './calendar.controller.ts';
import { KeepCalendar } from './keep-calendar.ts';

export const calendar: Area = {
  controllers: [CalendarController],
  providers: [KeepCalendar],
};
