import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { Database } from '../platform/database.ts';
import { addRefreshJobs } from '../platform/job-names.ts';

/** Nobody sees a plan that follows this much later, and changes made in a row are asked for together. */
const GATHER_MS = 40;

/**
 * Asks for the plan behind a status once the status is written. What is pending was kept with
 * it in one transaction; this only wakes the queue. Should the process end in between, or the
 * queue be out of reach, the job that runs every minute finds what is pending.
 */
@Injectable()
export class PlanBehind implements BeforeApplicationShutdown {
  private readonly database: Database;
  private readonly logger = new Logger('jobs');
  private readonly gathered = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  private asking: Promise<void> = Promise.resolve();
  constructor(database: Database) {
    this.database = database;
  }

  /** Returns at once. */
  ask(engagementId: string): void {
    this.gathered.add(engagementId);
    this.timer ??= setTimeout(() => void this.asked(), GATHER_MS);
  }

  /** Asks for what is gathered now and waits until the queue knows of it. */
  asked(): Promise<void> {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    const ids = [...this.gathered];
    this.gathered.clear();
    if (ids.length > 0) this.asking = this.asking.then(() => this.askFor(ids));
    return this.asking;
  }

  async beforeApplicationShutdown(): Promise<void> {
    await this.asked();
  }

  private async askFor(engagementIds: readonly string[]): Promise<void> {
    await addRefreshJobs(this.database.manager, engagementIds).catch((error: unknown) =>
      this.logger.warn(`The plan behind ${engagementIds.length} engagements waits for the next minute. ${String(error)}`),
    );
  }
}
