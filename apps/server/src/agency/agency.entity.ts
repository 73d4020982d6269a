import { SECOND_FACTOR_FOR, type SecondFactorFor } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { Check, Column, Entity, PrimaryColumn } from 'typeorm';
import { Choice, DayColumn, Key, oneOf, Ref } from '../platform/columns.ts';

/** The service agency itself: its working week in minutes, Monday first. */
@Entity('agency')
@Check('agency_week_has_seven_days', 'cardinality("week") = 7')
@Check('agency_default_minutes_not_negative', '"default_minutes" >= 0')
@Check('agency_history_at_least_a_quarter', '"history_months" >= 3')
@Check('agency_reminds_after_hours', '"remind_hours" >= 0 AND "remind_lead_hours" >= 0')
@Check('agency_currency_has_three_letters', `"currency" ~ '^[A-Z]{3}$'`)
@Check('agency_colour_is_hex', `"colour" ~ '^#[0-9a-f]{6}$'`)
@Check('agency_second_factor_for_known', oneOf('second_factor_for', SECOND_FACTOR_FOR))
@Check(
  'agency_reminds_of_work_after_hours',
  'least("remind_task_hours", "remind_task_lead_hours", "remind_client_hours", "remind_client_lead_hours", "remind_logging_hours") >= 0',
)
export class Agency {
  @Key() id!: string;
  @Column('text') name!: string;
  @Column('text') zone!: string;
  /** Of whose public holidays it is closed, as date-holidays names it: `DE`, and in it `BY`; null until it is chosen. */
  @Column('text', { nullable: true }) country!: string | null;
  @Column('text', { nullable: true }) region!: string | null;
  @Column('text', { default: 'EUR' }) currency!: string;
  /** As `#0b5d57`, for what clients see. */
  @Column('text', { default: '#0b5d57' }) colour!: string;
  @Column('int', { array: true }) week!: number[];
  /** What a task without an estimate counts in the load. */
  @Column('int', { default: 60 }) defaultMinutes!: number;
  /** Time entries up to this day are locked; empty locks none. */
  @DayColumn({ nullable: true }) timeClosedThrough!: string | null;
  /** How long the history of what is over is kept. */
  @Column('int', { default: 24 }) historyMonths!: number;
  /** After so many working hours whoever holds a handoff is reminded, and then the lead; 0 reminds nobody. */
  @Column('int', { default: 8 }) remindHours!: number;
  @Column('int', { default: 16 }) remindLeadHours!: number;
  /** The same of tasks that are overdue or wait. */
  @Column('int', { default: 8 }) remindTaskHours!: number;
  @Column('int', { default: 24 }) remindTaskLeadHours!: number;
  /** The same of what the client owes: first the contact, by mail. */
  @Column('int', { default: 0 }) remindClientHours!: number;
  @Column('int', { default: 16 }) remindClientLeadHours!: number;
  @Column('int', { default: 8 }) remindLoggingHours!: number;
  /** Who has to use a second factor to sign in. */
  @Choice({ default: 'nobody' }) secondFactorFor!: SecondFactorFor;
}

/** Its logo, a small picture. */
@Entity('agency_logo')
export class AgencyLogo {
  @Ref(() => Agency, { onDelete: 'CASCADE', isKey: true })
  agencyId!: string;
  /** As `image/png`. */
  @Column('text') type!: string;
  @Column('bytea') image!: Buffer;
  /** By which a browser knows whether it has this picture already. */
  @Column('text') digest!: string;
}

/** A day on which the whole agency is closed. */
@Entity('closed_day')
export class ClosedDay {
  @Ref(() => Agency, { onDelete: 'CASCADE', isKey: true })
  agencyId!: string;
  @PrimaryColumn('date') day!: IsoDay;
  @Column('text') name!: string;
  /** Its key in the calendar file it came from; null for a day closed by hand. */
  @Column('text', { nullable: true }) fileKey!: string | null;
}
