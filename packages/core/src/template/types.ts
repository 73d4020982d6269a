import type { DependencyType, PhaseEdge } from '../words.ts';
import type { CustomFieldEntry } from '../field/custom-field.ts';
import type { AnchorInput } from '../schedule/types.ts';

/** A check of the gate at the end of a phase. */
export interface TemplateCheck {
  readonly kind: string;
  readonly text: string;
  /** What it asks for, where its kind alone does not say: titles of tasks, the name of a custom field, the ending of files. */
  readonly wants?: readonly string[];
}

/** An ordered part of a template; days of lag are open days. */
export interface TemplatePhase {
  readonly id: string;
  readonly name: string;
  readonly roleId: string | null;
  readonly stateLine: string;
  /** How often a loop in it may be gone through, as agreed with the client; null where nothing repeats. */
  readonly rounds: number | null;
  readonly afterPhaseId: string | null;
  readonly afterEdge: PhaseEdge;
  readonly afterLag: number;
  readonly checks: readonly TemplateCheck[];
  /** The template of the library it was taken from, if it was. */
  readonly sourceTemplateId?: string;
}

/** Work given to an outside maker; days are open days. */
export interface TemplateOutside {
  readonly maker: string;
  readonly turnaroundDays: number;
  readonly bufferDays: number;
}

/** A file at hand for whoever does the task; it is known by its id, name and size are for reading. */
export interface TemplateFile {
  readonly fileId: string;
  readonly name: string;
  readonly bytes: number;
}

/** A task of a template with everything it presets; effort in minutes, length in open days. */
export interface TemplateTask {
  readonly id: string;
  readonly phaseId: string;
  readonly parentId: string | null;
  readonly title: string;
  readonly description: string;
  readonly kind: string;
  readonly roleId: string | null;
  /** A certain person, whoever holds the role. */
  readonly personId: string | null;
  /** Roles that help. */
  readonly helperRoleIds: readonly string[];
  /** People in particular who help, whatever they hold. */
  readonly helperPersonIds: readonly string[];
  readonly estimateMinutes: number | null;
  readonly days: number;
  readonly anchor: AnchorInput;
  readonly after: readonly { readonly taskId: string; readonly type: DependencyType; readonly lag: number }[];
  readonly steps: readonly string[];
  readonly priority: string;
  readonly labels: readonly string[];
  /** The thing the client gets that it is for, by name. */
  readonly deliverable: string | null;
  readonly pageLinks: readonly { readonly title: string; readonly url: string }[];
  readonly files: readonly TemplateFile[];
  /** The agency's custom fields it has, with what stands in them from the start. */
  readonly customFields: readonly CustomFieldEntry[];
  readonly outside: TemplateOutside | null;
  readonly isShownToClient: boolean;
  readonly isChargeable: boolean;
  /** The template of the library it was taken from, if it was taken by itself. */
  readonly sourceTemplateId?: string;
}

/**
 * A way out of a task beside the ordinary next ones: back to an earlier task (a loop, gone
 * through as often as its phase has rounds), or to an ending, with the reason for taking it.
 */
export interface TemplateWay {
  readonly id: string;
  readonly fromId: string;
  /** The task it leads back to; null when it ends the engagement. */
  readonly toId: string | null;
  /** What the ending is called, when it leads to one. */
  readonly ending: string | null;
  readonly reason: string;
}

/** All of a template: one model behind the map, the outline and the list of steps. */
export interface TemplateContent {
  readonly name: string;
  readonly description: string;
  readonly phases: readonly TemplatePhase[];
  readonly tasks: readonly TemplateTask[];
  readonly ways: readonly TemplateWay[];
}

/** Something wrong with a template: where, and a sentence that says what to do. */
export interface TemplateFault {
  /** As `phases[id].stateLine`. */
  readonly at: string;
  readonly message: string;
}
