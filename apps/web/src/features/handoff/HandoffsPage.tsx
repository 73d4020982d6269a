import type { IsoDay } from '@crew/core';
import { can, reachOf, type HandoffBoard, type HandoffLine } from '@crew/contract';
import { useCallback } from 'react';
import { Link } from 'react-aria-components';
import { Toned } from '../../ui/text.tsx';
import styled from 'styled-components';
import { Explain } from '../explain/Explain.tsx';
import { useHandoffs } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { Baton } from '../../ui/Baton.tsx';
import { Button } from '../../ui/Button.tsx';
import { HandoffTabs } from '../rule/HandoffTabs.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, WithSheet } from '../../ui/layout.tsx';
import { HueMark, PersonMark, Tag } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { dayWords, hours, heldWords } from '../../words/format.ts';
import { HandoffSheet } from './HandoffSheet.tsx';
import { Reminders } from './Reminders.tsx';

const GroupHead = styled.h2`
  display: flex;
  align-items: baseline;
  gap: 9px;
  padding: 12px 14px 10px;
  border-bottom: 1px solid var(--line-2);
  small {
    font:
      400 12.5px 'Hanken Grotesk Variable',
      sans-serif;
    color: var(--ink-2);
  }
`;
const Row = styled.li<{ $isOpen: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: minmax(150px, 1.1fr) minmax(210px, 1.3fr) minmax(130px, 1fr) 104px;
  gap: 12px;
  align-items: center;
  min-height: 56px;
  padding: 8px 14px 8px 0;
  border-bottom: 1px solid var(--line);
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'transparent')};
  &:hover {
    background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'var(--sunk)')};
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 6px 10px;
    > :nth-child(2),
    > :nth-child(3) {
      grid-column: 1 / -1;
      padding-left: 16px;
    }
    > :nth-child(4) {
      grid-row: 1;
      grid-column: 2;
    }
  }
`;
const Name = styled.div`
  display: flex;
  gap: 12px;
  align-items: center;
  min-width: 0;
  > div {
    min-width: 0;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;
const NameLink = styled(Link)`
  font-weight: 600;
  text-decoration: none;
  &::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;
const Joint = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px;
  font-weight: 600;
  font-size: 12.5px;
`;
const Checks = styled.div`
  font-size: 12px;
  color: var(--ink-2);
  > span {
    display: flex;
    gap: 4px;
    margin-bottom: 3px;
  }
  i {
    width: 10px;
    height: 10px;
    border-radius: 2.5px;
    border: 1.5px solid var(--petrol);
  }
  i.open {
    background: var(--amber-soft);
    border-color: var(--amber);
  }
  i.clear {
    background: var(--petrol);
  }
`;
const When = styled.div`
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  gap: 5px;
  font-size: 12.5px;
  text-align: right;
  button {
    position: relative;
    z-index: 1;
  }
`;

const HANDOFF_SHEETS = { things: ['handoff'] } as const;

/** Every handoff that waits to be picked up, was sent back, or is soon due. */
export function HandoffsPage() {
  const me = useWho();
  const { today, personId } = me;
  const { data: board, error } = useHandoffs();
  const [sheet, openSheet] = useOpenSheet(HANDOFF_SHEETS);
  const chosen = sheet?.id ?? null;
  const close = useCallback(() => openSheet(null), [openSheet]);
  const open = (id: string): void => openSheet({ kind: 'handoff', id });
  return (
    <Page>
      <PageHead>
        <h1>Handoffs</h1>
        <Explain word="baton" />
        {can(me, 'rule.read') ? <HandoffTabs shown="/handoffs" /> : null}
        {board === undefined || reachOf(me, 'handoff.read') === 'own' ? null : <Muted>{speedWords(board)}</Muted>}
      </PageHead>
      {error ? <ErrorNote error={error} /> : null}
      {board === undefined ? (
        error ? null : (
          <Loading rows={10} />
        )
      ) : (
        <WithSheet $isOpen={chosen !== null} $sheet="360px">
          <Panel>
            <Groups board={board} today={today} chosen={chosen} personId={personId} onOpen={open} />
          </Panel>
          {chosen === null ? null : <HandoffSheet handoffId={chosen} onClose={close} />}
        </WithSheet>
      )}
      {can(me, 'agency.edit-settings') ? <Reminders /> : null}
    </Page>
  );
}

function speedWords({ pickUpMinutes: { thisMonth, lastMonth } }: HandoffBoard): string {
  const now = thisMonth === null ? 'nothing picked up yet this month' : `usually picked up in ${hours(thisMonth)} working hours this month`;
  return lastMonth === null ? now : `${now}, ${hours(lastMonth)} last month`;
}

interface GroupsProps {
  readonly board: HandoffBoard;
  readonly today: IsoDay;
  readonly chosen: string | null;
  readonly personId: string | null;
  readonly onOpen: (id: string) => void;
}

function Groups({ board, today, chosen, personId, onOpen }: GroupsProps) {
  const of = (state: HandoffLine['state']): HandoffLine[] => board.lines.filter((line) => line.state === state);
  const groups = [
    { title: 'Handed off, waiting to be picked up', lines: of('handed-off'), note: '' },
    { title: 'Sent back with a question', lines: of('sent-back'), note: '' },
    { title: 'Getting ready', lines: of('getting-ready'), note: 'due in the next two weeks' },
  ].filter((group) => group.lines.length > 0);
  if (groups.length === 0) {
    return (
      <Empty title="No handoffs in progress.">
        <p>Two weeks before a phase ends, its handoff appears here with the checks still open.</p>
      </Empty>
    );
  }
  return groups.map((group) => (
    <section key={group.title}>
      <GroupHead>
        {group.title}{' '}
        <small>
          {group.lines.length} {group.note}
        </small>
      </GroupHead>
      <ul>
        {group.lines.map((line) => (
          <LineRow key={line.id} line={line} today={today} isOpen={line.id === chosen} personId={personId} onOpen={onOpen} />
        ))}
      </ul>
    </section>
  ));
}

interface LineProps {
  readonly line: HandoffLine;
  readonly today: IsoDay;
  readonly isOpen: boolean;
  readonly personId: string | null;
  readonly onOpen: (id: string) => void;
}

function LineRow({ line, today, isOpen, personId, onOpen }: LineProps) {
  return (
    <Row $isOpen={isOpen}>
      <Name>
        <HueMark $hue={line.engagement.client.hue} $height={34} />
        <div>
          <NameLink href={`/handoffs?handoff=${line.id}`}>{line.engagement.name}</NameLink>
          <small>{line.engagement.client.name}</small>
        </div>
      </Name>
      <Joint>
        {line.giver === null ? null : <PersonMark person={line.giver} />}
        {line.from.name}
        <Baton state={line.baton === 'not-due' ? 'getting-ready' : line.baton} size={17} />
        {line.to?.name ?? 'Closed'}
        {line.receiver !== null ? <PersonMark person={line.receiver} /> : line.toRole === null ? null : <Tag>{line.toRole}</Tag>}
      </Joint>
      <Checks>
        <span aria-hidden="true">
          {line.checks.map((check, index) => (
            <i key={index} className={check.isClear ? 'clear' : 'open'} />
          ))}
        </span>
        {checkWords(line)}
      </Checks>
      <LineWhen line={line} today={today} personId={personId} onOpen={onOpen} />
    </Row>
  );
}

function checkWords(line: HandoffLine): string {
  if (line.question !== null) return `“${line.question}”`;
  if (line.checks.length === 0) return 'no checks';
  const clear = line.checks.filter((check) => check.isClear).length;
  return line.missing.length === 0 ? `${clear} of ${line.checks.length} checks clear` : line.missing.join(', ');
}

function LineWhen({ line, today, personId, onOpen }: Omit<LineProps, 'isOpen'>) {
  const { clockAheadMs } = useWho();
  if (line.state === 'getting-ready') return <When>{dayWords(line.from.finish, today)}</When>;
  const isMine =
    line.state === 'handed-off' ? [line.receiver?.id, line.standIn?.id].includes(personId ?? undefined) : line.giver?.id === personId;
  const word = !isMine ? 'Open' : line.state === 'sent-back' ? 'Answer' : 'Pick up';
  return (
    <When>
      <Toned as="strong" $tone={line.state === 'sent-back' ? 'bad' : 'waiting'}>
        {line.since === null ? '' : heldWords(line.since, clockAheadMs)}
      </Toned>
      <Button onPress={() => onOpen(line.id)}>{word}</Button>
    </When>
  );
}
