import type { ConditionOp, RuleLevel } from '@crew/core';
import {
  canFollow,
  opsOf,
  ruleProblem,
  thenSpec,
  whenSpec,
  type RuleCondition,
  type RuleContent,
  type RuleFact,
  type RuleLine,
  type RuleThen,
  type RuleWhen,
  type Slots,
  type SlotSpec,
  type ThenKind,
  type WhenKind,
} from '@crew/contract';

/** A rule while it is written. */
export interface Draft {
  readonly level: RuleLevel;
  readonly templateId?: string;
  readonly engagementId?: string;
  readonly replacesId?: string;
  readonly content: RuleContent;
}

/** Where in a rule something stands: in what it waits for, in a condition or in an effect. */
export type Place = { readonly part: 'when' } | { readonly part: 'if' | 'then'; readonly index: number };

const firstSlots = (specs: Readonly<Record<string, SlotSpec>>): Slots =>
  Object.fromEntries(Object.entries(specs).flatMap(([name, { first }]) => (first === undefined ? [] : [[name, first]])));

/** The trigger, with the first values of its slots. */
export const newWhen = (kind: WhenKind): RuleWhen => ({ kind, slots: firstSlots(whenSpec(kind).slots) });
/** An effect, with what its slots begin with. */
export const newThen = (kind: ThenKind): RuleThen => ({ do: kind, slots: firstSlots(thenSpec(kind).slots) });

/** What a new rule begins with. */
export const newDraft = (place: Omit<Draft, 'content'> = { level: 'agency' }): Draft => ({
  ...place,
  content: { when: newWhen('handed-off'), if: [], then: [newThen('tell')] },
});

export const draftOf = ({ level, template, engagement, replacesId, content }: RuleLine): Draft => ({
  level,
  ...(template === null ? {} : { templateId: template.id }),
  ...(engagement === null ? {} : { engagementId: engagement.id }),
  ...(replacesId === null ? {} : { replacesId }),
  content,
});

const withContent = (draft: Draft, content: Partial<RuleContent>): Draft => ({ ...draft, content: { ...draft.content, ...content } });

/** Waits for something else: what was chosen in slots of the same kind stays, and effects that cannot follow it go. */
export function setWhen(draft: Draft, kind: WhenKind): Draft {
  const { when, then } = draft.content;
  const [before, after] = [whenSpec(when.kind), whenSpec(kind)];
  const kept = Object.entries(after.slots).filter(([name, slot]) => before.slots[name]?.kind === slot.kind);
  const slots = { ...newWhen(kind).slots, ...Object.fromEntries(kept.map(([name]) => [name, when.slots[name]])) };
  const following = then.filter((effect) => canFollow(effect.do, after.subject));
  return withContent(draft, { when: { kind, slots }, then: following.length === 0 ? [newThen('tell')] : following });
}

export function setSlot(draft: Draft, place: Place, { name, value }: { readonly name: string; readonly value: Slots[string] }): Draft {
  const { when, then } = draft.content;
  if (place.part === 'when') return withContent(draft, { when: { ...when, slots: { ...when.slots, [name]: value } } });
  return withContent(draft, {
    then: then.map((effect, index) =>
      index === (place as { index: number }).index ? { ...effect, slots: { ...effect.slots, [name]: value } } : effect,
    ),
  });
}

export const addCondition = (draft: Draft, fact: RuleFact): Draft =>
  withContent(draft, { if: [...draft.content.if, { fact, op: opsOf(fact)[0] as ConditionOp }] });

export const setCondition = (draft: Draft, at: number, condition: RuleCondition): Draft =>
  withContent(draft, { if: draft.content.if.map((one, index) => (index === at ? condition : one)) });

export const removeCondition = (draft: Draft, at: number): Draft =>
  withContent(draft, { if: draft.content.if.filter((_, index) => index !== at) });

export const addEffect = (draft: Draft, kind: ThenKind): Draft => withContent(draft, { then: [...draft.content.then, newThen(kind)] });

/** Does something else in place of an effect: what was chosen in slots of the same kind stays. */
export function setEffect(draft: Draft, at: number, kind: ThenKind): Draft {
  const swap = (effect: RuleThen): RuleThen => {
    const [before, after] = [thenSpec(effect.do).slots, newThen(kind)];
    const kept = Object.entries(thenSpec(kind).slots).filter(([name, slot]) => before[name]?.kind === slot.kind);
    return { ...after, slots: { ...after.slots, ...Object.fromEntries(kept.map(([name]) => [name, effect.slots[name] ?? null])) } };
  };
  return withContent(draft, { then: draft.content.then.map((effect, index) => (index === at ? swap(effect) : effect)) });
}

export const removeEffect = (draft: Draft, at: number): Draft =>
  withContent(draft, { then: draft.content.then.filter((_, index) => index !== at) });

/** What is still missing, as a sentence; null when the rule can be tried and saved. */
export const missingIn = (draft: Draft): string | null => ruleProblem(draft.content)?.words ?? null;
