import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { odalys } from '../../../test/samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { Explain } from './Explain.tsx';
import { WORDS_EXPLAINED, type OwnWord } from './words-explained.tsx';

const question = () => screen.queryByRole('button', { name: 'What is meant by gate' });

test('a word is explained on asking, and once read it is never in the way again', async () => {
  const page = await openScreen(<Explain word="gate" />, { path: '/', answers: {} });
  await userEvent.click(question() as HTMLElement);
  expect(screen.getByRole('dialog', { name: 'Gate' }).textContent).toContain(WORDS_EXPLAINED.gate.text);
  page.network.answer('POST /account/hints', 204);
  await userEvent.click(screen.getByRole('button', { name: 'Got it' }));
  await waitFor(() => expect(question()).toBeNull());
  expect(page.sent()).toEqual([{ request: 'POST /account/hints', body: { hint: 'word-gate' } }]);
});

test('where closing it cannot be kept, that is said and it comes back', async () => {
  const page = await openScreen(<Explain word="gate" />, { path: '/', answers: {} });
  await userEvent.click(question() as HTMLElement);
  page.network.answer('POST /account/hints', 503, { code: 'unavailable', message: 'The server is stopping. Try again in a moment.' });
  await userEvent.click(screen.getByRole('button', { name: 'Got it' }));
  expect(await screen.findByText('The server is stopping. Try again in a moment.')).toBeTruthy();
  await waitFor(() => expect(question()).not.toBeNull());
});

test('is not offered to who has closed it', async () => {
  await openScreen(<Explain word="gate" />, { path: '/', me: { ...odalys, closedHints: ['word-gate'] }, answers: {} });
  expect(question()).toBeNull();
});

test.each(Object.keys(WORDS_EXPLAINED) as OwnWord[])('“%s” takes two sentences', (word) => {
  expect(WORDS_EXPLAINED[word].text.match(/[.?!](\s|$)/g)).toHaveLength(2);
});
