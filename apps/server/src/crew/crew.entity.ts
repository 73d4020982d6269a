import type { IsoDay } from '@crew/core';
import { CREW_ACCESS } from '@crew/contract';
import { Check, Column, Entity, Index, Unique } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Choice, DayColumn, Key, oneOf, Ref } from '../platform/columns.ts';

/** A kind of work. */
@Entity('role')
@Unique('role_name_once', ['agencyId', 'name'])
export class Role {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Column('text') name!: string;
}

/** One of the crew, freelancers included. `reserve` is the percentage of a day kept free. */
@Entity('person')
@Check('person_week_has_seven_days', 'cardinality("week") = 7')
@Check('person_reserve_is_percent', '"reserve" BETWEEN 0 AND 100')
@Check('person_access_known', oneOf('access', CREW_ACCESS))
export class Person {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE', isIndexed: true }) agencyId!: string;
  @Column('text') name!: string;
  @Column('text') initials!: string;
  @Choice({ default: 'member' }) access!: string;
  @Column('int', { array: true }) week!: number[];
  @Column('int', { default: 0 }) reserve!: number;
  @Column('boolean', { default: true }) isActive!: boolean;
  /** Takes handoffs while they are away; without one it is the engagement's lead. */
  @Ref(() => Person, { onDelete: 'SET NULL' }) standInId!: string | null;
  /** Nothing is missed of days before it; null for those who were always there. */
  @DayColumn({ nullable: true }) joinedOn!: IsoDay | null;
  @Column('int', { default: 1 }) version!: number;
}

/** A role somebody holds; the first is the one named beside them. */
@Entity('person_role')
export class PersonRole {
  @Ref(() => Person, { onDelete: 'CASCADE', isKey: true })
  personId!: string;
  @Ref(() => Role, { onDelete: 'CASCADE', isIndexed: true, isKey: true })
  roleId!: string;
  @Column('int', { default: 0 }) position!: number;
}

/** Time away; without minutes the whole of each day. */
@Entity('time_off')
@Check('time_off_ends_after_it_starts', '"to_day" >= "from_day"')
@Check('time_off_minutes_positive', '"minutes" IS NULL OR "minutes" > 0')
@Index('time_off_by_person', ['personId', 'toDay'])
export class TimeOff {
  @Key() id!: string;
  @Ref(() => Person, { onDelete: 'CASCADE' }) personId!: string;
  @DayColumn() fromDay!: string;
  @DayColumn() toDay!: string;
  @Column('int', { nullable: true }) minutes!: number | null;
  @Column('text', { default: '' }) note!: string;
  /** By what it is known when its calendar file comes again; null for what was entered by hand. */
  @Column('text', { nullable: true }) fileKey!: string | null;
}
