import type { Forecast } from '@crew/core';
import { Column, Entity } from 'typeorm';
import { Engagement } from '../engagement/engagement.entity.ts';
import { Ref } from '../platform/columns.ts';

/** The last forecast of an engagement, with a mark of the facts it was computed from. */
@Entity('forecast')
export class KeptForecast {
  @Ref(() => Engagement, { onDelete: 'CASCADE', isKey: true }) engagementId!: string;
  @Column('text') factsKey!: string;
  /** How far the engagement, the crew's time off and the day were: while it is the same, nothing is computed anew. */
  @Column('text') mark!: string;
  @Column('timestamptz') computedAt!: Date;
  @Column('jsonb') answer!: Forecast;
}
