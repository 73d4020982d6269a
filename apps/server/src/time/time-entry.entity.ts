import type { IsoDay } from '@crew/core';
import { Check, Column, Entity, Index } from 'typeorm';
import { Person } from '../crew/crew.entity.ts';
import { Engagement } from '../engagement/engagement.entity.ts';
import { DayColumn, Key, Ref } from '../platform/columns.ts';
import { Task } from '../task/task.entity.ts';

/** Minutes somebody worked on a task on a day. */
@Entity('time_entry')
@Check('time_entry_minutes_of_a_day', '"minutes" BETWEEN 1 AND 1440')
@Check('time_entry_start_of_a_day', '"start_minute" BETWEEN 0 AND 1439')
@Index('time_entry_by_person', ['personId', 'day'])
@Index('time_entry_by_engagement', ['engagementId', 'day'])
export class TimeEntry {
  @Key() id!: string;
  @Ref(() => Person, { onDelete: 'RESTRICT' }) personId!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE' }) engagementId!: string;
  @Ref(() => Task, { onDelete: 'CASCADE', isIndexed: true }) taskId!: string;
  @DayColumn() day!: IsoDay;
  @Column('int') minutes!: number;
  /** The minute of the agency's day it began at, when that is known. */
  @Column('int', { nullable: true }) startMinute!: number | null;
  @Column('text', { default: '' }) note!: string;
  @Column('boolean', { default: true }) isChargeable!: boolean;
  @Column('int', { default: 1 }) version!: number;
}
