import type { EngagementPlan } from '@crew/contract';
import { lazy, Suspense, useCallback } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { refreshAll, usePlan } from '../../api/queries.ts';
import { mayLead, useWho } from '../../app/session.tsx';
import { useShown } from '../../app/use-shown.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Muted, Page, Push, WithSheet } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { notify } from '../../ui/toasts.tsx';
import { phone } from '../../ui/tokens.ts';
import { hours, shortDay } from '../../words/format.ts';
import { ForecastSheet } from '../forecast/ForecastSheet.tsx';
import { useForecast, type Forecasting } from '../forecast/use-forecast.ts';
import { standingWords, TONE_COLOUR } from '../../words/standing.ts';
import { HandoffSheet } from '../handoffs/HandoffSheet.tsx';
import { ProposalPanel } from '../replan/ProposalPanel.tsx';
import { pinned } from '../replan/proposals.ts';
import { useProposal, type Proposing } from '../replan/use-proposal.ts';
import { TaskSheet } from '../task/TaskSheet.tsx';
import { useTaskEdit } from '../task/use-task-edit.ts';
import { ZOOM_WORDS, ZOOMS, type Zoom } from '../timeline/scale.ts';
import { AboutSheet } from './AboutSheet.tsx';
import { BulkPanel } from './BulkPanel.tsx';
import { Outline, type Gathering } from './Outline.tsx';
import { LibrarySheet } from './LibrarySheet.tsx';
import { NewsSheet } from './NewsSheet.tsx';
import { PlanMenu } from './PlanMenu.tsx';
import { placeTasks } from './place-tasks.ts';
import { PlanTrack } from './PlanTrack.tsx';

/** Loaded when it is looked at. */
const Timeline = lazy(() => import('../timeline/Timeline.tsx').then((module) => ({ default: module.Timeline })));

const Head = styled.header`
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  padding: 12px 20px 14px;
  ${phone} {
    padding: 10px 12px 12px;
  }
`;
const HeadLine = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px 12px;
  margin-bottom: 12px;
  h1 {
    font-size: 21px;
  }
  small {
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;
const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  margin: -4px 0 12px;
  ${phone} {
    > .wide {
      display: none;
    }
  }
`;
const Foot = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin-top: 8px;
  font-size: 12px;
  color: var(--ink-2);
  strong {
    font-weight: 650;
  }
`;

/** Only one sheet is open beside the plan. */
const NO_SHEET = { task: null, handoff: null, news: null, library: null, about: null, forecast: null } as const;

/** One engagement: where it stands, its plan, and a sheet beside it. */
export function PlanPage() {
  const { id = '' } = useParams();
  const me = useWho();
  const { today } = me;
  const { data: plan, error } = usePlan(id);
  const [search, show] = useShown();
  const editing = useTaskEdit(today);
  const view = search.get('view') === 'timeline' ? 'timeline' : 'outline';
  const open = useCallback(
    (next: { task?: string; handoff?: string }) => show({ ...NO_SHEET, task: next.task ?? null, handoff: next.handoff ?? null }),
    [show],
  );
  const close = useCallback(() => show({ task: null, handoff: null }), [show]);
  const proposing = useProposal(id);
  const forecasting = useForecast(id);
  if (error) return <Page>{<ErrorNote error={error} />}</Page>;
  if (plan === undefined) return <Page>{<Loading rows={14} />}</Page>;
  const chosen = search.get('task')?.split(',') ?? [];
  const task = chosen.length === 1 ? (chosen[0] ?? null) : null;
  const handoff = search.get('handoff');
  const isNews = search.has('news');
  const isLibrary = search.has('library');
  const isAbout = search.has('about') && mayLead(me);
  const isForecast = search.has('forecast');
  const isProposing = proposing.proposal !== null;
  const gathering = search.get('by') === 'deliverable' ? 'deliverable' : 'phase';
  const zoom = ZOOMS.find((known) => known === search.get('zoom')) ?? 'weeks';
  return (
    <>
      <PlanHead
        plan={plan}
        today={today}
        isShort={view === 'timeline'}
        onHandoff={(handoffId) => open({ handoff: handoffId })}
        onNews={() => show({ ...NO_SHEET, news: 'yes' })}
        onLibrary={() => show({ ...NO_SHEET, library: 'yes' })}
        onAbout={() => show({ ...NO_SHEET, about: 'yes' })}
        forecasting={forecasting}
        onForecast={() => show({ ...NO_SHEET, forecast: 'yes' })}
      />
      <Page>
        <PlanBar view={view} zoom={zoom} gathering={gathering} hasDeliverables={plan.deliverables.length > 0} onShow={show} />
        <WithSheet
          $isOpen={isProposing || chosen.length > 0 || handoff !== null || isNews || isLibrary || isAbout || isForecast}
          {...(isProposing ? { $sheet: '300px' } : {})}
        >
          {view === 'timeline' ? (
            <Suspense fallback={<Loading rows={14} />}>
              <Timeline
                plan={plan}
                today={today}
                zoom={zoom}
                forecast={forecasting === undefined || forecasting.isStale ? null : forecasting.forecast}
                proposing={proposing}
                openTask={task}
                onOpen={(taskId) => open({ task: taskId })}
              />
            </Suspense>
          ) : (
            <Outline
              plan={plan}
              today={today}
              editing={editing}
              gathering={gathering}
              chosen={chosen}
              onChoose={(taskIds) =>
                show({ task: taskIds.length === 0 ? null : taskIds.join(','), handoff: null, news: null, forecast: null })
              }
              onHandoff={(handoffId) => open({ handoff: handoffId })}
              onPlace={(changes) => void placeTasks(id, changes)}
            />
          )}
          {isProposing ? <ProposalPanel proposing={proposing} more={<KeepThere proposing={proposing} />} /> : null}
          {isProposing || chosen.length < 2 ? null : (
            <BulkPanel
              plan={plan}
              chosen={plan.tasks.filter((candidate) => chosen.includes(candidate.id))}
              onPropose={proposing.propose}
              onClose={close}
            />
          )}
          {isProposing || task === null ? null : (
            <TaskSheet taskId={task} editing={editing} onClose={close} onOpen={(taskId) => open({ task: taskId })} />
          )}
          {isProposing || !isForecast || chosen.length > 0 ? null : (
            <ForecastSheet plan={plan} forecasting={forecasting} onClose={() => show({ forecast: null })} />
          )}
          {isProposing || !isAbout ? null : <AboutSheet plan={plan} onClose={() => show({ about: null })} />}
          {isProposing || !isLibrary ? null : <LibrarySheet plan={plan} onClose={() => show({ library: null })} />}
          {isProposing || !isNews ? null : <NewsSheet engagementId={id} onClose={() => show({ news: null })} />}
          {isProposing || handoff === null ? null : <HandoffSheet handoffId={handoff} onClose={close} />}
        </WithSheet>
      </Page>
    </>
  );
}

/** How the plan is looked at. */
function PlanBar({
  view,
  zoom,
  gathering,
  hasDeliverables,
  onShow,
}: {
  readonly view: 'outline' | 'timeline';
  readonly zoom: Zoom;
  readonly gathering: Gathering;
  readonly hasDeliverables: boolean;
  readonly onShow: (next: Readonly<Record<string, string | null>>) => void;
}) {
  return (
    <Bar>
      <span data-screen-only style={{ display: 'contents' }}>
        <Segmented
          label="Look at the plan as"
          parts={[
            { id: 'outline', name: 'Outline' },
            { id: 'timeline', name: 'Timeline' },
          ]}
          value={view}
          onChange={(next) => onShow({ view: next === 'outline' ? null : next })}
        />
        {view === 'outline' && hasDeliverables ? (
          <Segmented
            label="Gather by"
            parts={[
              { id: 'phase', name: 'By phase' },
              { id: 'deliverable', name: 'By deliverable' },
            ]}
            value={gathering}
            onChange={(next) => onShow({ by: next === 'phase' ? null : next })}
          />
        ) : null}
      </span>
      <Push />
      {view === 'timeline' ? (
        <>
          <Muted className="wide">
            heavy edge = longest chain · pale tail = slack · thin line below = as promised · pale band = likely to safe
          </Muted>
          <span data-screen-only>
            <Segmented
              label="Zoom"
              parts={ZOOMS.map((name) => ({ id: name, name: ZOOM_WORDS[name] }))}
              value={zoom}
              onChange={(next) => onShow({ zoom: next === 'weeks' ? null : next })}
            />
          </span>
        </>
      ) : null}
    </Bar>
  );
}

/** Another way to take a move: the day is fixed, and what cannot keep it is said. */
function KeepThere({ proposing }: { readonly proposing: Proposing }) {
  const fixed = proposing.proposal === null ? null : pinned(proposing.proposal);
  return fixed === null ? null : <Button onPress={() => proposing.propose(fixed)}>Fix it there</Button>;
}

function PlanHead({
  plan,
  today,
  isShort,
  onHandoff,
  onNews,
  onLibrary,
  onAbout,
  forecasting,
  onForecast,
}: {
  readonly plan: EngagementPlan;
  readonly today: string;
  /** Without the track and its figures, where the timeline shows them. */
  readonly isShort: boolean;
  readonly onHandoff: (id: string) => void;
  readonly onNews: () => void;
  readonly onLibrary: () => void;
  readonly onAbout: () => void;
  readonly forecasting: Forecasting | undefined;
  readonly onForecast: () => void;
}) {
  const { engagement, phases } = plan;
  const me = useWho();
  const standing = standingWords(engagement.standing, today);
  const flying = phases.find((phase) => phase.baton === 'handed-off' || phase.baton === 'sent-back');
  const running = flying ?? phases.find((phase) => phase.state === 'running' && phase.handoffId !== null);
  return (
    <Head>
      <HeadLine style={isShort ? { marginBottom: 6 } : undefined}>
        <HueMark $hue={engagement.client.hue} style={{ minHeight: 38 }} />
        <div>
          <small>{engagement.client.name}</small>
          <h1>{engagement.name}</h1>
        </div>
        <Push />
        <span>
          Now: <strong>{nowLine(plan)}</strong>
        </span>
        <PersonMark person={engagement.lead} />
        {engagement.state === 'proposal' && mayLead(me) ? <AcceptButton id={engagement.id} /> : null}
        {running === undefined || running.handoffId === null ? null : (
          <span data-screen-only>
            <Button onPress={() => onHandoff(running.handoffId as string)}>{handoffWords(running.name, running.baton)}</Button>
          </span>
        )}
        {mayLead(me) ? (
          <span data-screen-only>
            <PlanMenu plan={plan} onNews={onNews} onLibrary={onLibrary} onAbout={onAbout} />
          </span>
        ) : null}
      </HeadLine>
      {isShort ? null : <PlanTrack phases={phases} today={today} />}
      <Foot style={isShort ? { marginTop: 0 } : undefined}>
        <span>
          began <strong>{shortDay(engagement.start, today)}</strong>
        </span>
        <span>
          <strong>{engagement.percent} %</strong> of its effort done · {hours(engagement.loggedMinutes)} of{' '}
          {hours(engagement.effortMinutes)} h used
        </span>
        <PromiseWords promise={engagement.promise} today={today} {...(mayLead(me) ? { onOpen: onAbout } : {})} />
        <span>
          as planned, all done by <strong>{shortDay(engagement.finish, today)}</strong>
          {plan.baseline.finish === engagement.finish ? '' : `; the plan as promised said ${shortDay(plan.baseline.finish, today)}`}
        </span>
        {engagement.state === 'finished' ? null : <ForecastWords forecasting={forecasting} today={today} onOpen={onForecast} />}
        {engagement.template !== null && engagement.template.newest > engagement.template.version && mayLead(me) ? (
          <Button kind="quiet" onPress={onNews} style={{ minHeight: 0, padding: 0 }}>
            version {engagement.template.newest} of its template is there
          </Button>
        ) : null}
        <strong style={{ color: TONE_COLOUR[standing.tone] }}>
          {standing.text}
          {standing.reason === undefined ? '' : ` · ${standing.reason}`}
        </strong>
      </Foot>
    </Head>
  );
}

/** The promise where it is read; a lead opens it to promise another day. */
function PromiseWords({
  promise,
  today,
  onOpen,
}: {
  readonly promise: string | null;
  readonly today: string;
  readonly onOpen?: () => void;
}) {
  if (onOpen === undefined) {
    return promise === null ? null : (
      <span>
        promised <strong>{shortDay(promise, today)}</strong>
      </span>
    );
  }
  return (
    <Button kind="quiet" onPress={onOpen} style={{ minHeight: 0, padding: 0, fontSize: 'inherit' }}>
      {promise === null ? 'no day promised' : `promised ${shortDay(promise, today)}`}
    </Button>
  );
}

/** Likely and safe in a line; opens to what they are made of. What is shown of older facts says so. */
function ForecastWords({
  forecasting,
  today,
  onOpen,
}: {
  readonly forecasting: Forecasting | undefined;
  readonly today: string;
  readonly onOpen: () => void;
}) {
  const forecast = forecasting?.forecast ?? null;
  const words =
    forecast === null
      ? forecasting?.progress === null
        ? 'forecast…'
        : 'forecast is being computed…'
      : `likely ${shortDay(forecast.likely, today)}, safe ${shortDay(forecast.safe, today)}${forecasting?.isStale === true ? ' (being computed anew)' : ''}`;
  return (
    <Button kind="quiet" onPress={onOpen} style={{ minHeight: 0, padding: 0 }}>
      {words}
    </Button>
  );
}

/** The state line of the phase that runs, or what it waits for. */
function nowLine({ phases, engagement }: EngagementPlan): string {
  if (engagement.state === 'finished') return 'finished';
  const flying = phases.find((phase) => phase.baton === 'handed-off');
  if (flying !== undefined) return `${flying.name} handed off, waiting to be picked up`;
  return phases.find((phase) => phase.state === 'running')?.stateLine ?? 'not begun';
}

function handoffWords(phase: string, baton: string): string {
  if (baton === 'handed-off') return `See the handoff of ${phase}…`;
  return baton === 'sent-back' ? 'Answer the question…' : `Hand off ${phase}…`;
}

function AcceptButton({ id }: { readonly id: string }) {
  const accept = async (): Promise<void> => {
    try {
      await call('POST', `/engagements/${id}/accept`);
      await refreshAll();
      notify('The proposal is now open work and counts in full.');
    } catch (error) {
      notify(error instanceof Error ? error.message : 'This was not saved.', { tone: 'trouble' });
    }
  };
  return <Button onPress={() => void accept()}>The client said yes</Button>;
}
