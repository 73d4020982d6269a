import { Inject, Injectable, Logger, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { readTopics } from '@crew/contract';
import pg from 'pg';
import { Subject, type Observable } from 'rxjs';
import { FollowEvents } from '../activity/follow-events.ts';
import { CHANGES, type Announcement } from '../platform/announce.ts';
import { CONFIG, type Config } from '../platform/config.ts';
import { Database } from '../platform/database.ts';

const RETRY_MS = 1000;

const PEOPLE = `
  SELECT DISTINCT a.person_id AS id FROM task_assignee a JOIN task t ON t.id = a.task_id WHERE t.engagement_id = ANY($1::uuid[]) AND a.is_open`;

/**
 * What every process announces, heard on one connection of its own. After a lost connection everybody
 * is told to read anew, because what was announced meanwhile is unknown.
 */
@Injectable()
export class ChangesFeed implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly config: Config;
  private readonly database: Database;
  private readonly following: FollowEvents;
  private readonly heard = new Subject<Announcement | 'everything'>();
  private readonly logger = new Logger('changes');
  private client: pg.Client | null = null;
  private retry: NodeJS.Timeout | null = null;
  private isClosing = false;
  private isLost = false;

  constructor(@Inject(CONFIG) config: Config, database: Database, following: FollowEvents) {
    this.config = config;
    this.database = database;
    this.following = following;
  }

  /** Announcements of all agencies; whoever passes them on leaves out what is not theirs. Ends with the server. */
  get all(): Observable<Announcement | 'everything'> {
    return this.heard;
  }

  async onApplicationBootstrap(): Promise<void> {
    await this.listen();
  }

  /** Open streams would keep the server from stopping. */
  async beforeApplicationShutdown(): Promise<void> {
    this.isClosing = true;
    if (this.retry !== null) clearTimeout(this.retry);
    this.heard.complete();
    await this.client?.end();
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({ connectionString: this.config.databaseUrl, application_name: 'nimble-crew changes' });
    client.on('notification', ({ payload }) => {
      const announcement = JSON.parse(payload ?? '{}') as Announcement;
      // Who looks at what is not an event.
      if (this.config.runsJobs && !announcement.topics.startsWith('presence')) this.following.wake();
      void this.pass(announcement);
    });
    client.on('error', (error) => this.lose(error));
    client.on('end', () => this.lose(null));
    this.client = client;
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANGES}`);
      if (this.isLost) this.logger.warn('The connection for changes is back.');
      this.isLost = false;
    } catch (error) {
      this.lose(error);
    }
  }

  /**
   * Passes an announcement on, to everybody with open work in the engagements it names too: what
   * stands on a desk follows from others' work. Looked up here, no change has to wait for it.
   */
  private async pass(announcement: Announcement): Promise<void> {
    if (!this.heard.observed) return;
    const engagements = readTopics(announcement.topics).flatMap((topic) => (topic.startsWith('engagement:') ? [topic.slice(11)] : []));
    const people = engagements.length === 0 ? [] : await this.database.rows<{ id: string }>(PEOPLE, [engagements]).catch(() => null);
    const topics = people === null ? 'everything' : [announcement.topics, ...people.map(({ id }) => `person:${id}`)].join(' ');
    if (!this.isClosing) this.heard.next({ ...announcement, topics });
  }

  /** Said once for each outage, however many signs there are of it and however often it is tried. */
  private lose(error: unknown): void {
    if (this.isClosing || this.retry !== null) return;
    if (!this.isLost)
      this.logger.warn(`The connection for changes was lost and is made again. ${error instanceof Error ? error.message : ''}`);
    this.isLost = true;
    this.retry = setTimeout(() => {
      this.retry = null;
      void this.listen().then(() => this.heard.next('everything'));
    }, RETRY_MS);
  }
}
