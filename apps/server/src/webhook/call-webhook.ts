import { createHmac } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Seal } from '../platform/seal.ts';

const TAKE = `
  SELECT d.id, d.body, d.tries, w.url, w.sealed_secret AS "sealedSecret", w.agency_id AS "agencyId",
    CASE WHEN w.removed_at IS NOT NULL THEN 'The webhook was deleted.' WHEN NOT w.is_on THEN 'The webhook is switched off.' END AS "whyNot"
  FROM webhook_delivery d JOIN webhook w ON w.id = d.webhook_id WHERE d.id = $1 AND d.state = 'waiting' FOR UPDATE OF d SKIP LOCKED`;
const DONE = `UPDATE webhook_delivery SET state = $2, status = $3, trouble = $4, tries = tries + 1, sent_at = $5 WHERE id = $1`;

interface Taken {
  readonly id: string;
  readonly body: string;
  readonly tries: number;
  readonly url: string;
  readonly sealedSecret: string;
  readonly agencyId: string;
  /** Why it is not called any more; null while it is. */
  readonly whyNot: string | null;
}

/** What came of a call; without trouble it was taken. */
interface Answered {
  readonly status: number | null;
  readonly trouble: string | null;
}

const MOST_TRIES = 10;
/** Whoever is called answers within this time, or is called again later. */
const PATIENCE_MS = 10_000;

/**
 * Makes one call of a webhook, signed, with an id that never changes: whoever is called twice knows it
 * by that. What fails is tried again by the queue, later each time, and is kept as undeliverable at last.
 */
@Injectable()
export class CallWebhook {
  private readonly database: Database;
  private readonly seal: Seal;
  private readonly clock: Clock;
  constructor(database: Database, seal: Seal, clock: Clock) {
    this.database = database;
    this.seal = seal;
    this.clock = clock;
  }

  async run({ deliveryId }: { readonly deliveryId: string }): Promise<void> {
    const trouble = await this.database.transaction(async (manager) => {
      const taken = await firstRow<Taken>(manager, TAKE, [deliveryId]);
      return taken === null ? null : this.call(manager, taken);
    });
    // The queue tries again what fails, later each time.
    if (trouble !== null) throw new Error(`Webhook delivery ${deliveryId} is tried again. ${trouble}`);
  }

  /** Answers why it is to be tried again; null when it is through, one way or the other. */
  private async call(manager: EntityManager, taken: Taken): Promise<string | null> {
    const answered = taken.whyNot === null ? await this.send(taken) : { status: null, trouble: taken.whyNot };
    const isOver = taken.whyNot !== null || taken.tries + 1 >= MOST_TRIES;
    const state = answered.trouble === null ? 'sent' : isOver ? 'undeliverable' : 'waiting';
    await rowsOf(manager, DONE, [taken.id, state, answered.status, answered.trouble, state === 'sent' ? this.clock.now() : null]);
    await announceChange(manager, { agencyId: taken.agencyId, topics: ['webhook'] });
    return state === 'waiting' ? answered.trouble : null;
  }

  private async send({ id, url, body, sealedSecret }: Taken): Promise<Answered> {
    const secret = this.seal.open(sealedSecret);
    if (secret === null) return { status: null, trouble: 'Its secret cannot be read any more. Add the webhook anew.' };
    const at = Math.floor(Date.now() / 1000);
    try {
      const answer = await fetch(url, {
        method: 'POST',
        headers: {
          'Content-Type': 'application/json',
          'Idempotency-Key': id,
          'X-Crew-Signature': `t=${at},sha256=${signatureOf(secret, at, body)}`,
        },
        body,
        // A call that is sent elsewhere would take its signature along.
        redirect: 'manual',
        signal: AbortSignal.timeout(PATIENCE_MS),
      });
      await answer.body?.cancel();
      return { status: answer.status, trouble: answer.ok ? null : `It answered ${answer.status}.` };
    } catch (error) {
      const { message, cause } = error as Error & { readonly cause?: { readonly code?: string } };
      return { status: null, trouble: `Nobody answered: ${cause?.code ?? message}.` };
    }
  }
}

/** What proves that a call is ours, and when it was made: HMAC-SHA256 of the second and the body. */
export const signatureOf = (secret: string, at: number, body: string): string =>
  createHmac('sha256', secret).update(`${at}.${body}`).digest('hex');
