import type { Carry, IsoDay } from '@crew/core';
import { ENGAGEMENT_STATE, PHASE_STATE, PHASE_EDGE } from '@crew/contract';
import { Check, Column, Entity, Index, Unique } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Client, Contact } from '../client/client.entity.ts';
import { Person, Role } from '../crew/crew.entity.ts';
import { Choice, DayColumn, Key, oneOf, Ref } from '../platform/columns.ts';
import type { KeptSums } from '../schedule/summarise.ts';
import { EngagementSeries } from '../series/engagement-series.entity.ts';
import { Template } from '../template/template.entity.ts';

/** One agreed piece of work for a client. */
@Entity('engagement')
@Check('engagement_state_known', oneOf('state', ENGAGEMENT_STATE))
@Check('engagement_likelihood_is_percent', '"likelihood" BETWEEN 0 AND 100')
@Check('engagement_closed_when_over', `("state" IN ('finished', 'dropped')) = ("closed_on" IS NOT NULL)`)
@Check('engagement_promise_after_start', '"promised_day" IS NULL OR "promised_day" >= "start_day"')
@Unique('engagement_series_place_once', ['seriesId', 'seriesDay', 'seriesPlace'])
@Index('engagement_open', ['agencyId'], { where: `"state" IN ('proposal', 'open')` })
export class Engagement {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Client, { onDelete: 'RESTRICT', isIndexed: true }) clientId!: string;
  @Ref(() => Contact, { onDelete: 'SET NULL' }) contactId!: string | null;
  @Ref(() => Template, { onDelete: 'SET NULL', isIndexed: true }) templateId!: string | null;
  @Column('int', { nullable: true }) templateVersion!: number | null;
  @Ref(() => Person, { onDelete: 'RESTRICT', isIndexed: true }) leadId!: string;
  @Column('text') name!: string;
  @Choice({ default: 'open' }) state!: string;
  /** The day it was completed or closed; null while it runs. */
  @DayColumn({ nullable: true }) closedOn!: IsoDay | null;
  /** Why it was closed before its time. */
  @Column('text', { nullable: true }) closedReason!: string | null;
  /** The ending of its map by which it was closed, for reports; null where none was chosen. */
  @Column('text', { nullable: true }) closedEnding!: string | null;
  @DayColumn() startDay!: IsoDay;
  @DayColumn({ nullable: true }) promisedDay!: IsoDay | null;
  @Column('int', { default: 100 }) likelihood!: number;
  @Column('int', { default: 0 }) lastNumber!: number;
  @Column('int', { default: 1 }) version!: number;
  @Column('timestamptz') createdAt!: Date;
  /** The plan as it was promised: since when, and when it was to end. */
  @DayColumn() baselineOn!: string;
  @DayColumn() baselineFinish!: IsoDay;
  @DayColumn({ nullable: true }) baselinePromise!: string | null;
  /** Its place in a series: its number, and the day of the rule it was made for, with its place among those of that day. */
  @Ref(() => EngagementSeries, { onDelete: 'SET NULL', isOptional: true }) seriesId!: string | null;
  @Column('int', { nullable: true }) seriesNumber!: number | null;
  @DayColumn({ nullable: true }) seriesDay!: string | null;
  @Column('int', { nullable: true }) seriesPlace!: number | null;
  /** Hours agreed for this period, without what is carried over. */
  @Column('int', { nullable: true }) agreedMinutes!: number | null;
  /** What is done with those that are left once its period is over. */
  @Column('text', { nullable: true }) agreedCarry!: Carry | null;
}

/** A thing the client gets: gathers tasks across phases. */
@Entity('deliverable')
@Unique('deliverable_name_once', ['engagementId', 'name'])
export class Deliverable {
  @Key() id!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE' }) engagementId!: string;
  @Column('int') position!: number;
  @Column('text') name!: string;
}

/** Who does the work of a role in this engagement. */
@Entity('engagement_role')
export class EngagementRole {
  @Ref(() => Engagement, { onDelete: 'CASCADE', isKey: true })
  engagementId!: string;
  @Ref(() => Role, { onDelete: 'RESTRICT', isKey: true })
  roleId!: string;
  @Ref(() => Person, { onDelete: 'CASCADE', isIndexed: true }) personId!: string;
}

/** An ordered part of an engagement. Planned days and percent are computed, never typed. */
@Entity('phase')
@Unique('phase_position_once', ['engagementId', 'position'])
@Check('phase_state_known', oneOf('state', PHASE_STATE))
@Check('phase_edge_known', oneOf('after_edge', PHASE_EDGE))
@Check('phase_round_positive', '"round" > 0')
@Check('phase_started_when_begun', `("state" = 'ahead') = ("started_on" IS NULL)`)
@Check('phase_finished_when_over', `("state" = 'over') = ("finished_on" IS NOT NULL)`)
@Check('phase_finishes_after_it_starts', '"finished_on" IS NULL OR "finished_on" >= "started_on"')
export class Phase {
  @Key() id!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE' }) engagementId!: string;
  @Column('int') position!: number;
  @Column('text') name!: string;
  @Column('text') stateLine!: string;
  /** The phase of a template it was made from. */
  @Column('uuid', { nullable: true }) templatePhaseId!: string | null;
  @Ref(() => Role, { onDelete: 'RESTRICT', isOptional: true }) roleId!: string | null;
  @Ref(() => Phase, { onDelete: 'SET NULL', isIndexed: true }) afterPhaseId!: string | null;
  @Choice({ default: 'finish' }) afterEdge!: string;
  @Column('int', { default: 0 }) afterLag!: number;
  @Column('int', { nullable: true }) rounds!: number | null;
  /** Which of its rounds it is in. */
  @Column('int', { default: 1 }) round!: number;
  @Choice({ default: 'ahead' }) state!: string;
  @DayColumn({ nullable: true }) startedOn!: IsoDay | null;
  @DayColumn({ nullable: true }) finishedOn!: IsoDay | null;
  @DayColumn() plannedStart!: string;
  @DayColumn() plannedFinish!: string;
  @DayColumn({ nullable: true }) baselineStart!: IsoDay | null;
  @DayColumn({ nullable: true }) baselineFinish!: IsoDay | null;
  @Column('int', { default: 0 }) percent!: number;
  /** The exact sums behind the percent; null until it is next computed. */
  @Column('jsonb', { nullable: true }) progress!: KeptSums | null;
}

/** What lists need of an engagement, refreshed in the transaction that changes it and overnight. */
@Entity('engagement_summary')
@Check('engagement_summary_percent_is_percent', '"percent" BETWEEN 0 AND 100')
export class EngagementSummary {
  @Ref(() => Engagement, { onDelete: 'CASCADE', isKey: true })
  engagementId!: string;
  @Column('int', { default: 0 }) percent!: number;
  @Column('int', { default: 0 }) openTasks!: number;
  @Column('int', { default: 0 }) overdueTasks!: number;
  @Column('int', { default: 0 }) effortMinutes!: number;
  @Column('int', { default: 0 }) loggedMinutes!: number;
  @DayColumn({ nullable: true }) nextDue!: IsoDay | null;
  @DayColumn() finishDay!: IsoDay;
  /** Working days the finish lies beyond the promise. */
  @Column('int', { default: 0 }) lateDays!: number;
  /** Working days by which the plan misses a fixed day of open work, the most of them. */
  @Column('int', { default: 0 }) missedDays!: number;
  @Column('text', { nullable: true }) waitingTitle!: string | null;
  @DayColumn({ nullable: true }) waitingSince!: IsoDay | null;
  @DayColumn() refreshedOn!: string;
  /** The exact sums behind the percent; null until it is next computed. */
  @Column('jsonb', { nullable: true }) progress!: KeptSums | null;
  /** Counts writes of this row: a percent computed from older facts is computed again. */
  @Column('int', { default: 0 }) revision!: number;
  /** Tasks whose status changed since the plan behind them was last computed. */
  @Column('uuid', { array: true, default: '{}' }) pendingTaskIds!: string[];
}
