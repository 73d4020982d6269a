import { Injectable } from '@nestjs/common';
import { can, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { fieldsToSetBack, type EventToUndo, type UndoesOwn, type WentBack } from '../activity/undoable.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepRules, type RuleFields } from './keep-rules.ts';

export const RULE_KEPT_EVENTS: readonly EventKind[] = ['rule-added', 'rule-changed', 'rule-removed'];

/** Takes back what a change did to rules, by field. */
@Injectable()
export class UndoRules implements UndoesOwn {
  private readonly rules: KeepRules;
  constructor(rules: KeepRules) {
    this.rules = rules;
  }

  async run(manager: EntityManager, who: Who, events: readonly EventToUndo[]): Promise<WentBack> {
    if (!can(who, 'rule.edit')) throw new Refusal('not-allowed', 'Only a lead can undo this. Ask one of them.');
    const kept: WentBack['kept'][number][] = [];
    let isAny = false;
    for (const { subjectId, changes } of events) {
      const now = await this.rules.now(manager, who, subjectId);
      if (now === null) continue;
      const back = fieldsToSetBack<RuleFields>(now, changes);
      kept.push(...back.kept.map((field) => ({ subjectId, title: 'a rule', field })));
      isAny = isAny || Object.keys(back.fields).length > 0;
      await this.rules.set(manager, who, { now, fields: back.fields });
    }
    return { isAny, kept };
  }
}
