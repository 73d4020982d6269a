import type { EngagementPlan } from '@crew/contract';
import { useCallback, lazy, Suspense } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { usePlan } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { useShown } from '../../session/use-shown.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Muted, Page, Push, WithSheet } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { phone } from '../../ui/tokens.ts';
import { useForecast } from '../forecast/use-forecast.ts';
import { ProposalPanel } from '../plan-change/ProposalPanel.tsx';
import { pinned } from '../plan-change/proposals.ts';
import { useProposal, type Proposing } from '../plan-change/use-proposal.ts';
import { useTaskEdit } from '../task/use-task-edit.ts';
import { ZOOM_WORDS, ZOOMS, type Zoom } from '../timeline/scale.ts';
import type { Gathering } from './outline-headings.ts';
import { Outline } from './Outline.tsx';
import { PlanHead } from './PlanHead.tsx';
import { chosenIn, isChoosing, PLAN_SHEETS, sheetOfChosen } from './plan-sheets.ts';
import { PlanSheets, type PlanViewProps } from './PlanSheets.tsx';
import { placeTasks } from './place-tasks.ts';

/** Loaded when it is looked at. */
const Timeline = lazy(() => import('../timeline/Timeline.tsx').then((module) => ({ default: module.Timeline })));

const ScreenOnly = styled.span`
  display: contents;
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
/** One engagement: where it stands, its plan, and a sheet beside it. */
export function PlanPage() {
  const { id = '' } = useParams();
  const { data: plan, error } = usePlan(id);
  if (error) return <Page>{<ErrorNote error={error} />}</Page>;
  if (plan === undefined) return <Page>{<Loading rows={14} />}</Page>;
  return <PlanBody plan={plan} />;
}

function PlanBody({ plan }: { readonly plan: EngagementPlan }) {
  const { today } = useWho();
  const [search, show] = useShown();
  const [sheet, openSheet] = useOpenSheet(PLAN_SHEETS);
  const openTask = useCallback((id: string): void => openSheet({ kind: 'task', id }), [openSheet]);
  const editing = useTaskEdit(today, openTask);
  const proposing = useProposal(plan.engagement.id);
  const forecasting = useForecast(plan.engagement.id);
  const view = search.get('view') === 'timeline' ? 'timeline' : 'outline';
  const gathering = search.get('by') === 'deliverable' ? 'deliverable' : 'phase';
  const zoom = ZOOMS.find((known) => known === search.get('zoom')) ?? 'weeks';
  const isProposing = proposing.proposal !== null;
  const context: PlanViewProps = { plan, sheet, editing, proposing, forecasting, onOpen: openSheet };
  return (
    <>
      <PlanHead plan={plan} today={today} isShort={view === 'timeline'} forecasting={forecasting} onOpen={openSheet} />
      <Page>
        <PlanBar view={view} zoom={zoom} gathering={gathering} hasDeliverables={plan.deliverables.length > 0} onShow={show} />
        <WithSheet $isOpen={isProposing || sheet !== null} {...(isProposing ? { $sheet: '300px' } : {})}>
          {view === 'timeline' ? <AlongTime {...context} zoom={zoom} /> : <AsOutline {...context} gathering={gathering} />}
          {isProposing ? <ProposalPanel proposing={proposing} more={<KeepThere proposing={proposing} />} /> : <PlanSheets {...context} />}
        </WithSheet>
      </Page>
    </>
  );
}

function AlongTime({ plan, sheet, proposing, forecasting, onOpen, zoom }: PlanViewProps & { readonly zoom: Zoom }) {
  const { today } = useWho();
  const [task, another] = chosenIn(sheet);
  return (
    <Suspense fallback={<Loading rows={14} />}>
      <Timeline
        plan={plan}
        today={today}
        zoom={zoom}
        forecast={forecasting === undefined || forecasting.isStale ? null : forecasting.forecast}
        proposing={proposing}
        openTask={another === undefined ? (task ?? null) : null}
        onOpen={(id) => onOpen({ kind: 'task', id })}
      />
    </Suspense>
  );
}

function AsOutline({ plan, sheet, editing, proposing, onOpen, gathering }: PlanViewProps & { readonly gathering: Gathering }) {
  const { today } = useWho();
  return (
    <Outline
      plan={plan}
      today={today}
      editing={editing}
      gathering={gathering}
      chosen={chosenIn(sheet)}
      isChoosing={isChoosing(sheet)}
      onChoose={(ids, isByBox) => onOpen(sheetOfChosen(ids, isByBox))}
      onHandoff={(id) => onOpen({ kind: 'handoff', id })}
      onPlace={(placing) => void placeTasks(plan, placing, proposing.propose)}
    />
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
      <ScreenOnly data-screen-only>
        <Segmented
          label="View"
          parts={[
            { id: 'outline', name: 'Outline' },
            { id: 'timeline', name: 'Timeline' },
          ]}
          value={view}
          onChange={(next) => onShow({ view: next === 'outline' ? null : next })}
        />
        {view === 'outline' && hasDeliverables ? (
          <Segmented
            label="Group by"
            parts={[
              { id: 'phase', name: 'By phase' },
              { id: 'deliverable', name: 'By deliverable' },
            ]}
            value={gathering}
            onChange={(next) => onShow({ by: next === 'phase' ? null : next })}
          />
        ) : null}
      </ScreenOnly>
      <Push />
      {view === 'timeline' ? (
        <>
          <Muted className="wide">
            heavy edge = longest chain · pale tail = slack · thin line below = baseline · pale band = likely to safe
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
  return fixed === null ? null : <Button onPress={() => proposing.propose(fixed)}>Fix to this date</Button>;
}
