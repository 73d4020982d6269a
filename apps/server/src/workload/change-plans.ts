import { addDays } from '@crew/core';
import { Injectable } from '@nestjs/common';
import { LOOK_AHEAD_DAYS, type ChangePlans as Input, type PlansChanged, type PlansTried } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ChangePlan } from '../plan-change/change-plan.ts';
import { tryOut } from '../platform/try-out.ts';
import { peopleTouched } from '../load/people-touched.ts';
import { loadWindow } from '../load/load-window.ts';
import { readLoadFacts } from '../load/load-facts.ts';

/**
 * Changes the plans of several engagements as one step: all or nothing, one undo for all. Answers
 * before and after for everybody whose load changes. The preview is the same work rolled back.
 */
@Injectable()
export class ChangePlans {
  private readonly database: Database;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.plans = plans;
    this.clock = clock;
  }

  run(who: Who, input: Input): Promise<PlansChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, input));
  }

  /** What it would do; nothing stays. */
  async preview(who: Who, input: Input): Promise<PlansTried> {
    const { effects, people } = await tryOut(this.database, (manager) => this.apply(manager, who, input));
    return { effects, people };
  }

  private async apply(manager: EntityManager, who: Who, input: Input): Promise<PlansChanged> {
    const ids = input.parts.map((part) => part.engagementId);
    if (new Set(ids).size < ids.length)
      throw new Refusal('invalid-input', 'An engagement is named twice. Give all its changes at once.', { field: 'parts' });
    const today = this.clock.today();
    await lockEngagements(manager, ids);
    const before = await readLoadFacts(manager, who.agencyId, { today, to: '9999-12-31', comingTo: addDays(today, LOOK_AHEAD_DAYS) });
    const taken: {
      readonly engagementId: string;
      readonly changed: PlansChanged['effects'][number]['effect'];
    }[] = [];
    for (const part of input.parts) {
      const { effect } = await this.plans.applyChanges(manager, who, part);
      taken.push({ engagementId: part.engagementId, changed: effect });
    }
    const after = await readLoadFacts(manager, who.agencyId, { today, to: '9999-12-31', comingTo: addDays(today, LOOK_AHEAD_DAYS) });
    const names = await namesOf(manager, ids);
    return {
      changeId: changeIdOf(manager),
      effects: taken.map(({ engagementId, changed }) => ({
        engagement: { id: engagementId, name: names.get(engagementId) ?? '' },
        effect: changed,
      })),
      people: peopleTouched({ before, after: after.tasks, today, window: loadWindow(input, today) }),
    };
  }
}

async function namesOf(manager: EntityManager, ids: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const rows = await rowsOf<{ id: string; name: string }>(manager, 'SELECT id, name FROM engagement WHERE id = ANY($1)', [ids]);
  return new Map(rows.map((row) => [row.id, row.name]));
}
