import type { IsoDay } from '@crew/core';
import { NOTICE_CHANNEL, NOTICE_KIND, type NoticeChannel, type NoticeKind } from '@crew/contract';
import { Check, Column, Entity, Index, JoinColumn, ManyToOne, PrimaryColumn } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Person } from '../crew/crew.entity.ts';
import { Choice, DayColumn, Key, oneOf, Ref } from '../platform/columns.ts';

/**
 * That an event concerns somebody. What happened is read from the event; it goes with it, and with
 * what it is about: a task, a handoff, or else the engagement.
 */
@Entity('notice')
@Check('notice_kind_known', oneOf('kind', NOTICE_KIND))
@Index('notice_once', ['eventId', 'personId', 'taskId'], { unique: true })
@Index('notice_of_person', ['personId', 'eventId'])
@Index('notice_unread', ['personId'], { where: '"read_at" IS NULL' })
@Index('notice_to_mail', ['mailDueAt'], { where: '"mail_due_at" IS NOT NULL' })
@Index('notice_to_digest', ['personId'], { where: '"in_digest"' })
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
  @Column('boolean', { default: true }) onScreen!: boolean;
  /** When it is mailed unless it is read before; empty for one that is not, or has been. */
  @Column('timestamptz', { nullable: true }) mailDueAt!: Date | null;
  /** Whether it waits for the next digest. */
  @Column('boolean', { default: false }) inDigest!: boolean;
}

/** That somebody chose whether they are told of a kind in one of the places; without it the kind's own word stands. */
@Entity('notice_choice')
@Check('notice_choice_kind_known', oneOf('kind', NOTICE_KIND))
@Check('notice_choice_channel_known', oneOf('channel', NOTICE_CHANNEL))
export class NoticeChoice {
  @Ref(() => Person, { onDelete: 'CASCADE', isKey: true }) personId!: string;
  @PrimaryColumn('text') kind!: NoticeKind;
  @PrimaryColumn('text') channel!: NoticeChannel;
  @Column('boolean') isOn!: boolean;
}

/** When somebody is mailed; without it mails wait for their working day and the digest is sent. */
@Entity('notice_mailing')
export class NoticeMailing {
  @Ref(() => Person, { onDelete: 'CASCADE', isKey: true }) personId!: string;
  @Column('boolean', { default: true }) isQuiet!: boolean;
  @Column('boolean', { default: true }) hasDigest!: boolean;
  /** The day of the last digest. */
  @DayColumn({ nullable: true }) digestOn!: IsoDay | null;
}
