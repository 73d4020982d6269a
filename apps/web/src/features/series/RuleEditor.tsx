import { Stack, Toned } from '../../ui/text.tsx';
import { ON_CLOSED, type OnClosed, type IsoDay } from '@crew/core';
import { useState } from 'react';
import styled from 'styled-components';
import { Choose } from '../../ui/Field.tsx';
import { Unreadable } from '../../ui/form/typed.ts';
import { dayWords } from '../../words/format.ts';
import { ON_CLOSED_WORDS, ruleWords } from '../../words/rhythm.ts';
import { draftFrom, draftOf, ruleOf, type RuleDraft } from './rule-draft.ts';
import { RuleSlots } from './RuleSlots.tsx';
import { useRuleDays } from './use-rule-days.ts';

const Note = styled.p`
  font-size: 12.5px;
  color: var(--ink-2);
  line-height: 1.45;
  strong {
    color: var(--ink);
    font-weight: 600;
  }
`;

const RuleNote = styled(Note)`
  min-height: 54px;
`;

const UNFILLED = 'Fill in every slot with a whole number or a day.';

/** The draft behind a rule editor. A rule its sentence has no slots for is kept until a slot is touched. */
export function useRuleDraft(given: { readonly rule: string | null; readonly onClosed: OnClosed; readonly day: IsoDay }) {
  const [draft, setDraft] = useState<RuleDraft>(
    () => (given.rule === null ? null : draftOf(given.rule, given.day)) ?? draftFrom(given.day),
  );
  const [isTouched, setTouched] = useState(given.rule === null || draftOf(given.rule, given.day) !== null);
  const [onClosed, setOnClosed] = useState(given.onClosed);
  const rule = isTouched ? ruleOf(draft) : given.rule;
  return {
    draft,
    onClosed,
    rule,
    /** What a form sends of it. */
    input: { rule: rule ?? new Unreadable(UNFILLED), onClosed },
    change: (next: RuleDraft): void => {
      setDraft(next);
      setTouched(true);
    },
    setOnClosed,
  };
}

interface EditorProps {
  readonly editing: ReturnType<typeof useRuleDraft>;
  /** Where the rule counts from, once it is kept. */
  readonly from: IsoDay;
  readonly today: IsoDay;
  readonly lasting: string;
  /** A day that counts in any case: the first of it. */
  readonly first?: IsoDay;
}

/** How often, with the next days it comes to and what closed days do to them. */
export function RuleEditor({ editing, from, today, lasting, first }: EditorProps) {
  const { draft, rule, onClosed, change, setOnClosed } = editing;
  const { days, problem } = useRuleDays(rule, from, onClosed);
  const shown = (days ?? []).filter((occurrence) => occurrence.day !== first).slice(0, first === undefined ? 5 : 4);
  return (
    <Stack>
      <RuleSlots draft={draft} onChange={change} day={from} today={today} lasting={lasting} />
      <Choose
        label="On a closed day"
        isTight
        choices={ON_CLOSED.map((id) => ({ id, name: ON_CLOSED_WORDS[id] }))}
        value={onClosed}
        onChange={setOnClosed}
      />
      <RuleNote aria-live="polite">
        {rule === null ? (
          UNFILLED
        ) : problem !== null ? (
          <Toned role="alert" $tone="bad">
            {problem}
          </Toned>
        ) : (
          <>
            <strong>{capital(ruleWords(rule, today))}:</strong>{' '}
            {[
              ...(first === undefined ? [] : [dayWords(first, today)]),
              ...shown.map((occurrence) => occurrenceWords(occurrence, today)),
            ].join(', ')}
            {days !== undefined && shown.length < (first === undefined ? 5 : 4) ? '; then it ends.' : ' …'}
          </>
        )}
      </RuleNote>
    </Stack>
  );
}

export const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** "Tue 8 Dec", or where a closed day moved it: "Tue 29 Dec in place of Fri 25 Dec". */
export const occurrenceWords = ({ day, on }: { readonly day: IsoDay; readonly on: IsoDay }, today: IsoDay): string =>
  day === on ? dayWords(on, today) : `${dayWords(on, today)} in place of ${dayWords(day, today)}`;
