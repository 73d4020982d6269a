import type { HandoffCase, HandoffSpeedColumn } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useHandoffCases } from '../../api/queries.ts';
import { useShown } from '../../session/use-shown.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Inline, Loading, Muted, Panel, PanelHead, Push } from '../../ui/layout.tsx';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { Toned } from '../../ui/text.tsx';
import { count, hourWords, instantWords } from '../../words/format.ts';
import { daysText, monthInFull } from './speed-words.ts';

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th {
    padding: 8px 10px;
    font-weight: 400;
    font-size: 12.5px;
    text-align: left;
    color: var(--ink-2);
  }
  td {
    padding: 7px 10px;
    border-top: 1px solid var(--line-2);
    vertical-align: top;
  }
  th.number,
  td.number {
    text-align: right;
    white-space: nowrap;
  }
`;
const Scroll = styled.div`
  overflow-x: auto;
`;

interface CasesProps {
  readonly column: HandoffSpeedColumn;
  readonly month: string;
  readonly months: readonly string[];
  readonly query: string;
}

/** The handoffs behind the numbers of a column and a month. */
export function CasesPanel({ column, month, months, query }: CasesProps) {
  const [, show] = useShown();
  const { data, error } = useHandoffCases(query);
  const point = column.points.find((one) => one.month === month);
  const before = months[months.indexOf(month) - 1];
  const after = months[months.indexOf(month) + 1];
  const waiting = (data ?? []).filter(({ isWaiting }) => isWaiting).length;
  return (
    <Panel aria-label="Handoffs behind the numbers">
      <PanelHead>
        <h2>
          {column.name}, {monthInFull(month)}
        </h2>
        <Muted>
          {point === undefined || point.waitMinutes === null
            ? 'none picked up yet'
            : `usually picked up after ${hourWords(point.waitMinutes)} (median of ${point.waits})`}
          {waiting === 0 ? '' : `, ${count(waiting, 'is', 'are')} still waiting`}
        </Muted>
        <Push />
        <Inline>
          {before === undefined ? null : (
            <Button kind="quiet" onPress={() => show({ month: before })}>
              ‹ {monthInFull(before)}
            </Button>
          )}
          {after === undefined ? null : (
            <Button kind="quiet" onPress={() => show({ month: after })}>
              {monthInFull(after)} ›
            </Button>
          )}
        </Inline>
      </PanelHead>
      {data === undefined ? (
        error === undefined ? (
          <Loading rows={3} />
        ) : (
          <ErrorNote error={error} />
        )
      ) : data.length === 0 ? (
        <Empty title="Nothing was handed off then." />
      ) : (
        <CaseTable cases={data} />
      )}
    </Panel>
  );
}

function CaseTable({ cases }: { readonly cases: readonly HandoffCase[] }) {
  return (
    <Scroll>
      <Table>
        <thead>
          <tr>
            <th scope="col">engagement</th>
            <th scope="col">from → to</th>
            <th scope="col">handed off</th>
            <th scope="col">picked up</th>
            <th scope="col" className="number">
              wait
            </th>
            <th scope="col" className="number">
              time in phase
            </th>
            <th scope="col">sent back</th>
          </tr>
        </thead>
        <tbody>
          {cases.map((one) => (
            <CaseRow key={one.id} handoff={one} />
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

function CaseRow({ handoff }: { readonly handoff: HandoffCase }) {
  const me = useWho();
  const { engagement, from, to, giver, receiver, days, plannedDays, questions, isWaiting } = handoff;
  return (
    <tr>
      <td>
        <Inline $isOneLine>
          <HueMark $hue={engagement.hue} />
          <Link href={`/handoffs?handoff=${handoff.id}`}>{engagement.name}</Link>
        </Inline>
      </td>
      <td>
        <Inline $isOneLine>
          {giver === null ? null : <PersonMark person={giver} />}
          {from} → {to ?? 'completion'}
          {receiver === null ? null : <PersonMark person={receiver} />}
        </Inline>
      </td>
      <td>{instantWords(handoff.handedOffAt, me)}</td>
      <td>
        {handoff.pickedUpAt === null ? (
          <Toned $tone={isWaiting ? 'bad' : 'quiet'}>{isWaiting ? 'not yet' : 'sent back'}</Toned>
        ) : (
          instantWords(handoff.pickedUpAt, me)
        )}
      </td>
      <td className="number">
        {to === null ? <Muted>none, the last phase</Muted> : <strong>{hourWords(handoff.waitMinutes)}</strong>}
        {isWaiting ? ' so far' : ''}
      </td>
      <td className="number">
        {days === null ? 'not over' : daysText(days)}
        {plannedDays === null ? '' : ` of ${daysText(plannedDays)} d`}
      </td>
      <td>{questions.length === 0 ? <Muted>no</Muted> : `${count(questions.length, 'time')}: “${questions.at(-1) ?? ''}”`}</td>
    </tr>
  );
}
