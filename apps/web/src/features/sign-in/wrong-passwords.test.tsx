import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { scriptNetwork } from '../../../test/network.ts';
import { odalys } from '../../../test/samples.ts';
import { WrongPasswords } from './WrongPasswords.tsx';

const tried = { ...odalys, wrongPasswords: { count: 7, since: '2026-11-20T16:20:00.000Z' } };

test('wrong passwords are told with how many and since when, until they have been seen', async () => {
  const network = scriptNetwork();
  network.answer('DELETE /session/wrong-passwords', 204);
  network.answer('GET /session', 200, odalys);
  render(<WrongPasswords me={tried} />);
  expect(screen.getByRole('status').textContent).toContain('7 wrong passwords were tried for your account since Fri 20 Nov, 16:20.');
  await userEvent.click(screen.getByRole('button', { name: 'Mark as seen' }));
  expect(screen.queryByRole('status')).toBeNull();
  await waitFor(() => expect(network.asked.map(({ method, path }) => `${method} ${path}`)).toContain('DELETE /session/wrong-passwords'));
});

test('with none tried nothing stands there', () => {
  render(<WrongPasswords me={odalys} />);
  expect(screen.queryByRole('status')).toBeNull();
});
