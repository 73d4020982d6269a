import { indexById, refuse, requireList, requireObject, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';

/** One finished run of a template task: what it really took, or that it was dropped. `steps` are the titles it ended with. */
export interface LearnRun {
  readonly minutes?: number;
  readonly days?: number;
  readonly dropped?: boolean;
  readonly steps?: readonly string[];
}

/** A template task as it is estimated now, with its finished runs. */
export interface LearnTask {
  readonly id: string;
  readonly estimate?: number;
  readonly days?: number;
  readonly steps?: readonly string[];
  readonly runs: readonly LearnRun[];
}

/** The middle and the range of most runs, by nearest rank. */
export interface Range {
  readonly p20: number;
  readonly middle: number;
  readonly p80: number;
}

/** How often a step was there that the template lacks, or lacked one the template has. */
export interface StepHabit {
  readonly title: string;
  readonly habit: 'added' | 'left-out';
  readonly runs: number;
}

/** What the runs of one template task add up to. Ranges are null when no run has a value. */
export interface Learned {
  readonly id: string;
  readonly n: number;
  readonly minutes: Range | null;
  readonly days: Range | null;
  /** Share of all runs in which it was dropped, in percent, rounded down. */
  readonly dropped: number;
  /** Minutes worth proposing as the estimate, or null. */
  readonly proposal: number | null;
  /** Working days worth proposing as the length, or null. */
  readonly proposedDays: number | null;
  readonly habits: readonly StepHabit[];
}

const LEAST_RUNS = 3;
const LEAST_PERCENT = 15;
const LEAST_MINUTES = 30;
const ROUND_TO = 15;

/**
 * What template tasks really took over finished runs (core-spec, section 5): the number of
 * runs that were done, the middle and the 20th and 80th percentile by nearest rank of real
 * minutes and real working days, how often it was dropped, and the estimate worth proposing:
 * from three runs on, when the middle is off by more than 15 % and 30 minutes, rounded to
 * 15 minutes. A run without minutes or days says nothing about them.
 */
export function learn(input: { readonly tasks: readonly LearnTask[] }): Result<{ readonly tasks: readonly Learned[] }> {
  return attempt(() => {
    requireObject(input, 'input');
    requireList(input.tasks, 'tasks');
    indexById(input.tasks, 'tasks');
    return { tasks: input.tasks.map(learnTask) };
  });
}

function learnTask(task: LearnTask): Learned {
  const at = `tasks[${task.id}]`;
  requireList(task.runs, `${at}.runs`);
  const estimate = optionalWhole(task.estimate, `${at}.estimate`);
  const planned = optionalWhole(task.days, `${at}.days`);
  const runs = task.runs.map((run, index) => readRun(run, `${at}.runs[${index}]`));
  const done = runs.filter((run) => !run.dropped);
  const minutes = rangeOf(done.flatMap((run) => run.minutes ?? []));
  const days = rangeOf(done.flatMap((run) => run.days ?? []));
  const isEnough = (of: 'minutes' | 'days'): boolean => done.filter((run) => run[of] !== null).length >= LEAST_RUNS;
  return {
    id: task.id,
    n: done.length,
    minutes,
    days,
    dropped: runs.length === 0 ? 0 : Math.floor(((runs.length - done.length) * 100) / runs.length),
    proposal: minutes !== null && isEnough('minutes') ? proposeMinutes(minutes.middle, estimate) : null,
    proposedDays: days !== null && isEnough('days') ? proposeDays(days.middle, planned) : null,
    habits: done.length < LEAST_RUNS ? [] : habitsOf(task.steps ?? [], done),
  };
}

interface Run {
  readonly minutes: number | null;
  readonly days: number | null;
  readonly dropped: boolean;
  readonly steps: readonly string[] | null;
}

function readRun(given: LearnRun, at: string): Run {
  requireObject(given, at);
  const run = given as LearnRun;
  if (run.steps !== undefined && !isListOfTexts(run.steps))
    refuse({ kind: 'invalid-field', at: `${at}.steps`, expected: 'a list of titles' });
  if (run.dropped !== undefined && typeof run.dropped !== 'boolean')
    refuse({ kind: 'invalid-field', at: `${at}.dropped`, expected: 'true or false' });
  return {
    minutes: optionalWhole(run.minutes, `${at}.minutes`),
    days: optionalWhole(run.days, `${at}.days`),
    dropped: run.dropped === true,
    steps: run.steps ?? null,
  };
}

const isListOfTexts = (value: unknown): boolean => Array.isArray(value) && value.every((text) => typeof text === 'string');

const optionalWhole = (value: number | null | undefined, at: string): number | null =>
  value === undefined || value === null ? null : requireWhole(value, at, 0);

/** Nearest rank: the smallest value with at least that share of all values at or below it. */
function rangeOf(values: readonly number[]): Range | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((left, right) => left - right);
  const at = (percent: number): number => sorted[Math.max(0, Math.ceil((percent * sorted.length) / 100) - 1)] as number;
  return { p20: at(20), middle: at(50), p80: at(80) };
}

const isOff = (real: number, planned: number): boolean => Math.abs(real - planned) * 100 > LEAST_PERCENT * planned;

function proposeMinutes(middle: number, estimate: number | null): number | null {
  if (estimate !== null && !(isOff(middle, estimate) && Math.abs(middle - estimate) > LEAST_MINUTES)) return null;
  return Math.max(ROUND_TO, Math.round(middle / ROUND_TO) * ROUND_TO);
}

/** A length is a whole number of days: the middle itself, when it is off by a day or more. */
const proposeDays = (middle: number, planned: number | null): number | null =>
  planned !== null && planned > 0 && middle > 0 && isOff(middle, planned) ? middle : null;

/** Steps that at least two thirds of the runs added or left out, the most frequent first. */
function habitsOf(planned: readonly string[], done: readonly Run[]): StepHabit[] {
  const runs = done.flatMap((run) => (run.steps === null ? [] : [new Set(run.steps)]));
  const titles = [...new Set([...planned, ...runs.flatMap((steps) => [...steps])])];
  return titles
    .map((title): StepHabit => {
      const having = runs.filter((steps) => steps.has(title)).length;
      const isPlanned = planned.includes(title);
      return { title, habit: isPlanned ? 'left-out' : 'added', runs: isPlanned ? runs.length - having : having };
    })
    .filter((habit) => habit.runs >= LEAST_RUNS && habit.runs * 3 >= runs.length * 2)
    .sort((left, right) => right.runs - left.runs);
}
