/** What a gate can ask for; see the words of the contract. */
export type GateCheck =
  | { readonly id: string; readonly kind: 'tasks-done' }
  | { readonly id: string; readonly kind: 'client-done' }
  | { readonly id: string; readonly kind: 'word'; readonly isGiven: boolean };

/** The facts of the phase a gate closes. */
export interface GateFacts {
  readonly tasks: readonly { readonly title: string; readonly isOpen: boolean; readonly isClientTask: boolean }[];
}

/** Clear, or exactly what is missing. */
export type CheckResult =
  { readonly id: string; readonly isClear: true } | { readonly id: string; readonly isClear: false; readonly missing: readonly string[] };

/**
 * Evaluates a gate over the facts given to it. `tasks-done` wants every task of the phase
 * that is ours, `client-done` every task the client does, `word` somebody's word; what is
 * missing is named by the titles of the open tasks (empty for a word).
 */
export function evaluateGate(checks: readonly GateCheck[], facts: GateFacts): readonly CheckResult[] {
  return checks.map((check): CheckResult => {
    if (check.kind === 'word') return check.isGiven ? { id: check.id, isClear: true } : { id: check.id, isClear: false, missing: [] };
    const wantsClient = check.kind === 'client-done';
    const missing = facts.tasks.filter((task) => task.isOpen && task.isClientTask === wantsClient).map((task) => task.title);
    return missing.length === 0 ? { id: check.id, isClear: true } : { id: check.id, isClear: false, missing };
  });
}

/** True when nothing is missing. */
export const isGateClear = (results: readonly CheckResult[]): boolean => results.every((result) => result.isClear);
