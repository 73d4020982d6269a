import type { AddRule, RuleContent, RuleThen } from '@crew/contract';

/** What roles and templates are called, by id. */
export interface ExampleIds {
  readonly roles: ReadonlyMap<string, string>;
  readonly templates: ReadonlyMap<string, string>;
}

const told = (by: 'lead' | 'giver' | 'receiver' | 'assignees' | 'owner', text: string): RuleThen => ({
  do: 'tell',
  slots: { who: { by }, text },
});
const clientTask = { by: 'kind', is: 'client' } as const;

/** What nearly every agency needs, whatever its trade. */
const FOR_ANY_AGENCY: readonly RuleContent[] = [
  {
    when: { kind: 'gate-cleared', slots: {} },
    if: [],
    then: [{ do: 'ready-handoff', slots: { who: { by: 'giver' } } }],
  },
  {
    when: { kind: 'sent-back', slots: {} },
    if: [],
    then: [told('lead', '{phase} of {engagementName} was sent back with a question')],
  },
  {
    when: { kind: 'client-answered', slots: {} },
    if: [],
    then: [told('owner', '{client} has answered {task}')],
  },
  {
    when: { kind: 'task-day', slots: { days: -2, date: 'due', task: clientTask } },
    if: [],
    then: [told('lead', '{client} has two more working days for {task}')],
  },
  {
    when: { kind: 'task-day', slots: { days: 2, date: 'due', task: clientTask } },
    if: [],
    then: [
      { do: 'set-priority', slots: { priority: 'high' } },
      told('lead', 'No answer from {client} yet: {task} was due two working days ago'),
    ],
  },
  {
    when: { kind: 'promise-day', slots: { days: -5 } },
    if: [{ fact: 'percent', op: 'less-than', value: 90 }],
    then: [told('lead', '{engagementName} is promised in five working days, and {percent} % is done')],
  },
  {
    when: { kind: 'hours-reached', slots: { percent: 110, of: 'phase' } },
    if: [],
    then: [told('lead', '{phase} of {engagementName} has used more than was planned for it')],
  },
  {
    when: { kind: 'person-away', slots: {} },
    if: [],
    then: [told('lead', '{person} will be away. Look at what is planned for those days')],
  },
];

/** What a client reads when the script is done. */
const RECORDING_BEGINS: RuleThen = {
  do: 'mail-client',
  slots: {
    title: 'Recording begins',
    text: 'The script of {engagementName} is finished and goes to the studio now. We book the booth this week and tell you the day. If somebody of yours wants to listen in, answer this mail.',
  },
};

/** A proof of the panels before they are built, and a look back at the end. */
const forDisplays = (proofId: string): readonly RuleContent[] => [
  {
    when: { kind: 'handed-off', slots: { phase: 'Detail design' } },
    if: [],
    then: [
      {
        do: 'add-saved-task',
        slots: { item: proofId, phase: { by: 'next' }, day: { days: 0, from: 'phase-start' }, whom: null },
      },
    ],
  },
  {
    when: { kind: 'engagement-completed', slots: {} },
    if: [],
    then: [told('lead', 'Write down what the next tour of {client} should do otherwise')],
  },
];

/** What single templates need besides, by the name of the template. */
function forTemplates({
  roleOf,
  templateOf,
}: Readonly<Record<'roleOf' | 'templateOf', (name: string) => string>>): Readonly<Record<string, readonly RuleContent[]>> {
  const freest = (role: string) => ({ by: 'role', id: roleOf(role) }) as const;
  return {
    'Permanent gallery': [
      {
        when: { kind: 'handed-off', slots: { phase: 'Concept' } },
        if: [],
        then: [{ do: 'assign-phase', slots: { phase: { by: 'next' }, whom: freest('Exhibit designer') } }],
      },
      {
        when: { kind: 'client-answered', slots: { task: { by: 'title', is: 'Client picks a direction' } } },
        if: [{ fact: 'round', op: 'more-than', value: 2 }],
        then: [{ do: 'ask-decision', slots: { whom: { by: 'lead' }, text: 'is another round of {phase} still within what we offered?' } }],
      },
    ],
    'Audio trail': [
      {
        when: { kind: 'handed-off', slots: { phase: 'Script' } },
        if: [],
        then: [
          { do: 'assign-phase', slots: { phase: { by: 'next' }, whom: freest('Media producer') } },
          {
            do: 'make-task',
            slots: {
              title: 'Confirm the booth for {engagementName}',
              phase: { by: 'next' },
              day: { days: -3, from: 'phase-start' },
              whom: freest('Media producer'),
            },
          },
          RECORDING_BEGINS,
        ],
      },
      {
        when: { kind: 'status-changed', slots: { task: { by: 'title', is: 'Client listens' }, status: 'done' } },
        if: [],
        then: [told('owner', '{client} has listened to {engagementName}: mark their remarks')],
      },
    ],
    'Wayfinding & signage': [
      {
        when: { kind: 'task-day', slots: { days: -3, date: 'start', task: { by: 'kind', is: 'order' } } },
        if: [],
        then: [told('assignees', 'Order {task} for {client} within three working days')],
      },
      {
        when: { kind: 'phase-started', slots: { phase: 'Fabrication' } },
        if: [],
        then: [{ do: 'ask-decision', slots: { whom: { by: 'lead' }, text: 'which maker gets the signs of {client}?' } }],
      },
    ],
    'Travelling display': forDisplays(templateOf('Printer proof')),
  };
}

/** Rules a new agency begins with. */
export const firstRules: readonly AddRule[] = FOR_ANY_AGENCY.map((content) => ({ level: 'agency', content }));

/** Rules that come with the example templates. */
export function exampleRules({ roles, templates }: ExampleIds): AddRule[] {
  const named =
    (of: string, ids: ReadonlyMap<string, string>) =>
    (name: string): string => {
      const id = ids.get(name);
      if (id === undefined) throw new Error(`the example rules name the ${of} ${name}`);
      return id;
    };
  const [roleOf, templateOf] = [named('role', roles), named('template', templates)];
  const ofTemplates = Object.entries(forTemplates({ roleOf, templateOf })).flatMap(([name, contents]) =>
    contents.map((content): AddRule => ({ level: 'template', templateId: templateOf(name), content })),
  );
  return [...firstRules, ...ofTemplates];
}
