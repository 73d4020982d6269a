import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsEmail,
  IsIn,
  IsInt,
  IsObject,
  IsString,
  IsTimeZone,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { IsDay, IsId, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';
import {
  CLIENT_HUE,
  CREW_ACCESS,
  LINK_TYPE,
  OUTSIDE_STATE,
  PRIORITY,
  TASK_STATUS,
  WAITING_ON,
  type ClientHue,
  type CrewAccess,
  type LinkType,
  type OutsideState,
  type Priority,
  type TaskStatus,
  type WaitingOn,
} from './words.ts';

const MOST_MINUTES = 600_000;
const MOST_DAYS = 2_000;

/** Signing in by password. */
export class SignIn {
  @IsEmail({}, { message: 'Write your mail address, like odalys@quillmarsh.example.' })
  email!: string;

  @IsString({ message: 'Write your password.' })
  @IsLine(200, 'your password')
  password!: string;
}

/** Signing in as one of the demo's people; only while the demo is on. */
export class DemoSignIn {
  @IsId()
  accountId!: string;
}

/** Who does the work of a role. */
export class RoleChoice {
  @IsId()
  roleId!: string;

  @MayBeNull()
  @IsId()
  personId!: string | null;
}

/** Phases of another template, put behind those there are. */
export class AddedPhases {
  @IsId()
  templateId!: string;

  @IsArray({ message: 'Give the phases as a list.' })
  @ArrayMaxSize(200, { message: 'Add at most 200 phases.' })
  @IsId({ each: true })
  phaseIds!: string[];
}

/** A task of another engagement, with its subtasks, put into a phase. */
export class AddedTask {
  @IsId()
  taskId!: string;

  @IsId()
  phaseId!: string;
}

/** What an engagement is made from. Either a start or a promise to plan back from; both is fine too. */
class PlanBasis {
  @IsId({ message: 'Choose a template.' })
  templateId!: string;

  @ValidateIf((plan: PlanBasis) => plan.start !== undefined || plan.promise === undefined)
  @IsDay({ message: 'Give a start or a promised date that exists, as 2026-12-14.' })
  start?: string;

  @MayBeLeftOut()
  @IsDay()
  promise?: string;

  /** Newest versions of other templates, in this order. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give what is added as a list.' })
  @ArrayMaxSize(50, { message: 'Add from at most 50 templates.' })
  @ValidateNested({ each: true })
  @Type(() => AddedPhases)
  addPhases?: AddedPhases[];

  /** Planned as they were planned there; ties to what stays behind are left behind. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give what is added as a list.' })
  @ArrayMaxSize(200, { message: 'Add at most 200 tasks.' })
  @ValidateNested({ each: true })
  @Type(() => AddedTask)
  addTasks?: AddedTask[];

  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(200)
  @IsId({ each: true })
  withoutPhases?: string[];

  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(2000)
  @IsId({ each: true })
  withoutTasks?: string[];

  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => RoleChoice)
  roles?: RoleChoice[];
}

/** Laying an engagement on the calendar before it is started. */
export class PlanEngagement extends PlanBasis {
  @MayBeLeftOut()
  @IsId()
  clientId?: string;
}

/** Starting an engagement. */
export class StartEngagement extends PlanBasis {
  @IsString({ message: 'Give the engagement a name.' })
  @IsLine(120, 'the engagement a name')
  name!: string;

  @IsId({ message: 'Choose the client.' })
  clientId!: string;

  @MayBeLeftOut()
  @IsId()
  contactId?: string;

  @MayBeLeftOut()
  @IsInt({ message: 'Likelihood is a whole percentage.' })
  @Min(0, { message: 'Likelihood is at least 0 %.' })
  @Max(100, { message: 'Likelihood is at most 100 %.' })
  likelihood?: number;
}

/** A tie to a task that is waited for; lag in working days. */
export class TieInput {
  @IsId()
  taskId!: string;

  @IsIn(LINK_TYPE, { message: `A tie is one of ${LINK_TYPE.join(', ')}.` })
  type!: LinkType;

  @MayBeLeftOut()
  @IsInt({ message: 'A lag is a whole number of working days.' })
  @Min(-MOST_DAYS, { message: `A lag is at most ${MOST_DAYS} working days.` })
  @Max(MOST_DAYS, { message: `A lag is at most ${MOST_DAYS} working days.` })
  lag?: number;
}

/** What an outside maker does of a task. Days are working days. */
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
  neededOn?: string | null;

  @IsIn(OUTSIDE_STATE, { message: `The outside part is one of ${OUTSIDE_STATE.join(', ')}.` })
  state!: OutsideState;
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
  @IsString({ message: 'A description is text.' })
  @MaxLength(20_000, { message: 'Keep the description to 20 000 characters.' })
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
  fixedDay?: string | null;

  @MayBeLeftOut()
  @IsInt({ message: 'Length is a whole number of working days.' })
  @Min(0, { message: 'Length is at least 0 working days.' })
  @Max(MOST_DAYS, { message: `Length is at most ${MOST_DAYS} working days.` })
  days?: number;

  /** Minutes; null means nobody has estimated it. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsInt({ message: 'Effort is a whole number of minutes.' })
  @Min(0, { message: 'Effort is at least 0.' })
  @Max(MOST_MINUTES, { message: 'Effort is at most 10 000 hours.' })
  estimateMinutes?: number | null;

  @MayBeLeftOut()
  @IsIn(PRIORITY, { message: `A priority is one of ${PRIORITY.join(', ')}.` })
  priority?: Priority;

  @MayBeLeftOut()
  @IsBoolean({ message: 'Shown to client is yes or no.' })
  isShownToClient?: boolean;

  /** The task begins on this day at the earliest; null lets it begin as soon as it can. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsDay()
  notBefore?: string | null;

  /** What the task waits for, all of it. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give what it waits for as a list.' })
  @ArrayMaxSize(100, { message: 'A task waits for at most 100 others.' })
  @ValidateNested({ each: true })
  @Type(() => TieInput)
  after?: TieInput[];

  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  deliverableId?: string | null;

  @MayBeLeftOut()
  @IsArray({ message: 'Give the labels as a list.' })
  @ArrayMaxSize(20, { message: 'A task has at most 20 labels.' })
  @IsString({ each: true, message: 'A label is a word or two.' })
  @MaxLength(40, { each: true, message: 'Keep a label to 40 characters.' })
  @Matches(/\S/, { each: true, message: 'A label is a word or two.' })
  labels?: string[];

  /** The part an outside maker does; null when it is done by the crew. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsObject({ message: 'Say who makes it, how long they take and our buffer.' })
  @ValidateNested()
  @Type(() => OutsideInput)
  outside?: OutsideInput | null;
}

/** One task of a change of the plan; fields left out stay as they are. */
export class TaskChange extends EditTask {
  @IsId()
  id!: string;

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

  /** Stands before this one among its like; null puts it last. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  beforeId?: string | null;

  @MayBeLeftOut()
  @IsBoolean({ message: 'Whether it goes is yes or no.' })
  isDeleted?: boolean;
}

/** Changes of one engagement's plan that are looked at and taken together. */
export class ChangePlan {
  @IsArray({ message: 'Give the changes as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one change.' })
  @ArrayMaxSize(1000, { message: 'Change at most 1 000 tasks at once.' })
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
  @IsInt({ message: 'Length is a whole number of working days.' })
  @Min(0, { message: 'Length is at least 0 working days.' })
  @Max(MOST_DAYS, { message: `Length is at most ${MOST_DAYS} working days.` })
  days?: number;

  @MayBeLeftOut()
  @IsInt({ message: 'Effort is a whole number of minutes.' })
  @Min(0, { message: 'Effort is at least 0.' })
  @Max(MOST_MINUTES, { message: 'Effort is at most 10 000 hours.' })
  estimateMinutes?: number;
}

/** A new step of a task. */
export class AddStep {
  @IsString({ message: 'Give the step a title.' })
  @IsLine(200, 'the step a title')
  title!: string;
}

/** Ticking a step, or taking the tick away. */
export class EditStep {
  @IsBoolean({ message: 'Done is yes or no.' })
  isDone!: boolean;
}

/** Time by hand. */
export class LogTime {
  @IsDay()
  day!: string;

  @IsInt({ message: 'Time is a whole number of minutes.' })
  @Min(1, { message: 'Time is at least 1 minute.' })
  @Max(1440, { message: 'A day has 24 hours.' })
  minutes!: number;

  @MayBeLeftOut()
  @IsString({ message: 'A note is text.' })
  @MaxLength(500, { message: 'Keep the note to 500 characters.' })
  note?: string;
}

/** Somebody's word on a gate check, given or taken back. */
export class EditCheck {
  @IsBoolean({ message: 'Clear is yes or no.' })
  isClear!: boolean;
}

/** Handing a phase off. `reason` lets a lead pass a gate that is not clear. */
export class HandOff {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsId({ message: 'Choose who receives it.' })
  receiverId?: string;

  @IsString({ message: 'Words are text.' })
  @MaxLength(4000, { message: 'Keep the words to 4 000 characters.' })
  words!: string;

  @MayBeLeftOut()
  @IsString({ message: 'A reason is text.' })
  @IsLine(500, 'a reason')
  reason?: string;
}

/** Picking a handoff up. */
export class PickUp {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;
}

/** Sending a handoff back. */
export class SendBack extends PickUp {
  @IsString({ message: 'Write the question.' })
  @IsLine(2000, 'the question')
  question!: string;
}

/** Giving a handoff on to somebody else. */
export class GiveOn extends PickUp {
  @IsId({ message: 'Choose who receives it.' })
  receiverId!: string;
}

/** The first visitor of an empty installation founds its agency and becomes the owner. */
export class BeginAgency {
  @IsString({ message: 'Give the agency a name.' })
  @IsLine(120, 'the agency a name')
  agencyName!: string;

  @IsString({ message: 'Write your name.' })
  @IsLine(120, 'your name')
  name!: string;

  @IsEmail({}, { message: 'Write your mail address.' })
  email!: string;

  @IsString({ message: 'Choose a password.' })
  @MinLength(12, { message: 'Choose a password of at least 12 characters.' })
  @MaxLength(200, { message: 'Keep the password to 200 characters.' })
  password!: string;

  /** The time zone its days are counted in, as `Europe/London`; Greenwich when left out. */
  @MayBeLeftOut()
  @IsTimeZone({ message: 'A time zone is written like Europe/London.' })
  zone?: string;

  /** Brings the example templates and their roles. */
  @IsBoolean({ message: 'With examples is yes or no.' })
  withExamples!: boolean;
}

/** A new client. */
export class AddClient {
  @IsString({ message: 'Give the client a name.' })
  @IsLine(120, 'the client a name')
  name!: string;

  @MayBeLeftOut()
  @IsIn(CLIENT_HUE, { message: `A hue is one of ${CLIENT_HUE.join(', ')}.` })
  hue?: ClientHue;
}

const MINUTES_OF_A_DAY = { each: true, message: 'A weekday has 0 to 24 hours.' } as const;

/** What of somebody of the crew can be changed; only the fields given change. */
export class CrewFields {
  @MayBeLeftOut()
  @IsIn(CREW_ACCESS, { message: `Access is one of ${CREW_ACCESS.join(', ')}.` })
  access?: CrewAccess;

  /** Names of roles, the main one first; a name that is new makes the role. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the roles as a list.' })
  @ArrayMaxSize(20, { message: 'Somebody holds at most 20 roles.' })
  @IsString({ each: true, message: 'A role is a name.' })
  @MaxLength(80, { each: true, message: 'Keep a role to 80 characters.' })
  @Matches(/\S/, { each: true, message: 'A role has a name.' })
  roles?: string[];

  /** Minutes of work on Monday … Sunday. */
  @MayBeLeftOut()
  @IsArray({ message: 'A week has seven days.' })
  @ArrayMinSize(7, { message: 'A week has seven days.' })
  @ArrayMaxSize(7, { message: 'A week has seven days.' })
  @IsInt(MINUTES_OF_A_DAY)
  @Min(0, MINUTES_OF_A_DAY)
  @Max(1440, MINUTES_OF_A_DAY)
  week?: number[];
}

/** A new colleague, with the password to begin with. */
export class AddPerson extends CrewFields {
  @IsString({ message: 'Write the name.' })
  @IsLine(120, 'the name')
  name!: string;

  @IsEmail({}, { message: 'Write the mail address, like odalys@quillmarsh.example.' })
  email!: string;

  @IsString({ message: 'Choose a password to begin with.' })
  @MinLength(12, { message: 'Choose a password of at least 12 characters.' })
  @MaxLength(200, { message: 'Keep the password to 200 characters.' })
  password!: string;
}

/** Changing somebody of the crew. Somebody who left is not removed: what they did stays theirs. */
export class EditPerson extends CrewFields {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'Write the name.' })
  @IsLine(120, 'the name')
  name?: string;

  @MayBeLeftOut()
  @IsBoolean({ message: 'Whether somebody is with us is yes or no.' })
  isActive?: boolean;
}
