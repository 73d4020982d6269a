import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { TemplateCheck } from '@crew/core';
import { useState } from 'react';
import { openScreen } from '../../../test/screen.tsx';
import { GateEditor } from './GateEditor.tsx';
import { checkText, wantsOf } from './gate-words.ts';

const word: TemplateCheck = { kind: 'word', text: 'Lead agrees' };

function Held({ onChange }: { readonly onChange: (checks: readonly TemplateCheck[]) => void }) {
  const [checks, setChecks] = useState<readonly TemplateCheck[]>([word]);
  return (
    <GateEditor
      checks={checks}
      titles={['Sketch', 'Ink']}
      onChange={(next) => {
        setChecks(next);
        onChange(next);
      }}
    />
  );
}

test('what a check asks for is said in words', () => {
  expect(wantsOf({ kind: 'titled-done', text: 'x', wants: ['Sketch'] })).toBe('“Sketch” is done');
  expect(wantsOf({ kind: 'files-there', text: 'x', wants: ['pdf'] })).toBe('a PDF file is there');
  expect(wantsOf({ kind: 'files-there', text: 'x' })).toBe('a file is there');
  expect(checkText('field-filled', 'Paper')).toBe('Paper filled in');
  expect(checkText('word', null)).toBe('');
});

test('a check is added with what it asks for, named by itself, renamed and removed', async () => {
  const onChange = jest.fn();
  await openScreen(<Held onChange={onChange} />, { path: '/', answers: { 'GET /custom-fields': [] } });
  const add = screen.getByRole('button', { name: 'Add' });
  // A confirmation needs a name of its own.
  expect(add.hasAttribute('disabled') || add.getAttribute('data-disabled') !== null).toBe(true);
  await userEvent.click(screen.getByRole('button', { name: /New check: clear when/ }));
  await userEvent.click(screen.getByRole('option', { name: 'a certain task is done' }));
  await userEvent.click(screen.getByRole('button', { name: /Which/ }));
  await userEvent.click(screen.getByRole('option', { name: 'Ink' }));
  await userEvent.click(screen.getByRole('button', { name: 'Add' }));
  expect(onChange).toHaveBeenLastCalledWith([word, { kind: 'titled-done', text: 'Ink done', wants: ['Ink'] }]);
  await userEvent.click(screen.getByRole('button', { name: 'Remove the check Lead agrees' }));
  expect(onChange).toHaveBeenLastCalledWith([{ kind: 'titled-done', text: 'Ink done', wants: ['Ink'] }]);
});
