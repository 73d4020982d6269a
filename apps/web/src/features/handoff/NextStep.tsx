import { perform } from '../../session/perform.ts';
import { can, type HandoffSheet as Handoff } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Muted } from '../../ui/layout.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { count } from '../../words/format.ts';

const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 12px;
`;

/** What somebody has typed and not sent yet. It outlives a change by somebody else, and is gone once it is sent. */
export interface Draft {
  readonly words: string;
  readonly reason: string;
  readonly question: string;
}
export const NO_DRAFT: Draft = { words: '', reason: '', question: '' };

/** A draft with the way to go on writing it. */
export interface Drafting {
  readonly draft: Draft;
  readonly write: (more: Partial<Draft>) => void;
}

export interface HandoffProps {
  readonly handoff: Handoff;
  readonly drafting: Drafting;
}

/** Says it, or says why it could not be done. */
export const act = async (send: () => Promise<unknown>, said: string): Promise<boolean> => (await perform({ send, said })).isDone;

/** What a receiver can do: pick it up, send it back, give it on. */
export function Receive({ handoff, drafting: { draft, write } }: HandoffProps) {
  const { question } = draft;
  const [mode, setMode] = useState<'choose' | 'send-back' | 'give-on'>(question === '' ? 'choose' : 'send-back');
  const [receiver, setReceiver] = useState<string | null>(null);
  const { version } = handoff;
  const path = `/handoffs/${handoff.id}`;
  const next = handoff.to?.name ?? 'The engagement';
  const sendBack = async (): Promise<void> => {
    if (await act(() => call('POST', `${path}/send-back`, { version, question }), 'Sent back with your question.')) write(NO_DRAFT);
  };
  if (mode === 'send-back') {
    return (
      <SheetPart>
        <Field label="Your question" isLong value={question} onChange={(text) => write({ question: text })} autoFocus />
        <Button kind="primary" isDisabled={question.trim() === ''} onPress={() => void sendBack()}>
          Send back
        </Button>
        <Button kind="quiet" onPress={() => setMode('choose')}>
          Not yet
        </Button>
      </SheetPart>
    );
  }
  if (mode === 'give-on') {
    return (
      <SheetPart>
        <Choose
          label="Who picks it up instead"
          choices={handoff.receivers.filter((person) => person.id !== handoff.receiver?.id)}
          value={receiver}
          onChange={setReceiver}
        />
        <Button
          kind="primary"
          isDisabled={receiver === null}
          onPress={() => void act(() => call('POST', `${path}/give-on`, { version, receiverId: receiver }), 'Given on.')}
        >
          Give it on
        </Button>
        <Button kind="quiet" onPress={() => setMode('choose')}>
          Not yet
        </Button>
      </SheetPart>
    );
  }
  return (
    <Actions>
      <Button
        kind="primary"
        onPress={() =>
          void act(
            () => call('POST', `${path}/pick-up`, { version }),
            handoff.to === null ? 'Closed: the engagement is finished.' : `${next} is picked up and starts today.`,
          )
        }
      >
        Pick up
      </Button>
      <Button onPress={() => setMode('send-back')}>Send back…</Button>
      <Button kind="quiet" onPress={() => setMode('give-on')}>
        Give to…
      </Button>
    </Actions>
  );
}

/** Handing a phase off, or answering what came back. */
export function Give({ handoff, drafting: { draft, write } }: HandoffProps) {
  const me = useWho();
  const { words, reason } = draft;
  const [receiver, setReceiver] = useState<string | null>(handoff.receiver?.id ?? null);
  const open = handoff.gate.filter((check) => !check.isClear).length;
  const isBlocked = open > 0 && !can(me, 'handoff.pass-gate');
  const isAnswer = handoff.state === 'sent-back';
  const body = {
    version: handoff.version,
    words,
    ...(receiver === null ? {} : { receiverId: receiver }),
    ...(reason.trim() === '' ? {} : { reason }),
  };
  const handOff = async (): Promise<void> => {
    if (await act(() => call('POST', `/handoffs/${handoff.id}/hand-off`, body), `${handoff.from.name} handed off.`)) write(NO_DRAFT);
  };
  return (
    <SheetPart>
      <h3>{isAnswer ? 'Answer and hand off again' : 'Hand off'}</h3>
      <Choose
        label={handoff.toRole === null ? 'Who receives it' : `Who receives it (${handoff.toRole})`}
        choices={handoff.receivers}
        value={receiver}
        onChange={setReceiver}
      />
      <Field
        label={isAnswer ? 'Your answer' : 'A few words to go along'}
        isLong
        value={words}
        onChange={(text) => write({ words: text })}
      />
      {open === 0 ? null : isBlocked ? (
        <Muted>{count(open, 'check is', 'checks are')} open. Clear the gate, or ask a lead to let it pass.</Muted>
      ) : (
        <Field
          label={`${count(open, 'check is', 'checks are')} open. Why may it pass?`}
          value={reason}
          onChange={(text) => write({ reason: text })}
        />
      )}
      <Button
        kind="primary"
        isDisabled={isBlocked || receiver === null || (open > 0 && reason.trim() === '') || (isAnswer && words.trim() === '')}
        onPress={() => void handOff()}
      >
        Hand off {handoff.from.name}
      </Button>
    </SheetPart>
  );
}
