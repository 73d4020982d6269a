import { commandBy, type Area } from '../platform/area.ts';
import { CloseTimePeriod } from './close-time.ts';
import { ExportTime } from './export-time.ts';
import { KeepTime } from './keep-time.ts';
import { KeepTimer } from './keep-timer.ts';
import { ReadTime } from './read-time.ts';
import { TimeEntry } from './time-entry.entity.ts';
import { TimeController } from './time.controller.ts';
import { TimerController } from './timer.controller.ts';
import { Timer } from './timer.entity.ts';

export const time: Area = {
  controllers: [TimerController, TimeController],
  providers: [KeepTimer, KeepTime, ExportTime, ReadTime, CloseTimePeriod],
  entities: [TimeEntry, Timer],
  commands: [commandBy({ name: 'time.log', by: KeepTime, run: (keeping, who, { target, input }) => keeping.log(who, target, input) })],
};
