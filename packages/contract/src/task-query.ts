import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsInt, IsObject, IsString, Max, MaxLength, Min, ValidateNested } from 'class-validator';
import { IsDay, IsId, MayBeLeftOut } from './rules.ts';
import { ENGAGEMENT_STATE, PRIORITY, TASK_KIND, TASK_STATUS, WAITING_ON } from './words.ts';
import type { EngagementState, Priority, TaskKind, TaskStatus, WaitingOn } from './words.ts';

/** A list of ids a filter may name. */
const AreIds = (): PropertyDecorator => (target, property) => {
  MayBeLeftOut()(target, property);
  IsArray({ message: 'Give a list of ids.' })(target, property);
  ArrayMaxSize(200, { message: 'Name at most 200 at once.' })(target, property);
  IsId({ each: true })(target, property);
};

const AreWords =
  (words: readonly string[]): PropertyDecorator =>
  (target, property) => {
    MayBeLeftOut()(target, property);
    IsArray({ message: 'Give a list.' })(target, property);
    ArrayMaxSize(words.length, { message: `There are ${words.length} of them.` })(target, property);
    IsIn(words, { each: true, message: `Each is one of ${words.join(', ')}.` })(target, property);
  };

const IsYesOrNo = (): PropertyDecorator => (target, property) => {
  MayBeLeftOut()(target, property);
  IsBoolean({ message: 'Say yes or no.' })(target, property);
};

const MayBeDay = (): PropertyDecorator => (target, property) => {
  MayBeLeftOut()(target, property);
  IsDay()(target, property);
};

/** Which tasks are meant. All conditions given must hold; of a list one value is enough. */
export class TaskFilter {
  @AreIds()
  ids?: string[];

  @AreIds()
  engagementIds?: string[];

  @AreWords(ENGAGEMENT_STATE)
  engagementStates?: EngagementState[];

  @AreIds()
  clientIds?: string[];

  @AreIds()
  phaseIds?: string[];

  @AreIds()
  assigneeIds?: string[];

  /** Only unassigned tasks, or only assigned ones. */
  @IsYesOrNo()
  isUnassigned?: boolean;

  @AreIds()
  roleIds?: string[];

  @AreIds()
  deliverableIds?: string[];

  @AreWords(TASK_STATUS)
  statuses?: TaskStatus[];

  /** Neither done nor dropped. */
  @IsYesOrNo()
  isOpen?: boolean;

  @AreWords(WAITING_ON)
  waitingOn?: WaitingOn[];

  @AreWords(TASK_KIND)
  kinds?: TaskKind[];

  @AreWords(PRIORITY)
  priorities?: Priority[];

  @MayBeLeftOut()
  @IsArray({ message: 'Give the labels as a list.' })
  @ArrayMaxSize(20, { message: 'Name at most 20 labels.' })
  @IsString({ each: true, message: 'A label is text.' })
  @MaxLength(40, { each: true, message: 'A label has at most 40 characters.' })
  labels?: string[];

  /** Whether it has subtasks. */
  @IsYesOrNo()
  isGroup?: boolean;

  @IsYesOrNo()
  isShownToClient?: boolean;

  /** Due on this day or later. */
  @MayBeDay()
  dueFrom?: string;

  @MayBeDay()
  dueTo?: string;

  /** Starts on this day or earlier. */
  @MayBeDay()
  startTo?: string;

  @MayBeDay()
  doneFrom?: string;

  @MayBeDay()
  doneTo?: string;

  /** Is in a week of the week plan, or begins on this day or earlier. */
  @MayBeDay()
  placedOrStartTo?: string;

  /** Words of its title, in any order. */
  @MayBeLeftOut()
  @IsString({ message: 'Give the words as text.' })
  @MaxLength(200, { message: 'Keep it to 200 characters.' })
  text?: string;
}

/** How tasks are ordered; equal ones by their number. `plan` is the order of the plan. */
export const TASK_SORT = ['due', 'start', 'title', 'priority', 'status', 'plan'] as const;
export type TaskSort = (typeof TASK_SORT)[number];

/** What tasks are counted by. A shared task counts for each of its people. */
export const TASK_GROUP = ['engagement', 'client', 'phase', 'assignee', 'role', 'status', 'priority', 'week'] as const;
export type TaskGroup = (typeof TASK_GROUP)[number];

/** A question about tasks: which, in which order, counted by what. Ask again with `after` for the next page. */
export class TaskQuery {
  @MayBeLeftOut()
  @IsObject({ message: 'Give the filter with its fields.' })
  @ValidateNested()
  @Type(() => TaskFilter)
  filter?: TaskFilter;

  @MayBeLeftOut()
  @IsIn(TASK_SORT, { message: `Sort by one of ${TASK_SORT.join(', ')}.` })
  sort?: TaskSort;

  @IsYesOrNo()
  isDescending?: boolean;

  @MayBeLeftOut()
  @IsIn(TASK_GROUP, { message: `Count by one of ${TASK_GROUP.join(', ')}.` })
  groupBy?: TaskGroup;

  /** The `next` of the page before. */
  @MayBeLeftOut()
  @IsString({ message: 'Use the position the page before gave as next.' })
  @MaxLength(2000, { message: 'Use the position the page before gave as next.' })
  after?: string;

  @MayBeLeftOut()
  @IsInt({ message: 'Ask for a whole number of tasks.' })
  @Min(1, { message: 'Ask for at least one task.' })
  @Max(500, { message: 'Ask for at most 500 tasks at once.' })
  limit?: number;
}
