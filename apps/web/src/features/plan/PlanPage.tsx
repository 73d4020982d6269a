import type { EngagementPlan } from '@crew/contract';
import { useCallback } from 'react';
import { useParams, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { refreshAll, usePlan } from '../../api/queries.ts';
import { mayLead, useWho } from '../../app/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Page, Push, WithSheet } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { notify } from '../../ui/toasts.tsx';
import { phone } from '../../ui/tokens.ts';
import { hours, shortDay } from '../../words/format.ts';
import { standingWords, TONE_COLOUR } from '../../words/standing.ts';
import { HandoffSheet } from '../handoffs/HandoffSheet.tsx';
import { TaskSheet } from '../task/TaskSheet.tsx';
import { useTaskEdit } from '../task/use-task-edit.ts';
import { Outline } from './Outline.tsx';
import { PlanTrack } from './PlanTrack.tsx';

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

/** One engagement: where it stands, its plan, and a sheet beside it. */
export function PlanPage() {
  const { id = '' } = useParams();
  const { today } = useWho();
  const { data: plan, error } = usePlan(id);
  const [search, setSearch] = useSearchParams();
  const editing = useTaskEdit(today);
  const open = useCallback((next: { task?: string; handoff?: string }) => setSearch(next, { replace: true }), [setSearch]);
  const close = useCallback(() => setSearch({}, { replace: true }), [setSearch]);
  if (error) return <Page>{<ErrorNote error={error} />}</Page>;
  if (plan === undefined) return <Page>{<Loading rows={14} />}</Page>;
  const task = search.get('task');
  const handoff = search.get('handoff');
  return (
    <>
      <PlanHead plan={plan} today={today} onHandoff={(handoffId) => open({ handoff: handoffId })} />
      <Page>
        <WithSheet $isOpen={task !== null || handoff !== null}>
          <Outline
            plan={plan}
            today={today}
            editing={editing}
            openTask={task}
            onOpen={(taskId) => open({ task: taskId })}
            onHandoff={(handoffId) => open({ handoff: handoffId })}
          />
          {task === null ? null : <TaskSheet taskId={task} editing={editing} onClose={close} onOpen={(taskId) => open({ task: taskId })} />}
          {handoff === null ? null : <HandoffSheet handoffId={handoff} onClose={close} />}
        </WithSheet>
      </Page>
    </>
  );
}

function PlanHead({
  plan,
  today,
  onHandoff,
}: {
  readonly plan: EngagementPlan;
  readonly today: string;
  readonly onHandoff: (id: string) => void;
}) {
  const { engagement, phases } = plan;
  const me = useWho();
  const standing = standingWords(engagement.standing, today);
  const flying = phases.find((phase) => phase.baton === 'handed-off' || phase.baton === 'sent-back');
  const running = flying ?? phases.find((phase) => phase.state === 'running' && phase.handoffId !== null);
  return (
    <Head>
      <HeadLine>
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
          <Button onPress={() => onHandoff(running.handoffId as string)}>{handoffWords(running.name, running.baton)}</Button>
        )}
      </HeadLine>
      <PlanTrack phases={phases} today={today} />
      <Foot>
        <span>
          began <strong>{shortDay(engagement.start, today)}</strong>
        </span>
        <span>
          <strong>{engagement.percent} %</strong> of its effort done · {hours(engagement.loggedMinutes)} of{' '}
          {hours(engagement.effortMinutes)} h used
        </span>
        {engagement.promise === null ? null : (
          <span>
            promised <strong>{shortDay(engagement.promise, today)}</strong>
          </span>
        )}
        <span>
          as planned, all done by <strong>{shortDay(engagement.finish, today)}</strong>
        </span>
        <strong style={{ color: TONE_COLOUR[standing.tone] }}>
          {standing.text}
          {standing.reason === undefined ? '' : ` · ${standing.reason}`}
        </strong>
      </Foot>
    </Head>
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
