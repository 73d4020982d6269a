import { can } from '@crew/contract';
import { lazy, Suspense, useCallback } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { usePlan } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { useShown } from '../../session/use-shown.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Muted, Page, Push, WithSheet } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { phone } from '../../ui/tokens.ts';
import { ForecastSheet } from '../forecast/ForecastSheet.tsx';
import { useForecast } from '../forecast/use-forecast.ts';
import { HandoffSheet } from '../handoff/HandoffSheet.tsx';
import { HistorySheet } from '../history/HistorySheet.tsx';
import { ProposalPanel } from '../plan-change/ProposalPanel.tsx';
import { pinned } from '../plan-change/proposals.ts';
import { useProposal, type Proposing } from '../plan-change/use-proposal.ts';
import { TaskSheet } from '../task/TaskSheet.tsx';
import { useTaskEdit } from '../task/use-task-edit.ts';
import { ZOOM_WORDS, ZOOMS, type Zoom } from '../timeline/scale.ts';
import { AboutSheet } from './AboutSheet.tsx';
import { BulkPanel } from './BulkPanel.tsx';
import { Outline, type Gathering } from './Outline.tsx';
import { LibrarySheet } from './LibrarySheet.tsx';
import { NewsSheet } from './NewsSheet.tsx';
import { PlanHead } from './PlanHead.tsx';
import { placeTasks } from './place-tasks.ts';

/** Loaded when it is looked at. */
const Timeline = lazy(() => import('../timeline/Timeline.tsx').then((module) => ({ default: module.Timeline })));

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
/** Only one sheet is open beside the plan. */
const NO_SHEET = { task: null, handoff: null, news: null, library: null, about: null, forecast: null, history: null } as const;

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
  const isAbout = search.has('about') && can(me, 'engagement.edit');
  const isForecast = search.has('forecast');
  const isHistory = search.has('history');
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
        onHistory={() => show({ ...NO_SHEET, history: 'yes' })}
        forecasting={forecasting}
        onForecast={() => show({ ...NO_SHEET, forecast: 'yes' })}
      />
      <Page>
        <PlanBar view={view} zoom={zoom} gathering={gathering} hasDeliverables={plan.deliverables.length > 0} onShow={show} />
        <WithSheet
          $isOpen={isProposing || chosen.length > 0 || handoff !== null || isNews || isLibrary || isAbout || isForecast || isHistory}
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
                show({ task: taskIds.length === 0 ? null : taskIds.join(','), handoff: null, news: null, forecast: null, history: null })
              }
              onHandoff={(handoffId) => open({ handoff: handoffId })}
              onPlace={(placing) => void placeTasks(plan, placing)}
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
          {isProposing || !isHistory ? null : <HistorySheet plan={plan} onClose={() => show({ history: null })} />}
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
