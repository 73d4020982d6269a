import { Column, Entity } from 'typeorm';
import type { IsoDay } from '@crew/core';
import { Person, Role } from '../crew/crew.entity.ts';
import { DayColumn, Key, Ref } from '../platform/columns.ts';
import { EngagementSeries } from './engagement-series.entity.ts';

/** Work of a unit that a series has not created yet, so that the load knows of it; written anew whenever the series is settled. */
@Entity('series_coming')
export class SeriesComing {
  @Key() id!: string;
  @Ref(() => EngagementSeries, { onDelete: 'CASCADE', isIndexed: true }) seriesId!: string;
  /** What the unit will be called. */
  @Column('text') unit!: string;
  @Column('text') title!: string;
  @Ref(() => Role, { onDelete: 'CASCADE', isOptional: true }) roleId!: string | null;
  @Ref(() => Person, { onDelete: 'CASCADE', isOptional: true }) personId!: string | null;
  @Column('int', { nullable: true }) estimateMinutes!: number | null;
  @DayColumn() startDay!: IsoDay;
  @DayColumn() dueDay!: IsoDay;
}
