import type { IsoDay } from '@crew/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsInt, IsObject, IsString, Max, Min, ValidateIf, ValidateNested } from 'class-validator';
import { IsDay, IsId, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';
import { AreParts } from './task-rules.ts';
import { TemplateCheckInput } from './template-input.ts';

/** Who does the work of a role. */
export class RoleChoice {
  @IsId()
  roleId!: string;

  @MayBeNull()
  @IsId()
  personId!: string | null;
}

/** Phases of another template, put among those there are. */
export class AddedPhases {
  @IsId()
  templateId!: string;

  @IsArray({ message: 'Give the phases as a list.' })
  @ArrayMaxSize(200, { message: 'Add at most 200 phases.' })
  @IsId({ each: true })
  phaseIds!: string[];

  /** The phase they come behind; null for the beginning, left out for the end. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  behindPhaseId?: string | null;
}

/** A task of another engagement, with its subtasks, put into a phase. */
export class AddedTask {
  @IsId()
  taskId!: string;

  @IsId()
  phaseId!: string;
}

/** A task saved in the library, put into a phase. */
export class AddedKept {
  @IsId()
  templateId!: string;

  @IsId()
  phaseId!: string;
}

/** A check of a gate as it is to be; one that is there already is named by its id. */
export class EditedCheck extends TemplateCheckInput {
  @MayBeLeftOut()
  @IsId()
  id?: string;
}

/** A phase of an engagement as somebody read it. */
export class PhaseSeen {
  @IsString({ message: 'A phase needs a name.' })
  @IsLine(120, 'the phase a name')
  name!: string;

  @IsString({ message: 'A phase needs a state line.' })
  @IsLine(200, 'the phase a state line')
  stateLine!: string;

  @MayBeNull()
  @IsId({ message: 'Choose a role from the list.' })
  roleId!: string | null;
}

/** Changes of a phase in an engagement that runs; what is left out stays. */
export class EditPhase {
  /** As it was when somebody began to change it, so that what somebody else changed meanwhile is not lost. */
  @IsObject({ message: 'Send the phase as you saw it.' })
  @ValidateNested()
  @Type(() => PhaseSeen)
  seen!: PhaseSeen;

  @MayBeLeftOut()
  @IsString({ message: 'A phase needs a name.' })
  @IsLine(120, 'the phase a name')
  name?: string;

  @MayBeLeftOut()
  @IsString({ message: 'A phase needs a state line.' })
  @IsLine(200, 'the phase a state line')
  stateLine?: string;

  @MayBeLeftOut()
  @MayBeNull()
  @IsId({ message: 'Choose a role from the list.' })
  roleId?: string | null;

  /** The whole gate, in its order. */
  @MayBeLeftOut()
  @AreParts(() => EditedCheck, { what: 'the checks', most: 50 })
  checks?: EditedCheck[];
}

/** What an engagement is made from. Either a start or a promise to plan back from; both is fine too. */
class PlanBasis {
  /** The template; its newest version is used. */
  @ValidateIf((plan: PlanBasis) => plan.templateId !== undefined || plan.copyOf === undefined)
  @IsId({ message: 'Choose a template.' })
  templateId?: string;

  /** In place of a template: an engagement to copy, with days made relative again. */
  @MayBeLeftOut()
  @IsId({ message: 'Choose the engagement to copy.' })
  copyOf?: string;

  @ValidateIf((plan: PlanBasis) => plan.start !== undefined || plan.promise === undefined)
  @IsDay({ message: 'Give a start or a promised date that exists, as 2026-12-14.' })
  start?: IsoDay;

  @MayBeLeftOut()
  @IsDay()
  promise?: IsoDay;

  /** Newest versions of other templates, in this order. */
  @MayBeLeftOut()
  @AreParts(() => AddedPhases, { what: 'what is added', most: 50 })
  addPhases?: AddedPhases[];

  /** Planned as they were planned there; dependencies on what stays behind are left out. */
  @MayBeLeftOut()
  @AreParts(() => AddedTask, { what: 'what is added', most: 200 })
  addTasks?: AddedTask[];

  @MayBeLeftOut()
  @AreParts(() => AddedKept, { what: 'what is added', most: 200 })
  addKept?: AddedKept[];

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

  /** Names of deliverables that are not needed; everything done for them alone is left out. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the deliverables to leave out as a list.' })
  @ArrayMaxSize(200, { message: 'Leave out at most 200 deliverables.' })
  @IsString({ each: true, message: 'A deliverable is a name.' })
  withoutDeliverables?: string[];

  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(100)
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => RoleChoice)
  roles?: RoleChoice[];
}

/** Previews an engagement on the calendar before it is started. */
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

/** Editing an engagement itself; what is left out stays as it is. */
export class EditEngagement {
  /** The version that was read: a stale one changes nothing. */
  @IsInt({ message: 'Send the version you read.' })
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'Give the engagement a name.' })
  @IsLine(120, 'the engagement a name')
  name?: string;

  /** The day promised to the client; null when none is. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsDay()
  promise?: IsoDay | null;

  @MayBeLeftOut()
  @IsId()
  leadId?: string;

  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  contactId?: string | null;

  /** How likely a proposal is to be accepted. */
  @MayBeLeftOut()
  @IsInt({ message: 'Likelihood is a whole percentage.' })
  @Min(0, { message: 'Likelihood is at least 0 %.' })
  @Max(100, { message: 'Likelihood is at most 100 %.' })
  likelihood?: number;
}

/** Reassigns a role of an engagement, with the open tasks its present holder has of it. */
export class GiveRole {
  @IsId()
  roleId!: string;

  /** Null for nobody: the tasks are then unassigned. */
  @MayBeNull()
  @IsId()
  personId!: string | null;

  /** Who had the role when it was read: 409 when that is somebody else now. */
  @MayBeNull()
  @IsId()
  seen!: string | null;
}

/** Closing an engagement without finishing it. */
export class DropEngagement {
  @IsInt({ message: 'Send the version you read.' })
  version!: number;

  @IsString({ message: 'Give a reason; it is kept in the history.' })
  @IsLine(300, 'a reason; it is kept')
  reason!: string;

  /** The ending of its map by which it ends, by name. */
  @MayBeLeftOut()
  @IsString({ message: 'An ending is a name.' })
  ending?: string;
}

/** What is done with tasks that are still open when an engagement is completed. */
export const OPEN_TASKS = ['leave', 'complete', 'move'] as const;

/** Completing an engagement. */
export class CompleteEngagement {
  @IsInt({ message: 'Send the version you read.' })
  version!: number;

  @IsIn(OPEN_TASKS, { message: 'Say what is done with open tasks: leave, complete or move.' })
  openTasks!: (typeof OPEN_TASKS)[number];

  /** The engagement they go on in, when they move. */
  @MayBeLeftOut()
  @IsId({ message: 'Choose the engagement the open tasks move to.' })
  moveTo?: string;

  /** Why it is completed although gates are not clear. */
  @MayBeLeftOut()
  @IsString({ message: 'A reason is text.' })
  @IsLine(500, 'a reason')
  reason?: string;
}

/** Goes through a loop of the map once more. */
export class StartRound {
  /** The task the loop leads back from. */
  @IsId()
  taskId!: string;

  @IsId()
  wayId!: string;

  /** Beyond the rounds agreed with the client: whoever leads the engagement gets a task to decide about it, and nothing starts. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Asking the lead is yes or no.' })
  askLead?: boolean;
}

/** Reopening an engagement that was closed without being finished. */
export class ReopenEngagement {
  @IsInt({ message: 'Send the version you read.' })
  version!: number;
}
