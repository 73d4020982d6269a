import type { IsoDay } from '@crew/core';
import { Check, Column, Entity } from 'typeorm';
import { Person } from '../crew/crew.entity.ts';
import { DayColumn, Ref } from '../platform/columns.ts';
import { Task } from '../task/task.entity.ts';

/** Somebody's one timer, on whichever device it was started. `runningSince` is empty while it is paused. */
@Entity('timer')
@Check('timer_banked_not_negative', '"banked_seconds" >= 0')
export class Timer {
  @Ref(() => Person, { onDelete: 'CASCADE', isKey: true }) personId!: string;
  @Ref(() => Task, { onDelete: 'RESTRICT', isIndexed: true }) taskId!: string;
  /** The agency's day it was started on. */
  @DayColumn() day!: IsoDay;
  @Column('int', { default: 0 }) bankedSeconds!: number;
  @Column('timestamptz', { nullable: true }) runningSince!: Date | null;
}
