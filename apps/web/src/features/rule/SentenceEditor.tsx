import {
  opsOf,
  OP_WORDS,
  RULE_FACT,
  RULE_FACTS,
  thenSpec,
  THEN_KIND,
  canFollow,
  whenSpec,
  WHEN_KIND,
  whenParts,
  thenParts,
  conditionParts,
  isNumberFact,
  MOST_CONDITIONS,
  MOST_EFFECTS,
  type RuleChoices,
  type RuleCondition,
  type RuleFact,
  type RuleThen,
  type SentencePart,
  type SlotSpec,
  type Slots,
  type SlotValue,
  type ThenKind,
  type WhenKind,
} from '@crew/contract';
import type { Fact } from '@crew/core';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Inline } from '../../ui/layout.tsx';
import {
  addCondition,
  addEffect,
  newThen,
  newWhen,
  removeCondition,
  removeEffect,
  setCondition,
  setEffect,
  setSlot,
  setWhen,
  type Draft,
} from './draft.ts';
import { SLOT_LABELS } from './rule-words.ts';
import { comparedWith, namesOf, type SlotChoice } from './slot-choices.ts';
import { SlotButton } from './SlotButton.tsx';
import { SlotEditor } from './SlotEditor.tsx';
import { SlotList } from './SlotList.tsx';
import { NumberSlot, TextSlot } from './TypedSlot.tsx';

const Line = styled.div`
  display: flex;
  align-items: baseline;
  gap: 4px;
  line-height: 1.9;
  > span {
    flex: 1;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  > button {
    min-height: 24px;
    color: var(--ink-2);
  }
`;

interface EditorProps {
  readonly draft: Draft;
  /** A new one has the focus. */
  readonly isNew?: boolean;
  readonly choices: RuleChoices;
  readonly onChange: (draft: Draft) => void;
}

/** A sentence as it begins when it is chosen. */
const wordsOf = (parts: readonly SentencePart[]): string => parts.map(({ text }) => text).join('');

const WHEN_CHOICES: readonly SlotChoice[] = WHEN_KIND.map((kind) => ({
  ...{ id: kind, value: kind },
  name: wordsOf(whenParts(newWhen(kind), {})),
}));

/** A rule as a sentence whose parts are chosen where they stand; all of it by keyboard. */
export function SentenceEditor({ draft, isNew = false, choices, onChange }: EditorProps) {
  const { if: conditions, then } = draft.content;
  const names = namesOf(choices);
  return (
    <div role="group" aria-label="The rule">
      <WhenLine draft={draft} isNew={isNew} choices={choices} onChange={onChange} />
      {conditions.map((condition, index) => (
        <Line key={index}>
          <span>
            {index === 0 ? 'if ' : 'and '}
            <ConditionParts condition={condition} choices={choices} onChange={(next) => onChange(setCondition(draft, index, next))} />,
          </span>
          <Remove label={`Remove condition ${index + 1}`} onPress={() => onChange(removeCondition(draft, index))} />
        </Line>
      ))}
      {then.map((effect, index) => (
        <Line key={index}>
          <span>
            <EffectChoice draft={draft} index={index} onChange={onChange} />{' '}
            <SlotParts
              parts={thenParts(effect, names)}
              specs={thenSpec(effect.do).slots}
              slots={effect.slots}
              choices={choices}
              onSet={(name, value) => onChange(setSlot(draft, { part: 'then', index }, { name, value }))}
            />
            {endsInText(effect) ? '' : index === then.length - 1 ? '.' : ','}
          </span>
          {then.length === 1 ? null : <Remove label={`Remove effect ${index + 1}`} onPress={() => onChange(removeEffect(draft, index))} />}
        </Line>
      ))}
      <Adding draft={draft} onChange={onChange} />
    </div>
  );
}

/** A text may take several lines; a full stop would stand alone below it. */
const endsInText = ({ do: kind }: RuleThen): boolean => /\{(text|title)\}$/.test(thenSpec(kind).words);

/** The trigger and its slots. */
function WhenLine({ draft, isNew = false, choices, onChange }: EditorProps) {
  const { when } = draft.content;
  return (
    <Line>
      <span>
        <SlotButton words="When" label="Trigger" hasFocus={isNew}>
          {(close) => (
            <SlotList
              label="Trigger"
              choices={WHEN_CHOICES}
              chosen={when.kind}
              onChoose={({ id }) => {
                onChange(setWhen(draft, id as WhenKind));
                close();
              }}
            />
          )}
        </SlotButton>{' '}
        <SlotParts
          parts={whenParts(when, namesOf(choices))}
          specs={whenSpec(when.kind).slots}
          slots={when.slots}
          choices={choices}
          onSet={(name, value) => onChange(setSlot(draft, { part: 'when' }, { name, value }))}
        />
        ,
      </span>
    </Line>
  );
}

const Remove = ({ label, onPress }: { readonly label: string; readonly onPress: () => void }) => (
  <Button kind="quiet" aria-label={label} onPress={onPress}>
    ✕
  </Button>
);

interface SlotPartsProps {
  readonly parts: readonly SentencePart[];
  readonly specs: Readonly<Record<string, SlotSpec>>;
  readonly slots: Slots;
  readonly choices: RuleChoices;
  readonly onSet: (name: string, value: Slots[string]) => void;
}

function SlotParts({ parts, specs, slots, choices, onSet }: SlotPartsProps) {
  return parts.map((part, index): ReactNode => {
    const spec = part.slot === undefined ? undefined : specs[part.slot];
    if (part.slot === undefined || spec === undefined) return <span key={index}>{part.text}</span>;
    const name = part.slot;
    const label = SLOT_LABELS[name] ?? name;
    return (
      <SlotButton key={index} words={part.text} label={label} isOpen={part.isOpen === true}>
        {(close) => (
          <SlotEditor
            spec={spec}
            label={label}
            value={slots[name]}
            choices={choices}
            onChange={(value) => {
              onSet(name, value);
              close();
            }}
          />
        )}
      </SlotButton>
    );
  });
}

const FACT_CHOICES: readonly SlotChoice[] = RULE_FACT.map((fact) => ({
  ...{ id: fact, value: fact },
  name: fact === 'labels' ? 'the task has the label …' : `${RULE_FACTS[fact].words} …`,
}));

interface ConditionProps {
  readonly condition: RuleCondition;
  readonly choices: RuleChoices;
  readonly onChange: (condition: RuleCondition) => void;
}

function ConditionParts({ condition, choices, onChange }: ConditionProps) {
  const { fact, op } = condition;
  const editors: Readonly<Record<string, (close: () => void) => ReactNode>> = {
    fact: (close) => (
      <SlotList
        label="Condition"
        choices={FACT_CHOICES}
        chosen={fact}
        onChoose={({ id }) => {
          onChange({ fact: id as RuleFact, op: opsOf(id as RuleFact)[0] ?? 'is' });
          close();
        }}
      />
    ),
    op: (close) => (
      <SlotList
        label="Comparison"
        choices={opsOf(fact).map((id) => ({ id, name: OP_WORDS[id], value: id }))}
        chosen={op}
        onChoose={({ id }) => {
          onChange({ ...condition, op: id as RuleCondition['op'] });
          close();
        }}
      />
    ),
    value: (close) => (
      <ComparedValue
        condition={condition}
        choices={choices}
        onChange={(value) => {
          onChange({ ...condition, value });
          close();
        }}
      />
    ),
  };
  return conditionParts(condition, namesOf(choices)).map((part, index): ReactNode => {
    const editor = part.slot === undefined ? undefined : editors[part.slot];
    if (part.slot === undefined || editor === undefined) return <span key={index}>{part.text}</span>;
    return (
      <SlotButton key={index} words={part.text} label={SLOT_LABELS[part.slot] ?? part.slot} isOpen={part.isOpen === true}>
        {editor}
      </SlotButton>
    );
  });
}

interface ComparedProps {
  readonly condition: RuleCondition;
  readonly choices: RuleChoices;
  readonly onChange: (value: Fact) => void;
}

function ComparedValue({ condition: { fact, value }, choices, onChange }: ComparedProps) {
  const set = (next: SlotValue): void => onChange(next as Fact);
  if (isNumberFact(fact)) return <NumberSlot label="Value" value={value} onChange={set} />;
  const list = comparedWith(fact, choices);
  if (list === null) return <TextSlot label="Value" value={value} onChange={set} isLong={false} />;
  const isFree = ['phase', 'title', 'label'].includes(RULE_FACTS[fact].of);
  return (
    <SlotList
      label="Value"
      choices={list}
      chosen={String(value ?? '')}
      onChoose={(choice) => onChange(choice.value as Fact)}
      {...(isFree ? { onType: onChange } : {})}
    />
  );
}

/** Everything that can follow what a rule waits for. */
const effectChoices = (kind: WhenKind): SlotChoice[] =>
  THEN_KIND.filter((then) => canFollow(then, whenSpec(kind).subject)).map((then) => ({
    ...{ id: then, value: then },
    name: wordsOf(thenParts(newThen(then), {})),
  }));

/** The word before an effect chooses what it does. */
function EffectChoice({ draft, index, onChange }: Omit<EditorProps, 'choices'> & { readonly index: number }) {
  const { when, then } = draft.content;
  return (
    <SlotButton words={index === 0 ? 'then' : 'and'} label={`Effect, effect ${index + 1}`}>
      {(close) => (
        <SlotList
          label="Effect"
          choices={effectChoices(when.kind)}
          chosen={then[index]?.do ?? ''}
          onChoose={({ id }) => {
            onChange(setEffect(draft, index, id as ThenKind));
            close();
          }}
        />
      )}
    </SlotButton>
  );
}

function Adding({ draft, onChange }: Omit<EditorProps, 'choices'>) {
  const { when, if: conditions, then } = draft.content;
  const effects = effectChoices(when.kind);
  return (
    <Inline $gap={12}>
      {conditions.length === MOST_CONDITIONS ? null : (
        <SlotButton isPlain words="Add condition" label="Condition">
          {(close) => (
            <SlotList
              label="Condition"
              choices={FACT_CHOICES}
              chosen=""
              onChoose={({ id }) => {
                onChange(addCondition(draft, id as RuleFact));
                close();
              }}
            />
          )}
        </SlotButton>
      )}
      {then.length === MOST_EFFECTS ? null : (
        <SlotButton isPlain words="Add effect" label="Effect">
          {(close) => (
            <SlotList
              label="Effect"
              choices={effects}
              chosen=""
              onChoose={({ id }) => {
                onChange(addEffect(draft, id as ThenKind));
                close();
              }}
            />
          )}
        </SlotButton>
      )}
    </Inline>
  );
}
