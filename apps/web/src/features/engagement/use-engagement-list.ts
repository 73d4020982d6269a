import { addDays } from '@crew/core';
import {
  can,
  ENGAGEMENT_ORDERS,
  matchesEngagement,
  orderEngagements,
  STANDINGS,
  type EngagementFilter,
  type EngagementOrder,
  type EngagementTrack,
} from '@crew/contract';
import { useSearchParams } from 'react-router';
import { useCrew, useEngagements } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';

const YEAR_DAYS = 365;

export const EVERYBODY = 'everybody';
export const MINE = 'mine';

/** What the address says of the list, by the names it has there; null leaves it out. */
export type ListWords = Partial<
  Record<'show' | 'years' | 'role' | 'text' | 'client' | 'lead' | 'phase' | 'standing' | 'sort', string | null>
>;

export type RoleRef = { readonly id: string; readonly name: string };

/** Whose turn is looked at: everybody's, one role's, or that of one's own roles, which is where members begin. */
function useTurn(role: string | null, isFinished: boolean) {
  const me = useWho();
  const { data: crew, error } = useCrew();
  const named = crew?.people.find((person) => person.id === me.personId)?.roles ?? [];
  const mine = (crew?.roles ?? []).filter((one) => named.includes(one.name));
  const chosen = role ?? (can(me, 'engagement.edit') ? EVERYBODY : MINE);
  const roles = chosen === MINE ? mine : (crew?.roles ?? []).filter((one) => one.id === chosen);
  const isAll = isFinished || chosen === EVERYBODY || (crew !== undefined && roles.length === 0);
  return {
    ...{ chosen, mine, all: crew?.roles, crewError: error },
    /** Null for everybody's; undefined until the roles are known. */
    roles: isAll ? null : crew === undefined ? undefined : roles,
  };
}

/** The list of engagements as its address says: whose turn, narrowed, in which order. */
export function useEngagementList() {
  const me = useWho();
  const [search, setSearch] = useSearchParams();
  const isFinished = search.get('show') === 'finished';
  const turn = useTurn(search.get('role'), isFinished);
  const filter = filterOf(search);
  // Who looks for something among the finished ones looks through all years.
  const since = isFinished && search.get('years') !== 'all' && !isNarrowed(filter) ? addDays(me.today, -YEAR_DAYS) : null;
  const { data: own, error } = useEngagements({
    ...{ isFinished, since },
    roleIds: turn.roles === null ? null : turn.roles?.map(({ id }) => id),
  });
  // Who begins with their own and has none sees the others: an empty page helps nobody.
  const isNoneMine = turn.roles !== null && turn.chosen === MINE && own?.length === 0;
  const { data: everybodys } = useEngagements({ isFinished, roleIds: isNoneMine ? null : undefined });
  const order = oneOf(ENGAGEMENT_ORDERS, search.get('sort')) ?? 'start';
  const change = (words: ListWords): void =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, word] of Object.entries(words))
          if (word === null || word === undefined || word === '') next.delete(name);
          else next.set(name, word);
        return next;
      },
      { replace: true },
    );
  return {
    ...turn,
    ...{ isFinished, since, isNoneMine, error: error ?? turn.crewError, filter, order, change },
    tracks: isNoneMine ? everybodys : own,
  };
}

function filterOf(search: URLSearchParams): EngagementFilter {
  const word = (name: string): string | undefined => search.get(name) ?? undefined;
  return {
    ...{ text: word('text'), clientId: word('client'), leadId: word('lead'), phase: word('phase') },
    standing: oneOf(STANDINGS, search.get('standing')),
  };
}

const oneOf = <Word extends string>(words: readonly Word[], typed: string | null): Word | undefined => words.find((word) => word === typed);

export const isNarrowed = (filter: EngagementFilter): boolean => Object.values(filter).some((word) => word !== undefined);

/** What of the list is shown, in its order; finished ones begin with the last. */
export function shownTracks(
  tracks: readonly EngagementTrack[],
  { filter, order, isFinished }: { readonly filter: EngagementFilter; readonly order: EngagementOrder; readonly isFinished: boolean },
): readonly EngagementTrack[] {
  const narrowed = tracks.filter((track) => matchesEngagement(track, filter));
  return orderEngagements(isFinished && order === 'start' ? narrowed.reverse() : narrowed, order);
}
