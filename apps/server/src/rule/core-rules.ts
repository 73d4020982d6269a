import type { Rule as CoreRule, RuleLevel } from '@crew/core';
import { compileContent, type RuleContent } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';

/** A rule as it stands in the tables, with where it is switched off. */
export interface RuleRow {
  readonly id: string;
  readonly agencyId: string;
  readonly level: RuleLevel;
  readonly templateId: string | null;
  readonly engagementId: string | null;
  readonly isOn: boolean;
  readonly onSince: Date;
  readonly content: RuleContent;
  readonly replacesId: string | null;
  readonly exceptions: readonly { readonly id: string; readonly templateId: string | null; readonly engagementId: string | null }[];
}

/** In the order in which they run: the agency's, those of templates, those of engagements, each as they were put in order. */
const RULES = `
  SELECT u.id, u.agency_id AS "agencyId", u.level, u.template_id AS "templateId", u.engagement_id AS "engagementId", u.is_on AS "isOn", u.on_since AS "onSince",
    u.content, u.replaces_id AS "replacesId",
    coalesce((SELECT json_agg(json_build_object('id', x.id, 'templateId', x.template_id, 'engagementId', x.engagement_id) ORDER BY x.id)
      FROM rule_exception x WHERE x.rule_id = u.id), '[]') AS exceptions
  FROM rule u WHERE u.agency_id = ANY($1::uuid[]) AND u.removed_at IS NULL
  ORDER BY array_position(ARRAY['agency', 'template', 'engagement'], u.level), u.position, u.id`;

export const readRuleRows = (manager: EntityManager, agencyIds: readonly string[]): Promise<RuleRow[]> =>
  rowsOf<RuleRow>(manager, RULES, [agencyIds]);

const placeOf = (templateId: string | null, engagementId: string | null): Pick<CoreRule, 'level' | 'template' | 'engagement'> => {
  if (templateId !== null) return { level: 'template', template: templateId };
  return engagementId === null ? { level: 'agency' } : { level: 'engagement', engagement: engagementId };
};

/**
 * A rule as the core runs it, with the exceptions to it: each is a rule that is off and stands instead of it
 * where it does not hold.
 */
export function coreRulesOf(row: RuleRow): CoreRule[] {
  const compiled = compileContent(row.content);
  return [
    coreRuleOf(row),
    ...row.exceptions.map((exception): CoreRule => ({
      ...placeOf(exception.templateId, exception.engagementId),
      ...{ id: exception.id, isOn: false, replaces: row.id, when: compiled.when, then: [] },
    })),
  ];
}

/** The rule alone. */
export const coreRuleOf = (row: Omit<RuleRow, 'agencyId' | 'exceptions' | 'onSince'>): CoreRule => ({
  ...placeOf(row.templateId, row.engagementId),
  ...{ id: row.id, isOn: row.isOn, ...compileContent(row.content) },
  ...(row.replacesId === null ? {} : { replaces: row.replacesId }),
});
