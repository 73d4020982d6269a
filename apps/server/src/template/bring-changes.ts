import { Injectable } from '@nestjs/common';
import type { TemplateDifference } from '@crew/core';
import type { PlanChanged, PlanEffect, TemplateNews, TemplateNewsLine } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { tryOut } from '../platform/try-out.ts';
import { ChangePlan } from '../plan-change/change-plan.ts';
import { bringIn } from './bring-in.ts';
import { CompareVersions } from './compare-versions.ts';
import { addablePhases, hindranceOf, phaseNeeded } from './news-hindrance.ts';
import { ReadNews, type News } from './read-news.ts';

/** Brings chosen changes of a template into an engagement that began from an older version of it. */
@Injectable()
export class BringChanges {
  private readonly database: Database;
  private readonly reading: ReadNews;
  private readonly comparing: CompareVersions;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, reading: ReadNews, comparing: CompareVersions, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.reading = reading;
    this.comparing = comparing;
    this.plans = plans;
    this.clock = clock;
  }

  /** Template updates since the engagement began, and which of it can be brought in. */
  async read(who: Who, engagementId: string): Promise<TemplateNews> {
    const { manager } = this.database;
    const news = await this.reading.run(manager, who, engagementId);
    if (news === null) return { from: null, to: null, lines: [] };
    const lines = await this.comparing.describe(manager, who, news);
    return {
      from: news.from,
      to: news.to,
      lines: lines.map((line, index): TemplateNewsLine => ({
        ...line,
        needs: phaseNeeded(news.differences[index] as TemplateDifference, news),
        hindrance: hindranceOf(news.differences[index] as TemplateDifference, news, addablePhases(news)),
      })),
    };
  }

  /** Brings in the chosen ones, all or none; from then on the engagement counts as being of the newest version. */
  run(who: Who, engagementId: string, ids: readonly string[]): Promise<PlanChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, { engagementId, ids }));
  }

  /** What bringing them in would do; nothing stays. */
  async preview(who: Who, engagementId: string, ids: readonly string[]): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { engagementId, ids }))).effect;
  }

  private async apply(
    manager: EntityManager,
    who: Who,
    { engagementId, ids }: { readonly engagementId: string; readonly ids: readonly string[] },
  ): Promise<PlanChanged> {
    const open = await this.plans.open(manager, who, engagementId);
    const news = requireFound(await this.reading.run(manager, who, engagementId), 'newer version');
    const chosen = chooseFrom(news, ids);
    const changed = await bringIn(manager, who, { plans: this.plans, open, news, chosen, version: news.to });
    await record(manager, { actor: who, at: this.clock.now() }, [
      {
        ...{ kind: 'template-update-applied', engagementId, subject: 'engagement', subjectId: engagementId },
        payload: { templateId: news.templateId, name: news.after.name },
        changes: [{ field: 'templateVersion', from: news.from, to: news.to }],
      },
    ]);
    return changed;
  }
}

/** The differences of these ids; refuses unknown ones and what something hinders. */
function chooseFrom(news: News, ids: readonly string[]): TemplateDifference[] {
  const chosen = news.differences.filter((difference) => ids.includes(difference.id));
  if (chosen.length < new Set(ids).size)
    throw new Refusal('unknown-id', 'A change is not in the newest version any more. Read them again.', { field: 'ids' });
  const coming = new Set(chosen.filter(({ part, kind }) => part === 'phase' && kind === 'added').map(({ id }) => id));
  for (const difference of chosen) {
    const hindrance = hindranceOf(difference, news, coming);
    if (hindrance !== null) throw new Refusal('wrong-moment', `“${difference.name}” cannot be applied: ${hindrance}.`, { field: 'ids' });
  }
  return chosen;
}
