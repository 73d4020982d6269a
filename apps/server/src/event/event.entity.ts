import { Column, Entity, Index, PrimaryGeneratedColumn } from 'typeorm';
import { Account } from '../account/account.entity.ts';
import { Agency } from '../agency/agency.entity.ts';
import { Engagement } from '../engagement/engagement.entity.ts';
import { Choice, Ref } from '../platform/columns.ts';

/** Who changed what, from what, to what. Written in the transaction that made the change. */
@Entity('event')
@Index('event_by_engagement', ['engagementId', 'id'])
@Index('event_by_subject', ['subjectId', 'id'])
export class Event {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' }) id!: number;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Engagement, { onDelete: 'CASCADE', isOptional: true }) engagementId!: string | null;
  @Ref(() => Account, { onDelete: 'SET NULL' }) accountId!: string | null;
  @Choice() subject!: string;
  @Column('uuid') subjectId!: string;
  @Choice() kind!: string;
  @Column('jsonb', { default: [] }) changes!: { field: string; from: unknown; to: unknown }[];
  @Column('timestamptz') at!: Date;
}
