import { createHash } from 'node:crypto';
import { htmlToText } from 'html-to-text';
import { simpleParser, type AddressObject, type Attachment, type ParsedMail } from 'mailparser';

/** A mail that came in, as far as we look at it. */
export interface ReadMail {
  readonly messageId: string;
  readonly from: { readonly address: string; readonly name: string };
  readonly subject: string;
  /** What a person sees of it, quotes marked by `> `. */
  readonly text: string;
  readonly files: readonly { readonly name: string; readonly type: string; readonly content: Buffer }[];
  /** Why no person can have written it; null when one has. */
  readonly automatic: string | null;
  /** Of a report about a mail that did not arrive: why, and whether it is given up. */
  readonly report: { readonly why: string; readonly isFinal: boolean } | null;
}

/** Pictures inside a text that are smaller than this are logos of signatures. */
const LEAST_PICTURE_BYTES = 8_000;

/** A mail without an id of its own is known by what it is: delivered twice it is still one, and two are two. */
export const messageIdFor = (raw: Buffer): string => `<${createHash('sha256').update(raw).digest('hex')}@no-id>`;

/** Reads a mail; the envelope's sender is empty for reports. */
export async function readMail(raw: Buffer, envelopeFrom: string): Promise<ReadMail> {
  const mail = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true, skipImageLinks: true, keepDeliveryStatus: true });
  const [from] = addressesOf(mail.from);
  return {
    messageId: mail.messageId ?? messageIdFor(raw),
    from: { address: (from?.address ?? '').toLowerCase(), name: from?.name ?? '' },
    subject: mail.subject ?? '',
    text: textOf(mail),
    files: mail.attachments.filter(isMeant).map(({ filename, contentType, content }, index) => ({
      name: filename ?? `file ${index + 1}`,
      type: contentType,
      content,
    })),
    automatic: automaticBy(mail, envelopeFrom),
    report: reportIn(mail),
  };
}

function addressesOf(
  list: AddressObject | readonly AddressObject[] | undefined,
): readonly { address?: string | undefined; name: string }[] {
  const all = list === undefined ? [] : 'value' in list ? [list] : list;
  return all.flatMap(({ value }) => value);
}

/** The plain text, or what a page of HTML reads like; each level of quoting becomes one `> `. */
function textOf({ text, html }: ParsedMail): string {
  if (text !== undefined && text.trim() !== '') return text;
  if (typeof html !== 'string') return '';
  return htmlToText(html, {
    wordwrap: false,
    selectors: [
      { selector: 'blockquote', format: 'blockquote', options: { leadingLineBreaks: 1, trailingLineBreaks: 1 } },
      { selector: 'a', options: { hideLinkHrefIfSameAsText: true, ignoreHref: false } },
      { selector: 'img', format: 'skip' },
      { selector: 'p', options: { leadingLineBreaks: 1, trailingLineBreaks: 1 } },
    ],
  });
}

/** A file somebody added, or a picture put into the text; no logo, and no part of a report. */
const isMeant = ({ related, content, contentType }: Attachment): boolean =>
  !contentType.startsWith('message/') && (!related || content.length >= LEAST_PICTURE_BYTES);

/** By which mark a program says that it wrote a mail itself (RFC 3834, and what was usual before it). */
function automaticBy({ headers }: ParsedMail, envelopeFrom: string): string | null {
  const valueOf = (name: string): string => {
    const value = headers.get(name);
    return typeof value === 'string' ? value.toLowerCase().trim() : '';
  };
  if (envelopeFrom === '') return 'it is a report of a mail server';
  const submitted = valueOf('auto-submitted');
  if (submitted !== '' && submitted.split(';')[0]?.trim() !== 'no') return 'a program answered by itself';
  if (['bulk', 'junk', 'list', 'auto_reply'].includes(valueOf('precedence'))) return 'it was sent to many';
  if (headers.has('list') || headers.has('list-id')) return 'it came by a mailing list';
  if (headers.has('x-autoreply') || headers.has('x-autorespond') || headers.has('x-auto-response-suppress'))
    return 'a program answered by itself';
  return null;
}

/** A delivery report (RFC 3464). One without its machine-readable part counts as given up. */
function reportIn({ attachments, headers, text, subject }: ParsedMail): ReadMail['report'] {
  const status = attachments.find(({ contentType }) => contentType === 'message/delivery-status')?.content.toString('utf8');
  const type = headers.get('content-type');
  const isReport = typeof type === 'object' && 'value' in type && type.value === 'multipart/report';
  if (status === undefined) {
    if (!isReport && !/undeliver|not (?:be )?deliver|delivery (?:has )?fail|returned mail|failure notice/i.test(subject ?? '')) return null;
    return { why: firstLine(text ?? '') || 'The mail server gave no reason.', isFinal: true };
  }
  const valueOf = (field: string): string => new RegExp(`^${field}:\\s*(.+)$`, 'im').exec(status)?.[1]?.trim() ?? '';
  const why = valueOf('Diagnostic-Code').replace(/^smtp;\s*/i, '') || valueOf('Status') || 'The mail server gave no reason.';
  return { why, isFinal: valueOf('Action').toLowerCase() === 'failed' };
}

const firstLine = (text: string): string =>
  text
    .split('\n')
    .map((line) => line.trim())
    .find((line) => line !== '')
    ?.slice(0, 300) ?? '';
