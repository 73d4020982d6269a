import DOMPurify from 'dompurify';
import { marked } from 'marked';

/** A page of the guide: its address, its title and its text as HTML. */
export interface GuidePage {
  readonly id: string;
  readonly title: string;
  readonly html: string;
}

/** Where the files of the guide and its pictures are, by the path they have in the repository. */
export type Files = Readonly<Record<string, string>>;

const nameOf = (path: string): string => path.split('/').at(-1) ?? path;

/**
 * The pages in their order, from Markdown files such as `01-first-hour.md` that begin with a
 * heading. Pictures are shown from where the app serves them.
 */
export function guidePages(texts: Files, pictures: Files): readonly GuidePage[] {
  const servedAs = new Map(Object.entries(pictures).map(([path, url]) => [nameOf(path), url]));
  return Object.entries(texts)
    .sort(([one], [other]) => nameOf(one).localeCompare(nameOf(other)))
    .map(([path, text]) => {
      const [, title = ''] = /^# (.+)$/m.exec(text) ?? [];
      const placed = text.replace(/\]\(\.\.\/screenshots\/([^)]+)\)/g, (all, picture: string) => `](${servedAs.get(picture) ?? all})`);
      const html = DOMPurify.sanitize(marked.parse(placed, { async: false }));
      return { id: nameOf(path).replace(/^\d+-|\.md$/g, ''), title, html };
    });
}
