import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { WEBHOOK_EVENTS, type WebhookDeliveries, type WebhookLine } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { kindWords } from './kind-words.ts';
import { WebhooksPage } from './WebhooksPage.tsx';

const board: WebhookLine = {
  ...{
    id: 'w1',
    version: 2,
    name: 'Board',
    url: 'https://board.example/hook',
    kinds: ['handed-off'],
    isOn: true,
    failed: 1,
    lastSentAt: null,
  },
};
const calls: WebhookDeliveries = {
  deliveries: [
    {
      ...{ id: 'd1', at: '2026-11-23T10:00:00.000Z', webhook: { id: 'w1', name: 'Board' }, kind: 'handed-off', state: 'undeliverable' },
      ...{ tries: 10, status: 500, trouble: 'It answered 500.', body: '{"kind":"handed-off"}' },
    },
  ],
  undeliverable: 1,
};
const open = (webhooks: readonly WebhookLine[]) =>
  openScreen(<WebhooksPage />, { path: '/webhooks', answers: { 'GET /webhooks': webhooks, 'GET /webhooks/deliveries': calls } });

test('every event that can be asked for reads as words', () => {
  expect(WEBHOOK_EVENTS.filter((kind) => !/ /.test(kindWords(kind)))).toEqual([]);
});

test('a webhook is added with the events it asks for; its secret is shown once', async () => {
  const page = await open([]);
  expect(screen.getByText('No webhooks yet.')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'New webhook…' }));
  await userEvent.type(screen.getByLabelText('Name'), 'Board');
  await userEvent.clear(screen.getByLabelText('Address'));
  await userEvent.type(screen.getByLabelText('Address'), 'https://board.example/hook');
  await userEvent.click(screen.getByRole('checkbox', { name: 'a phase is handed off' }));
  page.network.answer('POST /webhooks', 201, { webhook: board, secret: 'tide-table' });
  await userEvent.click(screen.getByRole('button', { name: 'Add webhook' }));
  expect(page.sent()[0]?.body).toEqual({ name: 'Board', url: 'https://board.example/hook', kinds: ['handed-off'] });
  expect(await screen.findByText('tide-table')).toBeTruthy();
  await userEvent.click(within(screen.getByRole('region', { name: 'Its secret' })).getByRole('button', { name: 'Close' }));
  expect(screen.queryByText('tide-table')).toBeNull();
});

test('a call that was not delivered says why and is sent again; a webhook is switched off', async () => {
  const page = await open([board]);
  expect(screen.getByText('1 call not delivered')).toBeTruthy();
  expect(await screen.findByText('It answered 500.')).toBeTruthy();
  page.network.answer('POST /webhooks/deliveries/d1/retry', 204, null);
  await userEvent.click(screen.getByRole('button', { name: 'Send again' }));
  page.network.answer('PATCH /webhooks/w1', 200, { webhook: { ...board, isOn: false }, changeId: 'c1' });
  await userEvent.click(screen.getByRole('button', { name: 'Switch off Board' }));
  expect(page.sent().map(({ request }) => request)).toEqual(['POST /webhooks/deliveries/d1/retry', 'PATCH /webhooks/w1']);
});

test('a webhook that was deleted comes back by undo', async () => {
  const page = await open([board]);
  page.network.answer('DELETE /webhooks/w1', 200, { changeId: 'c2' });
  page.network.answer('POST /changes/c2/undo', 200, { kept: [], changeId: 'c3' });
  await userEvent.click(screen.getByRole('button', { name: 'Delete Board' }));
  expect(await screen.findByText('Board is deleted. Rules that call it say so when they run.')).toBeTruthy();
  await userEvent.click(screen.getAllByRole('button', { name: 'Undo' }).at(-1) as HTMLElement);
  expect(page.sent().map(({ request }) => request)).toEqual(['DELETE /webhooks/w1', 'POST /changes/c2/undo']);
});
