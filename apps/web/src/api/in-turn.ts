/** A run of versions that nobody but this browser made, one after the other. */
interface OwnRun {
  readonly from: number;
  readonly to: number;
}

const runs = new Map<string, OwnRun>();
const lines = new Map<string, Promise<unknown>>();

/**
 * The version to change a thing from, given the one that was read: where only our own changes lie
 * between, the last of them; else the one that was read, so that somebody else's change is met.
 */
export function versionSince(thing: string, read: number): number {
  const run = runs.get(thing);
  return run !== undefined && read >= run.from && read < run.to ? run.to : read;
}

/**
 * Changes of one thing, sent one after the other: each goes on from what the one before has
 * left, though it was asked for before that was read again. What is refused is thrown to
 * whoever asked for it, and holds up nothing. Things are known by their address in the API.
 */
export function inTurn<Answer extends { readonly version: number }>(
  thing: string,
  read: number,
  send: (version: number) => Promise<Answer>,
): Promise<Answer> {
  const change = (lines.get(thing) ?? Promise.resolve())
    .catch(() => undefined)
    .then(async () => {
      const from = versionSince(thing, read);
      const answer = await send(from);
      const before = runs.get(thing);
      runs.set(thing, { from: before?.to === from ? before.from : from, to: answer.version });
      return answer;
    });
  lines.set(thing, change);
  return change;
}

/** Somebody else sits down here: what was ours is not theirs. */
export function forgetOwn(): void {
  runs.clear();
  lines.clear();
}
