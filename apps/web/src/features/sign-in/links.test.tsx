import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useAgency } from '../../api/queries.ts';
import { openPage } from '../../../test/screen.tsx';
import { odalys } from '../../../test/samples.ts';
import { ForgottenPage } from './ForgottenPage.tsx';
import { SignInPage } from './SignInPage.tsx';
import { WelcomePage } from './WelcomePage.tsx';

/** Pages are known to be there by what they ask; this one asks nothing. */
function Asking() {
  useAgency();
  return null;
}

const facts = { kind: 'invitation', name: 'Ada Reed', email: 'ada@quillmarsh.example', agencyName: 'Quillmarsh' } as const;
const openLink = (answers: object) =>
  openPage(<WelcomePage />, { path: '/welcome/:token', address: '/welcome/abc', answers: { ...answers } });

test('an invitation says where one is and as whom, takes a password, and leads in', async () => {
  const page = await openLink({ 'GET /access-links/abc': facts });
  expect(screen.getByRole('heading', { name: 'Welcome to Quillmarsh' })).toBeTruthy();
  await userEvent.type(screen.getByLabelText('Password'), 'short');
  await userEvent.click(screen.getByRole('button', { name: 'Start' }));
  expect(await screen.findByText('Choose a password of at least 12 characters.')).toBeTruthy();
  page.network.answer('POST /access-links/abc', 201, { isSignedIn: true });
  page.network.answer('GET /session', 200, odalys);
  await userEvent.type(screen.getByLabelText('Password'), ' and then some words');
  await userEvent.click(screen.getByRole('button', { name: 'Start' }));
  await waitFor(() => expect(page.address()).toBe('/'));
});

test('a link that cannot be used says so and offers another', async () => {
  await openLink({});
  expect(await screen.findByRole('heading', { name: 'This link cannot be used' })).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Ask for a new link' }).getAttribute('href')).toBe('/forgotten');
});

test('asked for, a link is on its way; whether the address is known is not told', async () => {
  const page = await openPage(
    <>
      <Asking />
      <ForgottenPage />
    </>,
    { path: '/forgotten', answers: { 'GET /agency': { isSetUp: true, name: 'Quillmarsh Studio', logo: null } } },
  );
  page.network.answer('POST /access-links', 204);
  await userEvent.type(screen.getByLabelText('Mail address'), ' ada@quillmarsh.example ');
  await userEvent.click(screen.getByRole('button', { name: 'Send link' }));
  expect(await screen.findByText(/If somebody signs in as ada@quillmarsh.example/)).toBeTruthy();
});

test('where an account has a second factor its code is asked for after the password', async () => {
  const page = await openPage(<SignInPage />, {
    ...{ path: '/sign-in', answers: { 'GET /session/demo': [], 'GET /agency': { isSetUp: true, name: 'Quillmarsh Studio', logo: null } } },
  });
  const message = 'Write the six digits your authenticator app shows, or a recovery code.';
  page.network.answer('POST /session', 401, { code: 'second-factor-needed', message, field: 'code' });
  await userEvent.type(screen.getByLabelText('Mail address'), 'odalys@quillmarsh.example');
  await userEvent.type(screen.getByLabelText('Password'), 'lamp room at dusk');
  await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
  const code = await screen.findByLabelText('Code from your app, or a recovery code');
  page.network.answer('POST /session', 204);
  page.network.answer('GET /session', 200, odalys);
  await userEvent.type(code, '123456');
  await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
  await waitFor(() => expect(page.address()).toBe('/'));
  expect(page.sent().at(-1)?.body).toEqual({ email: 'odalys@quillmarsh.example', password: 'lamp room at dusk', code: '123456' });
});
