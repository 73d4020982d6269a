import { WHEN_MISSED } from '@crew/contract';
import { ON_CLOSED, type IsoDay } from '@crew/core';
import { Check, Column, Entity, Index } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Engagement, Phase } from '../engagement/engagement.entity.ts';
import type { TaskValues } from '../task/task-fields.ts';
import { Choice, DayColumn, Key, oneOf, Ref } from '../platform/columns.ts';

/** What every task of a series begins as: fields by name, as far as they are copied, and what hangs on it. */
export interface TaskPattern extends Partial<Omit<TaskValues, 'title'>>, Pick<TaskValues, 'title'> {
  readonly steps: readonly string[];
  readonly assignees: readonly { readonly personId: string; readonly share: number }[];
  /** Left out of patterns from before files were copied. */
  readonly fileIds?: readonly string[];
}

/** A task that repeats in an engagement, by a rule of RFC 5545; its tasks are created in advance. */
@Entity('task_series')
@Check('task_series_on_closed_known', oneOf('on_closed', ON_CLOSED))
@Check('task_series_when_missed_known', oneOf('when_missed', WHEN_MISSED))
@Index('task_series_running', ['agencyId'], { where: '"stopped_on" IS NULL' })
export class TaskSeries {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE', isIndexed: true }) engagementId!: string;
  /** Only while this phase runs; empty follows the engagement from phase to phase. */
  @Ref(() => Phase, { onDelete: 'CASCADE', isOptional: true }) phaseId!: string | null;
  @Column('jsonb') pattern!: TaskPattern;
  @Column('text') rule!: string;
  /** Where the rule counts from. */
  @DayColumn() firstDay!: IsoDay;
  @Choice({ default: 'after' }) onClosed!: string;
  @Choice({ default: 'keep' }) whenMissed!: string;
  @Column('jsonb', { default: [] }) skipped!: readonly IsoDay[];
  @Column('jsonb', { default: [] }) extra!: readonly IsoDay[];
  /** Up to this day of the rule its tasks were made: one that is gone was taken out by somebody. */
  @DayColumn({ nullable: true }) madeUntil!: IsoDay | null;
  @DayColumn({ nullable: true }) settledOn!: string | null;
  /** From this day on nothing is made any more. */
  @DayColumn({ nullable: true }) stoppedOn!: IsoDay | null;
  @Column('int', { default: 1 }) version!: number;
}
