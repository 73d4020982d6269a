/* Mail, as it is sent, answered and kept. */

/** Why a mail is sent. */
export const MAIL_KIND = ['handoff', 'notices', 'digest', 'message', 'client', 'answer', 'test', 'access'] as const;
export type MailKind = (typeof MAIL_KIND)[number];

/** The state of a mail: to be sent, accepted by the mail server, or given up. */
export const MAIL_STATE = ['waiting', 'sent', 'undeliverable'] as const;
export type MailState = (typeof MAIL_STATE)[number];

/**
 * What was done with a mail that came in: kept beside the mail it answers, kept and acted on, refused
 * because of who sent it, dropped because no person wrote it, or the report that a mail of ours did
 * not arrive.
 */
export const INCOMING_STATE = ['kept', 'acted', 'refused', 'dropped', 'bounce'] as const;
export type IncomingState = (typeof INCOMING_STATE)[number];

/** How the connection to a mail server is protected. */
export const MAIL_SECURITY = ['none', 'starttls', 'tls'] as const;
export type MailSecurity = (typeof MAIL_SECURITY)[number];
