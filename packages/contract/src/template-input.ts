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
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { CustomFieldInput } from './field-input.ts';
import { PageLinkInput } from './task-input.ts';
import { IsId, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';
import { AreLabels, AreParts, AreWords, IsDescription, IsEffort, IsLength, MOST_DAYS } from './task-rules.ts';
import {
  ANCHOR_AT,
  CHECK_KIND,
  DEPENDENCY_TYPE,
  PRIORITY,
  TASK_KIND,
  TEMPLATE_KIND,
  type AnchorAt,
  type CheckKind,
  type DependencyType,
  type Priority,
  type TaskKind,
  type TemplateKind,
  PHASE_EDGE,
  type PhaseEdge,
} from './words.ts';

const DAYS = { message: 'This is a whole number of working days.' } as const;
const TOO_FAR = { message: `Keep this to ${MOST_DAYS} working days.` } as const;

/** One check of the gate at the end of a phase. */
export class TemplateCheckInput {
  @IsIn(CHECK_KIND, { message: `A check is one of ${CHECK_KIND.join(', ')}.` })
  kind!: CheckKind;

  @IsString({ message: 'Say what is checked.' })
  @IsLine(200, 'the check some words')
  text!: string;

  /** Titles of tasks, the name of a custom field, or the ending of files, where the kind asks for them. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give what the check asks for as a list.' })
  @ArrayMaxSize(20, { message: 'A check asks for at most 20 things.' })
  @IsString({ each: true, message: 'Give each as text.' })
  @MaxLength(200, { each: true, message: 'Keep each to 200 characters.' })
  wants?: string[];
}

/** A phase of a template's content. */
export class TemplatePhaseInput {
  @IsId()
  id!: string;

  @IsString({ message: 'A phase needs a name.' })
  @MaxLength(120, { message: 'Keep the name to 120 characters.' })
  name!: string;

  @MayBeNull()
  @IsId()
  roleId!: string | null;

  @IsString({ message: 'A state line is text.' })
  @MaxLength(200, { message: 'Keep the state line to 200 characters.' })
  stateLine!: string;

  @MayBeNull()
  @IsInt({ message: 'Rounds are a whole number.' })
  @Min(1, { message: 'At least one round is agreed.' })
  @Max(99, { message: 'Keep the rounds below 100.' })
  rounds!: number | null;

  @MayBeNull()
  @IsId()
  afterPhaseId!: string | null;

  @IsIn(PHASE_EDGE, { message: 'A phase follows the finish or the start of another.' })
  afterEdge!: PhaseEdge;

  @IsInt(DAYS)
  @Min(-MOST_DAYS, TOO_FAR)
  @Max(MOST_DAYS, TOO_FAR)
  afterLag!: number;

  @AreParts(() => TemplateCheckInput, { what: 'the checks', most: 50 })
  checks!: TemplateCheckInput[];

  /** The template of the library it was taken from. */
  @MayBeLeftOut()
  @IsId()
  sourceTemplateId?: string;
}

/** Where a task is placed when no predecessor holds it back. */
export class AnchorInput {
  @IsIn(ANCHOR_AT, { message: `A task is anchored at one of ${ANCHOR_AT.join(', ')}.` })
  at!: AnchorAt;

  @IsInt(DAYS)
  @Min(-MOST_DAYS, TOO_FAR)
  @Max(MOST_DAYS, TOO_FAR)
  offset!: number;
}

/** A dependency between tasks of a template. */
export class TemplateDependencyInput {
  @IsId()
  taskId!: string;

  @IsIn(DEPENDENCY_TYPE, { message: `A dependency type is one of ${DEPENDENCY_TYPE.join(', ')}.` })
  type!: DependencyType;

  @IsInt(DAYS)
  @Min(-MOST_DAYS, TOO_FAR)
  @Max(MOST_DAYS, TOO_FAR)
  lag!: number;
}

/** Work given to an outside maker. */
export class TemplateOutsideInput {
  @IsString({ message: 'Say who makes it.' })
  @IsLine(120, 'who makes it')
  maker!: string;

  @IsInt(DAYS)
  @Min(0, DAYS)
  @Max(MOST_DAYS, TOO_FAR)
  turnaroundDays!: number;

  @IsInt(DAYS)
  @Min(0, DAYS)
  @Max(MOST_DAYS, TOO_FAR)
  bufferDays!: number;
}

/** A file of a task, by its id; name and size are for reading. */
export class TemplateFileInput {
  @IsId()
  fileId!: string;

  @IsString({ message: 'A file has a name.' })
  @MaxLength(200, { message: 'Keep the name to 200 characters.' })
  name!: string;

  @IsInt({ message: 'A size is a number of bytes.' })
  @Min(0, { message: 'A size is at least 0.' })
  bytes!: number;
}

const WORDS = 'This is a word or two.';

/** A task of a template's content. */
export class TemplateTaskInput {
  @IsId()
  id!: string;

  @IsId()
  phaseId!: string;

  @MayBeNull()
  @IsId()
  parentId!: string | null;

  @IsString({ message: 'A task needs a title.' })
  @MaxLength(200, { message: 'Keep the title to 200 characters.' })
  title!: string;

  @IsDescription()
  description!: string;

  @IsIn(TASK_KIND, { message: `A kind is one of ${TASK_KIND.join(', ')}.` })
  kind!: TaskKind;

  @MayBeNull()
  @IsId()
  roleId!: string | null;

  @MayBeNull()
  @IsId()
  personId!: string | null;

  @IsArray({ message: 'Give the roles that help as a list.' })
  @ArrayMaxSize(20, { message: 'At most 20 roles help.' })
  @IsId({ each: true })
  helperRoleIds!: string[];

  @IsArray({ message: 'Give the people who help as a list.' })
  @ArrayMaxSize(20, { message: 'At most 20 people help.' })
  @IsId({ each: true })
  helperPersonIds!: string[];

  @MayBeNull()
  @IsEffort()
  estimateMinutes!: number | null;

  @IsLength()
  days!: number;

  @IsObject({ message: 'Say when it starts.' })
  @ValidateNested()
  @Type(() => AnchorInput)
  anchor!: AnchorInput;

  @AreParts(() => TemplateDependencyInput, { what: 'what it waits for', most: 100 })
  after!: TemplateDependencyInput[];

  @AreWords({ what: 'the steps', most: 100, longest: 200, each: WORDS })
  steps!: string[];

  @IsIn(PRIORITY, { message: `A priority is one of ${PRIORITY.join(', ')}.` })
  priority!: Priority;

  @AreLabels()
  labels!: string[];

  @MayBeNull()
  @IsString({ message: 'A deliverable is a name.' })
  @IsLine(120, 'the deliverable a name')
  deliverable!: string | null;

  @AreParts(() => PageLinkInput, { what: 'the links', most: 20 })
  pageLinks!: PageLinkInput[];

  @AreParts(() => TemplateFileInput, { what: 'the files', most: 20 })
  files!: TemplateFileInput[];

  @AreParts(() => CustomFieldInput, { what: 'the custom fields', most: 30 })
  customFields!: CustomFieldInput[];

  @MayBeNull()
  @IsObject({ message: 'Say who makes it and how long they take.' })
  @ValidateNested()
  @Type(() => TemplateOutsideInput)
  outside!: TemplateOutsideInput | null;

  @IsBoolean({ message: 'Shown to client is yes or no.' })
  isShownToClient!: boolean;

  @IsBoolean({ message: 'Chargeable is yes or no.' })
  isChargeable!: boolean;

  /** The template of the library it was taken from. */
  @MayBeLeftOut()
  @IsId()
  sourceTemplateId?: string;
}

/** A way out of a task: back to another, or to an ending. */
export class TemplateWayInput {
  @IsId()
  id!: string;

  @IsId()
  fromId!: string;

  @MayBeNull()
  @IsId()
  toId!: string | null;

  @MayBeNull()
  @IsString({ message: 'An ending is text.' })
  @MaxLength(120, { message: 'Keep the ending to 120 characters.' })
  ending!: string | null;

  @IsString({ message: 'A reason is text.' })
  @MaxLength(120, { message: 'Keep the reason to 120 characters.' })
  reason!: string;
}

/** All of a template: one model behind map, outline and list. */
export class TemplateContentInput {
  @IsString({ message: 'Give the template a name.' })
  @IsLine(160, 'the template a name')
  name!: string;

  @IsString({ message: 'A description is text.' })
  @MaxLength(4000, { message: 'Keep the description to 4 000 characters.' })
  description!: string;

  @AreParts(() => TemplatePhaseInput, { what: 'the phases', most: 100 })
  phases!: TemplatePhaseInput[];

  @AreParts(() => TemplateTaskInput, { what: 'the tasks', most: 2000 })
  tasks!: TemplateTaskInput[];

  @AreParts(() => TemplateWayInput, { what: 'the ways out', most: 500 })
  ways!: TemplateWayInput[];
}

/** Saves the working copy of a template, whole. */
export class SaveTemplate {
  @IsInt({ message: 'Send the revision that was read.' })
  revision!: number;

  @IsObject({ message: 'Send the content of the template.' })
  @ValidateNested()
  @Type(() => TemplateContentInput)
  content!: TemplateContentInput;
}

/** Makes the working copy the next version. */
export class KeepVersion {
  @IsInt({ message: 'Send the revision that was read.' })
  revision!: number;

  /** What changed, in a few words. */
  @MayBeLeftOut()
  @IsString({ message: 'A note is text.' })
  @MaxLength(500, { message: 'Keep the note to 500 characters.' })
  note?: string;
}

/** A new template: empty, or a copy of another. */
export class MakeTemplate {
  @IsString({ message: 'Give the template a name.' })
  @IsLine(160, 'the template a name')
  name!: string;

  @MayBeLeftOut()
  @IsIn(TEMPLATE_KIND, { message: `A template is one of ${TEMPLATE_KIND.join(', ')}.` })
  kind?: TemplateKind;

  @MayBeLeftOut()
  @IsId()
  copyOf?: string;
}

/** Applies chosen template updates to an engagement, by the ids of the changes. */
export class BringNews {
  @IsArray({ message: 'Give the changes as a list.' })
  @ArrayMinSize(1, { message: 'Choose at least one change.' })
  @ArrayMaxSize(2000, { message: 'Choose at most 2 000 changes.' })
  @IsString({ each: true, message: 'A change is named by its id.' })
  @MaxLength(80, { each: true, message: 'A change is named by its id.' })
  ids!: string[];
}

/** Adds something from the library to a running engagement: phases of a template after one of its phases, or a saved task to one. */
export class AddFromLibrary {
  @IsId()
  templateId!: string;

  /** The phases to add, with all their tasks; left out for a saved task. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the phases as a list.' })
  @ArrayMinSize(1, { message: 'Choose at least one phase.' })
  @ArrayMaxSize(100, { message: 'Choose at most 100 phases.' })
  @IsId({ each: true })
  phaseIds?: string[];

  /** The phase of the engagement after which the phases come, or that a saved task goes into. */
  @IsId()
  phaseId!: string;
}

/** Saves an engagement, one of its phases or one of its tasks as a template. */
export class SaveBack {
  @IsString({ message: 'Give the template a name.' })
  @IsLine(160, 'the template a name')
  name!: string;

  @MayBeLeftOut()
  @IsId()
  phaseId?: string;

  @MayBeLeftOut()
  @IsId()
  taskId?: string;

  /** With the effort and length that were planned, or with what it really took. */
  @IsIn(['planned', 'real'], { message: 'Choose as planned or as it actually went.' })
  measure!: 'planned' | 'real';
}

/** Archives a template, or restores it. */
export class ArchiveTemplate {
  @IsBoolean({ message: 'Archived is yes or no.' })
  isArchived!: boolean;
}

/** A file of the open format; its own check reports what is wrong with it. */
export class ImportTemplate {
  @IsObject({ message: 'This file holds no template.' })
  file!: object;

  /** Only previews what would be imported. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'A trial is yes or no.' })
  isTrial?: boolean;
}
