import type { IsoDay } from '@crew/core';
import { can, type EngagementTrack } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { Explain } from '../explain/Explain.tsx';
import { DemoTour } from '../demo/DemoTour.tsx';
import { SetupList } from '../setup/SetupList.tsx';
import { useWho } from '../../session/session.tsx';
import { Baton, BATON_WORDS } from '../../ui/Baton.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Legend, Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, Push } from '../../ui/layout.tsx';
import { LongList } from '../../ui/LongList.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { count, hours, shortDay } from '../../words/format.ts';
import { MonthTicks, TrackHead } from './track-list.tsx';
import { EngagementFilters, NarrowedWords } from './EngagementFilters.tsx';
import { foldSeries, type TrackListRow } from './fold-series.ts';
import { SeriesTrackRow } from './SeriesTrackRow.tsx';
import { TrackRow } from './TrackRow.tsx';
import { EVERYBODY, isNarrowed, MINE, shownTracks, useEngagementList, type RoleRef } from './use-engagement-list.ts';
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

/** Every engagement as a track along the same time; by role, the engagements that wait for it. */
export function EngagementsPage() {
  const list = useEngagementList();
  const { tracks, roles } = list;
  return (
    <Page>
      <ListHead list={list} />
      <DemoTour />
      {list.error ? (
        <ErrorNote error={list.error} />
      ) : tracks === undefined || roles === undefined ? (
        <Loading rows={12} />
      ) : (
        <FoundTracks list={list} tracks={tracks} roles={roles} />
      )}
    </Page>
  );
}

type List = ReturnType<typeof useEngagementList>;
type Roles = readonly RoleRef[] | null;

const namesOf = (roles: Roles | undefined): string | null => roles?.map(({ name }) => name).join(' or ') ?? null;

function ListHead({ list }: { readonly list: List }) {
  const me = useWho();
  const { isFinished, tracks, roles, filter, change } = list;
  return (
    <PageHead>
      <h1>Engagements</h1>
      <Explain word="track" />
      {tracks === undefined || roles === undefined ? null : (
        <Muted>
          {isNarrowed(filter) ? (
            <NarrowedWords
              {...{ filter, onChange: change }}
              shown={rowsOf(shownTracks(tracks, list), roles).length}
              all={rowsOf(tracks, roles).length}
            />
          ) : (
            headWords(tracks, { ...list, named: namesOf(roles) })
          )}
        </Muted>
      )}
      <Push />
      {isFinished ? null : <WhoseTurn all={list.all} mine={list.mine} value={list.chosen} onChange={(role) => change({ role })} />}
      <Segmented
        label="Which engagements"
        parts={[
          { id: 'open', name: 'Open' },
          { id: 'finished', name: 'Finished' },
        ]}
        value={isFinished ? 'finished' : 'open'}
        onChange={(id) => change({ show: id === 'finished' ? id : null, years: null, standing: null, phase: null })}
      />
      <ButtonLink href="/engagements/repeating">Repeating work</ButtonLink>
      {can(me, 'engagement.edit') ? (
        <ButtonLink kind="primary" href="/engagements/start">
          Start an engagement
        </ButtonLink>
      ) : null}
    </PageHead>
  );
}

interface FoundProps {
  readonly list: List;
  readonly tracks: readonly EngagementTrack[];
  readonly roles: Roles;
}

/** The filters with their results, and what they hide. */
function FoundTracks({ list, tracks, roles }: FoundProps) {
  const { today } = useWho();
  const { isFinished, isNoneMine, filter, change, since } = list;
  const rows = rowsOf(shownTracks(tracks, list), roles, tracks);
  const named = namesOf(roles);
  return (
    <>
      {tracks.length < FEW ? null : <EngagementFilters tracks={tracks} filter={filter} order={list.order} onChange={change} />}
      {rows.length === 0 && tracks.length > 0 ? (
        <Panel>
          <Empty title="No engagement matches.">
            <NarrowedWords filter={filter} shown={0} all={rowsOf(tracks, roles).length} onChange={change} />
          </Empty>
        </Panel>
      ) : (
        <Tracks tracks={tracks} rows={rows} today={today} isFinished={isFinished} role={named} />
      )}
      {since === null ? null : (
        <Muted>
          Closed before {shortDay(since, today)} is not shown.{' '}
          <Button kind="quiet" onPress={() => change({ years: 'all' })}>
            Show all years
          </Button>
        </Muted>
      )}
      {roles === null || isNoneMine || tracks.length === 0 ? null : (
        <Muted>
          Only engagements waiting for {named} are shown. <Link href="/engagements?role=everybody">See all engagements</Link>
        </Muted>
      )}
    </>
  );
}

/** Fewer than these need no filters. */
const FEW = 2;

/**
 * With a role chosen each engagement is listed by itself, because there is something to do in it. A
 * series lists all its open engagements.
 */
function rowsOf(shown: readonly EngagementTrack[], roles: Roles, all: readonly EngagementTrack[] = shown): readonly TrackListRow[] {
  return roles === null ? foldSeries(shown, all) : shown.map((track) => ({ kind: 'one', track }));
}

interface HeadFacts {
  readonly isFinished: boolean;
  readonly isNoneMine: boolean;
  readonly chosen: string;
  readonly named: string | null;
}

function headWords(tracks: readonly EngagementTrack[], { isFinished, isNoneMine, chosen, named }: HeadFacts): string {
  if (named === null) return summaryWords(tracks, isFinished);
  if (isNoneMine) return `Nothing is waiting for ${named} now; others have these`;
  return `${count(tracks.length, 'engagement')} where it is ${chosen === MINE ? 'your' : 'their'} turn`;
}

interface TurnProps {
  readonly all: readonly RoleRef[] | undefined;
  readonly mine: readonly RoleRef[];
  readonly value: string;
  readonly onChange: (id: string) => void;
}

const TurnChoice = styled.div`
  width: 190px;
`;

/** Whose turn is shown. */
function WhoseTurn({ all, mine, value, onChange }: TurnProps) {
  const choices = all && [
    { id: EVERYBODY, name: 'Anyone’s turn' },
    ...(mine.length === 0 ? [] : [{ id: MINE, name: 'Mine', detail: mine.map(({ name }) => name).join(', ') }]),
    ...all.map(({ id, name }) => ({ id, name, detail: 'where it is this role’s turn' })),
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
  // A series counts as one open engagement, however many of it are created in advance.
  return [`${foldSeries(tracks).length - proposals} open`, ...(proposals > 0 ? [count(proposals, 'proposal')] : []), spent].join(' · ');
}

/** Nothing to show: what belongs here, and the next step. */
function NoTracks({ role, isFinished }: { readonly role: string | null; readonly isFinished: boolean }) {
  if (role !== null) {
    return (
      <Panel>
        <Empty title={`Nothing is waiting for ${role} now.`}>
          <p>Engagements appear here while a phase this role owns is running or is handed off to it.</p>
          <ButtonLink href="/engagements?role=everybody">See all engagements</ButtonLink>
        </Empty>
      </Panel>
    );
  }
  return (
    <>
      {isFinished ? null : <SetupList />}
      <Panel>
        <Empty title={isFinished ? 'No finished engagements yet.' : 'No open engagements.'}>
          {isFinished ? (
            <p>Engagements appear here when their last phase is handed off.</p>
          ) : (
            <p>Start one from a template: it comes with phases, tasks and dates.</p>
          )}
        </Empty>
      </Panel>
    </>
  );
}

const keyOfRow = (row: TrackListRow): string => (row.kind === 'one' ? row.track.id : row.series.id);

function Tracks({
  tracks,
  rows,
  today,
  isFinished,
  role,
}: {
  readonly tracks: readonly EngagementTrack[];
  readonly rows: readonly TrackListRow[];
  readonly today: IsoDay;
  readonly isFinished: boolean;
  /** The role whose view it is; null for everybody's. */
  readonly role: string | null;
}) {
  if (tracks.length === 0) return <NoTracks role={role} isFinished={isFinished} />;
  const window = trackWindow(tracks, today, isFinished);
  return (
    <>
      <Panel>
        <TrackHead aria-hidden="true">
          <span>client · engagement · lead</span>
          <MonthTicks window={window} today={isFinished ? null : today} />
          <Indented>standing</Indented>
        </TrackHead>
        <LongList label="Engagements" items={rows} keyOf={keyOfRow} rowHeight={60}>
          {(row) =>
            row.kind === 'one' ? (
              <TrackRow track={row.track} today={today} scale={window.scale} isFinished={isFinished} />
            ) : (
              <SeriesTrackRow series={row.series} tracks={row.tracks} today={today} scale={window.scale} isFinished={isFinished} />
            )
          }
        </LongList>
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
          <LateKey /> planned past the promised date
        </span>
        <span>
          <LikelyKey /> likely past it, by the forecast
        </span>
      </Legend>
    </>
  );
}
