/** A change of something that has a version. */
export interface OwnChange {
  /** Its address in the API. */
  readonly thing: string;
  /** The version that was read. */
  readonly read: number;
  /** Fields that are given whole and were made of what was read: a list with one more in it. */
  readonly wholes?: readonly string[];
}

/** A run of versions that nobody but this browser made, one after the other. */
interface OwnRun {
  readonly from: number;
  readonly to: number;
  /** The version that last changed a field given whole. */
  readonly wholes: ReadonlyMap<string, number>;
}

const runs = new Map<string, OwnRun>();
const lines = new Map<string, Promise<unknown>>();
let begun = 0;

/**
 * The version to change a thing from: where only our own changes lie between what was read and
 * what is, the last of them; else the one that was read, so that somebody else's change is met.
 * So is our own when a field given whole was changed in between: it was made without that.
 */
export function versionSince({ thing, read, wholes = [] }: OwnChange): number {
  const run = runs.get(thing);
  if (run === undefined || read < run.from || read >= run.to) return read;
  return wholes.some((field) => (run.wholes.get(field) ?? read) > read) ? read : run.to;
}

/** Whether a change of a thing is under way. */
export const isUnderWay = (thing: string): boolean => lines.has(thing);

/**
 * Changes of one thing, one after the other. What is refused is thrown to whoever asked for it,
 * and holds up nothing. Reading waits for them, so a change must not itself wait for what is
 * read anew. Things are known by their address in the API.
 */
export function oneByOne<Value>(thing: string, change: () => Promise<Value>): Promise<Value> {
  begun += 1;
  const sending = (lines.get(thing) ?? Promise.resolve())
    .catch(() => undefined)
    .then(change)
    .finally(() => lines.get(thing) === sending && lines.delete(thing));
  lines.set(thing, sending);
  return sending;
}

/** The version a thing has after a change, where the answer says so: its own, or that of the thing in it. */
function versionIn(answer: unknown): number | undefined {
  if (typeof answer !== 'object' || answer === null) return undefined;
  const { version, task, series } = answer as Partial<Record<'version' | 'task' | 'series', unknown>>;
  return typeof version === 'number' ? version : (versionIn(task) ?? versionIn(series));
}

/** A change in its turn, sent from the version the one before has left, though it was asked for before that was read again. */
export function inTurn<Answer>(change: OwnChange, send: (version: number) => Promise<Answer>): Promise<Answer> {
  const { thing, wholes = [] } = change;
  return oneByOne(thing, async () => {
    const from = versionSince(change);
    const answer = await send(from);
    const to = versionIn(answer);
    if (to === undefined) return answer;
    const before = runs.get(thing);
    const run = before?.to === from ? before : { from, wholes: new Map<string, number>() };
    const changed = wholes.map((field) => [field, to] as const);
    runs.set(thing, { from: run.from, to, wholes: new Map([...run.wholes, ...changed]) });
    return answer;
  });
}

/** Things of which everybody has one: all changes below them are made one after the other. */
const SINGLES: readonly string[] = ['timer', 'desk', 'week-plan', 'settings'];

/** The thing a change belongs to, by its address: `/tasks/ID` for all that hangs on that task. */
export function thingOf(path: string): string {
  const [first = '', second] = path.slice(1).split(/[/?]/);
  return second === undefined || SINGLES.includes(first) ? `/${first}` : `/${first}/${second}`;
}

/** A change that takes longer than this, as over a lost line, holds up no reading. */
const PATIENCE_MS = 3000;

/** Done once every change of ours that is under way has been answered, or when that takes too long. */
async function ownAnswered(): Promise<void> {
  if (lines.size === 0) return;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const enough = new Promise((resolve) => (timer = setTimeout(resolve, PATIENCE_MS)));
  await Promise.race([Promise.allSettled(lines.values()), enough]);
  clearTimeout(timer);
}

/** Reads what no change of ours can have overtaken: after those under way, and again when one began meanwhile. */
export async function readBehindOwn<Answer>(read: () => Promise<Answer>): Promise<Answer> {
  for (;;) {
    await ownAnswered();
    const before = begun;
    const answer = await read();
    if (before === begun) return answer;
  }
}

/** Somebody else signed in here: our changes are not theirs. */
export function forgetOwn(): void {
  runs.clear();
  lines.clear();
}
