/** What the process is told from outside, read once at the start. */
export interface Config {
  readonly databaseUrl: string;
  readonly port: number;
  readonly sessionSecret: string;
  /** The demo's people may sign in by one click. */
  readonly isDemo: boolean;
  /** Stands in for today everywhere; for the demo, tests and pictures. */
  readonly today: string | null;
  readonly webRoot: string | null;
  /** The folder with the contents of files. */
  readonly filesRoot: string;
  /** Whether this process works through the job queue. */
  readonly runsJobs: boolean;
  readonly isQuiet: boolean;
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
    today: env['DEMO_TODAY'] ?? null,
    webRoot: env['CREW_WEB_ROOT'] ?? null,
    filesRoot: need('CREW_FILES'),
    runsJobs: env['CREW_JOBS'] !== 'off',
    isQuiet: env['CREW_QUIET'] === 'on',
  };
}
