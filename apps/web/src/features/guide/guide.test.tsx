import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { guidePages } from './guide-page.ts';
import { GuideView } from './GuideView.tsx';

const docs = join(__dirname, '../../../../../docs');
const filesIn = (folder: string): readonly string[] => readdirSync(join(docs, folder));
const texts = Object.fromEntries(filesIn('guide').map((name) => [`/docs/guide/${name}`, readFileSync(join(docs, 'guide', name), 'utf8')]));
const pictures = Object.fromEntries(filesIn('screenshots').map((name) => [`/docs/screenshots/${name}`, `/assets/${name}`]));
const pages = guidePages(texts, pictures);
const open = (id?: string) =>
  render(
    <MemoryRouter>
      <GuideView pages={pages} id={id} />
    </MemoryRouter>,
  );

test('twelve pages, each with a title of its own and a picture or none that is missing', () => {
  expect(pages).toHaveLength(12);
  expect(new Set(pages.map(({ title }) => title)).size).toBe(12);
  for (const { html, title } of pages) {
    expect(title).not.toBe('');
    expect(html).not.toContain('../screenshots');
  }
  for (const [path, text] of Object.entries(texts))
    for (const [, picture] of text.matchAll(/\]\(([^)]+\.png)\)/g)) expect(existsSync(join(docs, 'guide', picture ?? path))).toBe(true);
});

test('the first page is read first, any other by its address, and the list says which', () => {
  const { unmount } = open();
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Set up your agency');
  unmount();
  open('hand-off');
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Hand off a phase');
  expect(screen.getByRole('link', { name: 'Hand off a phase' }).getAttribute('aria-current')).toBe('page');
});

test('a page that is not there says so', () => {
  open('nothing');
  expect(screen.getByText('There is no such page.')).toBeTruthy();
});

test('what a text could bring in besides words is left out', () => {
  const [page] = guidePages({ '01-x.md': '# X\n\n<img src=x onerror="alert(1)"><script>alert(1)</script>' }, {});
  expect(page?.html).not.toMatch(/onerror|script/);
});
