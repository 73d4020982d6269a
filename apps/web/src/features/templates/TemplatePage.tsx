import type { DryRun, TemplateTaskView } from '@crew/contract';
import { useParams, useSearchParams } from 'react-router';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useDryRun } from '../../api/queries.ts';
import { mayLead, useWho } from '../../app/session.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { ErrorNote, Loading, Muted, Page, PageHead, Panel, Push } from '../../ui/layout.tsx';
import { Tag, TaskGlyph } from '../../ui/marks.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { phone } from '../../ui/tokens.ts';
import { dayScale, type Scale } from '../../ui/Track.tsx';
import { count, dayWords, hours, hourWords, spanWords } from '../../words/format.ts';
import { anchorWords } from './anchor-words.ts';

const Run = styled(Panel)`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 22px;
  padding: 9px 14px;
  margin-bottom: 12px;
  strong {
    font-weight: 650;
  }
`;
const Grid = styled.div`
  display: grid;
  grid-template-columns: minmax(180px, 1.1fr) 146px 66px minmax(150px, 1fr) minmax(200px, 2fr);
  align-items: center;
  gap: 0 12px;
  padding: 0 14px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr) auto;
    > .wide {
      display: none;
    }
  }
`;
const HeadRow = styled(Grid)`
  height: 28px;
  font-size: 12px;
  color: var(--ink-2);
  border-bottom: 1px solid var(--line);
`;
const PhaseRow = styled(Grid)`
  min-height: 36px;
  background: var(--sunk);
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  h2 {
    font-size: 14.5px;
  }
  h2 small {
    font:
      400 12px 'Hanken Grotesk Variable',
      sans-serif;
    color: var(--ink-2);
    margin-left: 7px;
  }
`;
const TaskRow = styled(Grid)`
  min-height: 29px;
  border-top: 1px solid var(--line-2);
  > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Name = styled.span`
  display: flex;
  align-items: center;
  gap: 8px;
`;
const Bars = styled.span`
  position: relative;
  height: 14px;
  overflow: visible !important;
`;
const Bar = styled.i<{ $tone: 'phase' | 'task' | 'client' }>`
  position: absolute;
  top: 2px;
  height: 10px;
  min-width: 5px;
  border-radius: 2.5px;
  background: ${({ $tone }) => ($tone === 'phase' ? 'var(--petrol)' : $tone === 'client' ? 'var(--amber-soft)' : 'var(--petrol-soft)')};
  border: 1px solid ${({ $tone }) => ($tone === 'client' ? 'var(--amber)' : $tone === 'phase' ? 'var(--petrol)' : 'var(--petrol-mid)')};
`;

/** One template read with its dry run on the real calendar, beside the real load. */
export function TemplatePage() {
  const { id = '' } = useParams();
  const me = useWho();
  const [search, setSearch] = useSearchParams();
  const isBack = search.has('promise');
  const day = search.get('promise') ?? search.get('start') ?? '';
  const { data: run, error } = useDryRun(id, day === '' ? '' : `?${isBack ? 'promise' : 'start'}=${day}`);
  const ask = (mode: 'start' | 'promise', next: string): void => setSearch({ [mode]: next }, { replace: true });
  if (error && run === undefined) return <Page>{<ErrorNote error={error} />}</Page>;
  if (run === undefined) return <Page>{<Loading rows={14} />}</Page>;
  return (
    <Page>
      <Link href="/templates" style={{ fontSize: 12.5, color: 'var(--ink-2)', textDecoration: 'none' }}>
        Templates ›
      </Link>
      <PageHead>
        <h1>{run.template.name}</h1>
        <Tag>version {run.template.version}</Tag>
        <Muted>
          {run.template.kind === 'engagement' ? `used ${count(run.template.usedTimes, 'time')} · ` : ''}
          {count(run.phases.length, 'phase')} · {count(run.tasks.length, 'task')}
        </Muted>
        <Push />
        {run.template.kind === 'engagement' && mayLead(me) ? (
          <ButtonLink kind="primary" href={`/engagements/start?template=${run.template.id}`}>
            Start an engagement with this
          </ButtonLink>
        ) : null}
      </PageHead>
      <Run aria-label="Dry run">
        <Segmented
          label="Plan from"
          parts={[
            { id: 'start', name: 'From a start' },
            { id: 'promise', name: 'Back from a promise' },
          ]}
          value={isBack ? 'promise' : 'start'}
          onChange={(mode) => ask(mode, mode === 'promise' ? run.finish : run.start)}
        />
        <div style={{ width: 168 }}>
          <DayField
            isTight
            label=""
            aria-label={isBack ? 'Promised date' : 'Start'}
            today={me.today}
            value={day === '' ? run.start : day}
            onChange={(next) => (next === '' ? undefined : ask(isBack ? 'promise' : 'start', next))}
            error={error?.message}
          />
        </div>
        <span>
          {isBack ? 'start by' : 'finishes'} <strong>{dayWords(isBack ? run.start : run.finish, me.today)}</strong>
        </span>
        <span>
          effort <strong>{hourWords(run.effortMinutes)}</strong>
        </span>
        <span>
          skips <strong>{count(run.closedDays, 'closed day')}</strong>
        </span>
        <Push />
        <span style={{ color: run.overloads.length > 0 ? 'var(--brick)' : 'var(--moss)', fontWeight: 600 }}>
          {overloadWords(run, me.today)}
        </span>
      </Run>
      <Panel>
        <HeadRow aria-hidden="true">
          <span>what</span>
          <span className="wide">who by role</span>
          <span>effort</span>
          <span className="wide">when</span>
          <span className="wide">{spanWords(run.start, run.finish, me.today)}</span>
        </HeadRow>
        <Body run={run} today={me.today} />
      </Panel>
    </Page>
  );
}

function overloadWords(run: DryRun, today: string): string {
  const first = [...run.overloads].sort((left, right) => right.minutes - left.minutes)[0];
  if (first === undefined) return 'Nobody would be overloaded';
  const others = run.overloads.length - 1;
  return `${first.person.name.split(' ')[0]} would go ${hours(first.minutes)} h over from ${dayWords(first.firstDay, today)}${others > 0 ? `; ${count(others, 'other')} too` : ''}`;
}

function Body({ run, today }: { readonly run: DryRun; readonly today: string }) {
  const scale = dayScale(run.start, run.finish);
  return run.phases.map((phase) => (
    <section key={phase.id} aria-label={phase.name}>
      <PhaseRow>
        <h2 title={phase.stateLine}>
          {phase.name}
          <small>{count(phase.workingDays, 'working day')}</small>
        </h2>
        <span className="wide">{phase.role}</span>
        <span>{phase.rounds === null ? '' : count(phase.rounds, 'round')}</span>
        <Muted className="wide">{phase.checks.length === 0 ? 'no gate' : `gate: ${count(phase.checks.length, 'check')}`}</Muted>
        <PlaceBar
          scale={scale}
          start={phase.start}
          finish={phase.finish}
          tone="phase"
          title={`${phase.name}, ${spanWords(phase.start, phase.finish, today)}`}
        />
      </PhaseRow>
      {run.tasks
        .filter((task) => task.phaseId === phase.id)
        .map((task) => (
          <TaskLine key={task.id} task={task} scale={scale} today={today} />
        ))}
    </section>
  ));
}

function TaskLine({ task, scale, today }: { readonly task: TemplateTaskView; readonly scale: Scale; readonly today: string }) {
  const isClients = task.kind === 'client';
  const when = anchorWords(task);
  return (
    <TaskRow>
      <Name title={task.title}>
        <TaskGlyph status="queued" /> <span style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>{task.title}</span>
      </Name>
      <span className="wide" style={isClients ? { color: 'var(--amber)' } : undefined}>
        {isClients ? 'the client' : (task.role ?? '—')}
      </span>
      <span>{task.estimateMinutes === null ? '—' : hourWords(task.estimateMinutes)}</span>
      <Muted className="wide" title={when} style={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
        {when}
      </Muted>
      <PlaceBar
        scale={scale}
        start={task.start}
        finish={task.finish}
        tone={isClients ? 'client' : 'task'}
        title={`${spanWords(task.start, task.finish, today)} · ${count(task.slack, 'day')} of slack`}
      />
    </TaskRow>
  );
}

function PlaceBar({
  scale,
  start,
  finish,
  tone,
  title,
}: {
  readonly scale: Scale;
  readonly start: string;
  readonly finish: string;
  readonly tone: 'phase' | 'task' | 'client';
  readonly title: string;
}) {
  const left = scale(start);
  return (
    <Bars className="wide" title={title}>
      <Bar $tone={tone} style={{ left: `${left}%`, width: `${scale(finish, 'end') - left}%` }} />
    </Bars>
  );
}
