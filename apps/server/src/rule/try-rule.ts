import { Injectable } from '@nestjs/common';
import { runRules, type Effect, type RuleEvent } from '@crew/core';
import {
  conditionsInWhen,
  type RuleEngagement,
  type RuleThen,
  type RuleTrial,
  type Somebody,
  type ThenKind,
  type TriedEvent,
  type TryRule as Input,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { Refusal, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { coreRulesOf, readRuleRows, type RuleRow } from './core-rules.ts';
import { readPast, type PastEvent } from './past-events.ts';
import { findPeople } from './places.ts';
import { markOf, readCalendar } from './reach-marks.ts';
import { RULE_ENGAGEMENT } from './read-rules.ts';
import { readNames, refuseUnknownIds, requirePlace } from './rule-names.ts';

/** So many events are answered one by one; all are counted. */
const MOST_SHOWN = 50;

/** A rule that is not saved has an id of its own while it is tried. */
const TRIED = '00000000-0000-0000-0000-000000000001';

/** What a rule answers at one event of the past. */
interface Answered {
  readonly event: PastEvent;
  readonly held: TriedEvent['held'];
  readonly effects: readonly Effect[];
}

/**
 * What a rule would have done at events of the past: asked of the core as in the live run, beside the other
 * rules that stand. Nothing is written, told or sent.
 */
@Injectable()
export class TryRule {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(who: Who, input: Input): Promise<RuleTrial> {
    const { manager } = this.database;
    const { agencyId } = who;
    await refuseUnknownIds(manager, agencyId, input.content);
    await requirePlace(manager, who, input);
    if (input.ruleId !== undefined && input.ruleId === input.replacesId)
      throw new Refusal('invalid-input', 'A rule cannot replace itself. Choose another one.', { field: 'replacesId' });
    const since = new Date(this.clock.now().getTime() - input.days * 86_400_000);
    const calendar = await readCalendar(manager, agencyId);
    const events = await readPast(manager, input.content, { agencyId, since, today: this.clock.today(), calendar });
    const answered = await this.ask(manager, who, { input, events });
    const shown = answered.slice(0, MOST_SHOWN);
    const engagements = await readEngagements(
      manager,
      shown.map(({ event }) => event.engagementId),
    );
    return {
      days: input.days,
      runs: answered.filter(({ held }) => held === null).length,
      held: answered.filter(({ held }) => held !== null).length,
      events: await Promise.all(shown.map((one) => toTried(manager, agencyId, { one, engagements }))),
      names: await readNames(manager, agencyId, [input.content, shown.map(({ effects }) => effects)]),
      isFromPlan: markOf(input.content) !== null,
    };
  }

  private async ask(
    manager: EntityManager,
    { agencyId }: Who,
    { input, events }: { readonly input: Input; readonly events: readonly PastEvent[] },
  ): Promise<Answered[]> {
    const others = (await readRuleRows(manager, [agencyId])).filter(({ id }) => id !== input.ruleId);
    const saved = (await readRuleRows(manager, [agencyId])).find(({ id }) => id === input.ruleId);
    const rules = [...others.flatMap(coreRulesOf), ...coreRulesOf(toRow(input, agencyId, saved))];
    const id = input.ruleId ?? TRIED;
    const before = conditionsInWhen(input.content);
    return events.flatMap((event): Answered[] => {
      const asked: RuleEvent = { id: event.id, kind: event.kind, subject: event.subjectId, facts: event.facts };
      const { run, held } = unwrap(runRules({ event: asked, rules }));
      const found = run.find(({ rule }) => rule === id);
      if (found !== undefined) return [{ event, held: null, effects: found.effects }];
      const why = held.find(({ rule }) => rule === id);
      const condition = why?.at === undefined ? null : why.at - before;
      // What its "when" asks is no condition that somebody wrote.
      if (why === undefined || (condition !== null && condition < 0)) return [];
      return [{ event, held: { why: why.why, condition }, effects: [] }];
    });
  }
}

/** The rule as it would stand; it is tried as if it were on. */
const toRow = (input: Input, agencyId: string, saved: RuleRow | undefined): RuleRow => ({
  ...{ id: input.ruleId ?? TRIED, agencyId, level: input.level },
  templateId: input.level === 'template' ? (input.templateId ?? null) : null,
  engagementId: input.level === 'engagement' ? (input.engagementId ?? null) : null,
  ...{ isOn: true, onSince: new Date(0), content: input.content, replacesId: input.replacesId ?? null },
  exceptions: saved?.exceptions ?? [],
});

async function readEngagements(manager: EntityManager, ids: readonly (string | null)[]): Promise<ReadonlyMap<string, RuleEngagement>> {
  const sql = `SELECT ${RULE_ENGAGEMENT} AS engagement FROM engagement e JOIN client c ON c.id = e.client_id WHERE e.id = ANY($1::uuid[])`;
  const rows = await rowsOf<{ engagement: RuleEngagement }>(manager, sql, [[...new Set(ids.filter((id) => id !== null))]]);
  return new Map(rows.map(({ engagement }) => [engagement.id, engagement]));
}

async function toTried(
  manager: EntityManager,
  agencyId: string,
  { one: { event, held, effects }, engagements }: { readonly one: Answered; readonly engagements: ReadonlyMap<string, RuleEngagement> },
): Promise<TriedEvent> {
  return {
    at: event.at,
    engagement: engagements.get(event.engagementId ?? '') ?? null,
    about: aboutOf(event),
    by: event.by,
    held,
    effects: await Promise.all(
      effects.map(async (effect) => ({ then: thenOf(effect), whom: await whomOf(manager, agencyId, { event, effect }) })),
    ),
  };
}

/** An effect as the sentence of it is made from. */
export function thenOf({ do: kind, ...slots }: Effect): RuleThen {
  return { do: kind as ThenKind, slots: slots as RuleThen['slots'] };
}

/** What an event is about, in a word or two. */
export function aboutOf({ facts, subject }: { readonly facts: Readonly<Record<string, unknown>>; readonly subject: string }): string {
  const name =
    facts['task'] ?? (subject === 'engagement' ? facts['engagementName'] : (facts['name'] ?? facts['phase'] ?? facts['engagementName']));
  return typeof name === 'string' ? name : '';
}

/** Whom an effect would concern as things stand now; empty where that is chosen when it runs. */
async function whomOf(
  manager: EntityManager,
  agencyId: string,
  { event, effect }: { readonly event: PastEvent; readonly effect: Effect },
): Promise<string[]> {
  const somebody = (effect['who'] ?? (effect.do === 'ask-decision' ? effect['whom'] : null)) as Somebody | null;
  if (somebody === null) return [];
  return (await findPeople(manager, event, { agencyId, somebody })).map(({ name }) => name);
}
