import { Toned, Note } from '../../ui/text.tsx';
import type { LineRole, RhythmTried } from '@crew/contract';
import { LEAST_OVER, type IsoDay } from '@crew/core';
import { useCallback, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Chart } from '../../ui/Chart.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { dayWords, hours, hourWords } from '../../words/format.ts';
import { listed } from '../../words/rhythm.ts';
import { FullnessLines } from '../workload/FullnessLines.tsx';
import { hoursOption } from './hours-chart.ts';

const Answer = styled.div`
  margin-top: 11px;
  padding: 9px 11px;
  border: 1px solid var(--petrol);
  border-radius: 6px;
  strong {
    font-weight: 650;
  }
  p + p {
    margin-top: 6px;
    font-size: 12.5px;
    color: var(--ink-2);
  }
`;
const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: 12.5px;
  th {
    font-weight: 500;
    color: var(--ink-2);
    text-align: right;
    padding: 3px 0 5px 10px;
    border-bottom: 1px solid var(--line);
    white-space: nowrap;
  }
  th:first-child,
  td:first-child {
    text-align: left;
    padding-left: 0;
  }
  td {
    text-align: right;
    padding: 2px 0 2px 10px;
    border-bottom: 1px solid var(--line-2);
    white-space: nowrap;
  }
`;
const Weeks = styled.div`
  margin-top: 10px;
`;
const Then = styled(Toned).attrs({ as: 'td' })`
  font-weight: 650;
`;
const Verdict = styled(Toned).attrs({ as: 'p' })`
  font-weight: 650;
`;
const RoleName = styled(AriaButton)<{ $isShown: boolean }>`
  padding: 3px 6px;
  margin-left: -6px;
  border: 0;
  border-radius: 4px;
  background: ${({ $isShown }) => ($isShown ? 'var(--petrol-soft)' : 'transparent')};
  color: var(--ink);
  text-align: left;
  cursor: pointer;
  &[data-hovered] {
    background: var(--petrol-soft);
  }
`;

interface AnswerProps {
  readonly tried: RhythmTried;
  readonly today: IsoDay;
  readonly onFrom: (day: IsoDay) => void;
}

/** What another rhythm would do: hours by role and week, whose days fill, from when it would put nobody further over. */
export function RhythmAnswer({ tried, today, onFrom }: AnswerProps) {
  const [shown, setShown] = useState<string | null>(null);
  const role = tried.roles.find(({ role: name }) => name === shown) ?? tightest(tried.roles);
  return (
    <>
      <Answer>
        <RoomWords tried={tried} today={today} onFrom={onFrom} />
        {tried.alone.length === 0 ? null : (
          <Toned as="p" $tone="waiting">
            Whenever it starts, it is too much for {aloneWords(tried)} alone: share the work or allow more time.
          </Toned>
        )}
      </Answer>
      <SheetPart>
        <h3>Hours a week once under way</h3>
        <RoleTable roles={tried.roles} shown={role?.role} onShow={setShown} />
        {role === undefined ? null : <RoleWeeks role={role} weeks={tried.weeks} />}
      </SheetPart>
      <FullnessLines people={tried.people} today={today} />
    </>
  );
}

/** Whether there is room for it from the day asked, or else from when. */
function RoomWords({ tried, today, onFrom }: AnswerProps) {
  const { earliest, from } = tried;
  if (earliest === null) return <Verdict $tone="bad">No week in the next half year has room for it.</Verdict>;
  if (earliest <= from) return <Verdict $tone="good">Nobody goes further over capacity.</Verdict>;
  return (
    <p>
      <Toned as="strong" $tone="bad">
        From {dayWords(from, today)} it puts {overWords(tried.people)} further over.
      </Toned>{' '}
      <Button kind="text" onPress={() => onFrom(earliest)}>
        From {dayWords(earliest, today)}
      </Button>{' '}
      there is room.
    </p>
  );
}

interface TableProps {
  readonly roles: readonly LineRole[];
  /** The role whose weeks are drawn below. */
  readonly shown: string | undefined;
  readonly onShow: (role: string) => void;
}

function RoleTable({ roles, shown, onShow }: TableProps) {
  return (
    <Table>
      <thead>
        <tr>
          <th scope="col">role</th>
          <th scope="col">now</th>
          <th scope="col">then</th>
          <th scope="col">has room for</th>
        </tr>
      </thead>
      <tbody>
        {roles.map((line) => (
          <tr key={line.role}>
            <td>
              <RoleName $isShown={line.role === shown} aria-pressed={line.role === shown} onPress={() => onShow(line.role)}>
                {line.role}
              </RoleName>
            </td>
            <td>{hourWords(line.settled.before)}</td>
            <Then $tone={isTooMuch(line) ? 'bad' : null}>{hourWords(line.settled.after)}</Then>
            <td>{line.settled.room === null ? 'nobody holds it' : hourWords(line.settled.room)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

const aloneWords = ({ alone }: RhythmTried): string =>
  alone.map(({ person, minutes }) => `${person.name.split(' ')[0] as string} (${hourWords(minutes)} in 12 weeks)`).join(' and ');

/** Whose days it fills beyond what is open, and by how much. */
function overWords(people: RhythmTried['people']): string {
  const over = people.filter(({ before, after }) => after.over - before.over >= LEAST_OVER);
  const words = over.map(({ person, before, after }) => `${person.name.split(' ')[0] as string} ${hourWords(after.over - before.over)}`);
  return words.length === 0 ? 'somebody' : listed(words);
}

const isTooMuch = (line: LineRole): boolean => line.settled.room !== null && line.settled.after > line.settled.room;

/** The role that has least room left, to be looked at first. */
const tightest = (roles: readonly LineRole[]): LineRole | undefined => [...roles].sort((one, other) => roomLeft(one) - roomLeft(other))[0];
const roomLeft = (line: LineRole): number => (line.settled.room === null ? 0 : line.settled.room - line.settled.after);

function RoleWeeks({ role, weeks }: { readonly role: LineRole; readonly weeks: readonly IsoDay[] }) {
  const option = useCallback((colour: (token: string) => string) => hoursOption({ role, weeks }, colour), [role, weeks]);
  const label = `${role.role}, hours a week from ${weeks[0] ?? ''}: now ${role.before.map(hours).join(', ')}; then ${role.after.map(hours).join(', ')}`;
  return (
    <Weeks>
      <Note $isSmall>
        {role.role}, hours in each week; one takes {hourWords(role.unitMinutes)}
      </Note>
      <Chart label={label} height={150} option={option} />
    </Weeks>
  );
}
