import { daysBetween, type IsoDay } from '@crew/core';
import type { EngagementState, HandoffState, Standing } from '@crew/contract';

/** The facts standing is told from. */
export interface StandingFacts {
  readonly state: EngagementState;
  readonly finish: IsoDay;
  readonly lateDays: number;
  readonly overdue: number;
  readonly waitingTitle: string | null;
  readonly waitingSince: IsoDay | null;
  readonly flight: { readonly state: HandoffState; readonly since: string; readonly question: string | null } | null;
}

const WEEK_DAYS = 5;

/** The one thing to say first: a week late or more, then what stops it, then a little late, then the rest. */
export function standingOf(facts: StandingFacts, today: IsoDay): Standing {
  if (facts.state === 'finished' || facts.state === 'dropped') return { kind: facts.state };
  if (facts.state !== 'proposal' && facts.lateDays >= WEEK_DAYS) return { kind: 'late', days: facts.lateDays, finish: facts.finish };
  if (facts.flight?.state === 'sent-back') return { kind: 'sent-back', since: facts.flight.since, question: facts.flight.question ?? '' };
  if (facts.flight?.state === 'handed-off') return { kind: 'not-picked-up', since: facts.flight.since };
  if (facts.state === 'proposal') return { kind: 'proposal' };
  if (facts.waitingTitle !== null && facts.waitingSince !== null) {
    const days = daysBetween(facts.waitingSince, today);
    if (days > 0) return { kind: 'waiting-on-client', title: facts.waitingTitle, days };
  }
  if (facts.lateDays > 0) return { kind: 'late', days: facts.lateDays, finish: facts.finish };
  if (facts.overdue > 0) return { kind: 'overdue', tasks: facts.overdue };
  return { kind: 'on-time' };
}
