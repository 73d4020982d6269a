import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { DemoPerson } from '@crew/contract';
import { openPage } from '../../../test/screen.tsx';
import { odalys } from '../../../test/samples.ts';
import { SignInPage } from './SignInPage.tsx';

const people: readonly DemoPerson[] = [
  { accountId: 'a1', name: 'Odalys Renn', initials: 'OR', access: 'lead', line: 'Project lead', shows: 'A lead’s Monday' },
  { accountId: 'a2', name: 'Teo Marsh', initials: 'TM', access: 'member', line: 'Exhibit designer', shows: null },
  { accountId: 'a3', name: 'Ida Fenn', initials: 'IF', access: 'client', line: 'Marrowdale Botanic Garden', shows: null },
];
const open = (demo: readonly DemoPerson[] = [], isSetUp = true) =>
  openPage(<SignInPage />, {
    path: '/sign-in',
    answers: { 'GET /session/demo': demo, 'GET /agency': { isSetUp, name: null, logo: null } },
  });
const type = async (label: string, text: string): Promise<void> => userEvent.type(screen.getByLabelText(label), text);

describe('signing in', () => {
  test('sends address and password, and goes on to one’s own place', async () => {
    const page = await open();
    page.network.answer('POST /session', 204);
    page.network.answer('GET /session', 200, odalys);
    await type('Mail address', 'odalys@quillmarsh.example');
    await type('Password', 'lamp room at dusk');
    await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    await waitFor(() => expect(page.address()).toBe('/'));
    expect(page.sent()).toEqual([
      { request: 'POST /session', body: { email: 'odalys@quillmarsh.example', password: 'lamp room at dusk' } },
    ]);
  });

  test('with an address that is none asks nobody', async () => {
    const page = await open();
    await type('Mail address', 'odalys');
    await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    expect(await screen.findByText('Write your mail address, like odalys@quillmarsh.example.')).toBeTruthy();
    expect(screen.getByText('Give your password.')).toBeTruthy();
    expect(page.sent()).toEqual([]);
  });

  test('that is refused keeps what was typed', async () => {
    const page = await open();
    const message = 'That address and password do not belong together. Check both and try again.';
    page.network.answer('POST /session', 401, { code: 'wrong-sign-in', message, field: 'password' });
    await type('Mail address', 'odalys@quillmarsh.example');
    await type('Password', 'lamp');
    await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    expect(await screen.findByText(message)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Mail address').value).toBe('odalys@quillmarsh.example');
    expect(page.address()).toBe('/sign-in');
  });
});

describe('the demo', () => {
  test('offers by one press who shows something in particular, and below everybody else', async () => {
    const page = await open(people);
    page.network.answer('POST /session/demo', 204);
    page.network.answer('GET /session', 200, odalys);
    expect(screen.getByRole('button', { name: /^Odalys Renn/ }).textContent).toContain('A lead’s Monday');
    expect(screen.getByRole('region', { name: 'Look around the demo' }).textContent).not.toContain('Ida Fenn');
    expect(screen.getByRole('region', { name: 'Or as somebody else' }).textContent).toContain('Marrowdale Botanic Garden');
    await userEvent.click(screen.getByRole('button', { name: /Teo Marsh/ }));
    await waitFor(() => expect(page.sent()).toEqual([{ request: 'POST /session/demo', body: { accountId: 'a2' } }]));
  });

  test('that fails says so', async () => {
    const page = await open(people);
    page.network.cut();
    await userEvent.click(screen.getByRole('button', { name: /Teo Marsh/ }));
    expect((await screen.findByRole('alert')).textContent).toContain('The server did not answer');
  });

  test('is not spoken of where there is none', async () => {
    await open();
    expect(screen.queryByText('Look around the demo')).toBeNull();
  });
});

test('an empty installation sends its first visitor to set up the agency', async () => {
  const page = await open([], false);
  await waitFor(() => expect(page.address()).toBe('/set-up'));
});
