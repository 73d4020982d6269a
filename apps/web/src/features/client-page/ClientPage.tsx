import { Note, Toned } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import { can, type ClientEngagement } from '@crew/contract';
import { Navigate, useNavigate } from 'react-router';
import styled from 'styled-components';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { useAgency, useClientEngagements, useMe } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { SignedIn } from '../../session/session.tsx';
import { DemoTour } from '../demo/DemoTour.tsx';
import { WrongPasswords } from '../sign-in/WrongPasswords.tsx';
import { Empty, ErrorNote, Loading, Page, Panel, PanelHead, Push } from '../../ui/layout.tsx';
import { Logo } from '../../ui/Logo.tsx';
import { TaskGlyph } from '../../ui/marks.tsx';
import { PhaseBar } from '../../ui/PhaseBar.tsx';
import { phone } from '../../ui/tokens.ts';
import { dayWords } from '../../words/format.ts';

const AgencyName = styled.h2`
  font-size: 22px;
`;

const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 12px 60px;
  background: var(--panel);
  border-bottom: 4px solid var(--petrol);
  small {
    color: var(--ink-2);
    font-size: 12px;
  }
  h1 {
    font-size: 19px;
  }
  ${phone} {
    padding: 10px 12px;
  }
`;
const Body = styled(Page)`
  padding-inline: 60px;
  ${phone} {
    padding-inline: 12px;
  }
`;
const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 14px;
  margin: 14px 0 34px;
  align-items: start;
`;
const Phases = styled.ol`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 6px;
  margin-top: 12px;
  li {
    flex: 1 1 110px;
    font-size: 12px;
  }
`;
const Bar = styled(PhaseBar)`
  margin-top: 4px;
`;
const Line = styled.li`
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 8px 14px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  > span:last-child {
    margin-left: auto;
    color: var(--ink-2);
    font-size: 12.5px;
    white-space: nowrap;
  }
`;

/** What a client's contact sees: where their engagements stand, what we need, what we do. Only what was marked for them. */
export function ClientPage() {
  const { data: me } = useMe();
  const { data: agency } = useAgency();
  const navigate = useNavigate();
  if (me === undefined) return <Page>{<Loading />}</Page>;
  if (me === null || !can(me, 'client-page.read')) return <Navigate to="/" replace />;
  const signOut = async (): Promise<void> => {
    await call('DELETE', '/session');
    await mutate(() => true, undefined, { revalidate: false });
    await navigate('/sign-in');
  };
  return (
    <SignedIn me={me}>
      <Head>
        {agency === undefined || agency.logo === null ? null : <Logo src={agency.logo} alt={me.agencyName} />}
        <div>
          <small>{me.agencyName} for</small>
          <h1>{me.clientName}</h1>
        </div>
        <Push />
        <small>{me.name}</small>
        <Button onPress={() => void signOut().catch(() => navigate('/sign-in'))}>Sign out</Button>
      </Head>
      <WrongPasswords me={me} />
      <main>
        <Body>
          <DemoTour />
          <Projects today={me.today} />
        </Body>
      </main>
    </SignedIn>
  );
}

function Projects({ today }: { readonly today: IsoDay }) {
  const { data: engagements, error } = useClientEngagements();
  if (error) return <ErrorNote error={error} />;
  if (engagements === undefined) return <Loading />;
  if (engagements.length === 0) {
    return (
      <Panel>
        <Empty title="Nothing is under way for you at the moment." />
      </Panel>
    );
  }
  return engagements.map((engagement) => <Project key={engagement.id} engagement={engagement} today={today} />);
}

function Project({ engagement, today }: { readonly engagement: ClientEngagement; readonly today: IsoDay }) {
  const running = engagement.phases.find((phase) => phase.state === 'running');
  const wanted = engagement.tasks.filter((task) => !task.isOurs && task.status !== 'done');
  const ours = engagement.tasks.filter((task) => task.isOurs && task.status !== 'done');
  const done = engagement.tasks.filter((task) => task.status === 'done');
  return (
    <section aria-label={engagement.name}>
      <AgencyName>{engagement.name}</AgencyName>
      <Note>
        {running?.stateLine ?? ''}
        {engagement.promise === null ? '' : ` · promised for ${dayWords(engagement.promise, today)}`}
      </Note>
      <Phases>
        {engagement.phases.map((phase) => (
          <li key={phase.name} style={{ fontWeight: phase.state === 'running' ? 700 : 400 }}>
            {phase.name}
            <Bar $state={phase.state} />
          </li>
        ))}
      </Phases>
      <Columns>
        <Part title="What we need from you" tasks={wanted} today={today} empty="Nothing just now." />
        <Part title="What we are doing" tasks={ours} today={today} empty="See the phase above." />
        <Part title="Done so far" tasks={done} today={today} empty="Nothing yet." />
      </Columns>
    </section>
  );
}

function Part({
  title,
  tasks,
  today,
  empty,
}: {
  readonly title: string;
  readonly tasks: ClientEngagement['tasks'];
  readonly today: IsoDay;
  readonly empty: string;
}) {
  return (
    <Panel>
      <PanelHead>
        <h2>{title}</h2>
      </PanelHead>
      <ul>
        {tasks.length === 0 ? <Line>{empty}</Line> : null}
        {tasks.map((task) => (
          <Line key={task.id}>
            <TaskGlyph status={task.status} />
            <span>{task.title}</span>
            <Toned $tone={task.status !== 'done' && task.due < today ? 'bad' : null}>{dayWords(task.due, today)}</Toned>
          </Line>
        ))}
      </ul>
    </Panel>
  );
}
