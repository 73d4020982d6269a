import type { IsoDay } from '@crew/core';
import type { WeekSheet } from '@crew/contract';
import { Note, Quiet } from '../../ui/text.tsx';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { dayWords, hours, hourWords, parseHours } from '../../words/format.ts';
import { clockWords, parseClock } from '../../words/parse-time.ts';
import type { TimeEditing } from './use-time-edit.ts';
import { entriesOfDay, type DayEntry } from './week.ts';

const Entry = styled.li`
  display: grid;
  grid-template-columns: 4px minmax(0, 1fr) 52px;
  gap: 3px 10px;
  padding: 9px 0;
  border-top: 1px solid var(--line-2);
  strong {
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  input {
    margin: 0;
  }
  input::placeholder {
    color: var(--ink-3);
  }
`;
const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  grid-column: 2 / -1;
  font-size: 12.5px;
  > span {
    color: var(--ink-2);
  }
`;

interface DayPanelProps {
  readonly week: WeekSheet;
  readonly day: IsoDay;
  readonly today: IsoDay;
  readonly mayChangeLocked: boolean;
  readonly editing: TimeEditing;
}

/** One day, entry by entry: when, how long, a note, whether it is paid for, and what overlaps. */
export function DayPanel({ week, day, today, mayChangeLocked, editing }: DayPanelProps) {
  const entries = entriesOfDay(week, day);
  const facts = week.days.find(({ date }) => date === day);
  const isFixed = facts?.isLocked === true && !mayChangeLocked;
  const minutes = entries.reduce((total, entry) => total + entry.minutes, 0);
  return (
    <Panel aria-label={`Entries of ${dayWords(day, today)}`} style={{ padding: '12px 14px 14px' }}>
      <h2 style={{ fontSize: 15 }}>{dayWords(day, today)}</h2>
      <Note $isSmall>
        {hourWords(minutes)} logged
        {facts === undefined || facts.isOff ? '' : ` of ${hourWords(facts.capacity)}`}
        {isFixed ? '. Its time is closed: a lead can put it right.' : ''}
      </Note>
      <ul>
        {entries.length === 0 ? <Quiet as="li">Nothing yet. Type hours into the grid, or start the timer on a task.</Quiet> : null}
        {entries.map((entry) =>
          isFixed ? <FixedEntry key={entry.id} entry={entry} /> : <EditableEntry key={entry.id} entry={entry} editing={editing} />,
        )}
      </ul>
    </Panel>
  );
}

function EditableEntry({ entry, editing }: { readonly entry: DayEntry; readonly editing: TimeEditing }) {
  const { title } = entry.row.task;
  const saveMinutes = (text: string): boolean => {
    const minutes = parseHours(text);
    if (minutes === null || minutes < 1 || minutes > 1440) return false;
    void editing.correct(entry, { minutes });
    return true;
  };
  const saveStart = (text: string): boolean => {
    const startMinute = text.trim() === '' ? null : parseClock(text);
    if (startMinute === null && text.trim() !== '') return false;
    void editing.correct(entry, { startMinute });
    return true;
  };
  return (
    <Entry>
      <HueMark $hue={entry.row.engagement.hue} />
      <strong title={`${title}, ${entry.row.engagement.name}`}>{title}</strong>
      <TextCell
        label={`Hours on ${title}`}
        value={hours(entry.minutes)}
        onSave={saveMinutes}
        style={{ textAlign: 'right', fontWeight: 650 }}
      />
      <Line>
        <span>from</span>
        <TextCell
          label={`When ${title} began`}
          value={entry.startMinute === null ? '' : clockWords(entry.startMinute)}
          placeholder="when?"
          onSave={saveStart}
          style={{ width: 58 }}
        />
        <span>{entry.startMinute === null ? '' : `to ${clockWords((entry.startMinute + entry.minutes) % 1440)}`}</span>
      </Line>
      <Overlaps entry={entry} />
      <Line>
        <TextCell
          label={`Note on ${title}`}
          value={entry.note}
          placeholder="add a note"
          onSave={(note) => void editing.correct(entry, { note: note.trim() })}
        />
      </Line>
      <Line style={{ justifyContent: 'space-between' }}>
        <Tick isSelected={entry.isChargeable} onChange={(isChargeable) => void editing.correct(entry, { isChargeable })}>
          charged to the client
        </Tick>
        <Button
          kind="quiet"
          onPress={() => void editing.remove(entry.row.task.id, entry)}
          aria-label={`Take ${hourWords(entry.minutes)} on ${title} out`}
        >
          Take out
        </Button>
      </Line>
    </Entry>
  );
}

function FixedEntry({ entry }: { readonly entry: DayEntry }) {
  return (
    <Entry>
      <HueMark $hue={entry.row.engagement.hue} />
      <strong>{entry.row.task.title}</strong>
      <span style={{ textAlign: 'right' }}>{hours(entry.minutes)}</span>
      <Line>
        <span>
          {[entry.startMinute === null ? '' : `from ${clockWords(entry.startMinute)}`, entry.note, entry.isChargeable ? '' : 'not charged']
            .filter((words) => words !== '')
            .join(' · ')}
        </span>
      </Line>
    </Entry>
  );
}

function Overlaps({ entry }: { readonly entry: DayEntry }) {
  if (entry.overlaps.length === 0) return null;
  return (
    <Line style={{ color: 'var(--brick)' }}>
      {entry.overlaps.map(({ title, minutes }) => `${minutes} min at the same time as “${title}”`).join(', ')}
    </Line>
  );
}
