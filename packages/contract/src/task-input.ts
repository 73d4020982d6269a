import type { IsoDay } from '@crew/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsString,
  IsUrl,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { CustomFieldInput } from './field-input.ts';
import { IsDay, IsId, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';
import { AreLabels, AreParts, IsDescription, IsEffort, IsLength, MOST_DAYS } from './task-rules.ts';
import {
  DEPENDENCY_TYPE,
  OUTSIDE_STATE,
  PRIORITY,
  TASK_STATUS,
  WAITING_ON,
  type DependencyType,
  type OutsideState,
  type Priority,
  type TaskStatus,
  type WaitingOn,
} from './words.ts';

/** A dependency on a task that has to come first; lag in working days. */
export class DependencyInput {
  @IsId()
  taskId!: string;

  @IsIn(DEPENDENCY_TYPE, { message: `A dependency type is one of ${DEPENDENCY_TYPE.join(', ')}.` })
  type!: DependencyType;

  @MayBeLeftOut()
  @IsInt({ message: 'A lag is a whole number of working days.' })
  @Min(-MOST_DAYS, { message: `A lag is at most ${MOST_DAYS} working days.` })
  @Max(MOST_DAYS, { message: `A lag is at most ${MOST_DAYS} working days.` })
  lag?: number;
}

/** The part of a task an outside maker does. Days are working days. */
export class OutsideInput {
  @IsString({ message: 'Say who makes it.' })
  @IsLine(120, 'who makes it')
  maker!: string;

  @IsInt({ message: 'Their turnaround is a whole number of working days.' })
  @Min(0, { message: 'Their turnaround is at least 0 working days.' })
  @Max(MOST_DAYS, { message: `Their turnaround is at most ${MOST_DAYS} working days.` })
  turnaroundDays!: number;

  @IsInt({ message: 'Our buffer is a whole number of working days.' })
  @Min(0, { message: 'Our buffer is at least 0 working days.' })
  @Max(MOST_DAYS, { message: `Our buffer is at most ${MOST_DAYS} working days.` })
  bufferDays!: number;

  /** The day it is needed back; null counts from the first task that waits for it. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsDay()
  neededOn?: IsoDay | null;

  @IsIn(OUTSIDE_STATE, { message: `The outside part is one of ${OUTSIDE_STATE.join(', ')}.` })
  state!: OutsideState;
}

/** A web page worth having at hand. */
export class PageLinkInput {
  @IsString({ message: 'A link has a title.' })
  @IsLine(200, 'the link a title')
  title!: string;

  @IsString({ message: 'A link has an address.' })
  @MaxLength(2000, { message: 'Keep the address to 2 000 characters.' })
  @IsUrl({ protocols: ['http', 'https'], require_protocol: true, require_tld: false }, { message: 'A web address begins with https://.' })
  url!: string;
}

/** Editing a task in place; only the fields given change. `version` is the one that was read. */
export class EditTask {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'A title is text.' })
  @IsLine(200, 'the task a title')
  title?: string;

  @MayBeLeftOut()
  @IsDescription()
  description?: string;

  @MayBeLeftOut()
  @IsIn(TASK_STATUS, { message: `A status is one of ${TASK_STATUS.join(', ')}.` })
  status?: TaskStatus;

  @MayBeLeftOut()
  @IsIn(WAITING_ON, { message: `A task waits on one of ${WAITING_ON.join(', ')}.` })
  waitingOn?: WaitingOn;

  @MayBeLeftOut()
  @IsArray({ message: 'Give the people as a list.' })
  @ArrayMaxSize(20, { message: 'A task has at most 20 people.' })
  @IsId({ each: true })
  assigneeIds?: string[];

  /** A day pins the task's start; null lets the planner place it again. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsDay()
  fixedDay?: IsoDay | null;

  @MayBeLeftOut()
  @IsLength()
  days?: number;

  /** Minutes; null means nobody has estimated it. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsEffort()
  estimateMinutes?: number | null;

  @MayBeLeftOut()
  @IsIn(PRIORITY, { message: `A priority is one of ${PRIORITY.join(', ')}.` })
  priority?: Priority;

  @MayBeLeftOut()
  @IsBoolean({ message: 'Shown to client is yes or no.' })
  isShownToClient?: boolean;

  /** Whether it can start before its phase does. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Early is yes or no.' })
  mayStartEarly?: boolean;

  /** Whether time on it is chargeable, unless an entry says otherwise. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Chargeable is yes or no.' })
  isChargeable?: boolean;

  /** The task begins on this day at the earliest; null lets it begin as soon as it can. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsDay()
  notBefore?: IsoDay | null;

  /** What the task waits for, all of it. */
  @MayBeLeftOut()
  @AreParts(() => DependencyInput, { what: 'what it waits for', most: 100 })
  after?: DependencyInput[];

  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  deliverableId?: string | null;

  @MayBeLeftOut()
  @AreLabels()
  labels?: string[];

  /** The part an outside maker does; null when it is done by the crew. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsObject({ message: 'Say who makes it, how long they take and our buffer.' })
  @ValidateNested()
  @Type(() => OutsideInput)
  outside?: OutsideInput | null;

  /** Pages worth having at hand, all of them. */
  @MayBeLeftOut()
  @AreParts(() => PageLinkInput, { what: 'the links', most: 20 })
  pageLinks?: PageLinkInput[];

  /** The files at hand, all of them, by the ids they got when they were uploaded. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the files as a list.' })
  @ArrayMaxSize(20, { message: 'A task has at most 20 files.' })
  @IsId({ each: true })
  fileIds?: string[];

  /** The custom fields it has, all of them, with their values. */
  @MayBeLeftOut()
  @AreParts(() => CustomFieldInput, { what: 'the custom fields', most: 30 })
  customFields?: CustomFieldInput[];
}

/** One task of a change of the plan; fields left out stay as they are. */
export class TaskChange extends EditTask {
  @IsId()
  id!: string;

  /** How much of it each of `assigneeIds` does, in that order, e.g. [2, 1]; left out, all do the same. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the shares as a list.' })
  @ArrayMaxSize(20, { message: 'A task has at most 20 people.' })
  @IsInt({ each: true, message: 'A share is a whole number.' })
  @Min(1, { each: true, message: 'A share is at least 1.' })
  @Max(1_000_000, { each: true, message: 'A share is at most 1 000 000.' })
  shares?: number[];

  /** Moves it by working days, later or (negative) earlier. */
  @MayBeLeftOut()
  @IsInt({ message: 'Shift by a whole number of working days.' })
  @Min(-MOST_DAYS, { message: `Shift by at most ${MOST_DAYS} working days.` })
  @Max(MOST_DAYS, { message: `Shift by at most ${MOST_DAYS} working days.` })
  shiftDays?: number;

  @MayBeLeftOut()
  @IsId()
  phaseId?: string;

  /** The task it becomes a part of; null for none. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  parentId?: string | null;

  /** Moves it before this one among its siblings; null puts it last. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  beforeId?: string | null;

  @MayBeLeftOut()
  @IsBoolean({ message: 'Whether it goes is yes or no.' })
  isDeleted?: boolean;
}

/** Changes of one engagement's plan that are previewed and applied together. */
export class ChangePlan {
  @IsArray({ message: 'Give the changes as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one change.' })
  @ArrayMaxSize(1000, { message: 'Change at most 1 000 tasks at once.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => TaskChange)
  tasks!: TaskChange[];
}

/** A new deliverable of an engagement. */
export class AddDeliverable {
  @IsString({ message: 'Give the deliverable a name.' })
  @IsLine(120, 'the deliverable a name')
  name!: string;
}

/** A new task in a running engagement. */
export class AddTask {
  @IsId({ message: 'Choose the phase.' })
  phaseId!: string;

  /** The task it is a part of; it then stands in that one's phase. */
  @MayBeLeftOut()
  @IsId()
  parentId?: string;

  @IsString({ message: 'Give the task a title.' })
  @IsLine(200, 'the task a title')
  title!: string;

  @MayBeLeftOut()
  @IsLength()
  days?: number;

  @MayBeLeftOut()
  @IsEffort()
  estimateMinutes?: number;
}

/** A new step of a task. */
export class AddStep {
  @IsString({ message: 'Give the step a title.' })
  @IsLine(200, 'the step a title')
  title!: string;
}

/** Ticks a step, or removes the tick. */
export class EditStep {
  @IsBoolean({ message: 'Done is yes or no.' })
  isDone!: boolean;
}
