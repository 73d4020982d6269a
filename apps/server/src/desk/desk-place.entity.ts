import type { IsoDay } from '@crew/core';
import { Check, Column, Entity, PrimaryColumn } from 'typeorm';
import { Person } from '../crew/crew.entity.ts';
import { Ref } from '../platform/columns.ts';
import { Task } from '../task/task.entity.ts';

/** Work somebody has put on a day of their week. The task keeps its dates: this is when they mean to do it. */
@Entity('desk_place')
@Check('desk_place_minutes_of_a_day', '"minutes" BETWEEN 1 AND 1440')
export class DeskPlace {
  @Ref(() => Person, { onDelete: 'CASCADE', isKey: true }) personId!: string;
  @Ref(() => Task, { onDelete: 'CASCADE', isIndexed: true, isKey: true }) taskId!: string;
  @PrimaryColumn('date') day!: IsoDay;
  @Column('int') position!: number;
  @Column('int') minutes!: number;
}
