import { CARRY, isPlannableDay, ON_CLOSED, readRule, type Carry, type OnClosed, type IsoDay } from '@crew/core';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsString,
  Max,
  Min,
  registerDecorator,
  type ValidationArguments,
} from 'class-validator';
import { RoleChoice } from './engagement-input.ts';
import { IsDay, IsId, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';
import { AreParts } from './task-rules.ts';
import { SERIES_KIND, SERIES_PLACES, WHEN_MISSED, type SeriesKind, type SeriesPlaces, type WhenMissed } from './words.ts';

/** A recurrence rule of whole days, as RFC 5545 writes it. */
const IsRule = (): PropertyDecorator => (target, property) =>
  registerDecorator({
    name: 'isRule',
    target: target.constructor,
    propertyName: String(property),
    options: { message: ({ value }: ValidationArguments) => ruleFault(value) ?? '' },
    validator: { validate: (value: unknown) => typeof value === 'string' && ruleFault(value) === null },
  });

/** What is wrong with a rule, in words, or null. */
function ruleFault(value: unknown): string | null {
  if (typeof value !== 'string' || value.length > 500) return 'Write a repeat rule as FREQ=WEEKLY;INTERVAL=2;BYDAY=TU.';
  const read = readRule(value);
  if (read.ok) return read.value.until === null || isPlannableDay(read.value.until) ? null : 'A rule ends between 1990 and 2199.';
  const expected = read.problem.kind !== 'invalid-field' ? 'a rule' : read.problem.expected;
  return `This rule is not understood: it must be ${expected}.`;
}

const AreDays =
  (what: string): PropertyDecorator =>
  (target, property) => {
    IsArray({ message: `Give ${what} as a list.` })(target, property);
    ArrayMaxSize(400, { message: `Keep ${what} to 400.` })(target, property);
    IsDay({ each: true })(target, property);
  };

const IsVersion = (): PropertyDecorator => IsInt({ message: 'Give the version you read.' });
const IsOnClosed = (): PropertyDecorator => IsIn(ON_CLOSED, { message: `On closed days it is one of ${ON_CLOSED.join(', ')}.` });

const IsEach = (): PropertyDecorator => (target, property) => {
  IsInt({ message: 'How many at a time is a whole number.' })(target, property);
  Min(1, { message: 'At least one at a time.' })(target, property);
  Max(50, { message: 'At most 50 at a time.' })(target, property);
};

/** Previews the days of a rule before it is saved. */
export class PreviewRule {
  @IsRule()
  rule!: string;

  /** The day the rule counts from. */
  @IsDay()
  from!: IsoDay;

  @MayBeLeftOut()
  @IsOnClosed()
  onClosed?: OnClosed;
}

/** What is done with a repeating task on closed days, and with one that was missed. */
class RepeatOptions {
  /** Left out, it moves to the next working day. */
  @MayBeLeftOut()
  @IsOnClosed()
  onClosed?: OnClosed;

  /** What is done with one that was not done when the next one comes; left out, it is kept. */
  @MayBeLeftOut()
  @IsIn(WHEN_MISSED, { message: `A missed one is one of ${WHEN_MISSED.join(', ')}.` })
  whenMissed?: WhenMissed;
}

/** Making a task repeat; it becomes the first of its series. */
export class RepeatTask extends RepeatOptions {
  @IsRule()
  rule!: string;

  /** Only while the phase of the task runs; left out, as long as the engagement does. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Say yes or no.' })
  isPhaseOnly?: boolean;
}

/** Changing how a task repeats. What is left out stays; days already worked on stay as they are. */
export class ChangeTaskSeries extends RepeatOptions {
  @IsVersion()
  version!: number;

  /** A new rule holds from `from` on, or from today. */
  @MayBeLeftOut()
  @IsRule()
  rule?: string;

  @MayBeLeftOut()
  @IsDay()
  from?: IsoDay;

  /** Days of the rule that are left out, all of them. */
  @MayBeLeftOut()
  @AreDays('the days left out')
  skipped?: IsoDay[];

  /** Days beside the rule, all of them. */
  @MayBeLeftOut()
  @AreDays('the extra days')
  extra?: IsoDay[];
}

/** Stops what repeats: from this day on nothing is made; left out, from tomorrow. */
export class StopSeries {
  @IsVersion()
  version!: number;

  @MayBeLeftOut()
  @IsDay()
  from?: IsoDay;
}

/** Continues what was stopped, from today. */
export class ResumeSeries {
  @IsVersion()
  version!: number;
}

/** Makes later tasks of a series like one of them. */
export class LikeThis {
  @IsVersion()
  version!: number;

  @IsId({ message: 'Name the task they should be like.' })
  taskId!: string;
}

/** What the units of a series have in common: set at the start, and changed for units that have not begun. */
class SeriesTerms {
  /** The name of each; {n}, {month} and {year} stand for its number, month and year. */
  @MayBeLeftOut()
  @IsString({ message: 'Give each a name.' })
  @IsLine(120, 'each a name')
  unitName?: string;

  /** Who does the work of each role; left out, whoever is suggested first. */
  @MayBeLeftOut()
  @AreParts(() => RoleChoice, { what: 'the people', most: 100 })
  roles?: RoleChoice[];

  @MayBeLeftOut()
  @IsOnClosed()
  onClosed?: OnClosed;

  /** Minutes agreed for each period; null for none. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsInt({ message: 'Agreed hours are a whole number of minutes.' })
  @Min(0, { message: 'Agreed hours are at least 0.' })
  @Max(600_000, { message: 'Agreed hours are at most 10 000.' })
  retainerMinutes?: number | null;

  @MayBeLeftOut()
  @IsIn(CARRY, { message: `Hours left are carried as one of ${CARRY.join(', ')}.` })
  carry?: Carry;

  /** How many days before it starts each is made. */
  @MayBeLeftOut()
  @IsInt({ message: 'Days ahead are a whole number.' })
  @Min(0, { message: 'Days ahead are at least 0.' })
  @Max(180, { message: 'Make at most 180 days ahead.' })
  aheadDays?: number;
}

/** Starting engagements that repeat, or a production line. */
export class StartSeries extends SeriesTerms {
  @IsIn(SERIES_KIND, { message: `It is one of ${SERIES_KIND.join(', ')}.` })
  kind!: SeriesKind;

  @IsString({ message: 'Give it a name.' })
  @IsLine(120, 'it a name')
  name!: string;

  @IsId({ message: 'Choose the client.' })
  clientId!: string;

  @MayBeLeftOut()
  @IsId()
  contactId?: string;

  @IsId({ message: 'Choose a template.' })
  templateId!: string;

  @IsDay({ message: 'Give the first day, as 2026-12-14.' })
  firstDay!: IsoDay;

  @IsRule()
  rule!: string;

  /** How many on each day of the rule; left out, one. */
  @MayBeLeftOut()
  @IsEach()
  each?: number;

  /** Whether a day of the rule is when each starts, or when it is promised for. */
  @MayBeLeftOut()
  @IsIn(SERIES_PLACES, { message: `A day is one of ${SERIES_PLACES.join(', ')}.` })
  places?: SeriesPlaces;
}

/** Editing a series; what is left out stays. It holds for units that are not created yet. */
export class ChangeSeries extends SeriesTerms {
  @IsVersion()
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'Give it a name.' })
  @IsLine(120, 'it a name')
  name?: string;

  /** Days of the rule that are left out, all of them. */
  @MayBeLeftOut()
  @AreDays('the days left out')
  skipped?: IsoDay[];

  /** Days beside the rule, all of them. */
  @MayBeLeftOut()
  @AreDays('the extra days')
  extra?: IsoDay[];
}

/** How often from a day on. */
class RhythmFrom {
  /** It holds from this day on. */
  @IsDay()
  from!: IsoDay;

  @IsRule()
  rule!: string;

  /** How many on each day of the rule; left out, one. */
  @MayBeLeftOut()
  @IsEach()
  each?: number;
}

/** A rhythm tried on the real load before it is applied. Saves nothing. */
export class TryRhythm extends RhythmFrom {
  /** The days whose load is answered; left out, three weeks from this Monday. */
  @MayBeLeftOut()
  @IsDay()
  shownFrom?: IsoDay;

  @MayBeLeftOut()
  @IsDay()
  shownTo?: IsoDay;
}

/** Changing how often from a day on. */
export class ChangeRhythm extends RhythmFrom {
  @IsVersion()
  version!: number;
}

/** Removes a rhythm that has not begun. */
export class CancelRhythm {
  @IsVersion()
  version!: number;

  /** The day it would begin. */
  @IsDay()
  from!: IsoDay;
}
