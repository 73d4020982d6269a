import { randomBytes } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { Injectable } from '@nestjs/common';
import type {
  AddWebhook,
  EditWebhook,
  EventKind,
  FieldChange,
  WebhookAdded,
  WebhookDeliveries,
  WebhookDelivery,
  WebhookLine,
  WebhookSaved,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, firstRow, rowsOf } from '../platform/database.ts';
import { addJob } from '../platform/job-names.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { Seal } from '../platform/seal.ts';

const LINES = `
  SELECT w.id, w.version, w.name, w.url, w.kinds, w.is_on AS "isOn",
    (SELECT count(*)::int FROM webhook_delivery d WHERE d.webhook_id = w.id AND d.state = 'undeliverable') AS failed,
    (SELECT max(d.sent_at) FROM webhook_delivery d WHERE d.webhook_id = w.id) AS "lastSentAt"
  FROM webhook w WHERE w.agency_id = $1 AND w.removed_at IS NULL`;

/** What of a webhook can be changed, and goes back by field. Its secret is no part of it. */
export interface WebhookFields {
  readonly name: string;
  readonly url: string;
  readonly kinds: readonly EventKind[];
  readonly isOn: boolean;
  readonly isRemoved: boolean;
}

export interface WebhookNow extends WebhookFields {
  readonly id: string;
  readonly version: number;
}

type WebhookKind = 'webhook-added' | 'webhook-changed' | 'webhook-removed';

const NOW = `
  SELECT w.id, w.version, w.name, w.url, w.kinds, w.is_on AS "isOn", w.removed_at IS NOT NULL AS "isRemoved" FROM webhook w WHERE w.id = $1 AND w.agency_id = $2`;

const SET = `
  UPDATE webhook SET name = $2, url = $3, kinds = $4, is_on = $5, removed_at = CASE WHEN $6 THEN coalesce(removed_at, $7) END, version = version + 1 WHERE id = $1`;

const DELIVERIES = `
  SELECT d.id, d.created_at AS at, json_build_object('id', w.id, 'name', w.name) AS webhook, d.kind, d.state, d.tries, d.status, d.trouble, d.body
  FROM webhook_delivery d JOIN webhook w ON w.id = d.webhook_id
  WHERE w.agency_id = $1 AND w.removed_at IS NULL AND ($2::uuid IS NULL OR w.id = $2) AND (NOT $3 OR d.state = 'undeliverable') ORDER BY d.created_at DESC, d.id LIMIT 100`;

type LineRow = Omit<WebhookLine, 'lastSentAt'> & { readonly lastSentAt: Date | null };
type DeliveryRow = Omit<WebhookDelivery, 'at'> & { readonly at: Date };

/** Programs that are told of events: who they are, what they were told, and telling them again. */
@Injectable()
export class KeepWebhooks {
  private readonly database: Database;
  private readonly seal: Seal;
  private readonly clock: Clock;
  constructor(database: Database, seal: Seal, clock: Clock) {
    this.database = database;
    this.seal = seal;
    this.clock = clock;
  }

  async list(who: Who): Promise<WebhookLine[]> {
    return (await this.database.rows<LineRow>(`${LINES} ORDER BY w.name, w.id`, [who.agencyId])).map(toLine);
  }

  add(who: Who, { name, url, kinds }: AddWebhook): Promise<WebhookAdded> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const secret = randomBytes(32).toString('base64url');
      const sql = `INSERT INTO webhook (agency_id, name, url, kinds, sealed_secret) VALUES ($1, $2, $3, $4, $5) RETURNING id`;
      const [row] = await rowsOf<{ id: string }>(manager, sql, [who.agencyId, name.trim(), url, kinds, this.seal.close(secret)]);
      const { id } = row as { id: string };
      const changes = [{ field: 'isRemoved', from: true, to: false }];
      await this.record(manager, who, { kind: 'webhook-added', id, name: name.trim(), changes });
      return { webhook: await this.find(manager, who, id), secret };
    });
  }

  /** Changes a webhook; a stale version changes nothing and says how it is now. */
  edit(who: Who, id: string, { version, ...input }: EditWebhook): Promise<WebhookSaved> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const now = await this.requireNow(manager, who, id);
      if (now.version !== version)
        throw new Refusal('changed-meanwhile', 'Somebody changed this webhook since you opened it. Reload and check.', {
          details: { current: await this.find(manager, who, id) },
        });
      const given = Object.fromEntries(Object.entries(input).filter(([, value]) => value !== undefined)) as Partial<WebhookFields>;
      await this.set(manager, who, { now, fields: given.name === undefined ? given : { ...given, name: given.name.trim() } });
      return { webhook: await this.find(manager, who, id), changeId: changeIdOf(manager) };
    });
  }

  /** It is not told or called any more; rules that call it say so when they run. Answers what undoes it. */
  remove(who: Who, id: string): Promise<string | null> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      await this.set(manager, who, { now: await this.requireNow(manager, who, id), fields: { isRemoved: true } });
      return changeIdOf(manager);
    });
  }

  /** A webhook as it is now, removed or not; null when there is none. */
  now(manager: EntityManager, { agencyId }: Who, id: string): Promise<WebhookNow | null> {
    return firstRow<WebhookNow>(manager, NOW, [id, agencyId]);
  }

  /** Sets fields of a webhook and records what differs. The agency is locked. */
  async set(
    manager: EntityManager,
    who: Who,
    { now, fields }: { readonly now: WebhookNow; readonly fields: Partial<WebhookFields> },
  ): Promise<void> {
    const changes = (Object.keys(fields) as (keyof WebhookFields)[])
      .filter((field) => !isDeepStrictEqual(now[field], fields[field]))
      .map((field): FieldChange => ({ field, from: now[field], to: fields[field] }));
    if (changes.length === 0) return;
    const next = { ...now, ...fields };
    await rowsOf(manager, SET, [now.id, next.name, next.url, next.kinds, next.isOn, next.isRemoved, this.clock.now()]);
    const kind = fields.isRemoved === true ? 'webhook-removed' : 'webhook-changed';
    await this.record(manager, who, { kind, id: now.id, name: next.name, changes });
  }

  async deliveries(
    who: Who,
    { webhookId, isUndeliverable }: { readonly webhookId?: string | undefined; readonly isUndeliverable: boolean },
  ): Promise<WebhookDeliveries> {
    const rows = await this.database.rows<DeliveryRow>(DELIVERIES, [who.agencyId, webhookId ?? null, isUndeliverable]);
    const failed = (await this.list(who)).reduce((sum, line) => sum + line.failed, 0);
    return { deliveries: rows.map((row) => ({ ...row, at: row.at.toISOString() })), undeliverable: failed };
  }

  /** Lets a call that was given up be made again. */
  retry(who: Who, id: string): Promise<void> {
    return this.database.transaction(async (manager) => {
      const sql = 'SELECT d.state FROM webhook_delivery d JOIN webhook w ON w.id = d.webhook_id WHERE d.id = $1 AND w.agency_id = $2';
      const { state } = requireFound(await firstRow<{ state: string }>(manager, sql, [id, who.agencyId]), 'delivery');
      if (state !== 'undeliverable') throw new Refusal('wrong-moment', 'This call is on its way or was taken already.');
      const set = `UPDATE webhook_delivery SET state = 'waiting', tries = 0, trouble = NULL WHERE id = $1 AND state = 'undeliverable'`;
      if ((await affectedRows(manager, set, [id])) > 0)
        await addJob(manager, { name: 'call-webhook', payload: { deliveryId: id }, key: `webhook ${id}` });
      await announceChange(manager, { agencyId: who.agencyId, topics: ['webhook'] });
    });
  }

  private async requireNow(manager: EntityManager, who: Who, id: string): Promise<WebhookNow> {
    const now = await this.now(manager, who, id);
    return requireFound(now?.isRemoved === true ? null : now, 'webhook');
  }

  private record(
    manager: EntityManager,
    who: Who,
    event: { readonly kind: WebhookKind; readonly id: string; readonly name: string; readonly changes: readonly FieldChange[] },
  ): Promise<void> {
    const { kind, id: subjectId, name, changes } = event;
    return record(manager, { actor: who, at: this.clock.now() }, [
      { kind, engagementId: null, subject: 'webhook', subjectId, changes, facts: { name } },
    ]);
  }

  private async find(manager: EntityManager, who: Who, id: string): Promise<WebhookLine> {
    return toLine(requireFound(await firstRow<LineRow>(manager, `${LINES} AND w.id = $2`, [who.agencyId, id]), 'webhook'));
  }
}

const toLine = ({ lastSentAt, ...line }: LineRow): WebhookLine => ({ ...line, lastSentAt: lastSentAt?.toISOString() ?? null });
