import { addDays, mondayOf, type IsoDay, isDay } from '@crew/core';
import { can, type WeekSheet } from '@crew/contract';
import { useCallback, useState } from 'react';
import styled from 'styled-components';
import { useCrew, useWeekSheet } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { useShown } from '../../session/use-shown.ts';
import { ButtonLink } from '../../ui/Button.tsx';
import { Find } from '../../ui/Find.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { ErrorNote, Loading, Muted, Page, PageHead, Panel, Push, Fixed } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { narrow } from '../../ui/tokens.ts';
import { hours, hourWords, plainDay, spanWords } from '../../words/format.ts';
import { WeekButtons } from '../../ui/WeekButtons.tsx';
import { CrewTimePanel } from './CrewTimePanel.tsx';
import { DayPanel } from './DayPanel.tsx';
import { timeEditing } from './use-time-edit.ts';
import { chargeableMinutes, minutesByDay } from './week.ts';
import { WeekGrid } from './WeekGrid.tsx';
import { Note } from '../../ui/text.tsx';

const Hint = styled.p`
  margin-bottom: 10px;
  font-size: 12.5px;
`;

const TaskField = styled.div`
  max-width: 460px;
  margin-bottom: 10px;
`;

const AddForm = styled.div`
  padding: 10px 14px;
  max-width: 380px;
`;

const Beside = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 14px;
  align-items: start;
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

type Shown = 'one' | 'crew';

/** A week of time: typed by task and day, put right entry by entry; for leads the whole crew's, and its closing. */
export function TimePage() {
  const me = useWho();
  const [search, change] = useShown();
  const asked = search.get('day');
  const day = isDay(asked) ? asked : me.thisWeek > me.today ? me.thisWeek : me.today;
  const shown: Shown = can(me, 'time.read-crew') && search.get('show') === 'crew' ? 'crew' : 'one';
  const move = useCallback((weeks: number): void => change({ day: addDays(day, weeks * 7) }), [change, day]);
  const monday = mondayOf(day);
  return (
    <Page>
      <PageHead>
        <h1>Time</h1>
        <Muted>{spanWords(monday, addDays(monday, 6), me.today)}</Muted>
        <Push />
        {can(me, 'time.read-crew') ? (
          <Segmented
            label="Person"
            parts={[
              { id: 'one', name: 'One person' },
              { id: 'crew', name: 'The crew' },
            ]}
            value={shown}
            onChange={(id) => change({ show: id === 'crew' ? 'crew' : null })}
          />
        ) : null}
        {can(me, 'time.read-crew') && shown === 'one' ? (
          <Whose value={search.get('person') ?? me.personId} onChange={(id) => change({ person: id === me.personId ? null : id })} />
        ) : null}
        <ButtonLink href={exportAddress({ day: monday, person: shown === 'crew' ? 'crew' : search.get('person') })} download="">
          Export CSV
        </ButtonLink>
        <WeekButtons onMove={move} onThisWeek={() => change({ day: null })} />
      </PageHead>
      {shown === 'crew' ? (
        <CrewTimePanel day={day} />
      ) : (
        <OneWeek
          key={`${search.get('person')} ${monday}`}
          person={search.get('person')}
          day={day}
          onChooseDay={(next) => change({ day: next })}
        />
      )}
    </Page>
  );
}

/** Where the week's entries come from as a file. */
const exportAddress = ({ day, person }: { readonly day: IsoDay; readonly person: string | null }): string =>
  `/api/time/export?day=${day}${person === null ? '' : `&person=${person}`}`;

function Whose({ value, onChange }: { readonly value: string | null; readonly onChange: (id: string) => void }) {
  const { data: crew } = useCrew();
  return (
    <Fixed $width={180}>
      <Choose label="Person" isLabelHidden choices={crew?.people} value={value} onChange={onChange} />
    </Fixed>
  );
}

interface OneWeekProps {
  readonly person: string | null;
  readonly day: IsoDay;
  readonly onChooseDay: (day: IsoDay) => void;
}

function OneWeek({ person, day, onChooseDay }: OneWeekProps) {
  const me = useWho();
  const { data: week, error } = useWeekSheet(person, day);
  const [added, setAdded] = useState<ReadonlySet<string>>(new Set());
  const [reason, setReason] = useState('');
  if (error && week === undefined) return <ErrorNote error={error} />;
  if (week === undefined) return <Loading rows={12} />;
  const editing = timeEditing(week.person.id, reason);
  const mayChangeLocked = can(me, 'time.close') && reason.trim() !== '';
  const hasLocked = week.days.some((one) => one.isLocked);
  return (
    <>
      <Hint>{weekWords(week)}</Hint>
      {hasLocked && can(me, 'time.close') ? (
        <TaskField>
          <Field
            label="Some of these days are closed. Why are you changing them?"
            isTight
            value={reason}
            onChange={setReason}
            placeholder="e.g. counted twice"
          />
        </TaskField>
      ) : null}
      <Beside>
        <Panel>
          <WeekGrid
            week={week}
            today={me.today}
            added={added}
            chosenDay={day}
            mayChangeLocked={mayChangeLocked}
            editing={editing}
            onChooseDay={(next) => (next === day ? undefined : onChooseDay(next))}
          />
          <AddRow week={week} added={added} onAdd={(id) => setAdded(new Set([...added, id]))} />
        </Panel>
        <DayPanel week={week} day={day} today={me.today} mayChangeLocked={mayChangeLocked} editing={editing} />
      </Beside>
    </>
  );
}

/** "29.5 of 37.5 h logged, 25 h of it chargeable. Thu and Fri are missing time. 2 entries overlap." */
function weekWords(week: WeekSheet): string {
  const logged = minutesByDay(week).reduce((sum, minutes) => sum + minutes, 0);
  const open = week.days.reduce((sum, { capacity }) => sum + capacity, 0);
  const forgotten = week.days.filter((day) => day.isForgotten).length;
  return [
    `${hours(logged)} of ${hourWords(open)} logged, ${hourWords(chargeableMinutes(week))} of it chargeable.`,
    ...(forgotten === 0 ? [] : [`${forgotten === 1 ? 'One day is' : `${forgotten} days are`} missing time.`]),
    ...overlapWords(week),
  ].join(' ');
}

/** Where entries overlap: the day, and by how much. */
function overlapWords({ overlaps, days }: WeekSheet): string[] {
  if (overlaps.length === 0) return [];
  const minutesOn = days.flatMap(({ date }) => {
    const minutes = overlaps.filter(({ day }) => day === date).reduce((sum, overlap) => sum + overlap.minutes, 0);
    return minutes === 0 ? [] : [`${plainDay(date)} by ${minutes} min`];
  });
  return [`Entries overlap on ${minutesOn.join(', ')}.`];
}

interface AddRowProps {
  readonly week: WeekSheet;
  readonly added: ReadonlySet<string>;
  readonly onAdd: (taskId: string) => void;
}

/** Tasks that are theirs but not at hand get a row when asked for. */
function AddRow({ week, added, onAdd }: AddRowProps) {
  const others = week.rows
    .filter((row) => !row.isAtHand && !added.has(row.task.id))
    .sort((one, other) => Number(other.task.isOpen) - Number(one.task.isOpen));
  if (others.length === 0)
    return week.rows.length > 0 ? null : <Note $isPanel>No tasks this week yet. Log time on any task and it appears here.</Note>;
  return (
    <AddForm>
      <Find
        key={others.length}
        label="Another task"
        isLabelHidden
        placeholder="Find another task…"
        choices={others.map(({ task, engagement }) => ({
          id: task.id,
          name: task.title,
          words: `${task.title} ${engagement.name}`,
          detail: `${engagement.name}${task.isOpen ? '' : ' · done'}`,
        }))}
        onChoose={(id) => (id === null ? undefined : onAdd(id))}
        none="No task of yours matches."
      />
    </AddForm>
  );
}
