import { Inject, Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { ModuleRef } from '@nestjs/core';
import { AREA_FOLLOWERS, type AreaFollower, type Follower, type PendingEvent } from '../platform/area.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { holdEngagements } from '../platform/locks.ts';

/** At most so many events are processed in one transaction. */
const MOST_AT_ONCE = 200;
/** Changes made in a row are processed together. */
const GATHER_MS = 30;
/** An event that fails is tried again after this time; the others do not wait for it. */
const ASIDE_MS = 10 * 60_000;

const OLDEST = `
  SELECT id::text AS id, engagement_id AS "engagementId" FROM event WHERE is_pending AND NOT (id = ANY($2::bigint[])) ORDER BY id LIMIT $1`;

/** Two processes share the pending events: each leaves alone what the other holds. */
const TAKE = `
  SELECT id::text AS id, agency_id AS "agencyId", kind FROM event
  WHERE id = ANY($1::bigint[]) AND is_pending AND (engagement_id IS NULL OR engagement_id = ANY($2::uuid[]))
  ORDER BY id FOR NO KEY UPDATE SKIP LOCKED`;

/**
 * Passes events on to their followers (notices and the like): each event once, in the transaction that
 * marks it as processed, so that the next process takes over when one ends in between. It is woken by
 * announcements, and by a job every minute for events nobody announced.
 */
@Injectable()
export class FollowEvents implements BeforeApplicationShutdown {
  private readonly database: Database;
  private readonly followers: readonly AreaFollower[];
  private readonly modules: ModuleRef;
  private readonly logger = new Logger('events');
  private readonly aside = new Map<string, number>();
  private timer: NodeJS.Timeout | null = null;
  private working: Promise<unknown> = Promise.resolve();
  private isClosing = false;
  constructor(database: Database, @Inject(AREA_FOLLOWERS) followers: readonly AreaFollower[], modules: ModuleRef) {
    this.database = database;
    this.followers = followers;
    this.modules = modules;
  }

  /** Returns at once. */
  wake(): void {
    if (this.isClosing) return;
    this.timer ??= setTimeout(() => {
      this.timer = null;
      this.run().catch((error: unknown) => this.logger.warn(`Events wait for the next minute. ${String(error)}`));
    }, GATHER_MS);
  }

  /** Processes everything that is pending, and waits until that is done; answers how many events those were. */
  run(): Promise<number> {
    const working = this.working.then(
      () => this.followAll(),
      () => this.followAll(),
    );
    this.working = working;
    return working;
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.isClosing = true;
    if (this.timer !== null) clearTimeout(this.timer);
    await this.working.catch(() => undefined);
  }

  private async followAll(): Promise<number> {
    let followed = 0;
    let most = MOST_AT_ONCE;
    for (;;) {
      const taken: PendingEvent[] = [];
      try {
        const count = await this.follow(most, taken);
        followed += count;
        if (count < most && most === MOST_AT_ONCE) return followed;
        if (count === 0) return followed;
      } catch (error) {
        const [first] = taken;
        if (first === undefined) throw error;
        // One by one, the failing event is found.
        if (most === 1) this.putAside(first, error);
        most = 1;
      }
    }
  }

  /** Processes the oldest pending events; `taken` is filled with them. Answers how many they were. */
  private follow(most: number, taken: PendingEvent[]): Promise<number> {
    return this.database.transaction(async (manager) => {
      const oldest = await rowsOf<{ id: string; engagementId: string | null }>(manager, OLDEST, [most, this.stillAside()]);
      // Engagements are locked before their events: whoever deletes an engagement locks in that order too.
      const held = await holdEngagements(
        manager,
        oldest.flatMap(({ engagementId }) => engagementId ?? []),
      );
      const events = await rowsOf<PendingEvent>(manager, TAKE, [oldest.map(({ id }) => id), [...held]]);
      taken.splice(0, taken.length, ...events);
      for (const { kinds, by } of this.followers) {
        const own = events.filter(({ kind }) => kinds.includes(kind));
        if (own.length > 0) await this.modules.get<Follower>(by, { strict: false }).follow(manager, own);
      }
      if (events.length > 0)
        await rowsOf(manager, 'UPDATE event SET is_pending = false WHERE id = ANY($1::bigint[])', [events.map(({ id }) => id)]);
      return events.length;
    });
  }

  private putAside({ id, kind }: PendingEvent, error: unknown): void {
    this.aside.set(id, Date.now() + ASIDE_MS);
    this.logger.error(
      `Event ${id} (${kind}) cannot be followed; it is tried again later. ${error instanceof Error ? error.stack : String(error)}`,
    );
  }

  private stillAside(): string[] {
    for (const [id, until] of this.aside) if (until < Date.now()) this.aside.delete(id);
    return [...this.aside.keys()];
  }
}
