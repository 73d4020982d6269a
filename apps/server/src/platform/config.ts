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
  /** Requests a minute by one account, or by one address where nobody is signed in. */
  readonly requestsPerMinute: number;
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
    requestsPerMinute: Number(env['CREW_REQUESTS_PER_MINUTE'] ?? 600),
  };
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
