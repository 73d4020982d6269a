import type { IsoDay } from '@crew/core';
import { perform } from '../../session/perform.ts';
import { can, type ChangeMade, type EngagementPlan } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { Explain } from '../explain/Explain.tsx';
import { call } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Push } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { hours, shortDay } from '../../words/format.ts';
import type { Forecasting } from '../forecast/use-forecast.ts';
import { standingsWords, TONE_COLOUR } from '../../words/standing.ts';
import { PeopleHere } from '../presence/PeopleHere.tsx';
import { reopening } from './CloseSheet.tsx';
import { finishedWords } from './finished-words.ts';
import { FinishKey, FinishLine } from './FinishLine.tsx';
import { PlanMenu } from './PlanMenu.tsx';
import type { OnOpenSheet } from './plan-sheets.ts';
import { PlanTrack } from './PlanTrack.tsx';

const Head = styled.header`
  background: var(--panel);
  border-bottom: 1px solid var(--line);
  padding: 12px 20px 14px;
  ${phone} {
    padding: 10px 12px 12px;
  }
`;
const HeadLine = styled.div<{ $isShort: boolean }>`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px 12px;
  margin-bottom: ${({ $isShort }) => ($isShort ? 6 : 12)}px;
  h1 {
    font-size: 21px;
  }
  small {
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;
const Foot = styled.p<{ $isShort: boolean }>`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin-top: ${({ $isShort }) => ($isShort ? 0 : 8)}px;
  font-size: 12px;
  color: var(--ink-2);
  strong {
    font-weight: 650;
  }
`;

/** In a line of its own: what the figures above mean. */
const Standing = styled.strong`
  flex-basis: 100%;
`;

interface HeadProps {
  readonly plan: EngagementPlan;
  readonly today: IsoDay;
  /** Without the track, where the timeline shows it. */
  readonly isShort: boolean;
  readonly forecasting: Forecasting | undefined;
  readonly onOpen: OnOpenSheet;
}

/** The head of an engagement: client, standing, hours used, forecast, and what can be done with it as a whole. */
export function PlanHead({ plan, today, isShort, forecasting, onOpen }: HeadProps) {
  const { engagement } = plan;
  const me = useWho();
  const canEdit = can(me, 'engagement.edit');
  return (
    <Head>
      <HeadLine $isShort={isShort}>
        <HueMark $hue={engagement.client.hue} $height={38} />
        <div>
          <small>
            {can(me, 'client.read') ? (
              <Link href={`/clients/${engagement.clientId}`}>{engagement.client.name}</Link>
            ) : (
              engagement.client.name
            )}
          </small>
          <h1>{engagement.name}</h1>
        </div>
        <PeopleHere kind="engagement" id={engagement.id} />
        <Push />
        <span>
          Now: <strong>{nowLine(plan)}</strong>
        </span>
        <Explain word="state-line" />
        <PersonMark person={engagement.lead} />
        <HeadAction {...{ plan, onOpen }} />
        {canEdit ? (
          <span data-screen-only>
            <PlanMenu plan={plan} onOpen={onOpen} />
          </span>
        ) : null}
      </HeadLine>
      {isShort ? null : <PlanTrack phases={engagement.phases} today={today} />}
      <PlanFoot {...{ plan, today, isShort, forecasting, canEdit, onOpen }} />
    </Head>
  );
}

/** The next step of the engagement as a whole: accepting the proposal, a handoff, completing or reopening it. */
function HeadAction({ plan: { engagement, phases }, onOpen }: Pick<HeadProps, 'plan' | 'onOpen'>) {
  const canEdit = can(useWho(), 'engagement.edit');
  const { state } = engagement;
  if (state === 'finished') return null;
  if (state === 'dropped')
    return canEdit ? <Button onPress={() => void perform(reopening(engagement, engagement.version))}>Reopen</Button> : null;
  const flying = phases.find((phase) => phase.baton === 'handed-off' || phase.baton === 'sent-back');
  const running = flying ?? phases.find((phase) => phase.state === 'running' && phase.handoffId !== null);
  const isLast = flying === undefined && running !== undefined && running.id === phases.at(-1)?.id;
  return (
    <>
      {state === 'proposal' && canEdit ? (
        <>
          <AcceptButton id={engagement.id} />
          <Button onPress={() => onOpen({ kind: 'close' })}>Mark as declined…</Button>
        </>
      ) : null}
      {running === undefined || running.handoffId === null ? null : (
        <span data-screen-only>
          {isLast && canEdit && state === 'open' ? (
            <Button onPress={() => onOpen({ kind: 'complete' })}>Complete engagement…</Button>
          ) : (
            <Button onPress={() => onOpen({ kind: 'handoff', id: running.handoffId as string })}>
              {handoffWords(running.name, running.baton)}
            </Button>
          )}
        </span>
      )}
    </>
  );
}

/** Below the track: how much is done, the plan drawn against the promise, and the reasons. */
function PlanFoot({ plan, today, isShort, forecasting, canEdit, onOpen }: HeadProps & { readonly canEdit: boolean }) {
  const { engagement } = plan;
  const me = useWho();
  const standing = standingsWords(engagement.standing, today);
  const isOver = engagement.state === 'finished' || engagement.state === 'dropped';
  const forecast = can(me, 'forecast.use') ? (forecasting?.forecast ?? engagement.forecast) : null;
  return (
    <Foot $isShort={isShort}>
      <span>
        <strong>{engagement.percent} %</strong> of {can(me, 'engagement.open') ? 'its effort' : 'the effort of your tasks'} done ·{' '}
        {hours(engagement.loggedMinutes)} of {hours(engagement.effortMinutes)} h used
      </span>
      {isOver ? null : <FinishLine {...{ today, forecast, finish: engagement.finish, promise: engagement.promise }} />}
      {engagement.state === 'finished' ? (
        <strong>{finishedWords(plan, today)}</strong>
      ) : engagement.state === 'dropped' ? null : (
        <span>
          <FinishKey $of="plan" aria-hidden="true" />
          plan finishes <strong>{shortDay(engagement.finish, today)}</strong>
        </span>
      )}
      {isOver || !can(me, 'forecast.use') ? null : (
        <ForecastWords kept={engagement.forecast} forecasting={forecasting} today={today} onOpen={() => onOpen({ kind: 'forecast' })} />
      )}
      <PromiseWords promise={engagement.promise} today={today} {...(canEdit ? { onOpen: () => onOpen({ kind: 'about' }) } : {})} />
      {isOver ? null : <Explain word="likely" />}
      {canEdit && !isOver && engagement.template !== null && engagement.template.newest > engagement.template.version ? (
        <Button kind="text" onPress={() => onOpen({ kind: 'news' })}>
          template version {engagement.template.newest} is available
        </Button>
      ) : null}
      {engagement.state === 'finished' ? null : (
        <Standing style={{ color: TONE_COLOUR[standing.tone] }}>
          {standing.all}
          {standing.reason === undefined ? '' : ` · ${standing.reason}`}
        </Standing>
      )}
    </Foot>
  );
}

/** The promise where it is read; a lead opens it to promise another day. */
function PromiseWords({
  promise,
  today,
  onOpen,
}: {
  readonly promise: IsoDay | null;
  readonly today: IsoDay;
  readonly onOpen?: () => void;
}) {
  if (onOpen === undefined) {
    return promise === null ? null : (
      <span>
        <FinishKey $of="promise" aria-hidden="true" />
        promised <strong>{shortDay(promise, today)}</strong>
      </span>
    );
  }
  return (
    <Button kind="text" onPress={onOpen}>
      {promise === null ? null : <FinishKey $of="promise" aria-hidden="true" />}
      {promise === null ? 'no promised date' : `promised ${shortDay(promise, today)}`}
    </Button>
  );
}

/** Likely and safe in a line; opens the forecast. A forecast from older facts says so. */
function ForecastWords({
  kept,
  forecasting,
  today,
  onOpen,
}: {
  /** As it came with the plan: it holds the place until the forecast itself is read. */
  readonly kept: EngagementPlan['engagement']['forecast'];
  readonly forecasting: Forecasting | undefined;
  readonly today: IsoDay;
  readonly onOpen: () => void;
}) {
  const forecast = forecasting?.forecast ?? kept;
  const words =
    forecast === null
      ? forecasting?.progress === null
        ? 'forecast…'
        : 'calculating forecast…'
      : `likely ${shortDay(forecast.likely, today)}, safe ${shortDay(forecast.safe, today)}${forecasting?.isStale === true ? ' (updating)' : ''}`;
  return (
    <Button kind="text" onPress={onOpen}>
      {forecast === null ? null : <FinishKey $of="likely" aria-hidden="true" />}
      {words}
    </Button>
  );
}

/** The state line of the phase that runs, or what it waits for. */
function nowLine({ engagement }: EngagementPlan): string {
  const { phases } = engagement;
  if (engagement.state === 'finished') return 'finished';
  if (engagement.state === 'dropped') return 'closed';
  const flying = phases.find((phase) => phase.baton === 'handed-off');
  if (flying !== undefined) return `${flying.name} handed off, waiting to be picked up`;
  return phases.find((phase) => phase.state === 'running')?.stateLine ?? 'not begun';
}

function handoffWords(phase: string, baton: string): string {
  if (baton === 'handed-off') return `Open handoff of ${phase}`;
  return baton === 'sent-back' ? 'Answer question…' : `Hand off ${phase}…`;
}

function AcceptButton({ id }: { readonly id: string }) {
  const accept = (): void =>
    void perform({
      send: () => call<ChangeMade>('POST', `/engagements/${id}/accept`),
      said: 'The proposal is now open work and counts in full.',
      undo: ({ changeId }) => changeId,
    });
  return <Button onPress={accept}>Mark as accepted</Button>;
}
