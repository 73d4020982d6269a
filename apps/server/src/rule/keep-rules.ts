import { isDeepStrictEqual } from 'node:util';
import { Injectable } from '@nestjs/common';
import {
  ruleWords,
  type AddRule,
  type EditRule,
  type ExceptRule,
  type FieldChange,
  type RuleContent,
  type RuleSaved,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ReadRules } from './read-rules.ts';
import { ReachMarks } from './reach-marks.ts';
import { readNames, refuseMoreThanTasks, refuseUnknownIds, requirePlace } from './rule-names.ts';

/** What of a rule can be changed, and goes back by field. Exceptions are named as `template ID` or `engagement ID`. */
export interface RuleFields {
  readonly content: RuleContent;
  readonly isOn: boolean;
  readonly isRemoved: boolean;
  readonly exceptions: readonly string[];
}

/** A rule as a change needs it. */
export interface RuleNow extends RuleFields {
  readonly id: string;
  readonly version: number;
  readonly level: string;
  readonly templateId: string | null;
  readonly engagementId: string | null;
}

const NOW = `
  SELECT u.id, u.version, u.content, u.is_on AS "isOn", u.removed_at IS NOT NULL AS "isRemoved", u.level, u.template_id AS "templateId", u.engagement_id AS "engagementId",
    ARRAY(SELECT coalesce('template ' || x.template_id, 'engagement ' || x.engagement_id) FROM rule_exception x WHERE x.rule_id = u.id ORDER BY 1) AS exceptions
  FROM rule u WHERE u.id = $1 AND u.agency_id = $2`;

const OF_PLACE = 'agency_id = $1 AND level = $2 AND template_id IS NOT DISTINCT FROM $3 AND engagement_id IS NOT DISTINCT FROM $4';

const INSERT = `
  INSERT INTO rule (agency_id, level, template_id, engagement_id, content, is_on, replaces_id, on_since, position)
  SELECT $1, $2, $3, $4, $5, $6, $7, $8, coalesce((SELECT max(position) + 1 FROM rule WHERE ${OF_PLACE}), 0) RETURNING id`;

/** Rules are added, edited, put in order, switched off and removed; the agency is locked meanwhile. */
@Injectable()
export class KeepRules {
  private readonly database: Database;
  private readonly reading: ReadRules;
  private readonly marks: ReachMarks;
  private readonly clock: Clock;
  constructor(database: Database, reading: ReadRules, marks: ReachMarks, clock: Clock) {
    this.database = database;
    this.reading = reading;
    this.marks = marks;
    this.clock = clock;
  }

  add(who: Who, input: AddRule): Promise<RuleSaved> {
    return this.change(who, (manager) => this.addIn(manager, who, input));
  }

  /** As `add`, inside a transaction that has the agency to itself; answers the id. */
  async addIn(manager: EntityManager, who: Who, input: AddRule): Promise<string> {
    const { level, content, isOn = true, replacesId = null } = input;
    const place = await requirePlace(manager, who, input);
    await refuseUnknownIds(manager, who.agencyId, content);
    await refuseMoreThanTasks(manager, content);
    if (replacesId !== null) requireFound(await this.now(manager, who, replacesId), 'rule to replace');
    const row = await firstRow<{ id: string }>(manager, INSERT, [
      ...[who.agencyId, level, place.templateId, place.engagementId],
      ...[JSON.stringify(content), isOn, replacesId, this.clock.now()],
    ]);
    const { id } = requireFound(row, 'rule');
    await this.record(manager, who, { kind: 'rule-added', id, ...place, changes: [{ field: 'isRemoved', from: true, to: false }] });
    await this.marks.seed(manager, who.agencyId);
    return id;
  }

  /** Changes a rule; a stale version changes nothing and says how it is now. */
  edit(who: Who, id: string, input: EditRule): Promise<RuleSaved> {
    return this.change(who, async (manager) => {
      const now = await this.requireNow(manager, who, id);
      if (now.version !== input.version)
        throw new Refusal('changed-meanwhile', 'Somebody changed this rule since you opened it. Compare both versions and choose one.', {
          details: { current: await this.reading.find(manager, who.agencyId, id) },
        });
      if (input.beforeId !== undefined) await this.place(manager, who, { now, beforeId: input.beforeId });
      await this.set(manager, who, { now, fields: { ...pick(input, 'content'), ...pick(input, 'isOn') } });
      return id;
    });
  }

  /** Removes a rule; what it did stays in the log. */
  remove(who: Who, id: string): Promise<string | null> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      await this.set(manager, who, { now: await this.requireNow(manager, who, id), fields: { isRemoved: true } });
      return changeIdOf(manager);
    });
  }

  /** Switches a rule off for the engagements of a template, or for one engagement. */
  except(who: Who, id: string, { templateId, engagementId }: ExceptRule): Promise<RuleSaved> {
    return this.change(who, async (manager) => {
      const now = await this.requireNow(manager, who, id);
      const level = templateId === undefined ? 'engagement' : 'template';
      const place = await requirePlace(manager, who, {
        level,
        ...pick({ templateId }, 'templateId'),
        ...pick({ engagementId }, 'engagementId'),
      });
      const exception = place.templateId === null ? `engagement ${place.engagementId ?? ''}` : `template ${place.templateId}`;
      if (!now.exceptions.includes(exception))
        await this.set(manager, who, { now, fields: { exceptions: [...now.exceptions, exception].sort() } });
      return id;
    });
  }

  /** Switches a rule on there again. */
  removeException(who: Who, id: string, exceptionId: string): Promise<RuleSaved> {
    return this.change(who, async (manager) => {
      const now = await this.requireNow(manager, who, id);
      const found = await firstRow<{ name: string }>(
        manager,
        `SELECT coalesce('template ' || template_id, 'engagement ' || engagement_id) AS name FROM rule_exception WHERE id = $1 AND rule_id = $2`,
        [exceptionId, id],
      );
      const { name } = requireFound(found, 'exception');
      await this.set(manager, who, { now, fields: { exceptions: now.exceptions.filter((one) => one !== name) } });
      return id;
    });
  }

  /** A rule as it is now, removed or not; null when there is none. */
  now(manager: EntityManager, { agencyId }: Who, id: string): Promise<RuleNow | null> {
    return firstRow<RuleNow>(manager, NOW, [id, agencyId]);
  }

  /** Sets fields of a rule and records what differs. The agency is locked. */
  async set(
    manager: EntityManager,
    who: Who,
    { now, fields }: { readonly now: RuleNow; readonly fields: Partial<RuleFields> },
  ): Promise<void> {
    const changes = (Object.keys(fields) as (keyof RuleFields)[])
      .filter((field) => !isDeepStrictEqual(now[field], fields[field]))
      .map((field): FieldChange => ({ field, from: now[field], to: fields[field] }));
    if (changes.length === 0) return;
    const next = { ...now, ...fields };
    if (fields.content !== undefined) {
      await refuseUnknownIds(manager, who.agencyId, fields.content);
      await refuseMoreThanTasks(manager, fields.content);
    }
    await rowsOf(
      manager,
      `UPDATE rule SET content = $2, on_since = CASE WHEN $3 AND NOT is_on OR removed_at IS NOT NULL AND NOT $4 THEN $5 ELSE on_since END, is_on = $3,
         removed_at = CASE WHEN $4 THEN coalesce(removed_at, $5) END, version = version + 1 WHERE id = $1`,
      [now.id, JSON.stringify(next.content), next.isOn, next.isRemoved, this.clock.now()],
    );
    if (fields.exceptions !== undefined) await writeExceptions(manager, now.id, fields.exceptions);
    const kind = fields.isRemoved === true ? 'rule-removed' : 'rule-changed';
    await this.record(manager, who, { kind, id: now.id, engagementId: now.engagementId, changes });
    await this.marks.seed(manager, who.agencyId);
  }

  private async requireNow(manager: EntityManager, who: Who, id: string): Promise<RuleNow> {
    const now = await this.now(manager, who, id);
    return requireFound(now?.isRemoved === true ? null : now, 'rule');
  }

  private async place(
    manager: EntityManager,
    { agencyId }: Who,
    { now, beforeId }: { readonly now: RuleNow; readonly beforeId: string | null },
  ): Promise<void> {
    const sql = `SELECT id FROM rule WHERE ${OF_PLACE} AND removed_at IS NULL AND id <> $5 ORDER BY position, id`;
    const ids = (await rowsOf<{ id: string }>(manager, sql, [agencyId, now.level, now.templateId, now.engagementId, now.id])).map(
      (row) => row.id,
    );
    const at = beforeId === null ? ids.length : ids.indexOf(beforeId);
    if (at < 0)
      throw new Refusal('unknown-id', 'The rule it should come before applies elsewhere. Choose one from the same group.', {
        field: 'beforeId',
      });
    ids.splice(at, 0, now.id);
    await rowsOf(
      manager,
      'UPDATE rule SET position = v.place - 1 FROM unnest($1::uuid[]) WITH ORDINALITY AS v(id, place) WHERE rule.id = v.id',
      [ids],
    );
  }

  private change(who: Who, work: (manager: EntityManager) => Promise<string>): Promise<RuleSaved> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const id = await work(manager);
      return { rule: await this.reading.find(manager, who.agencyId, id), changeId: changeIdOf(manager) };
    });
  }

  private async record(
    manager: EntityManager,
    who: Who,
    event: {
      readonly kind: 'rule-added' | 'rule-changed' | 'rule-removed';
      readonly id: string;
      readonly engagementId: string | null;
      readonly changes: readonly FieldChange[];
    },
  ): Promise<void> {
    const { kind, id, engagementId, changes } = event;
    const now = requireFound(await this.now(manager, who, id), 'rule');
    const name = ruleWords(now.content, await readNames(manager, who.agencyId, now.content));
    await record(manager, { actor: who, at: this.clock.now() }, [
      { kind, engagementId, subject: 'rule', subjectId: id, changes, facts: { name } },
    ]);
  }
}

/** The field, if it is given. */
const pick = <Given extends object, Name extends keyof Given>(
  given: Given,
  name: Name,
): { [Key in Name]?: Exclude<Given[Key], undefined> } =>
  given[name] === undefined ? {} : ({ [name]: given[name] } as { [Key in Name]?: Exclude<Given[Key], undefined> });

/** Its exceptions as they are to be; those of deleted templates and engagements stay away. */
async function writeExceptions(manager: EntityManager, ruleId: string, exceptions: readonly string[]): Promise<void> {
  await rowsOf(
    manager,
    `DELETE FROM rule_exception WHERE rule_id = $1 AND NOT (coalesce('template ' || template_id, 'engagement ' || engagement_id) = ANY($2::text[]))`,
    [ruleId, exceptions],
  );
  await rowsOf(
    manager,
    `INSERT INTO rule_exception (rule_id, template_id, engagement_id)
     SELECT $1, k.id, e.id FROM unnest($2::text[]) x LEFT JOIN template k ON 'template ' || k.id = x LEFT JOIN engagement e ON 'engagement ' || e.id = x
     WHERE (k.id IS NULL) <> (e.id IS NULL) AND NOT EXISTS (SELECT 1 FROM rule_exception there WHERE there.rule_id = $1
       AND coalesce('template ' || there.template_id, 'engagement ' || there.engagement_id) = x)`,
    [ruleId, exceptions],
  );
}
