import { addDays, type IsoDay } from '@crew/core';
import type { WeekPlan } from '@crew/contract';
import { Clipped, Toned } from '../../ui/text.tsx';
import { useCallback, useMemo } from 'react';
import styled from 'styled-components';
import { useWeekPlan } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useShown } from '../../session/use-shown.ts';
import { ButtonLink } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Loading, Meter, Muted, Page, PageHead, Panel, Push, WithSheet } from '../../ui/layout.tsx';
import { LongList } from '../../ui/LongList.tsx';
import { PersonMark } from '../../ui/marks.tsx';
import { count, hours, spanWords } from '../../words/format.ts';
import { TaskSheet } from '../task/TaskSheet.tsx';
import { useTaskEdit } from '../task/use-task-edit.ts';
import { BandPanel } from './BandPanel.tsx';
import { BANDS, bandOf, shownTasks, weekOfBand, withNames, type Band } from './bands.ts';
import { placeInWeek } from './use-placing.ts';

const BandTitle = styled.h2`
  font-size: 15px;
  padding: 12px 14px 4px;
`;

const Team = styled.div`
  display: flex;
  flex-direction: column;
  padding: 0 14px 10px;
`;
const Line = styled.div`
  display: grid;
  grid-template-columns: 22px 56px minmax(0, 1fr) minmax(0, 1fr);
  gap: 4px 10px;
  align-items: center;
  padding: 7px 0;
  border-top: 1px solid var(--line-2);
  font-size: 12px;
  small {
    display: block;
    color: var(--ink-2);
    white-space: nowrap;
  }
`;

const QuietLine = styled(Line)`
  border-top: 0;
  color: var(--ink-2);
`;
const Whose = styled.div`
  width: 190px;
`;
const ALL = 'all';
const WEEK_SHEETS = { things: ['task'] } as const;

/** The week's planning: work is given and put into this week or the next, against the hours the team has. */
export function WeekPlanPage() {
  const { today } = useWho();
  const { data, error } = useWeekPlan();
  const plan = useMemo(() => (data === undefined ? undefined : withNames(data)), [data]);
  const [search, change] = useShown();
  const [sheet, openSheet] = useOpenSheet(WEEK_SHEETS);
  const open = useCallback((id: string): void => openSheet({ kind: 'task', id }), [openSheet]);
  const editing = useTaskEdit(today, open);
  if (error && plan === undefined) return <Page>{<ErrorNote error={error} />}</Page>;
  if (plan === undefined) return <Page>{<Loading rows={14} />}</Page>;
  const who = plan.people.find(({ person }) => person.id === search.get('who')) ?? null;
  const opened = sheet?.id ?? null;
  const tasks = shownTasks(plan, who?.person.id ?? null);
  const place = (taskIds: readonly string[], week: IsoDay | null): void =>
    void placeInWeek(
      taskIds,
      week,
      week === null ? `${count(taskIds.length, 'task')} moved back to “Not placed yet”.` : placedWords(plan, taskIds, week),
    );
  const people = who === null ? plan.people : [who];
  return (
    <Page>
      <PageHead>
        <h1>Plan the week</h1>
        <Muted>{spanWords(plan.thisWeek, addDays(plan.nextWeek, 6), today)}</Muted>
        <Push />
        <WhoseWork people={plan.people} shown={who?.person.id ?? null} onShow={(id) => change({ who: id })} />
        <ButtonLink href="/workload">Workload by days</ButtonLink>
      </PageHead>
      <WithSheet $isOpen $sheet={opened === null ? '300px' : '400px'}>
        <div>
          {BANDS.map((band) => (
            <OneBand
              key={band}
              band={band}
              plan={plan}
              tasks={tasks.filter((task) => bandOf(task, plan) === band)}
              capacity={capacityOf(band, people)}
              today={today}
              onPlace={place}
              onEdit={(task) => (edit) => editing.edit(task, edit)}
              onOpen={(task) => open(task.id)}
            />
          ))}
        </div>
        {opened === null ? (
          <TeamHours plan={plan} />
        ) : (
          <TaskSheet taskId={opened} editing={editing} onClose={() => openSheet(null)} onOpen={open} />
        )}
      </WithSheet>
    </Page>
  );
}

interface WhoseProps {
  readonly people: WeekPlan['people'];
  readonly shown: string | null;
  readonly onShow: (personId: string | null) => void;
}

function WhoseWork({ people, shown, onShow }: WhoseProps) {
  return (
    <Whose>
      <Choose
        label="Person"
        isLabelHidden
        choices={[{ id: ALL, name: 'Everybody’s work' }, ...people.map(({ person }) => ({ id: person.id, name: person.name }))]}
        value={shown ?? ALL}
        onChange={(id) => onShow(id === ALL ? null : id)}
      />
    </Whose>
  );
}

const placedWords = (plan: WeekPlan, taskIds: readonly string[], week: IsoDay): string =>
  `${count(taskIds.length, 'task')} for ${week === plan.thisWeek ? 'this week' : 'next week'}. Dates stay.`;

/** The available hours in the week a band stands for. */
function capacityOf(band: Band, people: WeekPlan['people']): number | null {
  if (band !== 'this' && band !== 'next') return null;
  return people.reduce((sum, { capacity }) => sum + capacity[band === 'this' ? 0 : 1], 0);
}

type OneBandProps = Omit<Parameters<typeof BandPanel>[0], 'onCarry'>;

/** What is left over is there only while something is; the other bands stay where they are. */
function OneBand(props: OneBandProps) {
  const { band, plan, tasks, onPlace } = props;
  if (band === 'left' && tasks.length === 0) return null;
  const carry = (): void =>
    onPlace(
      tasks.map((task) => task.id),
      weekOfBand('this', plan),
    );
  return <BandPanel {...props} onCarry={band === 'left' ? carry : null} />;
}

/** Everybody's load in what is left of this week and in the next, as the workload has it. */
function TeamHours({ plan }: { readonly plan: WeekPlan }) {
  return (
    <Panel aria-label="The team’s hours">
      <BandTitle>The team’s hours</BandTitle>
      <Team>
        <QuietLine>
          <span />
          <span />
          <span>this week</span>
          <span>next week</span>
        </QuietLine>
        <LongList label="Hours of each person" items={plan.people} keyOf={({ person }) => person.id} rowHeight={41}>
          {({ person, load, capacity }) => (
            <Line>
              <PersonMark person={person} />
              <Clipped title={person.name}>{person.name.split(' ')[0]}</Clipped>
              {load.map((minutes, index) => {
                const open = capacity[index as 0 | 1];
                return (
                  <span key={index === 0 ? 'this' : 'next'}>
                    <Toned as="small" $tone={minutes > open ? 'bad' : null}>
                      {open === 0 && minutes === 0 ? 'away' : `${hours(minutes)} of ${hours(open)} h`}
                    </Toned>
                    <Meter $part={open === 0 ? Math.min(100, minutes) : (minutes * 100) / open} $isOver={minutes > open} />
                  </span>
                );
              })}
            </Line>
          )}
        </LongList>
      </Team>
    </Panel>
  );
}
