import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { AddWebhook, EditWebhook, WebhookAdded, WebhookDeliveries, WebhookDelivery, WebhookLine } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { affectedRows, Database, firstRow, rowsOf } from '../platform/database.ts';
import { addJob } from '../platform/job-names.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { Seal } from '../platform/seal.ts';

const LINES = `
  SELECT w.id, w.version, w.name, w.url, w.kinds, w.is_on AS "isOn",
    (SELECT count(*)::int FROM webhook_delivery d WHERE d.webhook_id = w.id AND d.state = 'undeliverable') AS failed,
    (SELECT max(d.sent_at) FROM webhook_delivery d WHERE d.webhook_id = w.id) AS "lastSentAt"
  FROM webhook w WHERE w.agency_id = $1`;

const DELIVERIES = `
  SELECT d.id, d.created_at AS at, json_build_object('id', w.id, 'name', w.name) AS webhook, d.kind, d.state, d.tries, d.status, d.trouble, d.body
  FROM webhook_delivery d JOIN webhook w ON w.id = d.webhook_id
  WHERE w.agency_id = $1 AND ($2::uuid IS NULL OR w.id = $2) AND (NOT $3 OR d.state = 'undeliverable') ORDER BY d.created_at DESC, d.id LIMIT 100`;

type LineRow = Omit<WebhookLine, 'lastSentAt'> & { readonly lastSentAt: Date | null };
type DeliveryRow = Omit<WebhookDelivery, 'at'> & { readonly at: Date };

/** Programs that are told of events: who they are, what they were told, and telling them again. */
@Injectable()
export class KeepWebhooks {
  private readonly database: Database;
  private readonly seal: Seal;
  constructor(database: Database, seal: Seal) {
    this.database = database;
    this.seal = seal;
  }

  async list(who: Who): Promise<WebhookLine[]> {
    return (await this.database.rows<LineRow>(`${LINES} ORDER BY w.name, w.id`, [who.agencyId])).map(toLine);
  }

  add(who: Who, { name, url, kinds }: AddWebhook): Promise<WebhookAdded> {
    return this.database.transaction(async (manager) => {
      const secret = randomBytes(32).toString('base64url');
      const sql = `INSERT INTO webhook (agency_id, name, url, kinds, sealed_secret) VALUES ($1, $2, $3, $4, $5) RETURNING id`;
      const [row] = await rowsOf<{ id: string }>(manager, sql, [who.agencyId, name.trim(), url, kinds, this.seal.close(secret)]);
      await announceChange(manager, { agencyId: who.agencyId, topics: ['webhook', 'rule'] });
      return { webhook: await this.find(manager, who, (row as { id: string }).id), secret };
    });
  }

  edit(who: Who, id: string, { version, name, url, kinds, isOn }: EditWebhook): Promise<WebhookLine> {
    return this.database.transaction(async (manager) => {
      const before = await this.find(manager, who, id);
      const after = { name: name?.trim() ?? before.name, url: url ?? before.url, kinds: kinds ?? before.kinds, isOn: isOn ?? before.isOn };
      const sql = `UPDATE webhook SET name = $3, url = $4, kinds = $5, is_on = $6, version = version + 1 WHERE id = $1 AND version = $2`;
      if ((await affectedRows(manager, sql, [id, version, after.name, after.url, after.kinds, after.isOn])) === 0)
        throw new Refusal('changed-meanwhile', 'Somebody changed this webhook since you opened it. Look again.', {
          details: { current: before },
        });
      await announceChange(manager, { agencyId: who.agencyId, topics: ['webhook', 'rule'] });
      return this.find(manager, who, id);
    });
  }

  /** With what it was told. Rules that call it say so when they run. */
  remove(who: Who, id: string): Promise<void> {
    return this.database.transaction(async (manager) => {
      await this.find(manager, who, id);
      await rowsOf(manager, 'DELETE FROM webhook WHERE id = $1', [id]);
      await announceChange(manager, { agencyId: who.agencyId, topics: ['webhook', 'rule'] });
    });
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

  private async find(manager: EntityManager, who: Who, id: string): Promise<WebhookLine> {
    return toLine(requireFound(await firstRow<LineRow>(manager, `${LINES} AND w.id = $2`, [who.agencyId, id]), 'webhook'));
  }
}

const toLine = ({ lastSentAt, ...line }: LineRow): WebhookLine => ({ ...line, lastSentAt: lastSentAt?.toISOString() ?? null });
