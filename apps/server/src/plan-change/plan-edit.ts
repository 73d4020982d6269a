import type { PhaseEdge } from '@crew/contract';
import type { TemplateCheck, TemplatePhase, IsoDay } from '@crew/core';
import type { CheckRow, HandoffRow, PhaseRow, PhasesChanged } from '../engagement/phase-images.ts';
import type { ImageChange, NewTask, TaskImage } from '../task/task-images.ts';
import type { DeliverableRow, PlanImage } from './plan-image.ts';

/** A phase that is to be added, with everything a template says of it but its place. */
export type NewPhase = Pick<TemplatePhase, 'name' | 'stateLine' | 'roleId' | 'rounds' | 'checks'> & {
  readonly id: string;
  /** The phase of a template it is made from. */
  readonly originId: string | null;
};

/** What a phase follows. */
export interface PhasePlace {
  readonly id: string;
  readonly afterPhaseId: string | null;
  readonly afterEdge: PhaseEdge;
  readonly afterLag: number;
}

/** One thing that is done to a plan. */
export type PlanOperation =
  | { readonly kind: 'add-phases'; readonly phases: readonly NewPhase[] }
  | { readonly kind: 'change-phase'; readonly phase: Omit<NewPhase, 'originId'> }
  /** A phase as somebody edits it: its gate is exactly this, checks that stay keep who confirmed them. */
  | {
      readonly kind: 'edit-phase';
      readonly phase: Pick<NewPhase, 'id' | 'name' | 'stateLine' | 'roleId'>;
      readonly checks: readonly (TemplateCheck & { readonly id?: string | undefined })[];
    }
  /** The row of phases as it is to be, in its order; those that are not in it go. */
  | { readonly kind: 'arrange-phases'; readonly row: readonly PhasePlace[] }
  /** Phases, gates and handoffs as they were before a change. */
  | { readonly kind: 'restore-phases'; readonly changed: PhasesChanged }
  /** Phases end without being handed off; `personId` is who ended them. */
  | {
      readonly kind: 'end-phases';
      readonly phaseIds: readonly string[];
      readonly on: IsoDay;
      readonly at: string;
      readonly personId: string;
    }
  /** A phase goes into its next round; those that were over and have tasks of it run again. */
  | { readonly kind: 'start-round'; readonly phaseId: string; readonly reruns: readonly string[] }
  | { readonly kind: 'set-template-version'; readonly version: number }
  | { readonly kind: 'add-deliverables'; readonly deliverables: readonly Omit<DeliverableRow, 'position'>[] }
  | { readonly kind: 'add-tasks'; readonly tasks: readonly NewTask[] }
  /** Tasks that were deleted are there again, without what they belonged to and is no more. */
  | { readonly kind: 'restore-tasks'; readonly images: readonly TaskImage[] }
  | { readonly kind: 'remove-tasks'; readonly ids: readonly string[] }
  | { readonly kind: 'change-task'; readonly id: string; readonly change: ImageChange }
  /** Puts a task before another of the same parent and phase, or last. */
  | { readonly kind: 'place-task'; readonly id: string; readonly beforeId: string | null }
  /** Puts the tasks of a phase into the order of a template's, given by their ids. */
  | { readonly kind: 'order-tasks'; readonly phaseId: string; readonly like: readonly string[] };

/** A change of one plan as a value: what is done, one after the other. */
export interface PlanEdit {
  readonly operations: readonly PlanOperation[];
  /** Days on which tasks were asked to begin: the effect says when they cannot. */
  readonly wishes?: readonly { readonly id: string; readonly notBefore: IsoDay }[];
}

/** A plan while operations are done to it; only `applyEdit` sees it. */
export interface Draft {
  readonly tasks: Map<string, TaskImage>;
  phases: readonly PhaseRow[];
  checks: readonly CheckRow[];
  handoffs: readonly HandoffRow[];
  deliverables: readonly DeliverableRow[];
  templateVersion: number | null;
  lastNumber: number;
  readonly plan: PlanImage;
}

/** An operation of one kind. */
export type OperationOf<Kind extends PlanOperation['kind']> = Extract<PlanOperation, { readonly kind: Kind }>;
