export * from './result.ts';
export * from './words.ts';
export * from './calendar/day.ts';
export {
  addWorkingDays,
  briefBy,
  compileCalendar,
  currentWeek,
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
export { ancestorsOf, descendantsOf, leavesUnder, topsAmong, treeOf, type Tree, type TreeItem } from './nesting/tree.ts';
export { load, openBook, readItem, remainingMinutes } from './load/load.ts';
export { easeLoad } from './ease/ease.ts';
export type * from './ease/types.ts';
export { compareLoad, type LoadChange, type LoadDifference } from './ease/compare.ts';
export type { Fullness } from './ease/measure.ts';
export { LoadBook, type LoadItem, type PlacedMinutes } from './load/book.ts';
export { KeptLoad } from './load/kept-load.ts';
export { sumDays, type DaySums } from './load/sums.ts';
export { ownDays, type DayPart, type OwnDay } from './load/own-days.ts';
export { splitByLargestRemainder } from './load/split.ts';
export type * from './load/types.ts';
export { earliestStart, type EarliestStart, type PersonMinutes, type EarliestStartInput, type TriedWork } from './tryout/earliest-start.ts';
export { FREQUENCY, readRule, writeRule, type Frequency, type RepeatRule, type RuleWeekday } from './series/rule.ts';
export { expandRule, type RuleWindow } from './series/expand.ts';
export { occurrences, ON_CLOSED, type Occurrence, type OnClosed, type Rhythm, type SeriesInput } from './series/occurrences.ts';
export { paceOf, paceRule, type Pace, type PacedRule } from './series/pace.ts';
export { balanceRetainer, CARRY, type Carry, type RetainerBalance, type RetainerPeriod } from './series/retainer.ts';
export {
  scheduleUnits,
  lineHours,
  weeksFrom,
  type ScheduledUnit,
  type LineUnit,
  type LineWork,
  type RoleWeeks,
} from './series/line-hours.ts';
export { earliestChange, type ChangeCandidate, type DatedWork, type EarliestChange } from './tryout/earliest-change.ts';
export { LEAST_OVER } from './tryout/added-over.ts';
export { learn, type Learned, type LearnRun, type LearnTask, type Range, type StepHabit } from './learn/learn.ts';
export { forecast, openForecast, type Forecast, type ForecastInput, type ForecastTask, type OpenForecast } from './forecast/forecast.ts';
export { readRatios, type FinishedTask, type RatioPools } from './forecast/ratios.ts';
export type { ChunkOfRuns } from './forecast/simulate.ts';
export { changeSums, percentOfSums, sumProgress, type ProgressSums } from './progress/sums.ts';
export { progress, type ProgressTask } from './progress/progress.ts';
export { answerVerb, VERBS, type Answer } from './verbs.ts';
export { followersOf, replan, type Move, type PresentDates, type Replan } from './plan-change/replan.ts';
export { remainingDays } from './plan-change/remaining.ts';
export { evaluateGate, isGateClear, type CheckResult, type GateCheck, type GateFacts, type GateTask } from './handoff/gate.ts';
export { estimateOfNextRound, tasksOfRound, type RoundTask } from './handoff/round.ts';
export { passSpeed, roundedMedianOf, type PassedCase, type SpeedColumn, type SpeedPoint } from './handoff/speed.ts';
export { waitCounter, waits, type LocalTime, type Waits, type WaitsInput } from './handoff/waits.ts';
export { elapsedSeconds, guessMinutes, minutesToLog, pauseTimer, resumeTimer, type Timer } from './time/timer.ts';
export { isTimeForgotten } from './time/forgotten.ts';
export { findOverlaps, type Overlap, type WorkedStretch } from './time/overlap.ts';
export { openRooms, type Room } from './crew/room.ts';
export { suggestPeople, type Candidate, type SuggestedPerson } from './crew/suggest.ts';
export {
  CUSTOM_FIELD_KIND,
  customFieldFault,
  customValueFault,
  readCustomValue,
  type CustomFieldDefinition,
  type CustomFieldEntry,
  type CustomFieldKind,
  type CustomFieldValue,
} from './field/custom-field.ts';
export { blankTask } from './template/blank-task.ts';
export { checkTemplate, toSchedulePlan } from './template/check.ts';
export { composeTasks, composeTemplate, freeStateLine, type Composable } from './template/compose.ts';
export { diffTemplates, type FieldDifference, type TemplateDifference } from './template/difference.ts';
export {
  templateFromPlan,
  type Measure,
  type PlannedEngagement,
  type PlannedPhase,
  type PlannedTask,
  type TemplateFromPlan,
} from './template/from-plan.ts';
export { EXCHANGE_FORMAT, toExchange, type ExchangedTemplate } from './template/exchange.ts';
export { readExchange, type NewFile, type NewCustomField, type ReadExchange } from './template/read-exchange.ts';
export { mergeLists, type ThreeStates } from './template/merge.ts';
export type * from './template/types.ts';
export { reply, type Remark, type Reply, type ReplyInput } from './mail/reply.ts';
export { checkRules, type CheckRulesInput, type EffectMeaning, type RuleFinding } from './rules/check-rules.ts';
export { runRules } from './rules/run-rules.ts';
export {
  CONDITION_OP,
  HELD_WHY,
  RULE_LEVEL,
  type Chain,
  type Condition,
  type ConditionOp,
  type Effect,
  type Fact,
  type Facts,
  type HeldWhy,
  type Rule,
  type RuleEvent,
  type RuleLevel,
  type RulesAnswer,
  type RulesInput,
  type When,
} from './rules/types.ts';
