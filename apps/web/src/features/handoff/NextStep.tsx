import type { IsoDay } from '@crew/core';
import { perform } from '../../session/perform.ts';
import { can, GiveOn, HandOff, SendBack, type HandoffSheet as Handoff } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, type Choice } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { Unreadable } from '../../ui/form/typed.ts';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { Muted } from '../../ui/layout.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { count, dayWords } from '../../words/format.ts';
import { pickedUpWords } from '../../words/handoff.ts';

const Actions = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 12px;
`;

/** Text somebody has typed and not sent yet. It outlives a change by somebody else, and is cleared once it is sent. */
export interface Draft {
  readonly words: string;
  readonly reason: string;
  readonly question: string;
  /** What is left out of the packet, by its id. */
  readonly without: readonly string[];
}
export const NO_DRAFT: Draft = { words: '', reason: '', question: '', without: [] };

/** A draft with the way to go on writing it. */
export interface Drafting {
  readonly draft: Draft;
  readonly write: (more: Partial<Draft>) => void;
}

export interface HandoffProps {
  readonly handoff: Handoff;
  readonly drafting: Drafting;
}

/**
 * Makes a move of a handoff and reports it with its undo, or says why it failed: the notice stays when
 * the sheet shows what somebody else has done meanwhile.
 */
const takeTurn = async (
  { id }: Pick<Handoff, 'id'>,
  { turn, input, said }: { readonly turn: 'hand-off' | 'pick-up' | 'send-back' | 'give-on'; readonly input: object; readonly said: string },
): Promise<boolean> =>
  (
    await perform({
      send: () => call<Handoff>('POST', `/handoffs/${id}/${turn}`, input),
      said,
      undo: ({ turns }) => turns.at(-1)?.changeId ?? null,
    })
  ).isDone;

/** A field whose text outlives the form: it is in the draft, too. */
const keptIn =
  <Name extends Exclude<keyof Draft, 'without'>>(form: Pick<InputForm<Pick<Draft, Name>>, 'bind'>, write: Drafting['write']) =>
  (name: Name) => {
    const field = form.bind(name);
    return {
      ...field,
      onChange: (text: string) => {
        field.onChange(text);
        write({ [name]: text });
      },
    };
  };

/** What a receiver can do: pick up, send back, pass on. */
export function Receive({ handoff, drafting }: HandoffProps) {
  const [mode, setMode] = useState<'choose' | 'send-back' | 'give-on'>(drafting.draft.question === '' ? 'choose' : 'send-back');
  const back = (): void => setMode('choose');
  if (mode === 'send-back') return <SendBackForm handoff={handoff} drafting={drafting} onCancel={back} />;
  if (mode === 'give-on') return <GiveOnForm handoff={handoff} onCancel={back} />;
  const said = pickedUpWords(handoff.to?.name ?? null);
  return (
    <Actions>
      <Button kind="primary" onPress={() => void takeTurn(handoff, { turn: 'pick-up', input: { version: handoff.version }, said })}>
        Pick up
      </Button>
      <Button onPress={() => setMode('send-back')}>Send back…</Button>
      <Button kind="quiet" onPress={() => setMode('give-on')}>
        Pass on…
      </Button>
    </Actions>
  );
}

function SendBackForm({ handoff, drafting: { draft, write }, onCancel }: HandoffProps & { readonly onCancel: () => void }) {
  const form = useInputForm({
    rules: SendBack,
    typed: { question: draft.question },
    input: ({ question }) => ({ version: handoff.version, question }),
    send: async (input) => {
      if (await takeTurn(handoff, { turn: 'send-back', input, said: 'Sent back with your question.' })) write(NO_DRAFT);
    },
  });
  return (
    <SheetPart>
      <SmallForm form={form} action="Send back" onCancel={onCancel}>
        <Field {...keptIn(form, write)('question')} label="Your question" isLong autoFocus />
      </SmallForm>
    </SheetPart>
  );
}

/** Who may receive it; those who do not hold the role, and those who are away, say so. */
const receiversOf = ({ receivers, toRole }: Handoff, today: IsoDay): Choice[] =>
  receivers.map(({ id, name, holdsRole, awayUntil }) => {
    const notes = [
      ...(toRole === null || holdsRole ? [] : [`not ${toRole}`]),
      ...(awayUntil === null ? [] : [`away until ${dayWords(awayUntil, today)}`]),
    ];
    return { id, name, ...(notes.length === 0 ? {} : { detail: notes.join(', ') }) };
  });

function GiveOnForm({ handoff, onCancel }: Pick<HandoffProps, 'handoff'> & { readonly onCancel: () => void }) {
  const { today } = useWho();
  const typed: { receiverId: string | null } = { receiverId: null };
  const form = useInputForm({
    rules: GiveOn,
    typed,
    input: ({ receiverId }) => ({ version: handoff.version, receiverId: receiverId ?? undefined }),
    send: (input) => takeTurn(handoff, { turn: 'give-on', input, said: 'Passed on.' }),
  });
  return (
    <SheetPart>
      <SmallForm form={form} action="Pass on" onCancel={onCancel}>
        <Choose
          {...form.bind('receiverId')}
          label="Who picks it up instead"
          choices={receiversOf(handoff, today).filter((person) => person.id !== handoff.receiver?.id)}
        />
      </SmallForm>
    </SheetPart>
  );
}

const NO_RECEIVER = new Unreadable('Choose who receives it.');
const NO_ANSWER = new Unreadable('Write your answer.');

/** Handing a phase off, or answering what came back. */
export function Give({ handoff, drafting: { draft, write } }: HandoffProps) {
  const me = useWho();
  const { today } = me;
  const open = handoff.gate.filter((check) => !check.isClear).length;
  const isBlocked = open > 0 && !can(me, 'handoff.pass-gate');
  const isAnswer = handoff.state === 'sent-back';
  const form = useInputForm({
    rules: HandOff,
    typed: { words: draft.words, reason: draft.reason, receiverId: handoff.receiver?.id ?? null },
    input: ({ words, reason, receiverId }) => ({
      ...{ version: handoff.version, words: isAnswer && words.trim() === '' ? NO_ANSWER : words },
      receiverId: receiverId ?? NO_RECEIVER,
      ...(open === 0 ? {} : { reason }),
      ...(draft.without.length === 0 ? {} : { without: [...draft.without] }),
    }),
    send: async (input) => {
      if (await takeTurn(handoff, { turn: 'hand-off', input, said: `${handoff.from.name} handed off.` })) write(NO_DRAFT);
    },
  });
  const kept = keptIn<'words' | 'reason'>(form, write);
  return (
    <SheetPart>
      <h3>{isAnswer ? 'Answer and hand off again' : 'Hand off'}</h3>
      <SmallForm form={form} action={`Hand off ${handoff.from.name}`} isBlocked={isBlocked}>
        <Choose
          {...form.bind('receiverId')}
          label={handoff.toRole === null ? 'Who receives it' : `Who receives it (${handoff.toRole})`}
          choices={receiversOf(handoff, today)}
        />
        <Field {...kept('words')} label={isAnswer ? 'Your answer' : 'Note for the receiver'} isLong />
        {open === 0 ? null : isBlocked ? (
          <Muted>{count(open, 'check is', 'checks are')} open. Clear the gate, or ask a lead to let it pass.</Muted>
        ) : (
          <Field {...kept('reason')} label={`${count(open, 'check is', 'checks are')} open. Why can it pass anyway?`} />
        )}
      </SmallForm>
    </SheetPart>
  );
}
