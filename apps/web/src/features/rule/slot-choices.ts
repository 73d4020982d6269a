import {
  PRIORITY,
  slotWords,
  TASK_DATE,
  HOURS_OF,
  TASK_KIND,
  TASK_STATUS,
  RULE_FACTS,
  type RuleChoices,
  type RuleFact,
  type SlotKind,
  type SlotSpec,
  type SlotValue,
  type Slots,
} from '@crew/contract';

/** One value that can be put into a slot. */
export interface SlotChoice {
  readonly id: string;
  readonly name: string;
  readonly value: SlotValue | null;
}

type Named = readonly { readonly id: string; readonly name: string }[];

/** The names of everything that can be chosen, by id. */
export function namesOf(choices: RuleChoices): Readonly<Record<string, string>> {
  const all: Named = [
    ...choices.people,
    ...choices.roles,
    ...choices.clients,
    ...choices.templates,
    ...choices.fields,
    ...choices.webhooks,
    ...choices.savedTasks,
  ];
  return Object.fromEntries(all.map(({ id, name }) => [id, name]));
}

/** What can be chosen in slots whose value is typed or counted is nothing: they have fields of their own. */
const VALUES: { readonly [Kind in SlotKind]?: (choices: RuleChoices) => readonly SlotValue[] } = {
  phase: ({ phases }) => phases,
  task: ({ labels, titles }) => [
    ...TASK_KIND.map((is) => ({ by: 'kind', is }) as const),
    ...labels.map((is) => ({ by: 'label', is }) as const),
    ...titles.map((is) => ({ by: 'title', is }) as const),
  ],
  status: () => TASK_STATUS,
  person: ({ people }) => people.map(({ id }) => id),
  date: () => TASK_DATE,
  'hours-of': () => HOURS_OF,
  who: ({ roles, people }) => [
    ...(['lead', 'giver', 'receiver', 'assignees', 'owner'] as const).map((by) => ({ by })),
    ...roles.map(({ id }) => ({ by: 'role', id }) as const),
    ...people.map(({ id }) => ({ by: 'person', id }) as const),
  ],
  chosen: ({ roles, people }) => [
    ...roles.map(({ id }) => ({ by: 'role', id }) as const),
    ...people.map(({ id }) => ({ by: 'person', id }) as const),
  ],
  webhook: ({ webhooks }) => webhooks.map(({ id }) => id),
  'saved-task': ({ savedTasks }) => savedTasks.map(({ id }) => id),
  priority: () => PRIORITY,
  label: ({ labels }) => labels,
  place: ({ phases }) => [{ by: 'this' }, { by: 'next' }, ...phases.map((is) => ({ by: 'name', is }) as const)],
};

/** Everything that can be chosen in a slot, what leaves it open first; null for a slot that is typed. */
export function choicesFor(spec: SlotSpec, choices: RuleChoices): SlotChoice[] | null {
  const values = VALUES[spec.kind]?.(choices);
  if (values === undefined) return null;
  const names = namesOf(choices);
  return [
    ...(spec.any === undefined ? [] : [{ id: 'any', name: spec.any, value: null }]),
    ...values.map((value): SlotChoice => ({ id: JSON.stringify(value), name: slotWords(spec, value, names), value })),
  ];
}

/** What a condition can compare with; null for what is typed. */
export function comparedWith(fact: RuleFact, choices: RuleChoices): SlotChoice[] | null {
  const of = (named: Named): SlotChoice[] => named.map(({ id, name }) => ({ id, name, value: id }));
  const words = (kind: SlotKind, values: readonly SlotValue[]): SlotChoice[] =>
    values.map((value) => ({ id: String(value), name: slotWords({ kind }, value, {}), value }));
  switch (RULE_FACTS[fact].of) {
    case 'client':
      return of(choices.clients);
    case 'template':
      return of(choices.templates);
    case 'role':
      return of(choices.roles);
    case 'person':
      return of(choices.people);
    case 'phase':
      return words('phase', choices.phases);
    case 'title':
      return words('phase', choices.titles);
    case 'label':
      return words('phase', choices.labels);
    case 'status':
      return words('status', TASK_STATUS);
    case 'priority':
      return words('priority', PRIORITY);
    case 'kind':
      return TASK_KIND.map((is) => ({ id: is, name: slotWords({ kind: 'task' }, { by: 'kind', is }, {}).replace(/^any /, ''), value: is }));
    default:
      return null;
  }
}

/** The key under which the present value of a slot stands among its choices. */
export const keyOf = (value: Slots[string]): string => (value === undefined || value === null ? 'any' : JSON.stringify(value));
