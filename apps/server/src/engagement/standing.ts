import { daysBetween, type IsoDay } from '@crew/core';
import { VERY_LATE_DAYS, type EngagementState, type EngagementTrack, type HandoffState, type Standing } from '@crew/contract';

/** The facts the standing is computed from. */
export interface StandingFacts {
  readonly state: EngagementState;
  readonly closedOn: IsoDay | null;
  readonly closedReason: string | null;
  readonly closedEnding: string | null;
  readonly finish: IsoDay;
  readonly lateDays: number;
  readonly missedDays: number;
  readonly overdue: number;
  readonly waitingTitle: string | null;
  readonly waitingSince: IsoDay | null;
  readonly promise: IsoDay | null;
  readonly forecast: EngagementTrack['forecast'];
  readonly flight: { readonly state: HandoffState; readonly since: string; readonly question: string | null } | null;
}

/** All reasons, the worst first: a week late or more, then what stops it, then a little late, then the rest. */
export function standingsOf(facts: StandingFacts, today: IsoDay): [Standing, ...Standing[]] {
  const on = facts.closedOn ?? facts.finish;
  if (facts.state === 'finished') return [{ kind: 'finished', on }];
  if (facts.state === 'dropped') return [{ kind: 'dropped', on, reason: facts.closedReason, ending: facts.closedEnding }];
  const isProposal = facts.state === 'proposal';
  const late: Standing[] = facts.lateDays > 0 && !isProposal ? [{ kind: 'late', days: facts.lateDays, finish: facts.finish }] : [];
  const isVeryLate = facts.lateDays >= VERY_LATE_DAYS;
  const [first = { kind: 'on-time' }, ...others]: Standing[] = [
    ...(isVeryLate ? late : []),
    ...inFlight(facts),
    ...(isProposal ? [{ kind: 'proposal' } as const] : []),
    ...waiting(facts, today),
    ...(isVeryLate ? [] : late),
    ...(facts.missedDays > 0 ? [{ kind: 'fixed-day-missed', days: facts.missedDays } as const] : []),
    ...(facts.overdue > 0 ? [{ kind: 'overdue', tasks: facts.overdue } as const] : []),
    ...(late.length === 0 && !isProposal ? likelyLate(facts) : []),
  ];
  return [first, ...others];
}

function inFlight({ flight }: StandingFacts): Standing[] {
  if (flight?.state === 'sent-back') return [{ kind: 'sent-back', since: flight.since, question: flight.question ?? '' }];
  return flight?.state === 'handed-off' ? [{ kind: 'not-picked-up', since: flight.since }] : [];
}

function likelyLate({ promise, forecast }: StandingFacts): Standing[] {
  return promise !== null && forecast !== null && forecast.likely > promise ? [{ kind: 'likely-late', likely: forecast.likely }] : [];
}

function waiting({ waitingTitle: title, waitingSince: since }: StandingFacts, today: IsoDay): Standing[] {
  if (title === null || since === null) return [];
  const days = daysBetween(since, today);
  return days > 0 ? [{ kind: 'waiting-on-client', title, days }] : [];
}
