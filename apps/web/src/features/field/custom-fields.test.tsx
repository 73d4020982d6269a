import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { CustomFieldEntry } from '@crew/core';
import type { CustomField } from '@crew/contract';
import { useState } from 'react';
import { openScreen } from '../../../test/screen.tsx';
import { odalys, teo } from '../../../test/samples.ts';
import { CustomFields } from './CustomFields.tsx';
import { wordsTyped } from '../../ui/form/typed.ts';

const field = (id: string, kind: CustomField['kind'], more: Partial<CustomField> = {}): CustomField => ({
  ...{ id, name: `A ${kind}`, kind, choices: kind === 'choice' ? ['Matt', 'Silk'] : [], isArchived: false, usedTimes: 0 },
  ...more,
});
const FIELDS = [
  field('f-text', 'text'),
  field('f-number', 'number'),
  field('f-choice', 'choice'),
  field('f-person', 'person'),
  field('f-link', 'link'),
  field('f-date', 'date'),
  field('f-old', 'text', { name: 'Archived', isArchived: true }),
];

let seen: readonly CustomFieldEntry[];
function Beside({ first, isTemplate }: { readonly first: readonly CustomFieldEntry[]; readonly isTemplate: boolean }) {
  const [entries, setEntries] = useState(first);
  const keep = (next: readonly CustomFieldEntry[]): void => {
    seen = next;
    setEntries(next);
  };
  return (
    <CustomFields
      entries={entries}
      onChange={keep}
      people={[{ id: 'p1', name: 'Ines Calloway', initials: 'IC' }]}
      isTemplate={isTemplate}
    />
  );
}
async function open(entries: readonly CustomFieldEntry[], { me = odalys, fields = FIELDS, isTemplate = false } = {}) {
  seen = entries;
  const page = await openScreen(<Beside first={entries} isTemplate={isTemplate} />, {
    path: '/fields',
    me,
    answers: { 'GET /custom-fields': fields },
  });
  await screen.findByRole('heading', { name: 'Custom fields' });
  return page;
}
const row = (name: string) => within(screen.getByRole('group', { name }));

test('a number is kept as a number when it is left; what is none stays typed and says so', async () => {
  await open([{ fieldId: 'f-number', value: null }]);
  const box = row('A number').getByRole('textbox');
  await userEvent.type(box, 'a dozen');
  expect(await screen.findByText('Write a number, like 12 or 0.5.')).toBeTruthy();
  await userEvent.tab();
  expect(seen).toEqual([{ fieldId: 'f-number', value: null }]);
  await userEvent.clear(box);
  await userEvent.type(box, '0,5');
  await userEvent.tab();
  expect(seen).toEqual([{ fieldId: 'f-number', value: 0.5 }]);
});

test('a choice and a person are chosen, and opened again', async () => {
  await open([
    { fieldId: 'f-choice', value: 'Matt' },
    { fieldId: 'f-person', value: null },
  ]);
  await userEvent.click(row('A person').getByRole('button', { name: /Open/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'Ines Calloway' }));
  await userEvent.click(row('A choice').getByRole('button', { name: /Matt/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'Open' }));
  expect(seen).toEqual([
    { fieldId: 'f-choice', value: null },
    { fieldId: 'f-person', value: 'p1' },
  ]);
});

test('what was chosen once is still shown when it is offered no more', async () => {
  await open([{ fieldId: 'f-choice', value: 'Gloss' }]);
  expect(row('A choice').getByRole('button', { name: /Gloss/ })).toBeTruthy();
});

test('an address can be followed, and only one of the web is kept', async () => {
  await open([{ fieldId: 'f-link', value: 'https://example.org/folder' }]);
  expect(screen.getByRole('link', { name: 'Open A link' }).getAttribute('href')).toBe('https://example.org/folder');
  const box = row('A link').getByRole('textbox');
  await userEvent.clear(box);
  await userEvent.type(box, 'javascript:alert(1)');
  await userEvent.tab();
  expect(seen).toEqual([{ fieldId: 'f-link', value: 'https://example.org/folder' }]);
});

test('in a template a day is left to each engagement', async () => {
  await open([{ fieldId: 'f-date', value: null }], { isTemplate: true });
  expect(row('A date').getByText('filled in on the task')).toBeTruthy();
});

test('a field is added open and taken off; archived ones are not offered', async () => {
  await open([{ fieldId: 'f-text', value: 'by the door' }]);
  await userEvent.click(screen.getByRole('button', { name: /Add a custom field/ }));
  const offered = (await screen.findAllByRole('option')).map((option) => option.textContent);
  expect(offered.some((text) => text?.startsWith('Archived'))).toBe(false);
  await userEvent.click(screen.getByRole('option', { name: /A number/ }));
  expect(seen).toEqual([
    { fieldId: 'f-text', value: 'by the door' },
    { fieldId: 'f-number', value: null },
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'Remove A text' }));
  expect(seen).toEqual([{ fieldId: 'f-number', value: null }]);
});

test('a lead thinks of a field where it is missed; it is on the task at once', async () => {
  const page = await open([], { fields: [] });
  await userEvent.click(screen.getByRole('button', { name: /Add a custom field/ }));
  await userEvent.click(await screen.findByRole('option', { name: /New field/ }));
  page.network.answer('POST /custom-fields', 409, { code: 'already-there', message: 'There is a custom field “Size” already.' });
  await userEvent.type(await screen.findByRole('textbox', { name: 'Name of the field' }), 'Size');
  await userEvent.click(screen.getByRole('button', { name: 'Add field' }));
  expect(await screen.findByText('There is a custom field “Size” already.')).toBeTruthy();
  page.network.answer('POST /custom-fields', 201, { id: 'f-new' });
  page.network.answer('GET /custom-fields', 200, [field('f-new', 'text', { name: 'Size' })]);
  await userEvent.click(screen.getByRole('button', { name: 'Add field' }));
  await waitFor(() => expect(seen).toEqual([{ fieldId: 'f-new', value: null }]));
});

test('a member who cannot make fields sees nothing where there are none', async () => {
  await openScreen(<Beside first={[]} isTemplate={false} />, { path: '/fields', me: teo, answers: { 'GET /custom-fields': [] } });
  await waitFor(() => expect(screen.queryByRole('heading', { name: 'Custom fields' })).toBeNull());
});

test.each([
  ['Matt, Silk', ['Matt', 'Silk']],
  [' Matt ,, Matt , Silk,', ['Matt', 'Silk']],
  ['', []],
])('“%s” are the choices %p', (text, choices) => expect(wordsTyped(text)).toEqual(choices));
