import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MOST_FILE_BYTES, type KeptFile } from '@crew/contract';
import { useState } from 'react';
import { openScreen } from '../../../test/screen.tsx';
import { fileSize } from '../../words/format.ts';
import { PageLinkList, type PageLink } from '../task/PageLinkList.tsx';
import { FileList, type ListedFile } from './FileList.tsx';

function Beside({ first }: { readonly first: readonly ListedFile[] }) {
  const [files, setFiles] = useState(first);
  return (
    <FileList
      files={files}
      note="None yet."
      onAdd={(added, replaced) => setFiles([...files.filter(({ id }) => !replaced.includes(id)), ...added])}
      onRemove={(id) => setFiles(files.filter((file) => file.id !== id))}
    />
  );
}
const open = (first: readonly ListedFile[] = []) => openScreen(<Beside first={first} />, { path: '/files', answers: {} });
const kept: KeptFile = {
  id: 'k1',
  name: 'plan.pdf',
  type: 'application/pdf',
  bytes: 4,
  addedAt: '2026-11-23T09:00:00Z',
  addedBy: 'Odalys Renn',
};
const choose = async (...files: File[]): Promise<void> => {
  await userEvent.upload(document.querySelector('input[type=file]') as HTMLInputElement, files);
};

test('a file is saved by its name, with its size, and taken off', async () => {
  await open([{ id: 'k9', name: 'Panel style sheet.txt', bytes: 14_200 }]);
  const link = screen.getByRole('link', { name: 'Panel style sheet.txt' });
  expect([link.getAttribute('href'), link.getAttribute('download')]).toEqual(['/api/files/k9', 'Panel style sheet.txt']);
  expect(screen.getByText('14 kB')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Remove Panel style sheet.txt' }));
  expect(screen.queryByRole('link')).toBeNull();
  expect(screen.getByText('None yet.')).toBeTruthy();
});

test('a chosen file is sent with the token of the session, and is there', async () => {
  const page = await open();
  page.network.answer('POST /files', 201, kept);
  await choose(new File(['plan'], 'plan.pdf'));
  expect(await screen.findByRole('link', { name: 'plan.pdf' })).toBeTruthy();
  expect(page.network.asked.find(({ path }) => path === '/files')?.token).not.toBeNull();
});

test('one that did not arrive is named, with why', async () => {
  const page = await open();
  page.network.answer('POST /files', 413, { code: 'too-large', message: 'This is larger than is taken here.' });
  await choose(new File(['plan'], 'plan.pdf'));
  expect((await screen.findByRole('alert')).textContent).toBe('“plan.pdf” was not uploaded. This is larger than is taken here.');
  expect(screen.queryByRole('link')).toBeNull();
});

test('one that is too large is not sent at all', async () => {
  const page = await open();
  const large = new File(['x'], 'film.mov');
  Object.defineProperty(large, 'size', { value: MOST_FILE_BYTES + 1 });
  await choose(large);
  expect((await screen.findByRole('alert')).textContent).toMatch(/“film.mov” is larger than 52 MB/);
  expect(page.sent()).toEqual([]);
});

test.each([
  [0, '0 B'],
  [999, '999 B'],
  [1_499, '1 kB'],
  [999_499, '999 kB'],
  [999_500, '1.0 MB'],
  [2_340_000, '2.3 MB'],
  [52_428_800, '52 MB'],
])('%d bytes read as %s', (bytes, words) => expect(fileSize(bytes)).toBe(words));

describe('web links', () => {
  let seen: readonly PageLink[] = [];
  const openLinks = (links: readonly PageLink[]) => {
    seen = links;
    return openScreen(<PageLinkList pageLinks={links} onChange={(next) => (seen = next)} />, { path: '/links', answers: {} });
  };

  test('one is added by title and address, and only an address of the web is taken', async () => {
    await openLinks([]);
    await userEvent.click(screen.getByRole('button', { name: 'Add link…' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Title' }), 'File names');
    await userEvent.type(screen.getByRole('textbox', { name: 'Web address' }), 'example.org');
    await userEvent.click(screen.getByRole('button', { name: 'Add' }));
    expect(await screen.findByText('A web address begins with https://.')).toBeTruthy();
    expect(seen).toEqual([]);
    await userEvent.clear(screen.getByRole('textbox', { name: 'Web address' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Web address' }), 'https://example.org/names');
    await userEvent.click(screen.getByRole('button', { name: 'Add' }));
    await waitFor(() => expect(seen).toEqual([{ title: 'File names', url: 'https://example.org/names' }]));
  });

  test('one is taken away; where they are only read there is nothing to press', async () => {
    const links = [{ title: 'File names', url: 'https://example.org/names' }];
    const page = await openLinks(links);
    await userEvent.click(screen.getByRole('button', { name: 'Remove File names' }));
    expect(seen).toEqual([]);
    page.close();
    await openScreen(<PageLinkList pageLinks={links} />, { path: '/links', answers: {} });
    expect(screen.getByRole('link', { name: 'File names' })).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('the same name twice', () => {
  const there = [{ id: 'k0', name: 'Plan.pdf', bytes: 9 }];
  const links = (): (string | null)[] => screen.queryAllByRole('link').map((link) => link.getAttribute('href'));
  const again = async () => {
    const page = await open(there);
    page.network.answer('POST /files', 201, kept);
    await choose(new File(['plan'], 'plan.pdf'));
    expect((await screen.findByRole('alertdialog')).textContent).toContain('“plan.pdf” is here already.');
    expect(page.sent()).toEqual([]);
    return page;
  };

  test('is asked about: a new version stands in place of the one there', async () => {
    await again();
    await userEvent.click(screen.getByRole('button', { name: 'New version' }));
    await waitFor(() => expect(links()).toEqual(['/api/files/k1']));
  });

  test('both can stay', async () => {
    await again();
    await userEvent.click(screen.getByRole('button', { name: 'Keep both' }));
    await waitFor(() => expect(links()).toEqual(['/api/files/k0', '/api/files/k1']));
  });

  test('or it is not added at all; what has another name is', async () => {
    const page = await open(there);
    page.network.answer('POST /files', 201, { ...kept, id: 'k2', name: 'note.txt' });
    await choose(new File(['plan'], 'plan.pdf'), new File(['x'], 'note.txt'));
    await userEvent.click(await screen.findByRole('button', { name: 'Cancel' }));
    await waitFor(() => expect(links()).toEqual(['/api/files/k0', '/api/files/k2']));
    expect(page.sent()).toHaveLength(1);
  });

  test('stays as it was when the new one did not arrive', async () => {
    const page = await again();
    page.network.answer('POST /files', 413, { code: 'too-large', message: 'This is larger than is taken here.' });
    await userEvent.click(screen.getByRole('button', { name: 'New version' }));
    await screen.findByRole('alert');
    expect(links()).toEqual(['/api/files/k0']);
  });
});
