import type { IsoDay } from '@crew/core';
import type { EventFacts, EventSubject, SlotValues } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { By } from '../../platform/actor.ts';
import type { Who } from '../../platform/rights.ts';

/** The event an effect follows. */
export interface EffectEvent {
  readonly engagementId: string | null;
  readonly subject: EventSubject;
  readonly subjectId: string;
  readonly facts: EventFacts;
}

/** An effect that is to be carried out, inside the transaction that claims it; its engagement is locked. */
export interface Asked {
  readonly manager: EntityManager;
  /** The rule, which may do what a lead may. */
  readonly who: Who;
  readonly by: By;
  readonly today: IsoDay;
  readonly event: EffectEvent;
  readonly slots: { readonly [Kind in string]?: unknown };
  /** The run it belongs to and its place there, which name it for ever. */
  readonly runId: string;
  readonly place: number;
  /** Whom the slot `whom` stands for, chosen before the transaction; null for nobody. */
  readonly chosen: ChosenPerson | null;
}

/** Somebody a rule assigns, and the role they were chosen for. */
export interface ChosenPerson {
  readonly id: string;
  readonly name: string;
  readonly roleId: string | null;
}

/** What came of an effect, as the log says it; `isNothing` when there was nothing to do. */
export interface Outcome {
  readonly said: string;
  readonly isNothing?: true;
}

export type CarryOutEffect = (asked: Asked) => Promise<Outcome>;

/** What stands in a slot; what is stored was checked when the rule was saved. */
export const slotOf = <Kind extends keyof SlotValues>({ slots }: Pick<Asked, 'slots'>, _kind: Kind, name: string): SlotValues[Kind] =>
  slots[name] as SlotValues[Kind];

export const nothing = (said: string): Outcome => ({ said, isNothing: true });
