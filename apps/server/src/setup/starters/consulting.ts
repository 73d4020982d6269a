import type { TemplateDraft } from '../../template/create-template.ts';
import { by, client, closeOut, meeting, milestone, OFFER_WAYS, offer, work } from './parts.ts';

const [LEAD, MANAGER, CONSULTANT, ANALYST] = ['Project lead', 'Client manager', 'Consultant', 'Analyst'];

/** An examination with findings, priorities and a plan. */
export const audit: TemplateDraft = {
  kind: 'engagement',
  name: 'Audit',
  description: 'Examines something that exists (a website, a process, a brand) against agreed criteria: findings, priorities, plan.',
  phases: [
    {
      name: 'Offer',
      role: MANAGER,
      stateLine: 'Scope of the audit being agreed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Offer sent'],
        ['client-done', 'Client has ordered the audit'],
      ],
      tasks: [
        meeting('Scoping call', { role: MANAGER, hours: 1 }, { steps: ['What decides success', 'Who gets the report', 'By when'] }),
        work('Offer with criteria', by(LEAD, 2, 1), { after: ['Scoping call'] }),
        client('Order the audit', 4, { after: ['Offer with criteria'] }),
      ],
    },
    {
      name: 'Access and material',
      role: CONSULTANT,
      stateLine: 'Waiting for access and documents',
      checks: [
        ['tasks-done', 'Kickoff held, criteria fixed'],
        ['client-done', 'Access and documents are in'],
      ],
      tasks: [
        client('Give access and documents', 4),
        client('Name people to interview', 3),
        meeting('Kickoff', { role: CONSULTANT, hours: 1.5, onDay: 1 }, { isShownToClient: true }),
        work('Criteria and sample', by(CONSULTANT, 4, 2), { after: ['Kickoff'] }),
      ],
    },
    {
      name: 'Examination',
      role: CONSULTANT,
      stateLine: 'Being examined',
      checks: [
        ['tasks-done', 'Every criterion examined'],
        ['word', 'Every finding has evidence'],
      ],
      tasks: [
        work('Interviews', by(CONSULTANT, 8, 4)),
        work('Figures and logs', by(ANALYST, 8, 4)),
        work('Examine the sample', by(CONSULTANT, 14, 5), { deliverable: 'Report' }),
        work('List of findings', by(CONSULTANT, 5, 2), { after: ['Interviews', 'Figures and logs', 'Examine the sample'] }),
        work('Second pair of eyes', by(LEAD, 2, 1), { kind: 'review', after: ['List of findings'] }),
      ],
    },
    {
      name: 'Report',
      role: CONSULTANT,
      stateLine: 'Report being written',
      rounds: 1,
      checks: [
        ['tasks-done', 'Report presented'],
        ['client-done', 'Client has checked the facts'],
      ],
      tasks: [
        work('Draft of the report', by(CONSULTANT, 12, 4), { deliverable: 'Report' }),
        client('Client checks the facts', 4, { after: ['Draft of the report'] }),
        work('Priorities: effort against effect', by(LEAD, 3, 1), { after: ['Draft of the report'] }),
        work('Final report and one-page summary', by(CONSULTANT, 4, 2), {
          after: ['Client checks the facts', 'Priorities: effort against effect'],
          deliverable: 'Report',
        }),
        work('Present the report', by(LEAD, 2, 1), {
          kind: 'meeting',
          after: ['Final report and one-page summary'],
          isShownToClient: true,
        }),
        milestone('Report is accepted', ['Present the report']),
      ],
    },
    {
      name: 'Follow-up',
      role: LEAD,
      stateLine: 'Measures under way at the client',
      checks: [['tasks-done', 'Follow-up held']],
      tasks: [
        work('Follow-up call', by(LEAD, 1, 1), { kind: 'meeting', anchor: ['phase-start', 20] }),
        work('Offer for the measures', by(MANAGER, 2, 1), { after: ['Follow-up call'] }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    { from: 'Scoping call', ending: 'Not a fit', reason: 'not a fit' },
    { from: 'Order the audit', to: 'Offer with criteria', reason: 'wants changes' },
    { from: 'Order the audit', ending: 'Client declined', reason: 'declined' },
    { from: 'Client checks the facts', to: 'Draft of the report', reason: 'facts are wrong' },
  ],
};

/** Questions, facts, options and a decision. */
export const strategyProject: TemplateDraft = {
  kind: 'engagement',
  name: 'Strategy project',
  description: 'Eight to twelve weeks from a question to a decided plan: facts, options, decision, roadmap, first steps.',
  phases: [
    ...offer({ lead: MANAGER, expert: LEAD, look: 'Read annual report and press' }),
    {
      name: 'Question',
      role: LEAD,
      stateLine: 'Question being sharpened',
      checks: [
        ['tasks-done', 'Question and hypotheses written'],
        ['client-done', 'Client has confirmed the question'],
      ],
      tasks: [
        meeting('Kickoff with the management', { role: LEAD, hours: 3 }, { helpers: [CONSULTANT], isShownToClient: true }),
        client('Send figures and earlier studies', 5),
        work('Question and hypotheses', by(CONSULTANT, 6, 2), { after: ['Kickoff with the management'] }),
        client('Confirm the question', 3, { after: ['Question and hypotheses'] }),
      ],
    },
    {
      name: 'Facts',
      role: ANALYST,
      stateLine: 'Facts being collected',
      checks: [
        ['tasks-done', 'Facts presented'],
        ['word', 'Every figure has a source'],
      ],
      tasks: [
        work('Interviews inside', by(CONSULTANT, 12, 6)),
        work('Interviews with customers', by(CONSULTANT, 12, 8)),
        work('Market and competitors', by(ANALYST, 14, 6)),
        work('Figures of the client', by(ANALYST, 12, 5)),
        work('Facts on ten pages', by(ANALYST, 10, 3), {
          after: ['Interviews inside', 'Interviews with customers', 'Market and competitors', 'Figures of the client'],
          deliverable: 'Strategy',
        }),
        work('Half-time meeting', by(LEAD, 3, 1), { kind: 'meeting', after: ['Facts on ten pages'], isShownToClient: true }),
      ],
    },
    {
      name: 'Options',
      role: CONSULTANT,
      stateLine: 'Options being weighed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Options compared'],
        ['client-done', 'Client has decided'],
      ],
      tasks: [
        work('Three options with costs', by(CONSULTANT, 20, 6), { deliverable: 'Strategy' }),
        work('Risks and what would have to be true', by(ANALYST, 8, 3), {
          after: [{ task: 'Three options with costs', type: 'SS', lag: 3 }],
        }),
        work('Decision workshop', by(LEAD, 5, 1), {
          kind: 'meeting',
          after: ['Three options with costs', 'Risks and what would have to be true'],
          isShownToClient: true,
        }),
        client('Client decides', 5, { after: ['Decision workshop'] }),
      ],
    },
    {
      name: 'Roadmap',
      role: CONSULTANT,
      stateLine: 'Roadmap being made',
      checks: [
        ['tasks-done', 'Roadmap handed over'],
        ['client-done', 'Client has named who does what'],
      ],
      tasks: [
        work('Roadmap of twelve months', by(CONSULTANT, 10, 4), { deliverable: 'Roadmap' }),
        client('Name who does what', 4, { after: ['Roadmap of twelve months'] }),
        work('Measures and how they are counted', by(ANALYST, 5, 2), { after: ['Roadmap of twelve months'], deliverable: 'Roadmap' }),
        milestone('Roadmap is handed over', ['Name who does what', 'Measures and how they are counted']),
        work('Coaching of the first steps', by(LEAD, 8, 20), { after: ['Name who does what'] }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [...OFFER_WAYS, { from: 'Client decides', to: 'Three options with costs', reason: 'wants another option' }],
};
