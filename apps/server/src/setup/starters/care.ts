import type { TemplateDraft } from '../../template/create-template.ts';
import { by, client, meeting, milestone, work } from './parts.ts';

const [LEAD, DEVELOPER, DESIGNER, WRITER] = ['Project lead', 'Web developer', 'Web designer', 'Writer'];

/** One month of looking after a website; made to be repeated. */
export const websiteCare: TemplateDraft = {
  kind: 'engagement',
  name: 'Website care, a month',
  description: 'One month of care for a website, to be repeated: updates, checks, small changes, report.',
  phases: [
    {
      name: 'Month begins',
      role: LEAD,
      stateLine: 'Month being planned',
      checks: [
        ['tasks-done', 'Wishes of the month known'],
        ['client-done', 'Client has sent wishes'],
      ],
      tasks: [
        client('Send wishes for the month', 3),
        work('Carry over what was left', by(LEAD, 0.5, 1)),
        meeting('Short call about the month', { role: LEAD, hours: 0.5, onDay: 3 }, { isShownToClient: true }),
      ],
    },
    {
      name: 'Care',
      role: DEVELOPER,
      stateLine: 'Updates and small changes under way',
      rounds: 1,
      checks: [
        ['tasks-done', 'Updates and changes done'],
        ['steps-done', 'Monthly checks completed'],
      ],
      tasks: [
        work('Backup and updates', by(DEVELOPER, 2, 1), { steps: ['Backup restored once', 'Updates on test server', 'Updates live'] }),
        work('Monthly checks', by(DEVELOPER, 1.5, 1), {
          after: ['Backup and updates'],
          steps: ['Forms arrive', 'Certificate', 'Broken links', 'Speed', 'Error log'],
        }),
        work('Small changes', by(DEVELOPER, 5, 8), { deliverable: 'Changes' }),
        work('Texts and pictures', by(WRITER, 3, 6), { deliverable: 'Changes' }),
        client('Check the changes', 3, { after: ['Small changes', 'Texts and pictures'] }),
      ],
    },
    {
      name: 'Month ends',
      role: LEAD,
      stateLine: 'Report of the month being written',
      checks: [['tasks-done', 'Report sent']],
      tasks: [
        work('Figures and hours used', by(LEAD, 1, 1)),
        work('Report of the month', by(LEAD, 1, 1), { after: ['Figures and hours used'], isShownToClient: true }),
        milestone('Month is closed', ['Report of the month']),
      ],
    },
  ],
  ways: [
    { from: 'Check the changes', to: 'Small changes', reason: 'not as wished' },
    { from: 'Short call about the month', ending: 'Care ended', reason: 'client has given notice' },
  ],
};

/** Agreed hours a month for whatever is needed; made to be repeated. */
export const monthlyRetainer: TemplateDraft = {
  kind: 'engagement',
  name: 'Retainer, a month',
  description: 'One month of agreed hours, to be repeated: plan with the client, work in two halves, report of the hours.',
  phases: [
    {
      name: 'Plan the month',
      role: LEAD,
      stateLine: 'Work of the month being agreed',
      rounds: 1,
      checks: [
        ['tasks-done', 'Plan of the month written'],
        ['client-done', 'Client has agreed the plan'],
      ],
      tasks: [
        meeting('Monthly planning', { role: LEAD, hours: 1 }, { isShownToClient: true, steps: ['What comes first', 'What can wait'] }),
        work('Plan with hours', by(LEAD, 1, 1), { after: ['Monthly planning'] }),
        client('Agree the plan of the month', 2, { after: ['Plan with hours'] }),
      ],
    },
    {
      name: 'Work',
      role: DESIGNER,
      stateLine: 'Agreed work under way',
      rounds: 2,
      checks: [
        ['tasks-done', 'Agreed work done'],
        ['client-done', 'Client has approved the work'],
      ],
      tasks: [
        work('First half: design', by(DESIGNER, 8, 6), { deliverable: 'Work of the month' }),
        work('First half: text', by(WRITER, 5, 5), { deliverable: 'Work of the month' }),
        work('Look at hours used', by(LEAD, 0.5, 1), { anchor: ['phase-start', 7] }),
        work('Second half: design', by(DESIGNER, 8, 6), { after: ['First half: design'], deliverable: 'Work of the month' }),
        work('Second half: text', by(WRITER, 5, 5), { after: ['First half: text'], deliverable: 'Work of the month' }),
        client('Approve the work', 3, { after: ['Second half: design', 'Second half: text'] }),
      ],
    },
    {
      name: 'Report the month',
      role: LEAD,
      stateLine: 'Hours of the month being reported',
      checks: [['tasks-done', 'Report and invoice sent']],
      tasks: [
        work('Hours used and left', by(LEAD, 1, 1)),
        work('Report and invoice', by(LEAD, 1, 1), { after: ['Hours used and left'], isShownToClient: true }),
        milestone('Month is reported', ['Report and invoice']),
      ],
    },
  ],
  ways: [
    { from: 'Agree the plan of the month', to: 'Plan with hours', reason: 'wants other work first' },
    { from: 'Agree the plan of the month', ending: 'Retainer ended', reason: 'client has given notice' },
    { from: 'Approve the work', to: 'Second half: design', reason: 'wants changes' },
  ],
};
