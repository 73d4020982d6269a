import type { IsoDay } from '@crew/core';
import { can, type EngagementTrack } from '@crew/contract';
import { Link } from 'react-aria-components';
import { useSearchParams } from 'react-router';
import styled from 'styled-components';
import { useCrew, useEngagements } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Baton, BATON_WORDS } from '../../ui/Baton.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Legend, Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, Push } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { count, hours } from '../../words/format.ts';
import { MonthTicks, TrackHead } from './track-list.tsx';
import { foldSeries } from './fold-series.ts';
import { SeriesTrackRow } from './SeriesTrackRow.tsx';
import { TrackRow } from './TrackRow.tsx';
import { trackWindow } from './window.ts';

const Indented = styled.span`
  padding-left: 14px;
`;

const TodayKey = styled.i`
  width: 2px;
  height: 13px;
  background: var(--ink);
`;

const LateKey = styled.i`
  width: 18px;
  height: 3px;
  background: var(--brick);
`;

const LikelyKey = styled(LateKey)`
  background: repeating-linear-gradient(90deg, var(--brick) 0 3px, transparent 3px 6px);
`;

const EVERYBODY = 'everybody';
const MINE = 'mine';

/** Whose turn is looked at: everybody's, one role's, or that of one's own roles, which is where members begin. */
function useTurn() {
  const me = useWho();
  const [search] = useSearchParams();
  const { data: crew } = useCrew();
  const isFinished = search.get('show') === 'finished';
  const named = crew?.people.find((person) => person.id === me.personId)?.roles ?? [];
  const mine = (crew?.roles ?? []).filter((role) => named.includes(role.name));
  const chosen = search.get('role') ?? (can(me, 'engagement.edit') ? EVERYBODY : MINE);
  const roles = chosen === MINE ? mine : (crew?.roles ?? []).filter((role) => role.id === chosen);
  const isAll = isFinished || chosen === EVERYBODY || (crew !== undefined && roles.length === 0);
  return {
    ...{ isFinished, chosen, mine, all: crew?.roles },
    /** Null for everybody's; undefined until the roles are known. */
    roles: isAll ? null : crew === undefined ? undefined : roles,
  };
}

/** Every engagement as a track along the same time; by role, what stands with it. */
export function EngagementsPage() {
  const me = useWho();
  const [, setSearch] = useSearchParams();
  const { isFinished, chosen, mine, all, roles } = useTurn();
  const ids = roles?.map(({ id }) => id);
  const { data: own, error } = useEngagements(isFinished, roles === null ? null : ids);
  // Who begins with their own and has none sees the others: an empty page helps nobody.
  const isNoneMine = roles !== null && chosen === MINE && own?.length === 0;
  const { data: everybodys } = useEngagements(isFinished, isNoneMine ? null : undefined);
  const tracks = isNoneMine ? everybodys : own;
  const named = roles?.map(({ name }) => name).join(' or ') ?? null;
  return (
    <Page>
      <PageHead>
        <h1>Engagements</h1>
        {tracks === undefined ? null : (
          <Muted>
            {roles === null
              ? summaryWords(tracks, isFinished)
              : isNoneMine
                ? `Nothing is the turn of ${named} now; these are with others`
                : `${count(tracks.length, 'engagement')} where it is ${chosen === MINE ? 'your' : 'their'} turn`}
          </Muted>
        )}
        <Push />
        {isFinished ? null : (
          <WhoseTurn all={all} mine={mine} value={chosen} onChange={(id) => setSearch({ role: id }, { replace: true })} />
        )}
        <Segmented
          label="Which engagements"
          parts={[
            { id: 'open', name: 'Open' },
            { id: 'finished', name: 'Finished' },
          ]}
          value={isFinished ? 'finished' : 'open'}
          onChange={(id) => setSearch(id === 'finished' ? { show: 'finished' } : {}, { replace: true })}
        />
        <ButtonLink href="/engagements/repeating">Repeating work</ButtonLink>
        {can(me, 'engagement.edit') ? (
          <ButtonLink kind="primary" href="/engagements/start">
            Start an engagement
          </ButtonLink>
        ) : null}
      </PageHead>
      {error ? (
        <ErrorNote error={error} />
      ) : tracks === undefined ? (
        <Loading rows={12} />
      ) : (
        <>
          <Tracks tracks={tracks} today={me.today} isFinished={isFinished} role={named} />
          {roles === null || isNoneMine || tracks.length === 0 ? null : (
            <Muted>
              Only what is the turn of {named} is here. <Link href="/engagements?role=everybody">See all engagements</Link>
            </Muted>
          )}
        </>
      )}
    </Page>
  );
}

interface TurnProps {
  readonly all: readonly RoleRef[] | undefined;
  readonly mine: readonly RoleRef[];
  readonly value: string;
  readonly onChange: (id: string) => void;
}
type RoleRef = { readonly id: string; readonly name: string };

const TurnChoice = styled.div`
  width: 190px;
`;

/** Whose turn is looked at. */
function WhoseTurn({ all, mine, value, onChange }: TurnProps) {
  const choices = all && [
    { id: EVERYBODY, name: 'Anyone’s turn' },
    ...(mine.length === 0 ? [] : [{ id: MINE, name: 'Mine', detail: mine.map(({ name }) => name).join(', ') }]),
    ...all.map(({ id, name }) => ({ id, name, detail: 'what stands with this role' })),
  ];
  return (
    <TurnChoice>
      <Choose label="Whose turn" isLabelHidden isTight choices={choices} value={value} onChange={onChange} />
    </TurnChoice>
  );
}

function summaryWords(tracks: readonly EngagementTrack[], isFinished: boolean): string {
  const sum = (pick: (track: EngagementTrack) => number): number => tracks.reduce((total, track) => total + pick(track), 0);
  const spent = `${hours(sum((track) => track.loggedMinutes))} of ${hours(sum((track) => track.effortMinutes))} h used`;
  const closed = tracks.filter(({ state }) => state === 'dropped').length;
  if (isFinished) return `${count(tracks.length - closed, 'engagement')} finished${closed === 0 ? '' : ` · ${closed} closed`} · ${spent}`;
  const proposals = tracks.filter((track) => track.state === 'proposal').length;
  // What repeats is one thing that is open, however many of it are made ahead.
  return [`${foldSeries(tracks).length - proposals} open`, ...(proposals > 0 ? [count(proposals, 'proposal')] : []), spent].join(' · ');
}

/** Nothing to show: what belongs here, and the way on. */
function NoTracks({ role, isFinished }: { readonly role: string | null; readonly isFinished: boolean }) {
  if (role !== null) {
    return (
      <Panel>
        <Empty title={`Nothing stands with ${role} now.`}>
          <p>An engagement is here while a phase this role owns runs, and when one is handed to it.</p>
          <ButtonLink href="/engagements?role=everybody">See all engagements</ButtonLink>
        </Empty>
      </Panel>
    );
  }
  return (
    <Panel>
      <Empty title={isFinished ? 'Nothing is finished yet.' : 'No engagement is open.'}>
        {isFinished ? (
          <p>An engagement comes here when its last phase is handed over.</p>
        ) : (
          <p>Start one from a template: it brings its phases, tasks and dates with it.</p>
        )}
      </Empty>
    </Panel>
  );
}

function Tracks({
  tracks,
  today,
  isFinished,
  role,
}: {
  readonly tracks: readonly EngagementTrack[];
  readonly today: IsoDay;
  readonly isFinished: boolean;
  /** The role whose view it is; null for everybody's. */
  readonly role: string | null;
}) {
  if (tracks.length === 0) return <NoTracks role={role} isFinished={isFinished} />;
  const window = trackWindow(tracks, today);
  // What stands with a role is one engagement each: there is something to do in it.
  const rows = role === null ? foldSeries(tracks) : tracks.map((track) => ({ kind: 'one', track }) as const);
  return (
    <>
      <Panel>
        <TrackHead aria-hidden="true">
          <span>client · engagement · lead</span>
          <MonthTicks window={window} today={isFinished ? null : today} />
          <Indented>standing</Indented>
        </TrackHead>
        <ul>
          {rows.map((row) =>
            row.kind === 'one' ? (
              <TrackRow key={row.track.id} track={row.track} today={today} scale={window.scale} isFinished={isFinished} />
            ) : (
              <SeriesTrackRow
                key={row.series.id}
                series={row.series}
                tracks={row.tracks}
                today={today}
                scale={window.scale}
                isFinished={isFinished}
              />
            ),
          )}
        </ul>
      </Panel>
      <Legend>
        {(['not-due', 'getting-ready', 'handed-off', 'picked-up', 'sent-back'] as const).map((state) => (
          <span key={state}>
            <Baton state={state} /> {BATON_WORDS[state]}
          </span>
        ))}
        <span>
          <TodayKey /> promised date
        </span>
        <span>
          <LateKey /> planned after the promise
        </span>
        <span>
          <LikelyKey /> likely after it, by the forecast
        </span>
      </Legend>
    </>
  );
}
