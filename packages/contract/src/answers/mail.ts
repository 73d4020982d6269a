import type { IncomingState, MailKind, MailSecurity, MailState } from '../mail.ts';
import type { ClientHue } from '../words.ts';

/* Mail. Times are ISO instants. */

/** Somebody who has been sent mail by the app. */
export interface MailboxLine {
  readonly address: string;
  readonly name: string;
  readonly mails: number;
}

export interface MailboxMailLine {
  readonly id: string;
  readonly at: string;
  readonly subject: string;
  readonly from: string;
  /** The beginning of its text. */
  readonly begins: string;
}

/** The bundled mailboxes: everything the app has sent while no mail server of one's own is set. */
export interface Mailbox {
  readonly address: string;
  readonly boxes: readonly MailboxLine[];
  /** Of the chosen address, the newest first. */
  readonly mails: readonly MailboxMailLine[];
}

export interface MailboxMail extends MailboxMailLine {
  readonly to: string;
  readonly text: string;
  readonly html: string | null;
  /** The address an answer goes to; null where none is accepted. */
  readonly replyTo: string | null;
  readonly headers: readonly { readonly name: string; readonly value: string }[];
}

/** A reply as it is written: the lines quoted, and the words under them. */
export interface MailRemark {
  readonly on: string;
  readonly says: string;
}

/** A mail that came in as an answer. */
export interface MailReply {
  readonly id: string;
  readonly at: string;
  readonly from: string;
  readonly state: IncomingState;
  readonly words: string;
  readonly remarks: readonly MailRemark[];
  /** What it did, or why it was refused. */
  readonly said: string;
  readonly files: readonly { readonly id: string; readonly name: string; readonly bytes: number }[];
}

/** A mail the app sent, with what was answered. */
export interface SentMail {
  readonly id: string;
  readonly at: string;
  readonly kind: MailKind;
  readonly to: { readonly name: string; readonly address: string };
  readonly subject: string;
  readonly text: string;
  readonly state: MailState;
  readonly sentAt: string | null;
  readonly tries: number;
  /** Why it could not be sent. */
  readonly trouble: string | null;
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue } | null;
  readonly replies: readonly MailReply[];
}

export interface MailPage {
  readonly mails: readonly SentMail[];
  readonly undeliverable: number;
  /** Asks for the next page; null at the end. */
  readonly next: string | null;
}

/** How mail is sent and received. */
export interface MailServerView {
  /** Null while mail goes to the bundled mailboxes. */
  readonly server: {
    readonly host: string;
    readonly port: number;
    readonly security: MailSecurity;
    readonly user: string;
    readonly hasPassword: boolean;
  } | null;
  readonly fromAddress: string;
  readonly replyDomain: string;
  /** Where mail is received: by SMTP, null where this server does not listen; and by a provider’s webhook. */
  readonly incoming: { readonly smtp: string | null; readonly url: string; readonly secret: string };
  /** Addresses that bounced. */
  readonly faults: readonly { readonly address: string; readonly why: string; readonly at: string }[];
}

/** The result of the test mail. */
export interface MailTried {
  readonly isSent: boolean;
  readonly said: string;
}

/** The action behind a link in a mail. */
export interface MailLink {
  readonly handoffId: string;
  /** Used before, or the handoff has moved on since the mail. */
  readonly isSpent: boolean;
}

/** What the writer of an answer is told. */
export interface MailAnswered {
  readonly state: IncomingState | null;
  readonly said: string;
}
