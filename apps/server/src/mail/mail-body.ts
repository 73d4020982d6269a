/** A part of a mail, told once and written as plain text and as HTML. */
export type MailBlock =
  | { readonly kind: 'text'; readonly words: string }
  /** What somebody said. */
  | { readonly kind: 'quote'; readonly words: string }
  | { readonly kind: 'button'; readonly label: string; readonly address: string }
  | { readonly kind: 'list'; readonly heading: string; readonly items: readonly MailItem[] }
  | { readonly kind: 'small'; readonly words: string; readonly link?: { readonly label: string; readonly address: string } };

export interface MailItem {
  readonly title: string;
  readonly words: string;
  readonly address: string | null;
}

export interface MailBody {
  readonly text: string;
  readonly html: string;
}

/** Both forms of a mail. Text is wrapped by whoever reads it, so each block is one line. */
export function writeBody(agencyName: string, blocks: readonly MailBlock[]): MailBody {
  return {
    text: `${blocks.map(blockAsText).join('\n\n')}\n\n--\n${agencyName}\n`,
    html: page(agencyName, blocks.map(blockAsHtml).join('\n')),
  };
}

function blockAsText(block: MailBlock): string {
  switch (block.kind) {
    case 'text':
      return block.words;
    case 'quote':
      return block.words
        .split('\n')
        .map((line) => `  ${line}`)
        .join('\n');
    case 'button':
      return `${block.label}:\n${block.address}`;
    case 'list':
      return `${block.heading}\n${block.items
        .map(({ title, words, address }) => `- ${title}: ${words}${address === null ? '' : `\n  ${address}`}`)
        .join('\n')}`;
    case 'small':
      return block.link === undefined ? block.words : `${block.words} ${block.link.label}: ${block.link.address}`;
  }
}

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
const escape = (text: string): string => text.replace(/[&<>"']/g, (sign) => ENTITIES[sign] as string);
const lines = (text: string): string => escape(text).replaceAll('\n', '<br>');

function blockAsHtml(block: MailBlock): string {
  switch (block.kind) {
    case 'text':
      return `<p>${lines(block.words)}</p>`;
    case 'quote':
      return `<p class="said">${lines(block.words)}</p>`;
    case 'button':
      return `<p><a class="do" href="${escape(block.address)}">${escape(block.label)}</a></p>`;
    case 'list':
      return `<h2>${escape(block.heading)}</h2>\n<ul>\n${block.items.map(itemAsHtml).join('\n')}\n</ul>`;
    case 'small': {
      const link = block.link === undefined ? '' : ` <a href="${escape(block.link.address)}">${escape(block.link.label)}</a>`;
      return `<p class="small">${lines(block.words)}${link}</p>`;
    }
  }
}

const itemAsHtml = ({ title, words, address }: MailItem): string =>
  `<li>${address === null ? `<b>${escape(title)}</b>` : `<a href="${escape(address)}"><b>${escape(title)}</b></a>`}<br>${lines(words)}</li>`;

/** Colours as the app has them; nothing is fetched from anywhere when a mail is read. */
const STYLE = `
  body { margin: 0; padding: 16px; background: #e9ede8; color: #14262a; font: 15px/1.5 system-ui, sans-serif; }
  main { max-width: 560px; margin: 0 auto; padding: 20px 24px; background: #fbfcfa; border: 1px solid #d3dad2; border-radius: 8px; }
  h2 { margin: 20px 0 6px; font-size: 15px; }
  p { margin: 0 0 12px; overflow-wrap: anywhere; }
  ul { margin: 0 0 12px; padding: 0; list-style: none; }
  li { padding: 8px 0; border-top: 1px solid #e3e8e2; overflow-wrap: anywhere; }
  a { color: #0b5d57; }
  .do { display: inline-block; padding: 8px 14px; border-radius: 6px; background: #0b5d57; color: #fff; font-weight: 600; text-decoration: none; }
  .said { padding-left: 12px; border-left: 3px solid #6ba39c; }
  .small { font-size: 13px; color: #4a5a5c; }
  @media (max-width: 480px) { body { padding: 0; } main { padding: 16px; border: 0; border-radius: 0; } }
  @media (prefers-color-scheme: dark) {
    body { background: #0f1a1c; color: #e6eeea; }
    main { background: #162427; border-color: #2a3b3e; }
    li { border-color: #223235; }
    a { color: #5fb8aa; }
    .do { background: #5fb8aa; color: #0f1a1c; }
    .small { color: #aebdb8; }
  }`;

const page = (agencyName: string, content: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="color-scheme" content="light dark">
<title>${escape(agencyName)}</title>
<style>${STYLE}
</style>
</head>
<body>
<main>
${content}
<p class="small">${escape(agencyName)}</p>
</main>
</body>
</html>
`;
