import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ConfigFault, readConfig, SETTINGS } from './config.ts';
import { isSetupKey, setupKeyOf } from './setup-key.ts';

const enough = {
  CREW_DATABASE_URL: 'postgres://crew@127.0.0.1/crew',
  CREW_SESSION_SECRET: 'a secret nobody guesses',
  CREW_FILES: '/var/lib/nimble-crew/files',
};

const faultsOf = (more: Readonly<Record<string, string>>): readonly string[] => {
  try {
    readConfig({ ...enough, ...more });
  } catch (error) {
    if (error instanceof ConfigFault) return error.faults;
    throw error;
  }
  return [];
};

test('three settings are enough; the rest has its usual values', () => {
  expect(readConfig(enough)).toMatchObject({
    ...{ port: 4180, isDemo: false, runsJobs: true, trustedProxies: null, address: 'http://127.0.0.1:4180', requestsPerMinute: 600 },
    mail: { outgoing: null, mailboxPort: null, incomingPort: null },
  });
});

test('everything that is wrong is said at once, and no value is repeated', () => {
  const faults = faultsOf({ CREW_SESSION_SECRET: 'short', CREW_DATABASE_URL: 'mysql://pw@x', CREW_PORT: '70000', CREW_DEMO: 'yes' });
  expect(faults.map((fault) => fault.split(':')[0])).toEqual(['CREW_PORT', 'CREW_DATABASE_URL', 'CREW_SESSION_SECRET', 'CREW_DEMO']);
  expect(faults.join(' ')).not.toMatch(/short|mysql|70000|yes/);
});

test.each([
  ['CREW_ADDRESS', 'crew.example.com'],
  ['CREW_ADDRESS', 'http://crew.example.com/app'],
  ['CREW_TRUST_PROXY', 'the one in front'],
  ['CREW_MAIL_OUT', 'smtp.example.com'],
  ['CREW_MAILBOX_PORT', 'any'],
  ['CREW_REQUESTS_PER_MINUTE', '0'],
  ['DEMO_TODAY', '2026-02-30'],
  ['CREW_JOBS', 'no'],
])('%s is not “%s”', (name, value) => {
  expect(faultsOf({ [name]: value })).toEqual([expect.stringMatching(new RegExp(`^${name}: .+\\.$`))]);
});

test.each([
  ['CREW_TRUST_PROXY', '1', { trustedProxies: 1 }],
  ['CREW_TRUST_PROXY', '10.0.0.0/8, ::1', { trustedProxies: '10.0.0.0/8, ::1' }],
  ['CREW_ADDRESS', 'http://crew.example.com/', { address: 'http://crew.example.com' }],
  ['CREW_MAIL_OUT', 'smtp.example.com:2525', { mail: { outgoing: { host: 'smtp.example.com', port: 2525 } } }],
])('%s may be “%s”', (name, value, read) => {
  expect(readConfig({ ...enough, [name]: value })).toMatchObject(read);
});

test('an address with https needs a proxy that is trusted: cookies would be sent in the clear otherwise', () => {
  expect(faultsOf({ CREW_ADDRESS: 'https://crew.example.com' })).toHaveLength(1);
  expect(faultsOf({ CREW_ADDRESS: 'https://crew.example.com', CREW_TRUST_PROXY: '1' })).toEqual([]);
});

test('the guide to running it names every setting', () => {
  const guide = readFileSync(join(__dirname, '../../../../docs/running.md'), 'utf8');
  expect(SETTINGS.filter((name) => !guide.includes(`\`${name}\``))).toEqual([]);
});

test('the set-up key follows from the secret, and is taken however it is typed', () => {
  const key = setupKeyOf(enough.CREW_SESSION_SECRET);
  expect(key).toMatch(/^([2-9A-HJKMNP-TV-Z]{4}-){3}[2-9A-HJKMNP-TV-Z]{4}$/);
  expect(isSetupKey(enough.CREW_SESSION_SECRET, ` ${key.toLowerCase().replaceAll('-', ' ')}`)).toBe(true);
  expect(isSetupKey('another secret altogether', key)).toBe(false);
});
