import type { SendMailOptions } from 'nodemailer';
import type { MailRoute } from './mail-route.ts';
import type { MailSecrets } from './mail-secrets.ts';
import type { MailToSend } from './send-mail.ts';

/** Addresses mail comes back to: an answer, or the report that it did not arrive. */
export const replyAddress = (token: string, domain: string): string => `reply+${token}@${domain}`;
const bounceAddress = (token: string, domain: string): string => `bounce+${token}@${domain}`;
const noReplyAddress = (domain: string): string => `no-reply@${domain}`;

/** Where one press ends digests. */
export const unsubscribeAddress = (appAddress: string, token: string): string => `${appAddress}/api/mail/unsubscribe/${token}`;

/** What an address of ours is for, with its token; null for any other. */
export function readAddress(
  address: string,
): { readonly kind: 'reply' | 'bounce'; readonly token: string } | { readonly kind: 'no-reply' } | null {
  const local = address.slice(0, address.lastIndexOf('@')).toLowerCase();
  if (local === 'no-reply') return { kind: 'no-reply' };
  const [, kind, token] = /^(reply|bounce)\+([0-9a-f]{52})$/.exec(local) ?? [];
  return kind === undefined || token === undefined ? null : { kind: kind as 'reply' | 'bounce', token };
}

/**
 * A mail with its headers. Its id is always the same, so that one sent twice is known as one. No program answers
 * it by itself (RFC 3834). A digest can be ended from the mail program (RFC 2369 and 8058).
 */
export function headersOf(mail: MailToSend, route: MailRoute, secrets: MailSecrets): SendMailOptions {
  const { fromAddress, replyDomain, appAddress } = route;
  const replyTo = mail.canReply ? replyAddress(secrets.token('reply', mail.id), replyDomain) : noReplyAddress(replyDomain);
  const isByProgram = mail.kind !== 'client' && mail.kind !== 'message';
  return {
    from: { name: mail.agencyName, address: fromAddress },
    to: { name: mail.toName, address: mail.toAddress },
    replyTo,
    envelope: { from: bounceAddress(secrets.token('bounce', mail.id), replyDomain), to: mail.toAddress },
    messageId: `<${mail.id}@${replyDomain}>`,
    subject: mail.subject,
    text: mail.text,
    html: mail.html,
    ...(mail.kind === 'digest' && mail.personId !== null
      ? { list: { unsubscribe: unsubscribeAddress(appAddress, secrets.token('unsubscribe', mail.personId)) } }
      : {}),
    headers: {
      ...(mail.kind === 'digest' ? { 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' } : {}),
      'Auto-Submitted': isByProgram ? 'auto-generated' : 'auto-replied',
      'Idempotency-Key': mail.id,
    },
  };
}
