import { NOTICE_KIND, type NoticeKind } from '@crew/contract';
import { Check, Column, Entity, Index, JoinColumn, ManyToOne, PrimaryColumn } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Person } from '../crew/crew.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/**
 * That an event concerns somebody. What happened is read from the event; it goes with it, and with
 * what it is about: a task, a handoff, or else the engagement.
 */
@Entity('notice')
@Check('notice_kind_known', oneOf('kind', NOTICE_KIND))
@Index('notice_once', ['eventId', 'personId', 'taskId'], { unique: true })
@Index('notice_of_person', ['personId', 'eventId'])
@Index('notice_unread', ['personId'], { where: '"read_at" IS NULL' })
export class Notice {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Ref(() => Person, { onDelete: 'CASCADE' }) personId!: string;
  @Column('bigint') eventId!: string;
  @ManyToOne('Event', { onDelete: 'CASCADE', nullable: false })
  @JoinColumn({ name: 'event_id' })
  event!: unknown;
  @Choice() kind!: NoticeKind;
  @Ref('Engagement', { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) engagementId!: string | null;
  @Ref('Task', { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) taskId!: string | null;
  @Ref('Handoff', { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) handoffId!: string | null;
  @Column('timestamptz', { nullable: true }) readAt!: Date | null;
  /** Put off until then. */
  @Column('timestamptz', { nullable: true }) snoozedUntil!: Date | null;
}

/** That somebody chose whether they are told of a kind; without it the kind's own word stands. */
@Entity('notice_choice')
@Check('notice_choice_kind_known', oneOf('kind', NOTICE_KIND))
export class NoticeChoice {
  @Ref(() => Person, { onDelete: 'CASCADE', isKey: true }) personId!: string;
  @PrimaryColumn('text') kind!: NoticeKind;
  @Column('boolean') isOn!: boolean;
}
