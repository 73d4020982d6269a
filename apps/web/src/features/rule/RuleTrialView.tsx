import { thenParts, TRIED_DAYS, type RuleTrial, type TriedEvent } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useRuleTrial } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { ErrorNote, Inline, Muted, Push } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { Earlier, Note } from '../../ui/text.tsx';
import { count, dayOf, dayWords } from '../../words/format.ts';
import { missingIn, type Draft } from './draft.ts';
import { heldWords } from './rule-words.ts';

const Event = styled.li<{ $isHeld: boolean }>`
  display: grid;
  grid-template-columns: 4px minmax(0, 1fr) auto;
  gap: 2px 9px;
  padding: 6px 0;
  border-top: 1px solid var(--line-2);
  color: ${({ $isHeld }) => ($isHeld ? 'var(--ink-2)' : 'var(--ink)')};
  > :first-child {
    grid-row: 1 / 3;
    opacity: ${({ $isHeld }) => ($isHeld ? 0.45 : 1)};
  }
  > time {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  > p {
    grid-column: 2 / 4;
    overflow-wrap: anywhere;
  }
`;

const DAYS = TRIED_DAYS.map((days) => ({ id: String(days), name: `${days} days` }));

/** What a rule, as it stands in the editor, would have done. Nothing is done. */
export function RuleTrialView({ draft, ruleId }: { readonly draft: Draft; readonly ruleId: string | null }) {
  const [days, setDays] = useState('30');
  const isWhole = missingIn(draft) === null && (draft.level === 'agency' || (draft.templateId ?? draft.engagementId) !== undefined);
  const asked = { ...draft, days: Number(days), ...(ruleId === null ? {} : { ruleId }) };
  const { data, error, isLoading } = useRuleTrial(isWhole ? JSON.stringify(asked) : null);
  return (
    <SheetPart>
      <Inline>
        <h3>What it would have done</h3>
        <Push />
        <Segmented label="In the last" parts={DAYS} value={days} onChange={setDays} />
      </Inline>
      {!isWhole ? <Note $isSmall>Fill in the marked parts to see what the rule would have done.</Note> : null}
      {error ? <ErrorNote error={error} /> : null}
      {isWhole && data !== undefined ? (
        <Earlier $isEarlier={isLoading}>
          <Tried trial={data} draft={draft} />
        </Earlier>
      ) : null}
    </SheetPart>
  );
}

function Tried({ trial, draft }: { readonly trial: RuleTrial; readonly draft: Draft }) {
  const shown = trial.events.length;
  const all = trial.runs + trial.held;
  return (
    <>
      <Note $isSmall>
        {all === 0
          ? `Nothing that triggers this rule happened in the last ${trial.days} days.`
          : `${count(trial.runs, 'run')}${trial.held === 0 ? '' : `, ${trial.held} held back`}${shown < all ? `; the newest ${shown} are shown` : ''}.`}
        {trial.isFromPlan && all > 0 ? ' Based on today’s plan.' : ''} Nothing is sent while you try.
      </Note>
      <ul>
        {trial.events.map((event, index) => (
          <TriedLine key={index} event={event} trial={trial} draft={draft} />
        ))}
      </ul>
    </>
  );
}

/** What it would have done, with the people it would have concerned by name. */
function sentenceOf(effects: TriedEvent['effects'], { names }: RuleTrial): string {
  const words = effects.map(({ then, whom }) =>
    thenParts(then, names)
      .map(({ slot, text }) => (whom.length > 0 && (slot === 'who' || slot === 'whom') ? whom.join(', ') : text))
      .join(''),
  );
  const text = words.join('; ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
}

function TriedLine({ event, trial, draft }: { readonly event: TriedEvent; readonly trial: RuleTrial; readonly draft: Draft }) {
  const { today, zone } = useWho();
  const { engagement, held, effects } = event;
  return (
    <Event $isHeld={held !== null}>
      {engagement === null ? <span /> : <HueMark $hue={engagement.hue} />}
      <span>
        <strong>{engagement?.name ?? event.about}</strong> {engagement === null || engagement.name === event.about ? null : event.about}
      </span>
      <time dateTime={event.at}>{dayWords(dayOf(event.at, zone), today)}</time>
      <p>
        {held !== null ? (
          <Muted>Would not run: {heldWords(held, { content: draft.content, names: trial.names })}</Muted>
        ) : (
          sentenceOf(effects, trial)
        )}
      </p>
    </Event>
  );
}
