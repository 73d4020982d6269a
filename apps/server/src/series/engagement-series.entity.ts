import { SERIES_KIND, SERIES_PLACES } from '@crew/contract';
import { CARRY, ON_CLOSED, type IsoDay } from '@crew/core';
import { Check, Column, Entity, Index, PrimaryColumn } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Client, Contact } from '../client/client.entity.ts';
import { Person } from '../crew/crew.entity.ts';
import { Choice, DayColumn, Key, oneOf, Ref } from '../platform/columns.ts';
import { Template } from '../template/template.entity.ts';

/** Engagements that repeat: a care visit a month, or a production line with so many units a week. */
@Entity('engagement_series')
@Check('engagement_series_kind_known', oneOf('kind', SERIES_KIND))
@Check('engagement_series_places_known', oneOf('places', SERIES_PLACES))
@Check('engagement_series_on_closed_known', oneOf('on_closed', ON_CLOSED))
@Check('engagement_series_carry_known', oneOf('carry', CARRY))
@Check('engagement_series_retainer_not_negative', '"retainer_minutes" >= 0')
@Check('engagement_series_ahead_not_negative', '"ahead_days" >= 0')
@Index('engagement_series_of_agency', ['agencyId'])
export class EngagementSeries {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Choice() kind!: string;
  @Column('text') name!: string;
  /** What each is called; {n} and {month} stand for its number and its month. */
  @Column('text') unitName!: string;
  @Ref(() => Client, { onDelete: 'RESTRICT', isIndexed: true }) clientId!: string;
  @Ref(() => Contact, { onDelete: 'SET NULL' }) contactId!: string | null;
  @Ref(() => Person, { onDelete: 'RESTRICT', isIndexed: true }) leadId!: string;
  @Ref(() => Template, { onDelete: 'RESTRICT', isIndexed: true }) templateId!: string;
  @Column('jsonb', { default: [] }) roles!: readonly { readonly roleId: string; readonly personId: string | null }[];
  /** Whether a day of the rule is when a unit starts, or when it is promised for. */
  @Choice({ default: 'start' }) places!: string;
  @Choice({ default: 'after' }) onClosed!: string;
  @Column('jsonb', { default: [] }) skipped!: readonly IsoDay[];
  @Column('jsonb', { default: [] }) extra!: readonly IsoDay[];
  /** Hours agreed for each period, and what is done with those that are left. */
  @Column('int', { nullable: true }) retainerMinutes!: number | null;
  @Choice({ default: 'none' }) carry!: string;
  /** How many days before it starts a unit is made. */
  @Column('int') aheadDays!: number;
  @DayColumn({ nullable: true }) madeUntil!: IsoDay | null;
  @DayColumn({ nullable: true }) settledOn!: string | null;
  /** Another as soon as the work of its coming units is. */
  @Column('text', { nullable: true }) comingMark!: string | null;
  @DayColumn({ nullable: true }) stoppedOn!: IsoDay | null;
  @Column('int', { default: 1 }) version!: number;
}

/** How often from a day on, until the next rhythm begins. */
@Entity('series_rhythm')
@Check('series_rhythm_each_positive', '"each" > 0')
export class SeriesRhythm {
  @Ref(() => EngagementSeries, { onDelete: 'CASCADE', isKey: true }) seriesId!: string;
  @PrimaryColumn('date') fromDay!: string;
  @Column('text') rule!: string;
  /** How many on each day of the rule. */
  @Column('int', { default: 1 }) each!: number;
}
