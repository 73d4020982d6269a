import { scriptNetwork } from '../../test/network.ts';
import { ApiError, call, currentOf, keepToken, read } from './client.ts';

test('an answer is what the server said, from under /api', async () => {
  const network = scriptNetwork();
  network.answer('GET /crew', 200, { people: [] });
  expect(await read('/crew')).toEqual({ people: [] });
  expect(network.asked).toEqual([{ method: 'GET', path: '/crew', body: undefined, token: null }]);
});

test('a change carries the token of the session, a read does not', async () => {
  const network = scriptNetwork();
  network.answer('POST /clients', 201, { id: 'c1' });
  network.answer('GET /clients', 200, []);
  keepToken('ticket');
  await call('POST', '/clients', { name: 'Quay Museum' });
  await read('/clients');
  expect(network.asked.map(({ token }) => token)).toEqual(['ticket', null]);
  expect(network.asked[0]?.body).toEqual({ name: 'Quay Museum' });
});

test('a refusal keeps its code, its field and its words', async () => {
  scriptNetwork().answer('POST /clients', 400, { code: 'invalid-input', message: 'Give the client a name.', field: 'name' });
  const refusal = await call('POST', '/clients', {}).catch((error: unknown) => error);
  expect(refusal).toBeInstanceOf(ApiError);
  expect(refusal).toMatchObject({ code: 'invalid-input', field: 'name', message: 'Give the client a name.' });
});

test('an answer without a body is nothing, not a fault', async () => {
  scriptNetwork().answer('DELETE /session', 204);
  expect(await call('DELETE', '/session')).toBeUndefined();
});

test.each([
  ['a page of some proxy', 502, undefined],
  ['another shape', 500, { error: 'Internal Server Error' }],
])('%s instead of our error is told in our words', async (_what, status, body) => {
  scriptNetwork().answer('GET /crew', status, body);
  await expect(read('/crew')).rejects.toMatchObject({
    code: 'internal-fault',
    message: expect.stringMatching(/Nothing was saved/) as string,
  });
});

test('without a connection nothing typed is lost, and it says so', async () => {
  const network = scriptNetwork();
  network.cut();
  await expect(read('/crew')).rejects.toMatchObject({ code: 'no-connection', message: expect.stringMatching(/still here/) as string });
});

test.each<[string, unknown, unknown]>([
  [
    'a stale version brings how it is now',
    new ApiError({ code: 'changed-meanwhile', message: '', details: { current: { id: 't' } } }),
    { id: 't' },
  ],
  ['a stale version without it brings nothing', new ApiError({ code: 'changed-meanwhile', message: '' }), null],
  ['another refusal brings nothing', new ApiError({ code: 'not-allowed', message: '', details: { current: {} } }), null],
  ['a fault of the page brings nothing', new TypeError('x'), null],
])('%s', (_rule, error, expected) => {
  expect(currentOf(error)).toEqual(expected);
});
