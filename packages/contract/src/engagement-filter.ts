import type { EngagementTrack, Standing, TrackPhase } from './answers/index.ts';
import { hasEveryWord } from './find-words.ts';

/** Which engagements a list shows; what is left out does not filter. */
export interface EngagementFilter {
  /** Words of its name, client, lead, phase or series. */
  readonly text?: string | undefined;
  readonly clientId?: string | undefined;
  readonly leadId?: string | undefined;
  /** The name of the phase it stands in. */
  readonly phase?: string | undefined;
  /** One of the reasons for where it stands. */
  readonly standing?: Standing['kind'] | undefined;
}

/** The reasons for where an engagement stands, the most urgent first. A week late or more comes before all of them. */
export const STANDINGS = [
  ...(['sent-back', 'not-picked-up', 'waiting-on-client', 'late', 'fixed-day-missed', 'overdue', 'likely-late', 'proposal'] as const),
  ...(['on-time', 'dropped', 'finished'] as const),
] satisfies readonly Standing['kind'][];

/** From this many working days on, being late is worse than anything that can be put right in a day. */
export const VERY_LATE_DAYS = 5;

/** By start, the promise that is next, the worst standing, or client. */
export const ENGAGEMENT_ORDERS = ['start', 'promise', 'standing', 'client'] as const;
export type EngagementOrder = (typeof ENGAGEMENT_ORDERS)[number];

/** The phase an engagement stands in: one that runs, else the next; undefined when all are over. */
export function phaseAt({ phases }: Pick<EngagementTrack, 'phases'>): TrackPhase | undefined {
  return phases.find(({ state }) => state === 'running') ?? phases.find(({ state }) => state === 'ahead');
}

/** Whether a list with this filter shows it. */
export function matchesEngagement(track: EngagementTrack, { text, clientId, leadId, phase, standing }: EngagementFilter): boolean {
  const at = phaseAt(track)?.name;
  return (
    (clientId === undefined || track.clientId === clientId) &&
    (leadId === undefined || track.lead.id === leadId) &&
    (phase === undefined || at === phase) &&
    (standing === undefined || track.standing.some(({ kind }) => kind === standing)) &&
    (text === undefined || hasEveryWord([track.name, track.client.name, track.lead.name, at, track.series?.name].join(' '), text))
  );
}

/** The engagements in another order; equal ones keep their order. By start they stay as they are. */
export function orderEngagements<Track extends EngagementTrack>(tracks: readonly Track[], order: EngagementOrder): readonly Track[] {
  const compare = COMPARE[order];
  return compare === null ? tracks : [...tracks].sort(compare);
}

type Compare = (one: EngagementTrack, other: EngagementTrack) => number;

const COMPARE: Readonly<Record<EngagementOrder, Compare | null>> = {
  start: null,
  promise: (one, other) => compareText(one.promise ?? NO_PROMISE, other.promise ?? NO_PROMISE),
  standing: (one, other) => urgencyOf(one) - urgencyOf(other) || daysOf(other) - daysOf(one),
  client: (one, other) => one.client.name.localeCompare(other.client.name, 'en') || compareText(one.start, other.start),
};

/** Sorts after every promise. */
const NO_PROMISE = '9999';

const compareText = (one: string, other: string): number => (one < other ? -1 : one > other ? 1 : 0);

const daysOf = ({ standing: [worst] }: EngagementTrack): number => ('days' in worst ? worst.days : 0);

function urgencyOf(track: EngagementTrack): number {
  const [{ kind }] = track.standing;
  return kind === 'late' && daysOf(track) >= VERY_LATE_DAYS ? -1 : STANDINGS.indexOf(kind);
}
