import type { SetupStep, Starter, Trade } from '../starter-words.ts';

/** A starter template before it is added. */
export interface StarterTemplate {
  readonly key: Starter;
  readonly name: string;
  readonly description: string;
  readonly phases: readonly string[];
  readonly taskCount: number;
  readonly effortMinutes: number;
  readonly roles: readonly string[];
  /** The template of this name in the library, if there is one. */
  readonly templateId: string | null;
}

/** A kind of agency with its starter templates. */
export interface StarterTrade {
  readonly trade: Trade;
  readonly name: string;
  readonly about: string;
  readonly templates: readonly StarterTemplate[];
}

/** Starter templates that were added, and the roles that were new. */
export interface StartersAdded {
  readonly templates: readonly { readonly key: Starter; readonly id: string; readonly name: string }[];
  readonly roles: readonly string[];
}

/** How far setting up the agency is: read from what exists. */
export interface SetupState {
  readonly steps: readonly { readonly step: SetupStep; readonly isDone: boolean }[];
}
