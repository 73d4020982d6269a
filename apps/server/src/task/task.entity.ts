import { ANCHOR_AT, DEPENDENCY_TYPE, OUTSIDE_STATE, PRIORITY, TASK_KIND, TASK_STATUS, WAITING_ON } from '@crew/contract';
import type { CustomFieldEntry, IsoDay } from '@crew/core';
import { Check, Column, Entity, Index, Unique } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Person, Role } from '../crew/crew.entity.ts';
import { Deliverable, Engagement, Phase } from '../engagement/engagement.entity.ts';
import type { TaskWay } from './task-fields.ts';
import { TaskSeries } from '../series/task-series.entity.ts';
import { Choice, DayColumn, Key, oneOf, Ref } from '../platform/columns.ts';

const OPEN = `"status" NOT IN ('done', 'dropped')`;

/** A piece of work. Start, due, slack and open predecessors are computed by the planner. */
@Entity('task')
@Unique('task_number_once', ['engagementId', 'number'])
@Check('task_status_known', oneOf('status', TASK_STATUS))
@Check('task_kind_known', oneOf('kind', TASK_KIND))
@Check('task_priority_known', oneOf('priority', PRIORITY))
@Check('task_anchor_known', oneOf('anchor_at', ANCHOR_AT))
@Check('task_waiting_on_known', `"waiting_on" IS NULL OR ${oneOf('waiting_on', WAITING_ON)}`)
@Check('task_waits_on_somebody', `("status" = 'waiting') = ("waiting_on" IS NOT NULL)`)
@Check('task_waits_since', `("status" = 'waiting') = ("waiting_since" IS NOT NULL)`)
@Check('task_done_has_day', `("status" = 'done') = ("done_on" IS NOT NULL)`)
@Check('task_done_has_start', `"done_on" IS NULL OR ("real_start" IS NOT NULL AND "done_on" >= "real_start")`)
@Check('task_days_not_negative', '"days" >= 0')
@Check('task_estimate_not_negative', '"estimate_minutes" IS NULL OR "estimate_minutes" >= 0')
@Check('task_logged_not_negative', '"logged_minutes" >= 0')
@Check('task_due_after_start', '"due_day" >= "start_day"')
@Check('task_not_its_own_part', '"parent_id" <> "id"')
@Check('task_outside_state_known', `"outside_state" IS NULL OR ${oneOf('outside_state', OUTSIDE_STATE)}`)
@Check(
  'task_outside_whole_or_not',
  `num_nonnulls("outside_maker", "outside_turnaround", "outside_buffer", "outside_state", "brief_by") IN (0, 5) AND ("outside_maker" IS NOT NULL OR "outside_needed_on" IS NULL)`,
)
@Check('task_outside_days_not_negative', '"outside_turnaround" >= 0 AND "outside_buffer" >= 0')
@Check('task_carried_not_negative', '"carried" >= 0')
@Check('task_series_has_day', `("series_id" IS NULL) = ("series_day" IS NULL)`)
@Unique('task_series_day_once', ['seriesId', 'seriesDay'])
@Check('task_steps_done_within_all', '"steps_done" BETWEEN 0 AND "steps_all"')
@Index('task_open_by_due', ['agencyId', 'dueDay'], { where: OPEN })
@Index('task_open_by_engagement', ['engagementId', 'dueDay'], { where: OPEN })
@Index('task_parts', ['parentId'], { where: '"parent_id" IS NOT NULL' })
@Index('task_by_planned_week', ['agencyId', 'plannedWeek'], { where: '"planned_week" IS NOT NULL' })
@Index('task_by_template_task', ['templateTaskId'])
@Index('task_by_phase', ['phaseId', 'position'])
@Index('task_done_by_role', ['agencyId', 'roleId', 'doneOn'], { where: `"status" = 'done'` })
export class Task {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE' }) engagementId!: string;
  @Ref(() => Phase, { onDelete: 'CASCADE' }) phaseId!: string;
  /** The task of a template it was made from; templates change and go while it stays. */
  @Column('uuid', { nullable: true }) templateTaskId!: string | null;
  /** The task it is a part of. */
  @Ref(() => Task, { onDelete: 'CASCADE', isOptional: true }) parentId!: string | null;
  /** Whether it has subtasks: then they decide its days, effort and status. */
  @Column('boolean', { default: false }) isGroup!: boolean;
  @Ref(() => Deliverable, { onDelete: 'SET NULL', isIndexed: true }) deliverableId!: string | null;
  @Column('text', { array: true, default: '{}' }) labels!: string[];
  /** Pages worth having at hand, such as how-tos. */
  @Column('jsonb', { default: [] }) pageLinks!: readonly { readonly title: string; readonly url: string }[];
  /** Custom fields of the agency with what stands in them. */
  @Column('jsonb', { default: [] }) customFields!: readonly CustomFieldEntry[];
  /** Where it leads beside the ordinary next ones. */
  @Column('jsonb', { default: [] }) ways!: readonly TaskWay[];
  @Column('int') number!: number;
  @Column('int') position!: number;
  @Column('text') title!: string;
  @Column('text', { default: '' }) description!: string;
  @Choice({ default: 'work' }) kind!: string;
  @Ref(() => Role, { onDelete: 'RESTRICT', isOptional: true }) roleId!: string | null;
  @Choice({ default: 'queued' }) status!: string;
  @Choice({ nullable: true }) waitingOn!: string | null;
  @DayColumn({ nullable: true }) waitingSince!: IsoDay | null;
  @Choice({ default: 'normal' }) priority!: string;
  @Column('int', { nullable: true }) estimateMinutes!: number | null;
  @Column('int') days!: number;
  @Choice({ default: 'phase-start' }) anchorAt!: string;
  @Column('int', { default: 0 }) anchorOffset!: number;
  @DayColumn({ nullable: true }) fixedDay!: IsoDay | null;
  /** It begins on this day at the earliest. */
  @DayColumn({ nullable: true }) notBefore!: IsoDay | null;
  /** Its days in the plan as promised. */
  @DayColumn({ nullable: true }) baselineStart!: IsoDay | null;
  @DayColumn({ nullable: true }) baselineDue!: string | null;
  /** Who outside the crew makes it, and how long they take. */
  @Column('text', { nullable: true }) outsideMaker!: string | null;
  @Column('int', { nullable: true }) outsideTurnaround!: number | null;
  @Column('int', { nullable: true }) outsideBuffer!: number | null;
  @DayColumn({ nullable: true }) outsideNeededOn!: string | null;
  @Choice({ nullable: true }) outsideState!: string | null;
  /** The last day to send the brief; computed. */
  @DayColumn({ nullable: true }) briefBy!: IsoDay | null;
  @DayColumn({ nullable: true }) realStart!: IsoDay | null;
  @DayColumn({ nullable: true }) doneOn!: IsoDay | null;
  @DayColumn() startDay!: IsoDay;
  @DayColumn() dueDay!: IsoDay;
  /** When it will really be finished as things stand; `dueDay` is what was planned. */
  @DayColumn() expectedDay!: string;
  @Column('int', { default: 0 }) slack!: number;
  @Column('boolean', { default: false }) isCritical!: boolean;
  @Column('int', { default: 0 }) missedDays!: number;
  @Column('int', { default: 0 }) loggedMinutes!: number;
  @Column('int', { default: 0 }) stepsDone!: number;
  @Column('int', { default: 0 }) stepsAll!: number;
  @Column('int', { default: 0 }) openPredecessors!: number;
  @Column('int', { default: 0 }) reopened!: number;
  @Column('boolean', { default: false }) isShownToClient!: boolean;
  @Column('boolean', { default: true }) isChargeable!: boolean;
  /** Whether it can start before its phase does. */
  @Column('boolean', { default: false }) mayStartEarly!: boolean;
  /** The Monday of the week it is meant to be done in, for the week's planning; its dates are apart from this. */
  @DayColumn({ nullable: true }) plannedWeek!: IsoDay | null;
  /** What it repeats, and the day of its rule it stands for: so it is made once, wherever it is moved. */
  @Ref(() => TaskSeries, { onDelete: 'CASCADE', isOptional: true }) seriesId!: string | null;
  @DayColumn({ nullable: true }) seriesDay!: string | null;
  /** How many times it was left over and carried into a later week. */
  @Column('int', { default: 0 }) carried!: number;
  @Column('int', { default: 1 }) version!: number;
}

/** Somebody a task is given to; `seenAt` is empty until they have looked at it. */
@Entity('task_assignee')
@Check('task_assignee_share_positive', '"share" > 0')
@Index('task_assignee_open', ['personId'], { where: '"is_open"' })
export class TaskAssignee {
  @Ref(() => Task, { onDelete: 'CASCADE', isKey: true })
  taskId!: string;
  @Ref(() => Person, { onDelete: 'CASCADE', isIndexed: true, isKey: true })
  personId!: string;
  @Column('int') position!: number;
  @Column('int', { default: 1 }) share!: number;
  @Column('timestamptz') assignedAt!: Date;
  @Ref(() => Person, { onDelete: 'SET NULL' }) assignedById!: string | null;
  @Column('timestamptz', { nullable: true }) seenAt!: Date | null;
  /** Whether the task is neither done nor dropped; kept by triggers of the database. */
  @Column('boolean', { default: true }) isOpen!: boolean;
}

@Entity('step')
export class Step {
  @Key() id!: string;
  @Ref(() => Task, { onDelete: 'CASCADE', isIndexed: true }) taskId!: string;
  @Column('int') position!: number;
  @Column('text') title!: string;
  @Column('boolean', { default: false }) isDone!: boolean;
}

/** The successor waits for the predecessor, by type and lag in open days. */
@Entity('task_dependency')
@Check('task_dependency_type_known', oneOf('type', DEPENDENCY_TYPE))
@Check('task_dependency_not_to_itself', '"predecessor_id" <> "successor_id"')
export class TaskDependency {
  @Ref(() => Task, { onDelete: 'CASCADE', isKey: true })
  successorId!: string;
  @Ref(() => Task, { onDelete: 'CASCADE', isIndexed: true, isKey: true })
  predecessorId!: string;
  @Choice({ default: 'FS' }) type!: string;
  @Column('int', { default: 0 }) lag!: number;
}
