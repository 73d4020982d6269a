import type { AccessLinkMade, CrewMember, Mailbox, PeopleInvited, SecurityLog } from '@crew/contract';
import { joinCrew, startHarness, type Caller, type Harness } from '../../test/harness.ts';
import { PASSWORD } from '../../test/small-world.ts';

let harness: Harness;
let lead: Caller;
let owner: Caller;
beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
  owner = await harness.as('Oona');
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

const FRESH = 'a wall of ivy leaves';
const tokenOf = ({ link }: Pick<AccessLinkMade, 'link'>): string => link.split('/').at(-1) as string;
const invite = async (name: string): Promise<AccessLinkMade> => {
  const people = [{ name, email: `${name.toLowerCase()}@small.example` }];
  return ((await lead.post('/invitations', { people }).expect(201)).body as PeopleInvited).links[0] as AccessLinkMade;
};
const use = (token: string, password = FRESH) => harness.nobody.post(`/access-links/${token}`, { password });
const memberOf = async (id: string): Promise<CrewMember> =>
  ((await lead.get('/crew/members').expect(200)).body as CrewMember[]).find((member) => member.id === id) as CrewMember;
const kindsOf = async (whom: string): Promise<string[]> =>
  ((await owner.get('/account/security-log').expect(200)).body as SecurityLog).lines
    .filter((line) => line.whom === whom)
    .map(({ kind }) => kind);

describe('an invitation', () => {
  test('says whom it is for; a password is chosen by it, and signs in', async () => {
    const made = await invite('Ada');
    expect(made).toMatchObject({
      name: 'Ada',
      mailedTo: null,
      link: expect.stringMatching(/^http:\/\/crew\.test\/welcome\/[0-9a-f]{96}$/) as string,
    });
    expect((await memberOf(made.personId)).invitedUntil).toBe(made.expiresAt);
    const facts = (await harness.nobody.get(`/access-links/${tokenOf(made)}`).expect(200)).body as object;
    expect(facts).toEqual({ kind: 'invitation', name: 'Ada', email: 'ada@small.example', agencyName: 'Small Studio' });
    expect((await use(tokenOf(made)).expect(201)).body).toEqual({ isSignedIn: true });
    expect(await memberOf(made.personId)).toMatchObject({ hasPassword: true, invitedUntil: null });
    await harness.signIn('ada@small.example', FRESH);
    expect(await kindsOf('Ada')).toEqual(['signed-in', 'link-used', 'invited']);
  });

  test('nobody signs in before a password is chosen', async () => {
    await invite('Bel');
    await harness.nobody.post('/session', { email: 'bel@small.example', password: 'null' }).expect(401);
  });

  test('used twice, late, withdrawn, replaced or forged it is refused with a sentence, and no password is set', async () => {
    const made = await invite('Cy');
    const token = tokenOf(made);
    const flip = token.at(-1) === '0' ? '1' : '0';
    const forged = `${token.slice(0, -1)}${flip}`;
    for (const wrong of [forged, token.slice(0, 95), 'x', '0'.repeat(96)])
      expect((await use(wrong).expect(404)).body).toMatchObject({
        code: 'not-found',
        message: expect.stringMatching(/not valid/) as string,
      });
    const again = (await lead.post(`/crew/${made.personId}/access-link`).expect(201)).body as AccessLinkMade;
    expect((await use(token).expect(409)).body).toMatchObject({ message: expect.stringMatching(/replaced/) as string });
    harness.clock.moveTo('2026-12-08');
    expect((await use(tokenOf(again)).expect(409)).body).toMatchObject({ message: expect.stringMatching(/too old/) as string });
    harness.clock.moveTo('2026-11-23');
    await lead.delete(`/crew/${made.personId}/access-link`).expect(204);
    expect((await use(tokenOf(again)).expect(409)).body).toMatchObject({ message: expect.stringMatching(/withdrawn/) as string });
    expect((await memberOf(made.personId)).hasPassword).toBe(false);
    const last = (await lead.post(`/crew/${made.personId}/access-link`).expect(201)).body as AccessLinkMade;
    expect(((await lead.get(`/crew/${made.personId}/access-link`).expect(200)).body as AccessLinkMade).link).toBe(last.link);
    await use(tokenOf(last)).expect(201);
    expect((await use(tokenOf(last), 'another wall of ivy').expect(409)).body).toMatchObject({
      message: expect.stringMatching(/used already/) as string,
    });
  });

  test('used by two at once sets one password', async () => {
    const token = tokenOf(await invite('Dag'));
    const answers = await Promise.all([use(token, 'a wall of ivy leaves'), use(token, 'a field of rye at dawn')]);
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409]);
  });

  test('several are invited together, or none of them: the fault names who', async () => {
    const before = (await lead.get('/crew/members').expect(200)).body as CrewMember[];
    const people = [
      { name: 'Eve', email: 'eve@small.example' },
      { name: 'Mak again', email: 'mak@small.example' },
    ];
    expect((await lead.post('/invitations', { people }).expect(409)).body).toMatchObject({
      code: 'already-there',
      field: 'people.1.email',
    });
    expect((await lead.get('/crew/members').expect(200)).body).toEqual(before);
  });
});

describe('a forgotten password', () => {
  const linkFor = async (email: string): Promise<string | undefined> => {
    await harness.settle();
    const row = await harness.database.row<{ text: string }>(
      `SELECT text FROM mail WHERE kind = 'access' AND to_address = $1 ORDER BY created_at DESC, id LIMIT 1`,
      [email],
    );
    return /\/welcome\/([0-9a-f]{96})/.exec(row?.text ?? '')?.[1];
  };

  test('is chosen anew by a mailed link, which ends all sessions; the answer tells nothing about who exists', async () => {
    const mak = await harness.as('Mak');
    await harness.nobody.post('/access-links', { email: 'nobody@small.example' }).expect(204);
    await harness.nobody.post('/access-links', { email: ' MAK@small.example ' }).expect(400);
    await harness.nobody.post('/access-links', { email: 'MAK@small.example' }).expect(204);
    const token = (await linkFor('mak@small.example')) as string;
    await use(token, 'copper kettle by the weir').expect(201);
    await mak.get('/session').expect(401);
    await harness.nobody.post('/session', { email: 'mak@small.example', password: PASSWORD }).expect(401);
    await harness.signIn('mak@small.example', 'copper kettle by the weir');
  });

  test('a client’s contact gets a link too; somebody deactivated gets none', async () => {
    await harness.nobody.post('/access-links', { email: 'hal@small.example' }).expect(204);
    expect(await linkFor('hal@small.example')).toMatch(/^[0-9a-f]{96}$/);
    const id = await joinCrew(lead, harness, { name: 'Fay', email: 'fay@small.example' });
    await lead.patch(`/crew/${id}`, { version: 1, isActive: false }).expect(200);
    await harness.nobody.post('/access-links', { email: 'fay@small.example' }).expect(204);
    await harness.settle();
    const mails = await harness.database.rows(
      `SELECT subject FROM mail WHERE to_address = 'fay@small.example' AND subject = 'Choose a new password'`,
    );
    expect(mails).toEqual([]);
  });

  test('asked for again and again, one mail goes out in five minutes', async () => {
    for (let count = 0; count < 3; count++) {
      await harness.nobody.post('/access-links', { email: 'mia@small.example' }).expect(204);
      await harness.settle();
    }
    const mails = await harness.database.rows(`SELECT 1 FROM mail WHERE to_address = 'mia@small.example'`);
    expect(mails).toHaveLength(1);
    const asked = ((await owner.get('/account/security-log').expect(200)).body as SecurityLog).lines.find(
      ({ whom }) => whom === 'Mia Stone',
    );
    expect(asked).toMatchObject({ kind: 'link-asked', ip: expect.stringMatching(/127/) as string });
  });

  test('two who make a link at once make one that counts', async () => {
    const { personId } = await invite('Gus');
    const again = () => lead.post(`/crew/${personId}/access-link`).expect(201);
    const links = (await Promise.all([again(), again()])).map(({ body }) => body as AccessLinkMade);
    expect(links.map(({ expiresAt }) => expiresAt)).toContain((await memberOf(personId)).invitedUntil);
    const answers = [];
    for (const link of links) answers.push((await use(tokenOf(link))).status);
    expect(answers.sort()).toEqual([201, 409]);
  });

  test('an owner’s link is for owners to make, and no lead reads it in a mailbox', async () => {
    const oona = harness.ids.people['Oona'];
    await lead.post(`/crew/${oona}/access-link`).expect(403);
    await owner.post(`/crew/${oona}/access-link`).expect(201);
    await harness.settle();
    const box = (await lead.get('/mail/boxes?address=oona@small.example').expect(200)).body as Mailbox;
    expect(box.mails.map(({ subject }) => subject)).not.toContain('Choose a new password');
  });
});
