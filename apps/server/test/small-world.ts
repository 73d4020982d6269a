import type { AgencyDraft } from '../src/agency/create-agency.ts';
import type { TemplateDraft } from '../src/template/create-template.ts';

export const PASSWORD = 'harbour wall at noon';
const WEEK = [480, 480, 480, 480, 480, 0, 0];

const person = (name: string, access: AgencyDraft['people'][number]['access'], roles: readonly string[]) => ({
  name,
  email: `${name.split(' ')[0]?.toLowerCase()}@small.example`,
  password: PASSWORD,
  access,
  roles,
  week: WEEK,
});

/** As few people, clients and days as the rules need. */
export const smallAgency: AgencyDraft = {
  name: 'Small Studio',
  zone: 'Europe/London',
  week: WEEK,
  closed: [{ day: '2026-11-27', name: 'Closed Friday' }],
  roles: ['Lead', 'Maker', 'Drawer'],
  people: [
    person('Oona Field', 'owner', ['Lead']),
    person('Lena Park', 'lead', ['Lead']),
    person('Mak Reyes', 'member', ['Maker']),
    person('Dora Quill', 'member', ['Drawer', 'Maker']),
    person('Fred Loan', 'freelancer', ['Drawer']),
  ],
  clients: [
    { name: 'Harbour Museum', hue: 'blue', contacts: [{ name: 'Hal Crane', email: 'hal@small.example', password: PASSWORD }] },
    { name: 'Mill House', hue: 'ochre', contacts: [{ name: 'Mia Stone', email: 'mia@small.example', password: PASSWORD }] },
  ],
};

/** Two phases, a dependency of each side, a client's task and a gate of every kind. */
export const smallTemplate: TemplateDraft = {
  kind: 'engagement',
  name: 'Panels',
  description: 'Draw, then make.',
  phases: [
    {
      name: 'Draw',
      role: 'Drawer',
      stateLine: 'Being drawn',
      checks: [
        ['tasks-done', 'Drawn'],
        ['client-done', 'Client has looked'],
        ['word', 'Lead agrees'],
      ],
      tasks: [
        { title: 'Sketch', role: 'Drawer', hours: 8, days: 2, steps: ['Front', 'Back'] },
        { title: 'Ink', role: 'Drawer', hours: 16, days: 3, after: ['Sketch'] },
        { title: 'Client looks', days: 2, kind: 'client', after: ['Ink'], isShownToClient: true },
      ],
    },
    {
      name: 'Make',
      role: 'Maker',
      stateLine: 'Being made',
      checks: [['tasks-done', 'Made']],
      tasks: [
        { title: 'Cut', role: 'Maker', hours: 8, days: 1 },
        { title: 'Paint', role: 'Maker', hours: 8, days: 2, after: ['Cut'] },
      ],
    },
  ],
};
