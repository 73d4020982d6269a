import type { AgencySettings, AgencyState, HistoryPage } from '@crew/contract';
import { PIXEL } from '../../test/every-body.ts';
import { testWorld, type Caller } from '../../test/harness.ts';

const { harness, lead } = testWorld();
let owner: Caller;
beforeAll(async () => {
  owner = await harness.as('Oona');
});

const state = async (): Promise<AgencyState> => (await harness.nobody.get('/agency').expect(200)).body as AgencyState;
const set = async (image: string | null): Promise<AgencySettings> =>
  (await owner.put('/settings/logo', { image }).expect(200)).body as AgencySettings;

test('a logo is seen by everybody at an address of its own, until it is removed', async () => {
  const { logo } = await set(PIXEL);
  expect(await state()).toEqual({ isSetUp: true, name: 'Small Studio', logo });
  const answer = await harness.nobody.get((logo as string).replace('/api', '')).expect(200);
  expect(answer.headers['content-type']).toBe('image/png');
  expect(Buffer.from(answer.body as Buffer).toString('base64')).toBe(PIXEL);
  expect((await set(null)).logo).toBeNull();
  await harness.nobody.get('/agency/logo').expect(404);
});

test('the same picture twice changes nothing the second time; another has another address', async () => {
  const first = await set(PIXEL);
  const other = Buffer.concat([Buffer.from(PIXEL, 'base64'), Buffer.from('more')]).toString('base64');
  expect((await set(PIXEL)).logo).toBe(first.logo);
  expect((await set(other)).logo).not.toBe(first.logo);
  const { lines } = (await owner.get('/history?only=settings').expect(200)).body as HistoryPage;
  expect(lines.filter(({ changes }) => changes.some(({ field }) => field === 'logo'))).toHaveLength(4);
});

test.each([
  ['no picture', Buffer.from('words')],
  ['a drawing that may hold scripts', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>')],
  ['a picture that is too large', Buffer.concat([Buffer.from(PIXEL, 'base64'), Buffer.alloc(262_144)])],
])('%s is refused at its field and the logo stays', async (_what, image) => {
  const { logo } = await set(PIXEL);
  const { body } = await owner.put('/settings/logo', { image: image.toString('base64') }).expect(400);
  expect(body).toMatchObject({ code: 'invalid-input' });
  expect((await state()).logo).toBe(logo);
});

test('only an owner changes it', async () => {
  await lead.put('/settings/logo', { image: null }).expect(403);
});
