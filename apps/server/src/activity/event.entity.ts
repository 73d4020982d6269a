import { ACTOR_KIND, EVENT_SUBJECT, type EventFacts, type EventKind, type FieldChange } from '@crew/contract';
import { Check, Column, Entity, Index, PrimaryGeneratedColumn } from 'typeorm';
import { Account } from '../account/account.entity.ts';
import { Agency } from '../agency/agency.entity.ts';
import { Choice, oneOf, Ref } from '../platform/columns.ts';

/**
 * Something that happened: what, to which thing, by whom, and which fields changed. Written in
 * the transaction of the change. All of a transaction is one batch, which is undone as one.
 */
@Entity('event')
@Check('event_subject_known', oneOf('subject', EVENT_SUBJECT))
@Check('event_actor_known', oneOf('actor_kind', ACTOR_KIND))
@Index('event_by_engagement', ['engagementId', 'id'])
@Index('event_by_subject', ['subjectId', 'id'])
@Index('event_by_agency', ['agencyId', 'id'])
@Index('event_by_batch', ['batchId'])
@Index('event_changed_late', ['agencyId', 'id'], { where: `"payload"->>'lateReason' IS NOT NULL` })
@Index('event_by_run', ['runId'], { where: '"run_id" IS NOT NULL' })
@Index('event_pending', ['id'], { where: '"is_pending"' })
@Index('event_of_handoffs', ['agencyId', 'at'], { where: `"subject" = 'handoff'` })
export class Event {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' }) id!: number;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref('Engagement', { onDelete: 'CASCADE', isOptional: true }) engagementId!: string | null;
  @Choice() subject!: string;
  @Column('uuid') subjectId!: string;
  @Choice() kind!: EventKind;
  /** What its kind carries, and under `names` what ids in the changes were called. */
  @Column('jsonb', { default: {} }) payload!: object;
  @Column('jsonb', { default: [] }) changes!: FieldChange[];
  @Column('jsonb', { default: {} }) facts!: EventFacts;
  @Choice() actorKind!: string;
  @Ref(() => Account, { onDelete: 'SET NULL' }) accountId!: string | null;
  /** The job that did it. */
  @Choice({ nullable: true }) job!: string | null;
  /** The event that caused it; it may be gone from the history. */
  @Column('bigint', { nullable: true }) causeId!: string | null;
  /** The run of a rule that did it, or that led to it. */
  @Column('uuid', { nullable: true }) runId!: string | null;
  /** Everything the transaction did; null for what was recorded before changes were kept in batches. */
  @Column('uuid', { nullable: true }) batchId!: string | null;
  /** The batch that this one undid. */
  @Column('uuid', { nullable: true }) undoesId!: string | null;
  /** The batch that undid it; empty again once that was undone itself. */
  @Column('uuid', { nullable: true }) undoneById!: string | null;
  @Column('timestamptz') at!: Date;
  /** Whether its followers have still to process it. */
  @Column('boolean', { default: false }) isPending!: boolean;
}
