/** What a gate can ask for; see the words of the contract. `wants` narrows it down. */
export type GateCheck =
  | { readonly id: string; readonly kind: 'tasks-done' | 'client-done' | 'steps-done' }
  | { readonly id: string; readonly kind: 'titled-done' | 'field-filled' | 'files-there'; readonly wants: readonly string[] }
  | { readonly id: string; readonly kind: 'word'; readonly isGiven: boolean };

/** A task of the phase a gate closes; the last three are given where a check asks for them. */
export interface GateTask {
  readonly title: string;
  readonly isOpen: boolean;
  readonly isClientTask: boolean;
  readonly openSteps?: number;
  /** Names of the custom fields that are filled in. */
  readonly fields?: readonly string[];
  /** Names of its files. */
  readonly files?: readonly string[];
}

/** The facts of the phase a gate closes. */
export interface GateFacts {
  readonly tasks: readonly GateTask[];
}

/** Clear, or exactly what is missing. */
export type CheckResult =
  { readonly id: string; readonly isClear: true } | { readonly id: string; readonly isClear: false; readonly missing: readonly string[] };

/**
 * Evaluates a gate over the facts given to it. What is missing is named: the titles of open tasks for
 * `tasks-done` (all of the crew's), `titled-done` (those in `wants`; one that does not exist is
 * missing too), `client-done` (all the client does) and `steps-done` (those with open steps); the
 * names of custom fields no task has filled in (`field-filled`); the endings no file has (`files-
 * there`; without one any file will do); nothing for a `word` that is not confirmed.
 */
export function evaluateGate(checks: readonly GateCheck[], facts: GateFacts): readonly CheckResult[] {
  return checks.map((check): CheckResult => {
    if (check.kind === 'word') return check.isGiven ? { id: check.id, isClear: true } : { id: check.id, isClear: false, missing: [] };
    const missing = missingFor(check, facts);
    return missing.length === 0 ? { id: check.id, isClear: true } : { id: check.id, isClear: false, missing };
  });
}

const same = (left: string, right: string): boolean => left.trim().toLowerCase() === right.trim().toLowerCase();
const titlesOf = (tasks: readonly GateTask[]): string[] => tasks.map(({ title }) => title);

function missingFor(check: Exclude<GateCheck, { readonly kind: 'word' }>, { tasks }: GateFacts): readonly string[] {
  switch (check.kind) {
    case 'tasks-done':
      return titlesOf(tasks.filter((task) => task.isOpen && !task.isClientTask));
    case 'client-done':
      return titlesOf(tasks.filter((task) => task.isOpen && task.isClientTask));
    case 'steps-done':
      return titlesOf(tasks.filter(({ openSteps = 0 }) => openSteps > 0));
    case 'titled-done':
      return check.wants.filter((title) => {
        const named = tasks.filter((task) => same(task.title, title));
        return named.length === 0 || named.some(({ isOpen }) => isOpen);
      });
    case 'field-filled':
      return check.wants.filter((name) => !tasks.some(({ fields = [] }) => fields.some((field) => same(field, name))));
    case 'files-there': {
      const names = tasks.flatMap(({ files = [] }) => files);
      if (check.wants.length === 0) return names.length === 0 ? [''] : [];
      return check.wants.filter(
        (ending) => !names.some((name) => name.toLowerCase().endsWith(`.${ending.trim().toLowerCase().replace(/^\./, '')}`)),
      );
    }
  }
}

/** True when nothing is missing. */
export const isGateClear = (results: readonly CheckResult[]): boolean => results.every((result) => result.isClear);
