import { hiddenText } from '../../ui/tokens.ts';
import type { IsoDay } from '@crew/core';
import { can, type GateCheckView, type HandoffSheet as Handoff } from '@crew/contract';
import { useState } from 'react';
import { Button as AriaButton, Link } from 'react-aria-components';
import styled from 'styled-components';
import { Explain } from '../explain/Explain.tsx';
import { call } from '../../api/client.ts';
import { useHandoff } from '../../api/queries.ts';
import { backBy, perform, undoChange } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { HandoffMail } from '../mail/HandoffMail.tsx';
import { WaysOut } from '../task/WaysOut.tsx';
import { Baton } from '../../ui/Baton.tsx';
import { ErrorNote, Inline, Loading } from '../../ui/layout.tsx';
import { PersonMark } from '../../ui/marks.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { count, dayWords, hourWords, instantWords } from '../../words/format.ts';
import { Give, NO_DRAFT, Receive, type Draft, type HandoffProps } from './NextStep.tsx';
import { Line, List } from './parts.tsx';
import { PacketPart } from './PacketPart.tsx';
import { FoldedHistory } from '../history/FoldedHistory.tsx';

const Unseen = styled.span`
  ${hiddenText}
`;

const Title = styled.h2`
  display: flex;
  align-items: center;
  gap: 9px;
  font-size: 18px;
`;
const Quote = styled.blockquote`
  margin: 10px 0 0;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--sunk);
`;

const QuestionQuote = styled(Quote)`
  border-color: var(--brick);
  background: var(--brick-soft);
`;
const CheckButton = styled(AriaButton)`
  display: flex;
  align-items: flex-start;
  gap: 9px;
  width: 100%;
  padding: 0;
  border: 0;
  background: transparent;
  text-align: left;
  cursor: pointer;
  &[data-disabled] {
    cursor: default;
  }
  small {
    display: block;
    color: var(--ink-2);
  }
`;
const Box = styled.span<{ $isClear: boolean }>`
  flex: none;
  margin-top: 4px;
  width: 11px;
  height: 11px;
  border-radius: 3px;
  border: 1.6px solid ${({ $isClear }) => ($isClear ? 'var(--petrol)' : 'var(--amber)')};
  background: ${({ $isClear }) => ($isClear ? 'var(--petrol)' : 'var(--amber-soft)')};
`;
const TURN_WORDS = { 'handed-off': 'handed off', 'picked-up': 'picked up', 'sent-back': 'sent back', 'given-on': 'passed it on' } as const;

/** A handoff beside the list: its gate, what goes along, what picking it up does, and the next step. */
export function HandoffSheet({ handoffId, onClose }: { readonly handoffId: string; readonly onClose: () => void }) {
  const { data: handoff, error } = useHandoff(handoffId);
  const [drafts, setDrafts] = useState<Readonly<Record<string, Draft>>>({});
  const draft = drafts[handoffId] ?? NO_DRAFT;
  const write = (more: Partial<Draft>): void => setDrafts((before) => ({ ...before, [handoffId]: { ...draft, ...more } }));
  return (
    <Sheet label="Handoff" line="Handoff" onClose={onClose}>
      {error ? (
        <ErrorNote error={error} />
      ) : handoff === undefined ? (
        <Loading rows={8} />
      ) : (
        <Body key={`${handoff.id} ${handoff.version}`} handoff={handoff} drafting={{ draft, write }} />
      )}
    </Sheet>
  );
}

function Body({ handoff, drafting }: HandoffProps) {
  const me = useWho();
  const { today } = me;
  return (
    <>
      <Title>
        <Baton state={handoff.baton} size={18} /> {handoff.from.name} → {handoff.to?.name ?? 'closed'}
      </Title>
      <Line>
        {can(me, 'engagement.open') ? (
          <Link href={`/engagements/${handoff.engagement.id}`}>{handoff.engagement.name}</Link>
        ) : (
          handoff.engagement.name
        )}
        {handoff.since === null || handoff.giver === null
          ? ''
          : ` · ${handoff.giver.name.split(' ')[0]} ${handoff.state === 'sent-back' ? 'got it back' : 'handed off'} ${instantWords(handoff.since, me)}`}
      </Line>
      {handoff.standIn === null ? null : (
        <Line>
          {handoff.receiver?.name.split(' ')[0]} is away. {handoff.standIn.name.split(' ')[0]} stands in and can pick it up.
        </Line>
      )}
      {handoff.words === '' ? null : <Quote>“{handoff.words}”</Quote>}
      {handoff.question === null ? null : (
        <QuestionQuote>
          <strong>Sent back:</strong> “{handoff.question}”
        </QuestionQuote>
      )}
      <GatePart handoff={handoff} />
      <SheetPart>
        <Inline $gap={4}>
          <h3>What goes along</h3>
          <Explain word="packet" />
        </Inline>
        <PacketPart handoff={handoff} drafting={drafting} />
      </SheetPart>
      {handoff.onPickUp === null ? null : (
        <SheetPart>
          <h3>If it is picked up today</h3>
          <PickUpWords onPickUp={handoff.onPickUp} to={handoff.to?.name ?? ''} today={today} />
        </SheetPart>
      )}
      {handoff.turns.length === 0 ? null : <Turns turns={handoff.turns} />}
      <HandoffMail handoffId={handoff.id} />
      <NextStep handoff={handoff} drafting={drafting} />
      {handoff.state === 'picked-up' ? null : <WaysOut ways={handoff.ways} engagement={handoff.engagement} />}
      <FoldedHistory subject="handoff" id={handoff.id} />
    </>
  );
}

/** What the gate asks for, and the way to change that. */
function GatePart({ handoff }: { readonly handoff: Handoff }) {
  const me = useWho();
  return (
    <SheetPart>
      <Inline $gap={4}>
        <h3>Gate</h3>
        <Explain word="gate" />
      </Inline>
      {can(me, 'engagement.edit') && handoff.state !== 'picked-up' ? (
        <Line>
          <Link href={`/engagements/${handoff.engagement.id}?phase=${handoff.from.id}`}>Edit the phase and its gate</Link>
        </Line>
      ) : null}
      {handoff.gate.length === 0 ? <Line>This gate has no checks.</Line> : null}
      <List>
        {handoff.gate.map((check) => (
          <li key={check.id}>
            <GateCheck check={check} canEdit={handoff.canHandOff} />
          </li>
        ))}
      </List>
    </SheetPart>
  );
}

/** What can be done with it now. After the last phase nothing is picked up: a lead completes the engagement. */
function NextStep({ handoff, drafting }: HandoffProps) {
  const me = useWho();
  const isClosing = handoff.to === null && can(me, 'engagement.edit');
  if (isClosing && (handoff.canPickUp || handoff.canHandOff))
    return (
      <SheetPart>
        <ButtonLink kind="primary" href={`/engagements/${handoff.engagement.id}?show=complete`}>
          Complete engagement…
        </ButtonLink>
      </SheetPart>
    );
  return (
    <>
      {handoff.canPickUp ? <Receive handoff={handoff} drafting={drafting} /> : null}
      {handoff.canHandOff ? <Give handoff={handoff} drafting={drafting} /> : null}
    </>
  );
}

/** The moves of the handoff so far. */
function Turns({ turns }: Pick<Handoff, 'turns'>) {
  const me = useWho();
  return (
    <SheetPart>
      <h3>So far</h3>
      <List>
        {turns.map((turn) => (
          <li key={turn.at}>
            {turn.who === null ? <span /> : <PersonMark person={turn.who} />}
            <span>
              {TURN_WORDS[turn.kind]}
              {turn.who === null ? ' by a rule' : ''}
              {turn.words === '' ? '' : `: “${turn.words}”`}
            </span>
            <span>
              {instantWords(turn.at, me)}
              <UndoTurn changeId={turn.changeId} />
            </span>
          </li>
        ))}
      </List>
    </SheetPart>
  );
}

/** Undoes the last move; where somebody has built on it, the reason is shown. */
function UndoTurn({ changeId }: Pick<Handoff['turns'][number], 'changeId'>) {
  if (changeId === null) return null;
  return (
    <Button kind="quiet" onPress={() => void perform({ send: () => undoChange(changeId), said: (words) => words })}>
      Undo
    </Button>
  );
}

function GateCheck({ check, canEdit }: { readonly check: GateCheckView; readonly canEdit: boolean }) {
  const isWord = check.kind === 'word';
  const setClear = (isClear: boolean): Promise<unknown> => call('PATCH', `/gate-checks/${check.id}`, { isClear });
  const toggle = (): void =>
    void perform({
      send: () => setClear(!check.isClear),
      said: check.isClear ? `“${check.text}” is open again.` : `“${check.text}” is clear.`,
      undo: () => backBy(() => setClear(check.isClear)),
    });
  const detail = check.isClear
    ? check.clearedBy === null
      ? null
      : `confirmed by ${check.clearedBy}`
    : isWord
      ? canEdit
        ? 'press to confirm'
        : 'nobody has confirmed it yet'
      : check.missing;
  return (
    <CheckButton isDisabled={!isWord || !canEdit} aria-pressed={isWord ? check.isClear : undefined} onPress={toggle}>
      <Box $isClear={check.isClear} aria-hidden="true" />
      <span>
        {check.text}
        <Unseen>{check.isClear ? ', clear' : ', open'}</Unseen>
        {detail === null ? null : <small>{detail}</small>}
      </span>
    </CheckButton>
  );
}

function PickUpWords({
  onPickUp,
  to,
  today,
}: {
  readonly onPickUp: NonNullable<Handoff['onPickUp']>;
  readonly to: string;
  readonly today: IsoDay;
}) {
  return (
    <List>
      <li>
        <span>
          {to} starts {dayWords(onPickUp.start, today)} and ends <strong>{dayWords(onPickUp.finish, today)}</strong>,{' '}
          {count(onPickUp.tasks, 'task is scheduled', 'tasks are scheduled')}
        </span>
      </li>
      {onPickUp.people.map((one) => (
        <li key={one.person.id}>
          <PersonMark person={one.person} />
          <span>{one.person.name}</span>
          <span>
            {count(one.tasks, 'task')} · {hourWords(one.minutes)}
          </span>
        </li>
      ))}
      {onPickUp.unassigned === 0 ? null : (
        <li>
          <span>{count(onPickUp.unassigned, 'task is unassigned', 'tasks are unassigned')}</span>
        </li>
      )}
    </List>
  );
}
