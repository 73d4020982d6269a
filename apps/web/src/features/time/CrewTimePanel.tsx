import { Note, Quiet } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import { performOrThrow } from '../../session/perform.ts';
import { CloseTime, type CrewTime } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useCrewTime } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { ErrorNote, Loading, Panel, PanelHead, Push, Muted, Inline } from '../../ui/layout.tsx';
import { PersonMark } from '../../ui/marks.tsx';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { NO_DAY_TYPED } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { dayWords, plainDay, hours, hourWords, instantWords, shortDay } from '../../words/format.ts';

const Scrolled = styled.div`
  overflow-x: auto;
`;

const PlainLink = styled(Link)`
  text-decoration: none;
`;

const Changes = styled.ul`
  padding: 0 14px 8px;
`;

const Change = styled.li`
  padding: 7px 0;
  border-top: 1px solid var(--line-2);
`;

const Changed = styled.strong`
  font-weight: 600;
`;

const Table = styled.table`
  width: 100%;
  min-width: 680px;
  border-collapse: collapse;
  th,
  td {
    height: 34px;
    padding: 0 8px;
    text-align: right;
    font-weight: 400;
    border-top: 1px solid var(--line-2);
  }
  th:first-child {
    text-align: left;
    padding-left: 14px;
  }
  thead th {
    color: var(--ink-2);
    font-size: 12px;
    border-top: 0;
  }
  td:last-child,
  th:last-child {
    padding-right: 14px;
  }
  td.short {
    color: var(--amber);
    font-weight: 650;
  }
  td.off {
    color: var(--ink-3);
  }
`;

/** What each of the crew logged in a week, what is closed, and what was changed after that. */
export function CrewTimePanel({ day }: { readonly day: IsoDay }) {
  const { data: time, error } = useCrewTime(day);
  const { today } = useWho();
  if (error && time === undefined) return <ErrorNote error={error} />;
  if (time === undefined) return <Loading rows={12} />;
  return (
    <>
      <Panel>
        <PanelHead>
          <h2>Hours logged</h2>
          <Muted>{time.closedThrough === null ? 'Nothing is closed.' : `Closed through ${dayWords(time.closedThrough, today)}.`}</Muted>
          <Push />
          <Closing time={time} today={today} />
        </PanelHead>
        <Scrolled tabIndex={0} role="group" aria-label="Hours by person and day">
          <CrewTable time={time} today={today} />
        </Scrolled>
      </Panel>
      <LateChanges time={time} today={today} />
    </>
  );
}

function CrewTable({ time, today }: { readonly time: CrewTime; readonly today: IsoDay }) {
  const total = (minutes: readonly number[]): number => minutes.reduce((sum, each) => sum + each, 0);
  return (
    <Table>
      <thead>
        <tr>
          <th scope="col">hours logged, amber = less than half the day logged</th>
          {time.dates.map((date) => (
            <th key={date} scope="col">
              {date === today ? 'today' : plainDay(date).split(' ').slice(0, 2).join(' ')}
            </th>
          ))}
          <th scope="col">Week</th>
          <th scope="col">Chargeable</th>
        </tr>
      </thead>
      <tbody>
        {time.people.map(({ person, minutes, capacity, chargeableMinutes }) => (
          <tr key={person.id}>
            <th scope="row">
              <Inline as="span" $gap={9} $isOneLine>
                <PersonMark person={person} />
                <PlainLink href={`/time?person=${person.id}&day=${time.dates[0] ?? today}`}>{person.name}</PlainLink>
              </Inline>
            </th>
            {minutes.map((each, index) => {
              const open = capacity[index] ?? 0;
              const isShort = (time.dates[index] ?? '') < today && open > 0 && each * 2 < open;
              return (
                <td key={time.dates[index]} className={isShort ? 'short' : open === 0 ? 'off' : undefined}>
                  {each === 0 && open === 0 ? 'off' : hours(each)}
                </td>
              );
            })}
            <td>
              <strong>{hours(total(minutes))}</strong> / {hourWords(total(capacity))}
            </td>
            <td>{total(minutes) === 0 ? '' : `${Math.round((chargeableMinutes * 100) / total(minutes))} % of it`}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

/** Closing locks what was logged; opening again is recorded too. */
function Closing({ time, today }: { readonly time: CrewTime; readonly today: IsoDay }) {
  return (
    <FormButton button={<Button>Close time…</Button>} label="Close time" width={270}>
      {(close) => <ClosingForm time={time} today={today} onClose={close} />}
    </FormButton>
  );
}

function ClosingForm({ time, today, onClose }: { readonly time: CrewTime; readonly today: IsoDay; readonly onClose: () => void }) {
  const form = useInputForm({
    rules: CloseTime,
    typed: { through: time.closedThrough ?? NO_DAY_TYPED },
    input: ({ through }) => ({ through: through === '' ? null : through }),
    send: async (input) => {
      const { through } = input;
      await performOrThrow({
        send: () => call('POST', '/time/closing', input),
        said: through === null ? 'All time is reopened.' : `Time is closed through ${shortDay(through, today)}.`,
      });
      onClose();
    },
  });
  return (
    <SmallForm form={form} action={form.values.through === '' ? 'Reopen all time' : 'Close time'}>
      <Note $isSmall>Up to this day only leads can change time, and must say why. Leave empty to reopen everything.</Note>
      <DayField {...form.bind('through')} label="Through" today={today} />
    </SmallForm>
  );
}

const WHAT: Readonly<Record<string, string>> = { 'time-logged': 'logged', 'time-corrected': 'corrected', 'time-removed': 'removed' };

function LateChanges({ time, today }: { readonly time: CrewTime; readonly today: IsoDay }) {
  const { zone } = useWho();
  if (time.lateChanges.length === 0) return null;
  return (
    <Panel $space="above" aria-label="Changed after closing">
      <PanelHead>
        <h2>Changed after closing</h2>
      </PanelHead>
      <Changes>
        {time.lateChanges.map((change) => (
          <Change key={change.id}>
            <Changed>{change.task}</Changed>
            {change.whose === '' ? '' : ` of ${change.whose}`}, {dayWords(change.day, today)}: {WHAT[change.what] ?? change.what},{' '}
            {change.from === null ? '' : `${hourWords(change.from)} `}
            {change.to === null ? '' : `${change.from === null ? '' : 'became '}${hourWords(change.to)}`}
            <Quiet>
              {' '}
              · “{change.reason}” · {change.who}, {instantWords(change.at, { today, zone })}
            </Quiet>
          </Change>
        ))}
      </Changes>
    </Panel>
  );
}
