import { Column, Entity, Index } from 'typeorm';
import { Account } from '../account/account.entity.ts';
import { Agency } from '../agency/agency.entity.ts';
import { DayColumn, Key, Ref } from '../platform/columns.ts';

/** Time was closed through a day, or opened again; the latest of an agency holds. */
@Entity('time_closing')
@Index('time_closing_latest', ['agencyId', 'at'])
export class TimeClosing {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  /** Entries up to this day are locked; empty opens all. */
  @DayColumn({ nullable: true }) throughDay!: string | null;
  @Ref(() => Account, { onDelete: 'SET NULL' }) accountId!: string | null;
  @Column('timestamptz') at!: Date;
}
