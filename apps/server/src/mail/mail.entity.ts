import { INCOMING_STATE, MAIL_KIND, MAIL_SECURITY, MAIL_STATE, type IncomingState, type MailKind, type MailRemark } from '@crew/contract';
import { Check, Column, Entity, Index, PrimaryColumn } from 'typeorm';
import { Agency } from '../agency/agency.entity.ts';
import { Contact } from '../client/client.entity.ts';
import { Person } from '../crew/crew.entity.ts';
import { StoredFile } from '../file/file.entity.ts';
import { Choice, Key, oneOf, Ref } from '../platform/columns.ts';

/** A mail to one address. Whoever asks for it gives it a key, so that it is sent once however often it is asked for. */
@Entity('mail')
@Check('mail_kind_known', oneOf('kind', MAIL_KIND))
@Check('mail_state_known', oneOf('state', MAIL_STATE))
@Index('mail_once', ['agencyId', 'key'], { unique: true })
@Index('mail_of_agency', ['agencyId', 'createdAt'])
@Index('mail_not_sent', ['agencyId'], { where: `"state" <> 'sent'` })
export class Mail {
  @Key() id!: string;
  @Ref(() => Agency, { onDelete: 'CASCADE' }) agencyId!: string;
  @Column('text') key!: string;
  @Choice() kind!: MailKind;
  /** Who is written to: a person or of a client, or an address alone. */
  @Ref(() => Person, { onDelete: 'SET NULL', isIndexed: true }) personId!: string | null;
  @Ref(() => Contact, { onDelete: 'SET NULL', isIndexed: true }) contactId!: string | null;
  @Column('text') toName!: string;
  @Column('text') toAddress!: string;
  @Ref('Engagement', { onDelete: 'CASCADE', isOptional: true, isIndexed: true }) engagementId!: string | null;
  @Ref('Handoff', { onDelete: 'SET NULL', isIndexed: true }) handoffId!: string | null;
  /** How the handoff stood; its link and its answers count as long as it does. */
  @Column('int', { nullable: true }) handoffVersion!: number | null;
  @Column('text') subject!: string;
  @Column('text') text!: string;
  @Column('text') html!: string;
  /** Whether an answer is taken. */
  @Column('boolean') canReply!: boolean;
  @Choice({ default: 'waiting' }) state!: string;
  @Column('int', { default: 0 }) tries!: number;
  @Column('text', { nullable: true }) trouble!: string | null;
  @Column('timestamptz') createdAt!: Date;
  @Column('timestamptz', { nullable: true }) sentAt!: Date | null;
  /** When its link was used. */
  @Column('timestamptz', { nullable: true }) openedAt!: Date | null;
}

/** A mail that came in for one of ours; once, however often it is delivered. */
@Entity('mail_reply')
@Check('mail_reply_state_known', oneOf('state', INCOMING_STATE))
@Index('mail_reply_once', ['mailId', 'messageId'], { unique: true })
export class IncomingMail {
  @Key() id!: string;
  @Ref(() => Mail, { onDelete: 'CASCADE' }) mailId!: string;
  @Column('text') messageId!: string;
  @Column('text') fromAddress!: string;
  @Column('text') fromName!: string;
  @Column('timestamptz') at!: Date;
  @Choice() state!: IncomingState;
  @Column('text') words!: string;
  @Column('jsonb') remarks!: MailRemark[];
  /** What came of it, or why it was not taken. */
  @Column('text', { default: '' }) said!: string;
  /** Still to be acted on. */
  @Column('boolean', { default: false }) isPending!: boolean;
}

/** A file that came with a mail. */
@Entity('mail_reply_file')
export class IncomingMailFile {
  @Ref(() => IncomingMail, { onDelete: 'CASCADE', isKey: true }) replyId!: string;
  @Ref(() => StoredFile, { onDelete: 'RESTRICT', isKey: true, isIndexed: true }) fileId!: string;
  @Column('int') position!: number;
}

/** An address that sends mail back. */
@Entity('mail_fault')
export class MailFault {
  @Ref(() => Agency, { onDelete: 'CASCADE', isKey: true }) agencyId!: string;
  @PrimaryColumn('text') address!: string;
  @Column('text') why!: string;
  @Column('timestamptz') at!: Date;
}

/** The agency's own mail server. Its password is kept sealed. */
@Entity('mail_server')
@Check('mail_server_security_known', oneOf('security', MAIL_SECURITY))
export class MailServer {
  @Ref(() => Agency, { onDelete: 'CASCADE', isKey: true }) agencyId!: string;
  @Column('text') host!: string;
  @Column('int') port!: number;
  @Choice() security!: string;
  @Column('text') userName!: string;
  @Column('text', { nullable: true }) sealedPassword!: string | null;
  @Column('text') fromAddress!: string;
  @Column('text') replyDomain!: string;
}

/** A mail in the bundled mailboxes. */
@Entity('caught_mail')
@Index('caught_mail_once', ['address', 'messageId'], { unique: true })
@Index('caught_mail_of_address', ['address', 'at'])
export class CaughtMail {
  @Key() id!: string;
  @Column('text') address!: string;
  @Column('text') messageId!: string;
  @Column('timestamptz') at!: Date;
  @Column('bytea') raw!: Buffer;
}
