import type { EntityManager } from 'typeorm';
import { Refusal } from './refusal.ts';

/** How long somebody waits for their turn at an engagement, milliseconds. */
const PATIENCE_MS = 20_000;

/** Thrown by a lock whose turn has not come: the transaction goes back, waits, and is run again. */
export class NotItsTurn extends Error {
  readonly ids: readonly string[];
  constructor(ids: readonly string[]) {
    super('waits for its turn');
    this.ids = ids;
  }
}

/**
 * One at a time for each engagement in this process, in the order of coming. The row lock of
 * the database would do that too, but whoever waits there holds a connection: twenty changes
 * of one engagement would keep everybody else from the pool.
 */
export class Turns {
  private readonly waiting = new Map<string, (() => void)[]>();

  /** Takes the turn if nobody has it. */
  take(id: string): boolean {
    if (this.waiting.has(id)) return false;
    this.waiting.set(id, []);
    return true;
  }

  /** Waits until the turn is one's own; refuses with `unavailable` when that takes too long. */
  wait(id: string): Promise<void> {
    if (this.take(id)) return Promise.resolve();
    return new Promise((resolve, reject) => {
      const line = this.waiting.get(id) as (() => void)[];
      const called = (): void => {
        clearTimeout(timer);
        resolve();
      };
      const timer = setTimeout(() => {
        line.splice(line.indexOf(called), 1);
        reject(new Refusal('unavailable', 'Many changes are being made here at this moment. Nothing was saved; try again in a moment.'));
      }, PATIENCE_MS);
      line.push(called);
    });
  }

  /** Gives the turn to whoever waits longest. */
  give(id: string): void {
    const next = this.waiting.get(id)?.shift();
    if (next === undefined) this.waiting.delete(id);
    else next();
  }
}

const turnsByTransaction = new WeakMap<EntityManager, HeldTurns>();

/** The turns that one transaction has, over all its attempts. */
export class HeldTurns {
  private readonly turns: Turns;
  private readonly held = new Set<string>();
  constructor(turns: Turns) {
    this.turns = turns;
  }

  /** From now on the locks of this transaction take their turns from here. */
  attach(manager: EntityManager): void {
    turnsByTransaction.set(manager, this);
  }

  /** Takes turns without waiting; false when somebody else has one of them. */
  tryTake(ids: readonly string[]): boolean {
    return ids.every((id) => {
      if (!this.held.has(id) && !this.turns.take(id)) return false;
      this.held.add(id);
      return true;
    });
  }

  /** As `tryTake`, but throws `NotItsTurn`. */
  take(ids: readonly string[]): void {
    if (!this.tryTake(ids)) throw new NotItsTurn([...new Set([...this.held, ...ids])]);
  }

  /** Waits for all of these; gives up what it had first, so that they are always taken in one order. */
  async wait(ids: readonly string[]): Promise<void> {
    this.release();
    for (const id of [...new Set(ids)].sort()) {
      await this.turns.wait(id);
      this.held.add(id);
    }
  }

  release(): void {
    for (const id of this.held) this.turns.give(id);
    this.held.clear();
  }
}

/** The turns of a transaction; null for statements that stand alone. */
export const turnsOf = (manager: EntityManager): HeldTurns | null => turnsByTransaction.get(manager) ?? null;
