import { isPlannableDay, type IsoDay } from '@crew/core';
/** What the process is told from outside, read once at the start. */
export interface Config {
  readonly databaseUrl: string;
  readonly port: number;
  readonly sessionSecret: string;
  /** The demo's people may sign in by one click. */
  readonly isDemo: boolean;
  /** Stands in for today everywhere; for the demo, tests and pictures. */
  readonly today: IsoDay | null;
  readonly webRoot: string | null;
  /** The folder with the contents of files. */
  readonly filesRoot: string;
  /** Whether this process works through the job queue. */
  readonly runsJobs: boolean;
  readonly isQuiet: boolean;
  /**
   * Which proxies are believed when they say whom they ask for, and whether it came by TLS: how
   * many stand in front, or their addresses; null when none does.
   */
  readonly trustedProxies: number | string | null;
  /** Where people open the app, for links in mails; without a slash at the end. */
  readonly address: string;
  readonly mail: MailConfig;
  /** Requests a minute by one account, or by one address where nobody is signed in. */
  readonly requestsPerMinute: number;
}

/** By what mail goes out and comes in. With several processes on one machine one of them has the two ports. */
export interface MailConfig {
  /** Where mail is sent while the agency has named no server of its own; null to send it to this process's own mailboxes. */
  readonly outgoing: { readonly host: string; readonly port: number } | null;
  /** The port of the bundled mailboxes, on this machine only; 0 for any, null for none. */
  readonly mailboxPort: number | null;
  /** The port that takes answers in by SMTP, on this machine only; 0 for any, null for none. */
  readonly incomingPort: number | null;
  /** What addresses end in while the agency has named none of its own. */
  readonly domain: string;
}

export const CONFIG = Symbol('config');

/** Faults in the settings, each a sentence that says what to write instead. */
export class ConfigFault extends Error {
  readonly faults: readonly string[];
  constructor(faults: readonly string[]) {
    super(faults.join('\n'));
    this.faults = faults;
  }
}

/** The settings of the environment, all of them; `docs/running.md` says what each is for. */
export const SETTINGS = [
  ...['CREW_DATABASE_URL', 'CREW_SESSION_SECRET', 'CREW_FILES', 'CREW_PORT', 'CREW_ADDRESS', 'CREW_TRUST_PROXY', 'CREW_WEB_ROOT'],
  ...['CREW_JOBS', 'CREW_QUIET', 'CREW_REQUESTS_PER_MINUTE', 'CREW_MAIL_OUT', 'CREW_MAILBOX_PORT', 'CREW_MAIL_IN_PORT'],
  ...['CREW_MAIL_DOMAIN', 'CREW_DEMO', 'DEMO_TODAY'],
] as const;
type Setting = (typeof SETTINGS)[number];

/** Fewer characters than this can be guessed. */
const SHORTEST_SECRET = 12;

/** Reads the settings from the environment. Throws a `ConfigFault` with everything that is wrong, not only the first. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const read = new Reading(env);
  const port = read.port('CREW_PORT') ?? 4180;
  const config: Config = {
    databaseUrl: read.needed('CREW_DATABASE_URL', 'Write the address of the database, as postgres://crew@127.0.0.1/crew.', (text) =>
      /^postgres(ql)?:\/\/./.test(text),
    ),
    port,
    sessionSecret: read.needed(
      'CREW_SESSION_SECRET',
      `Write a secret of at least ${SHORTEST_SECRET} characters; “openssl rand -base64 32” makes one.`,
      (text) => text.length >= SHORTEST_SECRET,
    ),
    isDemo: read.isOn('CREW_DEMO', false),
    today: fixedDay(read),
    webRoot: read.text('CREW_WEB_ROOT'),
    filesRoot: read.needed('CREW_FILES', 'Name the folder for the contents of files.', (text) => text.trim() !== ''),
    runsJobs: read.isOn('CREW_JOBS', true),
    isQuiet: read.isOn('CREW_QUIET', false),
    trustedProxies: proxiesOf(read),
    address: addressOf(read, port),
    mail: {
      outgoing: hostAndPort(read),
      mailboxPort: read.port('CREW_MAILBOX_PORT'),
      incomingPort: read.port('CREW_MAIL_IN_PORT'),
      domain: read.text('CREW_MAIL_DOMAIN') ?? 'nimble-crew.localhost',
    },
    requestsPerMinute: read.number('CREW_REQUESTS_PER_MINUTE', { least: 1, most: 1_000_000 }) ?? 600,
  };
  if (config.address.startsWith('https:') && config.trustedProxies === null)
    read.fault(
      'CREW_TRUST_PROXY',
      'CREW_ADDRESS begins with https, so a proxy stands in front: write how many do, as 1, or their addresses.',
    );
  read.end();
  return config;
}

/** Reads one setting after the other and keeps what is wrong with each. */
class Reading {
  private readonly env: NodeJS.ProcessEnv;
  private readonly faults: string[] = [];
  constructor(env: NodeJS.ProcessEnv) {
    this.env = env;
  }

  text(name: Setting): string | null {
    const value = this.env[name];
    return value === undefined || value === '' ? null : value;
  }

  /** The value of a setting is never said: it may be a secret. */
  fault(name: Setting, sentence: string): void {
    this.faults.push(`${name}: ${sentence}`);
  }

  needed(name: Setting, sentence: string, isRight: (text: string) => boolean): string {
    const value = this.text(name) ?? '';
    if (!isRight(value)) this.fault(name, sentence);
    return value;
  }

  isOn(name: Setting, usual: boolean): boolean {
    const value = this.text(name);
    if (value === null) return usual;
    if (value !== 'on' && value !== 'off') this.fault(name, 'Write on or off.');
    return value === 'on';
  }

  number(name: Setting, { least, most }: { readonly least: number; readonly most: number }): number | null {
    const value = this.text(name);
    if (value === null) return null;
    const number = Number(value);
    if (!Number.isInteger(number) || number < least || number > most) this.fault(name, `Write a whole number from ${least} to ${most}.`);
    return number;
  }

  port(name: Setting): number | null {
    return this.number(name, { least: 0, most: 65_535 });
  }

  end(): void {
    if (this.faults.length > 0) throw new ConfigFault(this.faults);
  }
}

/** As `smtp.example.com:25`. */
function hostAndPort(read: Reading): { readonly host: string; readonly port: number } | null {
  const text = read.text('CREW_MAIL_OUT');
  if (text === null) return null;
  const [, host, port] = /^(.+):(\d+)$/.exec(text) ?? [];
  if (host !== undefined) return { host, port: Number(port) };
  read.fault('CREW_MAIL_OUT', 'Write it as smtp.example.com:25.');
  return null;
}

function fixedDay(read: Reading): IsoDay | null {
  const text = read.text('DEMO_TODAY');
  if (text === null || isPlannableDay(text)) return text;
  read.fault('DEMO_TODAY', 'Write a day as 2026-11-23.');
  return null;
}

/** Where people open the app, without a slash at the end. */
function addressOf(read: Reading, port: number): string {
  const text = read.text('CREW_ADDRESS');
  if (text === null) return `http://127.0.0.1:${port}`;
  const url = URL.canParse(text) ? new URL(text) : null;
  if (url === null || !/^https?:$/.test(url.protocol) || url.pathname !== '/' || url.search !== '')
    read.fault('CREW_ADDRESS', 'Write where people open the app, as https://crew.example.com, without a path.');
  return text.replace(/\/+$/, '');
}

const PROXY_ADDRESSES = /^[0-9a-f.:/]+(\s*,\s*[0-9a-f.:/]+)*$/i;

/** `1` for one proxy in front, or addresses and networks with commas between, as `10.0.0.0/8`. */
function proxiesOf(read: Reading): number | string | null {
  const text = read.text('CREW_TRUST_PROXY');
  if (text === null) return null;
  if (/^\d+$/.test(text)) return Number(text);
  if (!PROXY_ADDRESSES.test(text))
    read.fault('CREW_TRUST_PROXY', 'Write how many proxies stand in front, as 1, or their addresses, as 10.0.0.0/8.');
  return text;
}

/** Reads the settings at the start of a process; says what is wrong and ends it, without a trace of the program's own. */
export function readConfigOrEnd(env: NodeJS.ProcessEnv): Config {
  try {
    return readConfig(env);
  } catch (error) {
    if (!(error instanceof ConfigFault)) throw error;
    console.error(`The settings are not right:\n${error.faults.map((fault) => `  ${fault}`).join('\n')}\ndocs/running.md lists them all.`);
    process.exit(78);
  }
}
