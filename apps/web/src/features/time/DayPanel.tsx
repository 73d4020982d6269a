import type { IsoDay } from '@crew/core';
import type { WeekSheet } from '@crew/contract';
import { Note, Quiet } from '../../ui/text.tsx';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Panel, PanelTitle } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { dayWords, hours, hourWords, parseHours } from '../../words/format.ts';
import { clockWords, parseClock } from '../../words/parse-time.ts';
import type { TimeEditing } from './use-time-edit.ts';
import { entriesOfDay, type DayEntry } from './week.ts';

const HoursCell = styled(TextCell)`
  text-align: right;
  font-weight: 650;
`;

const ClockCell = styled(TextCell)`
  width: 58px;
`;

const HoursText = styled.span`
  text-align: right;
`;

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

const OverLine = styled(Line)`
  color: var(--brick);
`;

const FootLine = styled(Line)`
  justify-content: space-between;
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
    <Panel $isPadded aria-label={`Entries of ${dayWords(day, today)}`}>
      <PanelTitle>{dayWords(day, today)}</PanelTitle>
      <Note $isSmall>
        {hourWords(minutes)} logged
        {facts === undefined || facts.isOff ? '' : ` of ${hourWords(facts.capacity)}`}
        {isFixed ? '. Its time is closed: a lead can correct it.' : ''}
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
  const saveMinutes = (text: string): boolean | string => {
    const minutes = parseHours(text);
    if (minutes === null) return 'Write hours as 1.5, 1:30 or 90m.';
    if (minutes < 1) return 'To remove it, press Remove.';
    if (minutes > 1440) return 'A day has 24 hours. Write at most 24.';
    void editing.correct(entry, { minutes });
    return true;
  };
  const saveStart = (text: string): boolean | string => {
    const startMinute = text.trim() === '' ? null : parseClock(text);
    if (startMinute === null && text.trim() !== '') return 'Write a time as 9:30 or 14.15.';
    void editing.correct(entry, { startMinute });
    return true;
  };
  return (
    <Entry>
      <HueMark $hue={entry.row.engagement.hue} />
      <strong title={`${title}, ${entry.row.engagement.name}`}>{title}</strong>
      <HoursCell label={`Hours on ${title}`} value={hours(entry.minutes)} onSave={saveMinutes} />
      <Line>
        <span>from</span>
        <ClockCell
          label={`When ${title} started`}
          value={entry.startMinute === null ? '' : clockWords(entry.startMinute)}
          placeholder="when?"
          onSave={saveStart}
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
      <FootLine>
        <Tick isSelected={entry.isChargeable} onChange={(isChargeable) => void editing.correct(entry, { isChargeable })}>
          chargeable
        </Tick>
        <Button
          kind="quiet"
          onPress={() => void editing.remove(entry.row.task.id, entry)}
          aria-label={`Remove ${hourWords(entry.minutes)} on ${title}`}
        >
          Remove
        </Button>
      </FootLine>
    </Entry>
  );
}

function FixedEntry({ entry }: { readonly entry: DayEntry }) {
  return (
    <Entry>
      <HueMark $hue={entry.row.engagement.hue} />
      <strong>{entry.row.task.title}</strong>
      <HoursText>{hours(entry.minutes)}</HoursText>
      <Line>
        <span>
          {[
            entry.startMinute === null ? '' : `from ${clockWords(entry.startMinute)}`,
            entry.note,
            entry.isChargeable ? '' : 'not chargeable',
          ]
            .filter((words) => words !== '')
            .join(' · ')}
        </span>
      </Line>
    </Entry>
  );
}

function Overlaps({ entry }: { readonly entry: DayEntry }) {
  if (entry.overlaps.length === 0) return null;
  return <OverLine>{entry.overlaps.map(({ title, minutes }) => `${minutes} min at the same time as “${title}”`).join(', ')}</OverLine>;
}
