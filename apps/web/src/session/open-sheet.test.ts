import { addressOf, readSheet, type OpenSheet } from './open-sheet.ts';

const KINDS = { things: ['task', 'handoff'], named: ['history', 'about'] } as const;
type Sheet = OpenSheet<'task' | 'handoff', 'history' | 'about'>;

/** The address after opening a sheet, beginning from what stands there. */
function after(sheet: Sheet | null, before = ''): string {
  const search = new URLSearchParams(before);
  for (const [name, value] of Object.entries(addressOf(KINDS, sheet))) {
    if (value === null) search.delete(name);
    else search.set(name, value);
  }
  return search.toString();
}

const SHEETS: readonly (Sheet | null)[] = [
  { kind: 'task', id: 't1' },
  { kind: 'handoff', id: 'h1' },
  { kind: 'history' },
  { kind: 'about' },
  null,
];

test.each(SHEETS)('%j is read from the address as it was opened, in place of any other', (sheet) => {
  for (const other of SHEETS) expect(readSheet(KINDS, new URLSearchParams(after(sheet, after(other, 'view=timeline'))))).toEqual(sheet);
});

test('what else stands in the address stays', () => {
  expect(after(null, 'view=timeline&task=t1')).toBe('view=timeline');
  expect(after({ kind: 'task', id: 't2' }, 'by=deliverable&show=about')).toBe('by=deliverable&task=t2');
});

test('names that are no sheet of the page open none', () => {
  expect(readSheet(KINDS, new URLSearchParams('show=elsewhere&task='))).toBeNull();
  expect(readSheet({ things: ['task'] }, new URLSearchParams('show=about'))).toBeNull();
});
