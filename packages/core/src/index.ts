export * from './result.ts';
export * from './calendar/day.ts';
export {
  addWorkingDays,
  briefBy,
  compileCalendar,
  isOpen,
  openOnOrAfter,
  openOnOrBefore,
  rank,
  select,
  workingDaysBetween,
  type Calendar,
  type CalendarInput,
} from './calendar/calendar.ts';
export { capacityOn, readPerson, type Person, type PersonInput, type TimeOffInput } from './calendar/capacity.ts';
export { schedule, scheduleBack } from './schedule/schedule.ts';
export type * from './schedule/types.ts';
export { load, openBook, readItem, remainingMinutes } from './load/load.ts';
export { LoadBook, type LoadItem } from './load/book.ts';
export { splitByLargestRemainder } from './load/split.ts';
export type * from './load/types.ts';
export { progress, TASK_STATES, type ProgressTask, type TaskState } from './progress/progress.ts';
export { answerVerb, VERBS, type Answer } from './verbs.ts';
