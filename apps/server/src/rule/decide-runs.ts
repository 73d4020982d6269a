import { Injectable } from '@nestjs/common';
import { runRules, type Chain, type Effect, type Facts, type HeldWhy, type RuleEvent } from '@crew/core';
import { conditionsInWhen, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import type { Follower, PendingEvent } from '../platform/area.ts';
import { rowsOf } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { coreRulesOf, readRuleRows, type RuleRow } from './core-rules.ts';

/** Events $1 as rules see them, with the chain of rules that led to each. Undoing something is no reason to act again, and what was undone is none any more. */
const EVENTS = `
  SELECT v.id::text AS id, v.agency_id AS "agencyId", v.engagement_id AS "engagementId", v.kind, v.subject_id AS subject, v.facts, v.at,
    coalesce(u.depth, 0) AS depth, coalesce(u.chain, '[]') AS chain
  FROM event v LEFT JOIN rule_run u ON u.id = v.run_id
  WHERE v.id = ANY($1::bigint[]) AND v.undoes_id IS NULL AND v.undone_by_id IS NULL ORDER BY v.id`;

interface AskedEvent {
  readonly id: string;
  readonly agencyId: string;
  readonly engagementId: string | null;
  readonly kind: EventKind;
  readonly subject: string;
  readonly facts: Facts;
  readonly at: Date;
  readonly depth: number;
  readonly chain: Chain['ran'];
}

/** What is decided of one rule at one event. */
interface Decided {
  readonly eventId: string;
  readonly ruleId: string;
  readonly agencyId: string;
  readonly engagementId: string | null;
  readonly position: number;
  readonly why: HeldWhy | null;
  readonly failedAt: number | null;
  readonly depth: number;
  readonly chain: Chain['ran'];
  readonly effects: readonly Effect[];
}

/** Two processes never decide the same event, and one event is decided once: what is there stays. */
const INSERT_RUNS = `
  WITH given AS (
    SELECT * FROM jsonb_to_recordset($1) AS d("eventId" bigint, "ruleId" uuid, "agencyId" uuid, "engagementId" uuid, position int, why text,
      "failedAt" int, depth int, chain jsonb, effects jsonb)),
  runs AS (
    INSERT INTO rule_run (agency_id, rule_id, event_id, engagement_id, position, state, why, failed_at, depth, chain)
    SELECT "agencyId", "ruleId", "eventId", "engagementId", position, CASE WHEN why IS NULL THEN 'waiting' ELSE 'held' END, why, "failedAt", depth, chain FROM given
    ON CONFLICT DO NOTHING RETURNING id, event_id, rule_id, engagement_id, state),
  effects AS (
    INSERT INTO rule_effect (run_id, place, effect)
    SELECT r.id, x.place - 1, x.effect FROM runs r JOIN given d ON d."eventId" = r.event_id AND d."ruleId" = r.rule_id
    CROSS JOIN LATERAL jsonb_array_elements(d.effects) WITH ORDINALITY x(effect, place) WHERE r.state = 'waiting')
  SELECT graphile_worker.add_job('carry-out-rules', payload := json_build_object('eventId', event_id::text),
    queue_name := 'rules ' || coalesce(engagement_id::text, 'agency'), job_key := 'rules at ' || event_id)
  FROM (SELECT DISTINCT event_id, engagement_id FROM runs WHERE state = 'waiting' ORDER BY event_id) asked`;

/**
 * Follows the stream and decides, by the core, which rules run at each event and why others are held. What
 * is decided is written with its effects, and a job is asked for that carries them out, all in the
 * transaction that takes note of the event. The effects of one event are one job; jobs of one engagement
 * run one after the other.
 */
@Injectable()
export class DecideRuns implements Follower {
  async follow(manager: EntityManager, pending: readonly PendingEvent[]): Promise<void> {
    const rules = await readRuleRows(manager, [...new Set(pending.map(({ agencyId }) => agencyId))]);
    if (rules.length === 0) return;
    const events = await rowsOf<AskedEvent>(manager, EVENTS, [pending.map(({ id }) => id)]);
    const asking = rules.map((row) => ({ row, core: coreRulesOf(row), before: conditionsInWhen(row.content) }));
    const decided = events.flatMap((event) =>
      decide(
        event,
        asking.filter(({ row }) => row.agencyId === event.agencyId && row.onSince <= event.at),
      ),
    );
    if (decided.length === 0) return;
    await rowsOf(manager, INSERT_RUNS, [JSON.stringify(decided)]);
    for (const agencyId of new Set(decided.map((one) => one.agencyId))) await announceChange(manager, { agencyId, topics: ['rule'] });
  }
}

interface Asking {
  readonly row: RuleRow;
  readonly core: ReturnType<typeof coreRulesOf>;
  /** How many conditions its "when" becomes. */
  readonly before: number;
}

function decide(event: AskedEvent, asking: readonly Asking[]): Decided[] {
  const asked: RuleEvent = { id: event.id, kind: event.kind, subject: event.subject, facts: event.facts };
  const { run, held } = unwrap(
    runRules({ event: asked, rules: asking.flatMap(({ core }) => core), chain: { depth: event.depth, ran: event.chain } }),
  );
  const place = new Map(asking.map((one, index) => [one.row.id, { ...one, index }]));
  const about = { eventId: event.id, agencyId: event.agencyId, engagementId: event.engagementId, depth: event.depth + 1 };
  const chainWith = (rule: string): Chain['ran'] => [...event.chain, [rule, event.subject]];
  return [
    ...run.map(({ rule, effects }): Decided => ({
      ...{ ...about, ruleId: rule, position: place.get(rule)?.index ?? 0, why: null, failedAt: null },
      ...{ chain: chainWith(rule), effects },
    })),
    // An exception is no rule of its own; of the rule itself the log says that it was replaced.
    ...held.flatMap(({ rule, why, at }): Decided[] => {
      const found = place.get(rule);
      // What its "when" asks is no condition that somebody wrote: it simply does not concern the rule.
      const failedAt = at === undefined || found === undefined ? null : at - found.before;
      if (found === undefined || why === 'off' || (failedAt !== null && failedAt < 0)) return [];
      return [{ ...about, ruleId: rule, position: found.index, why, failedAt, chain: chainWith(rule), effects: [] }];
    }),
  ];
}
