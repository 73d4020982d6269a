import { Note, Toned } from '../../ui/text.tsx';
import { addDays, isPlannableDay, type IsoDay } from '@crew/core';
import { perform } from '../../session/perform.ts';
import { reachOf, type Desk, type DeskTask } from '@crew/contract';
import { useCallback, type ReactNode } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useCrew, useDesk } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { useShown } from '../../session/use-shown.ts';
import { WeekButtons } from '../../ui/WeekButtons.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Fixed, Loading, Meter, Muted, Page, PageHead, Panel, PanelTitle, Push, WithSheet } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { dayWords, fullDay, hours, hourWords, spanWords } from '../../words/format.ts';
import { briefWords } from '../task/OutsideEditor.tsx';
import { TaskSheet } from '../task/TaskSheet.tsx';
import { useTaskEdit, type TaskEditing } from '../task/use-task-edit.ts';
import { NowTimer } from '../timer/TimerButton.tsx';
import { OverdueAsk } from './OverdueAsk.tsx';
import { DeskHandoffs, DeskList } from './parts.tsx';
import { ReadyList } from './ReadyList.tsx';
import type { ArrangeContext } from './Ticket.tsx';
import { LaterList } from './LaterList.tsx';
import { UnloggedList } from './UnloggedList.tsx';
import { arranging as arrangingFor } from './use-arrange.ts';
import { WeekDays } from './WeekDays.tsx';
import { DemoTour } from '../demo/DemoTour.tsx';
import { DeskHint } from './DeskHint.tsx';
import { SetupList } from '../setup/SetupList.tsx';

const DoneButton = styled(Button)`
  min-height: 24px;
`;

const Top = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 250px;
  gap: 14px;
  margin-bottom: 12px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Now = styled(Panel)`
  border: 1.5px solid var(--petrol);
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px 18px;
  padding: 12px 16px;
  h2 {
    font-size: 18px;
  }
  small {
    color: var(--ink-2);
    font-size: 12px;
    display: block;
  }
`;
const WeekSum = styled(Panel)`
  padding: 12px 16px;
  p:first-child {
    display: flex;
    justify-content: space-between;
    font-weight: 650;
    margin-bottom: 10px;
  }
  p:last-child {
    margin-top: 9px;
    font-size: 12px;
    color: var(--ink-2);
  }
`;
const Groups = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(270px, 1fr));
  gap: 10px;
  margin-top: 12px;
  align-items: start;
`;

const DESK_SHEETS = { things: ['task'] } as const;

/** One person's work: what now, what waits, and the week. */
export function DeskPage() {
  const me = useWho();
  const [search, show] = useShown();
  const [sheet, openSheet] = useOpenSheet(DESK_SHEETS);
  const person = search.get('person');
  const asked = search.get('week');
  const week = isPlannableDay(asked) ? asked : null;
  const { data: desk, error } = useDesk(person, week);
  const monday = desk?.monday ?? me.thisWeek;
  const moveBy = useCallback(
    (weeks: number): void => {
      const next = addDays(monday, weeks * 7);
      show({ week: next === me.thisWeek ? null : next });
    },
    [monday, me.thisWeek, show],
  );
  const task = sheet?.id ?? null;
  const open = useCallback((id: string | null): void => openSheet(id === null ? null : { kind: 'task', id }), [openSheet]);
  const editing = useTaskEdit(me.today, open);
  const close = useCallback(() => open(null), [open]);
  const isMine = person === null || person === me.personId;
  if (error) return <Page>{<ErrorNote error={error} />}</Page>;
  if (desk === undefined) return <Page>{<Loading rows={14} />}</Page>;
  return (
    <Page>
      <PageHead>
        <h1>{isMine ? 'My desk' : `The desk of ${desk.person.name}`}</h1>
        <Muted>{fullDay(me.today)}</Muted>
        <Push />
        <WeekButtons onMove={moveBy} onThisWeek={() => show({ week: null })} />
        {reachOf(me, 'desk.read') === 'all' ? (
          <WhoseDesk value={person ?? me.personId} onChange={(id) => show({ person: id === me.personId ? null : id, task: null })} />
        ) : null}
      </PageHead>
      <WithSheet $isOpen={task !== null}>
        <DeskBody desk={desk} today={me.today} isMine={isMine} editing={editing} onOpen={open} />
        {task === null ? null : <TaskSheet taskId={task} editing={editing} onClose={close} onOpen={open} />}
      </WithSheet>
    </Page>
  );
}

function WhoseDesk({ value, onChange }: { readonly value: string | null; readonly onChange: (id: string) => void }) {
  const { data: crew } = useCrew();
  return (
    <Fixed $width={200}>
      <Choose label="Person" isLabelHidden choices={crew?.people} value={value} onChange={onChange} />
    </Fixed>
  );
}

interface BodyProps {
  readonly desk: Desk;
  readonly today: IsoDay;
  readonly isMine: boolean;
  readonly editing: TaskEditing;
  readonly onOpen: (taskId: string) => void;
}

function DeskBody({ desk, today, isMine, editing, onOpen }: BodyProps) {
  const { access } = useWho();
  const arranging = arrangingFor(desk.person.id, today);
  const all = [...(desk.now === null ? [] : [desk.now]), ...desk.overdue, ...desk.ready, ...desk.waiting];
  const context: ArrangeContext = {
    ...{ today, arranging },
    days: desk.days.map((day) => day.date).filter((day) => day >= today),
    onMoveDates: (taskId, day) => {
      const task = all.find((each) => each.id === taskId);
      if (task !== undefined) void editing.edit(task, { notBefore: day });
    },
  };
  return (
    <div>
      {isMine ? <DemoTour /> : null}
      {isMine ? <SetupList /> : null}
      {isMine ? <DeskHint /> : null}
      {desk.handoffs.length === 0 ? null : <DeskHandoffs lines={desk.handoffs} personId={desk.person.id} />}
      {desk.overdue.length === 0 ? null : (
        <OverdueAsk
          tasks={desk.overdue}
          today={today}
          forToday={placedOn(desk, today)}
          mayGive={access !== 'freelancer'}
          arranging={arranging}
          editing={editing}
          onOpen={onOpen}
        />
      )}
      <Top>
        <NowCard task={desk.now} today={today} isMine={isMine} editing={editing} onOpen={onOpen} />
        <ThisWeek desk={desk} today={today} />
      </Top>
      <WeekDays days={desk.days} whose={isMine ? null : desk.person.name} today={today} context={context} onOpen={onOpen} />
      <DeskGroups desk={desk} today={today} isMine={isMine} context={context} onOpen={onOpen} />
      <WeekDone desk={desk} today={today} onOpen={onOpen} />
    </div>
  );
}

/** What of the week's hours is planned, from today on, and logged. */
function ThisWeek({ desk: { week, monday, days }, today }: { readonly desk: Desk; readonly today: IsoDay }) {
  const { thisWeek } = useWho();
  const { plannedMinutes, capacityMinutes, loggedMinutes } = week;
  const isPartOver = days.some((day) => day.date < today);
  const name = monday === thisWeek ? (isPartOver ? 'Rest of this week' : 'This week') : spanWords(monday, addDays(monday, 6), today);
  const isOver = plannedMinutes > capacityMinutes;
  return (
    <WeekSum aria-label="This week">
      <p>
        <span>{name}</span>
        <Toned $tone={isOver ? 'bad' : null}>
          {hours(plannedMinutes)} of {hourWords(capacityMinutes)}
        </Toned>
      </p>
      <Meter $part={capacityMinutes === 0 ? 0 : (plannedMinutes * 100) / capacityMinutes} $isOver={isOver} />
      <p>{hourWords(loggedMinutes)} logged</p>
    </WeekSum>
  );
}

/** The line of a brief: to whom, and until when. */
function BriefDetail({ outside, today }: { readonly outside: Desk['briefs'][number]['outside']; readonly today: IsoDay }) {
  const { text, isLate } = briefWords(outside, today);
  return (
    <Toned $tone={isLate ? 'bad' : 'waiting'}>
      {outside.maker} · {text}
    </Toned>
  );
}

/** Work on a day because somebody put it there. */
const placedOn = (desk: Desk, date: IsoDay): ReadonlySet<string> =>
  new Set(desk.days.filter((day) => day.date === date).flatMap((day) => day.tasks.filter((task) => task.isPlaced).map((task) => task.id)));

/** The tasks, grouped by what is to be done about them. */
function DeskGroups({ desk, today, isMine, context, onOpen }: Omit<BodyProps, 'editing'> & { readonly context: ArrangeContext }) {
  const placed = new Set(desk.days.flatMap((day) => day.tasks.filter((task) => task.isPlaced).map((task) => task.id)));
  const seen = (): void => void perform({ send: () => call('POST', '/desk/seen') });
  return (
    <Groups>
      {desk.briefs.length === 0 ? null : (
        <DeskList
          title="Briefs to send"
          tasks={desk.briefs}
          onOpen={onOpen}
          detail={(task) => <BriefDetail outside={task.outside} today={today} />}
        />
      )}
      <ReadyList tasks={desk.ready} placed={placed} context={context} onOpen={onOpen} />
      <DeskList
        title="Waiting"
        isSentence
        tasks={desk.waiting}
        onOpen={onOpen}
        detail={(task) => waitingDetail(task, today)}
        empty="None of your tasks is waiting."
      />
      <DeskList
        title={isMine ? 'New to you' : 'Not opened yet'}
        tasks={desk.fresh}
        onOpen={onOpen}
        detail={(task) => task.waitingFor ?? ''}
        empty="Nothing new."
        action={
          isMine && desk.fresh.length > 0 ? (
            <Button kind="quiet" onPress={seen}>
              Mark as seen
            </Button>
          ) : null
        }
      />
      <UnloggedList tasks={desk.unlogged} today={today} isMine={isMine} onOpen={onOpen} />
    </Groups>
  );
}

/** What was logged this week, and which days have no time logged yet. */
function WeekDone({ desk, today, onOpen }: { readonly desk: Desk; readonly today: IsoDay; readonly onOpen: (taskId: string) => void }) {
  const { doneThisWeek, forgottenDays } = desk;
  return (
    <Groups>
      <LaterList tasks={desk.later} today={today} onOpen={onOpen} />
      <Panel $isPadded as="section" aria-label="Done this week">
        <PanelTitle>
          Done this week <Muted>{doneThisWeek.length}</Muted>
        </PanelTitle>
        <Note $isSmall>
          {doneThisWeek.length === 0 ? 'Nothing done yet this week.' : null}
          {doneThisWeek.map((task) => (
            <DoneButton key={task.id} kind="quiet" onPress={() => onOpen(task.id)}>
              {task.title}
            </DoneButton>
          ))}
        </Note>
      </Panel>
      {forgottenDays.length === 0 ? null : (
        <Panel $isPadded as="section" aria-label="Missing time">
          <PanelTitle>Missing time</PanelTitle>
          <Note $isSmall>
            Less than half of the available hours are logged on {listWords(forgottenDays.map((day) => dayWords(day, today)))}.
          </Note>
          <ButtonLink isFlush kind="quiet" href={`/time?day=${forgottenDays.at(-1) ?? today}`}>
            Fill in timesheet
          </ButtonLink>
        </Panel>
      )}
    </Groups>
  );
}

/** "Mon 16 Nov, Tue 17 Nov and 3 more days". */
function listWords(words: readonly string[]): string {
  const [shown, rest] = [words.slice(-3), words.length - 3];
  if (rest > 0) return `${shown.join(', ')} and ${rest === 1 ? 'one more day' : `${rest} more days`}`;
  return shown.length < 2 ? shown.join('') : `${shown.slice(0, -1).join(', ')} and ${shown.at(-1) ?? ''}`;
}

const WAITING_ON_WORDS: Readonly<Record<string, string>> = { client: 'the client', colleague: 'a colleague', supplier: 'a supplier' };

function waitingDetail(task: DeskTask, today: IsoDay): ReactNode {
  if (task.status !== 'waiting') {
    const due =
      task.waitsUntil === null
        ? ''
        : task.waitsUntil < today
          ? `, was due ${dayWords(task.waitsUntil, today)}`
          : `, due ${dayWords(task.waitsUntil, today)}`;
    const since = task.start < today ? ` · should have started ${dayWords(task.start, today)}` : ` · starts ${dayWords(task.start, today)}`;
    return `${task.waitingFor ?? 'until other work is done'}${due}${since}`;
  }
  return (
    <Toned $tone="waiting">
      on {WAITING_ON_WORDS[task.waitingFor ?? ''] ?? task.waitingFor}
      {task.since === null ? '' : ` since ${dayWords(task.since, today)}`} · until it is set under way again
    </Toned>
  );
}

function NowCard({
  task,
  today,
  isMine,
  editing,
  onOpen,
}: {
  readonly task: DeskTask | null;
  readonly today: IsoDay;
  readonly isMine: boolean;
  readonly editing: TaskEditing;
  readonly onOpen: (taskId: string) => void;
}) {
  if (task === null) {
    return (
      <Now>
        <div>
          <small>Now</small>
          <h2>Nothing is under way</h2>
          <small>Start a task from “Ready to start” and it appears here.</small>
        </div>
      </Now>
    );
  }
  return (
    <Now aria-label="Now">
      {isMine ? <NowTimer task={task} part="button" /> : null}
      <HueMark $hue={task.engagement.client.hue} $height={40} />
      <div>
        <small>Now</small>
        <h2>{task.title}</h2>
      </div>
      <small>
        {task.engagement.name} · {task.phase}
        <br />
        {task.estimateMinutes === null
          ? `${hourWords(task.loggedMinutes)} logged`
          : `${hours(task.loggedMinutes)} of ${hourWords(task.estimateMinutes)}`}{' '}
        · due {dayWords(task.due, today)}
        {task.holdsUp > 0 ? ` · holds up ${task.holdsUp}` : ''}
      </small>
      <Push />
      {isMine ? <NowTimer task={task} part="count" /> : null}
      <Button onPress={() => void editing.edit(task, { status: 'done' })}>Done</Button>
      <Button onPress={() => onOpen(task.id)}>Open</Button>
    </Now>
  );
}
