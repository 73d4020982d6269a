import { Injectable } from '@nestjs/common';
import type { HeldWhy, Effect } from '@crew/core';
import type { EffectState, EventKind, RuleContent, RuleEngagement, RunLine, RunPage, RunState } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { RULE_ENGAGEMENT } from './read-rules.ts';
import { readNames } from './rule-names.ts';
import { aboutOf, thenOf } from './try-rule.ts';

export interface RunsQuery {
  readonly ruleId?: string;
  readonly engagementId?: string;
  readonly state?: RunState;
  /** This run, and all it led to. */
  readonly runId?: string;
  readonly before?: string;
}

const PAGE = 30;

/** Runs, the newest event first, in the order in which rules ran at it. */
const RUNS = `
  SELECT r.id, r.event_id::text AS "eventId", v.at, r.state, r.why, r.failed_at AS condition, v.kind, v.subject, v.facts, v.run_id AS "causedBy",
    coalesce(w.name, k.name) AS by, json_build_object('id', u.id, 'isRemoved', u.removed_at IS NOT NULL, 'content', u.content) AS rule,
    CASE WHEN e.id IS NOT NULL THEN ${RULE_ENGAGEMENT} END AS engagement,
    coalesce((SELECT json_agg(json_build_object('place', x.place, 'effect', x.effect, 'state', x.state, 'said', x.said, 'changeId', x.change_id) ORDER BY x.place)
      FROM rule_effect x WHERE x.run_id = r.id), '[]') AS effects
  FROM rule_run r JOIN event v ON v.id = r.event_id JOIN rule u ON u.id = r.rule_id
  LEFT JOIN account a ON a.id = v.account_id LEFT JOIN person w ON w.id = a.person_id LEFT JOIN contact k ON k.id = a.contact_id
  LEFT JOIN engagement e ON e.id = r.engagement_id LEFT JOIN client c ON c.id = e.client_id`;

/** A run and those at the events it led to, however far behind it. */
const FOLLOWING = (run: string): string => `
  WITH RECURSIVE tree AS (SELECT ${run}::uuid AS id UNION SELECT f.id FROM tree JOIN event x ON x.run_id = tree.id JOIN rule_run f ON f.event_id = x.id) SELECT id FROM tree`;

interface Row {
  readonly id: string;
  readonly eventId: string;
  readonly at: Date;
  readonly state: RunState;
  readonly why: HeldWhy | null;
  readonly condition: number | null;
  readonly kind: EventKind;
  readonly subject: string;
  readonly facts: Readonly<Record<string, unknown>>;
  readonly causedBy: string | null;
  readonly by: string | null;
  readonly rule: RunLine['rule'] & { readonly content: RuleContent };
  readonly engagement: RuleEngagement | null;
  readonly effects: readonly {
    readonly place: number;
    readonly effect: Effect;
    readonly state: EffectState;
    readonly said: string;
    readonly changeId: string | null;
  }[];
}

/** The log of rules: each run with its cause and what came of it, and why others were held. */
@Injectable()
export class ReadRuns {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  async page(who: Who, query: RunsQuery): Promise<RunPage> {
    const values: unknown[] = [who.agencyId];
    const conditions = ['r.agency_id = $1'];
    const also = (condition: (place: string) => string, value: unknown): void => {
      if (value === undefined) return;
      values.push(value);
      conditions.push(condition(`$${values.length}`));
    };
    also((place) => `r.rule_id = ${place}`, query.ruleId);
    also((place) => `r.engagement_id = ${place}`, query.engagementId);
    also((place) => `r.state = ${place}`, query.state);
    also((place) => `r.id IN (${FOLLOWING(place)})`, query.runId);
    also((place) => `r.event_id < ${place}::bigint`, query.before);
    // Pages end between events, so that none is cut in two.
    const sql = `WITH page AS (SELECT r.event_id FROM rule_run r WHERE ${conditions.join(' AND ')} ORDER BY r.event_id DESC LIMIT ${PAGE + 1})
      ${RUNS} WHERE ${conditions.join(' AND ')} AND r.event_id IN (SELECT event_id FROM page) ORDER BY r.event_id DESC, r.position, r.id`;
    const rows = await this.database.rows<Row>(sql, values);
    const isMore = rows.length > PAGE;
    const last = rows[PAGE]?.eventId;
    const shown = isMore && rows[0]?.eventId !== last ? rows.filter(({ eventId }) => eventId !== last) : rows;
    return {
      runs: shown.map(toLine),
      before: isMore ? (shown.at(-1)?.eventId ?? null) : null,
      names: await this.names(this.database.manager, who, shown),
    };
  }

  private names(manager: EntityManager, { agencyId }: Who, rows: readonly Row[]): Promise<RunPage['names']> {
    return readNames(manager, agencyId, [
      rows.map(({ rule }) => rule.content),
      rows.map(({ effects }) => effects.map(({ effect }) => effect)),
    ]);
  }
}

function toLine({ at, kind, subject, facts, by, effects, ...row }: Row): RunLine {
  const { id, rule, state, why, condition, engagement, causedBy } = row;
  return {
    ...{ id, at: at.toISOString(), rule, state, why, condition, engagement, causedBy },
    cause: { kind, about: aboutOf({ facts, subject }), by, at: at.toISOString() },
    effects: effects.map(({ effect, ...rest }) => ({ ...rest, then: thenOf(effect) })),
  };
}
