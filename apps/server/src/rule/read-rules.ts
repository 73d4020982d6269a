import { Injectable } from '@nestjs/common';
import { checkRules, type RuleLevel } from '@crew/core';
import { EFFECT_MEANINGS, type RuleChoices, type RuleContent, type RuleException, type RuleLine, type RuleList } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { coreRuleOf } from './core-rules.ts';
import { readNames } from './rule-names.ts';

/** Engagement e with its client c, as rules name it. */
export const RULE_ENGAGEMENT = `json_build_object('id', e.id, 'name', e.name, 'hue', c.hue, 'client', c.name)`;

/** Rules of agency $1 with what they did since $2; those of engagements that are over are only in the log. */
const LINES = `
  SELECT u.id, u.version, u.level, u.is_on AS "isOn", u.replaces_id AS "replacesId", u.content,
    CASE WHEN k.id IS NOT NULL THEN json_build_object('id', k.id, 'name', k.name) END AS template,
    CASE WHEN e.id IS NOT NULL THEN ${RULE_ENGAGEMENT} END AS engagement,
    coalesce((SELECT json_agg(json_build_object('id', x.id, 'name', coalesce(xk.name, xe.name), 'of', CASE WHEN xk.id IS NULL THEN 'engagement' ELSE 'template' END) ORDER BY x.id)
      FROM rule_exception x LEFT JOIN template xk ON xk.id = x.template_id LEFT JOIN engagement xe ON xe.id = x.engagement_id WHERE x.rule_id = u.id), '[]') AS exceptions,
    ran.runs, ran.failed,
    (SELECT v.at FROM rule_run r JOIN event v ON v.id = r.event_id WHERE r.rule_id = u.id AND r.state <> 'held' ORDER BY r.event_id DESC LIMIT 1) AS "lastRunAt"
  FROM rule u LEFT JOIN template k ON k.id = u.template_id LEFT JOIN engagement e ON e.id = u.engagement_id LEFT JOIN client c ON c.id = e.client_id
  CROSS JOIN LATERAL (
    SELECT count(*)::int AS runs, (count(*) FILTER (WHERE r.state = 'failed'))::int AS failed
    FROM rule_run r JOIN event v ON v.id = r.event_id WHERE r.rule_id = u.id AND r.state <> 'held' AND v.at >= $2) ran
  WHERE u.agency_id = $1 AND u.removed_at IS NULL AND (e.id IS NULL OR e.state IN ('open', 'proposal'))
  ORDER BY array_position(ARRAY['agency', 'template', 'engagement'], u.level), k.name, e.name, e.id, u.position, u.id`;

interface Row extends Omit<RuleLine, 'lastRunAt' | 'exceptions' | 'content' | 'level'> {
  readonly level: RuleLevel;
  readonly content: RuleContent;
  readonly exceptions: readonly RuleException[];
  readonly lastRunAt: Date | null;
}

const OPEN_BY_TEMPLATE = `
  SELECT coalesce(json_object_agg(template_id, open), '{}') AS open FROM (
    SELECT template_id, count(*)::int AS open FROM engagement WHERE agency_id = $1 AND state IN ('open', 'proposal') AND template_id IS NOT NULL GROUP BY template_id) counted`;

const named = (sql: string): string =>
  `coalesce((SELECT json_agg(json_build_object('id', id, 'name', name) ORDER BY name) FROM (${sql}) x), '[]')`;
const texts = (sql: string): string => `ARRAY(SELECT DISTINCT text FROM (${sql}) x WHERE text <> '' ORDER BY text LIMIT 2000)`;

/** Phases, titles and labels are those of templates and of what runs. */
const CHOICES = `
  SELECT ${texts(`SELECT p.name AS text FROM template_phase p JOIN template k ON k.id = p.template_id WHERE k.agency_id = $1
      UNION ALL SELECT p.name FROM phase p JOIN engagement e ON e.id = p.engagement_id WHERE e.agency_id = $1 AND e.state IN ('open', 'proposal')`)} AS phases,
    ${texts(`SELECT q.title AS text FROM template_task q JOIN template_phase f ON f.id = q.phase_id JOIN template k ON k.id = f.template_id WHERE k.agency_id = $1
      UNION ALL SELECT t.title FROM task t JOIN engagement e ON e.id = t.engagement_id WHERE e.agency_id = $1 AND e.state IN ('open', 'proposal')`)} AS titles,
    ${texts(`SELECT unnest(t.labels) AS text FROM task t JOIN engagement e ON e.id = t.engagement_id WHERE e.agency_id = $1 AND e.state IN ('open', 'proposal')`)} AS labels,
    ${named('SELECT id, name FROM person WHERE agency_id = $1 AND is_active')} AS people,
    ${named('SELECT id, name FROM role WHERE agency_id = $1')} AS roles,
    ${named('SELECT id, name FROM client WHERE agency_id = $1')} AS clients,
    ${named(`SELECT id, name FROM template WHERE agency_id = $1 AND kind = 'engagement' AND NOT is_archived`)} AS templates,
    ${named(`SELECT id, name FROM template WHERE agency_id = $1 AND kind = 'task' AND NOT is_archived`)} AS "savedTasks",
    coalesce((SELECT json_agg(json_build_object('id', e.id, 'name', e.name, 'client', c.name) ORDER BY e.name)
      FROM engagement e JOIN client c ON c.id = e.client_id WHERE e.agency_id = $1 AND e.state IN ('open', 'proposal')), '[]') AS engagements,
    coalesce((SELECT json_agg(json_build_object('id', w.id, 'name', w.name) ORDER BY w.name) FROM webhook w WHERE w.agency_id = $1 AND w.removed_at IS NULL), '[]') AS webhooks,
    coalesce((SELECT json_agg(json_build_object('id', f.id, 'name', f.name, 'kind', f.kind, 'options', f.choices) ORDER BY f.name)
      FROM custom_field f WHERE f.agency_id = $1 AND NOT f.is_archived AND f.kind <> 'person'), '[]') AS fields`;

/** Rules as they are shown: with what they did, and what in them cannot be meant. */
@Injectable()
export class ReadRules {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async list({ agencyId }: Who): Promise<RuleList> {
    const { manager } = this.database;
    const [rules, open] = await Promise.all([
      this.lines(manager, agencyId),
      this.database.row<{ open: RuleList['openByTemplate'] }>(OPEN_BY_TEMPLATE, [agencyId]),
    ]);
    const findings = unwrap(checkRules({ rules: rules.map(toCore), effects: EFFECT_MEANINGS }));
    return {
      rules,
      findings,
      names: await readNames(
        manager,
        agencyId,
        rules.map(({ content }) => content),
      ),
      openByTemplate: open?.open ?? {},
    };
  }

  /** One rule, as the list has it. */
  async find(manager: EntityManager, agencyId: string, ruleId: string): Promise<RuleLine> {
    return requireFound(
      (await this.lines(manager, agencyId)).find(({ id }) => id === ruleId),
      'rule',
    );
  }

  async choices({ agencyId }: Who): Promise<RuleChoices> {
    return requireFound(await this.database.row<RuleChoices>(CHOICES, [agencyId]), 'agency');
  }

  private async lines(manager: EntityManager, agencyId: string): Promise<RuleLine[]> {
    const since = new Date(this.clock.now().getTime() - 30 * 86_400_000);
    const rows = await rowsOf<Row>(manager, LINES, [agencyId, since]);
    return rows.map((row) => ({ ...row, lastRunAt: row.lastRunAt?.toISOString() ?? null }));
  }
}

const toCore = ({ template, engagement, ...rule }: RuleLine) =>
  coreRuleOf({ ...rule, templateId: template?.id ?? null, engagementId: engagement?.id ?? null });
