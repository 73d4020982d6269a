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

/** Reads the environment; a missing value is named, not guessed. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const need = (name: string): string => {
    const value = env[name];
    if (value === undefined || value === '') throw new Error(`Set ${name}; ./start does it for you.`);
    return value;
  };
  return {
    databaseUrl: need('CREW_DATABASE_URL'),
    port: Number(env['CREW_PORT'] ?? 4180),
    sessionSecret: need('CREW_SESSION_SECRET'),
    isDemo: env['CREW_DEMO'] === 'on',
    today: fixedDay(env['DEMO_TODAY']),
    webRoot: env['CREW_WEB_ROOT'] ?? null,
    filesRoot: need('CREW_FILES'),
    runsJobs: env['CREW_JOBS'] !== 'off',
    isQuiet: env['CREW_QUIET'] === 'on',
    trustedProxies: proxiesOf(env['CREW_TRUST_PROXY'] ?? ''),
    address: (env['CREW_ADDRESS'] ?? `http://127.0.0.1:${env['CREW_PORT'] ?? 4180}`).replace(/\/+$/, ''),
    mail: {
      outgoing: hostAndPort(env['CREW_MAIL_OUT']),
      mailboxPort: portOf(env['CREW_MAILBOX_PORT']),
      incomingPort: portOf(env['CREW_MAIL_IN_PORT']),
      domain: env['CREW_MAIL_DOMAIN'] ?? 'nimble-crew.localhost',
    },
    requestsPerMinute: Number(env['CREW_REQUESTS_PER_MINUTE'] ?? 600),
  };
}

const portOf = (text: string | undefined): number | null => (text === undefined || text === '' ? null : Number(text));

/** As `smtp.example.com:25`. */
function hostAndPort(text: string | undefined): { readonly host: string; readonly port: number } | null {
  if (text === undefined || text === '') return null;
  const [, host, port] = /^(.+):(\d+)$/.exec(text) ?? [];
  if (host === undefined) throw new Error(`CREW_MAIL_OUT is “${text}”. Write it as smtp.example.com:25.`);
  return { host, port: Number(port) };
}

function fixedDay(text: string | undefined): IsoDay | null {
  if (text === undefined) return null;
  if (!isPlannableDay(text)) throw new Error(`DEMO_TODAY is “${text}”, which is no day. Write it as 2026-11-23.`);
  return text;
}

/** `1` for one proxy in front, or addresses and networks with commas between, as `10.0.0.0/8`. */
function proxiesOf(text: string): number | string | null {
  if (text === '') return null;
  return /^\d+$/.test(text) ? Number(text) : text;
}
