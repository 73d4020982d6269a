import type { TemplateDraft } from '../../template/create-template.ts';
import { by, client, closeOut, meeting, milestone, OFFER_WAYS, offer, work } from './parts.ts';

const [LEAD, MANAGER, DESIGNER, DRAFTER, SITE] = ['Project lead', 'Client manager', 'Interior designer', 'Drafter', 'Site manager'];
const OFFER = offer({ lead: MANAGER, expert: DESIGNER, look: 'Walk through the rooms' });

/** Rooms to work in, from the survey to the snag list. */
export const officeInterior: TemplateDraft = {
  kind: 'engagement',
  name: 'Office interior',
  description: 'Offices of 150 to 800 m²: survey, use of rooms, design, tender, building works, furniture, moving in.',
  phases: [
    ...OFFER,
    {
      name: 'Survey and needs',
      role: DESIGNER,
      stateLine: 'Rooms measured, needs being collected',
      checks: [
        ['tasks-done', 'Plans drawn, needs on one page'],
        ['client-done', 'Client has confirmed the needs'],
      ],
      tasks: [
        client('Send plans and lease', 4),
        work('Measure the rooms', by(DRAFTER, 8, 2), { steps: ['Heights', 'Power and data', 'Light', 'Ventilation', 'Load of the floor'] }),
        work('Draw the present state', by(DRAFTER, 10, 3), { after: ['Measure the rooms'] }),
        meeting('Workshop with the team', { role: DESIGNER, hours: 3, onDay: 2 }, { isShownToClient: true }),
        work('Needs on one page', by(DESIGNER, 4, 2), { after: ['Workshop with the team'] }),
        client('Confirm the needs', 3, { after: ['Needs on one page'] }),
      ],
    },
    {
      name: 'Concept design',
      role: DESIGNER,
      stateLine: 'Concept being drawn',
      rounds: 2,
      checks: [
        ['tasks-done', 'Layout, materials and budget done'],
        ['client-done', 'Client has chosen a layout'],
      ],
      tasks: [
        work('Two layouts', by(DESIGNER, 20, 5), { deliverable: 'Design' }),
        work('Material boards', by(DESIGNER, 10, 4), { deliverable: 'Design' }),
        work('Views of three rooms', by(DRAFTER, 14, 4), { after: ['Two layouts'], deliverable: 'Design' }),
        work('Budget estimate', by(LEAD, 5, 2), { after: ['Two layouts'] }),
        meeting('Present the concept', { role: DESIGNER, hours: 2, onDay: 10 }, { isShownToClient: true }),
        client('Client chooses a layout', 5, { after: ['Present the concept', 'Budget estimate'] }),
      ],
    },
    {
      name: 'Detail design and permits',
      role: DRAFTER,
      stateLine: 'Details drawn, permits applied for',
      checks: [
        ['tasks-done', 'Drawings and schedules complete'],
        ['client-done', 'Client has signed the design'],
        ['word', 'Landlord and authority agree'],
      ],
      tasks: [
        work('Working drawings', by(DRAFTER, 40, 10), { deliverable: 'Design' }),
        work('Light and sound', by(DESIGNER, 8, 4)),
        work('Furniture and finishes schedule', by(DESIGNER, 12, 5), { after: [{ task: 'Working drawings', type: 'SS', lag: 4 }] }),
        work('Permit and landlord consent', by(LEAD, 4, 15), {
          outside: { maker: 'Building authority', turnaroundDays: 15, bufferDays: 5 },
        }),
        client('Client signs the design', 5, { after: ['Working drawings', 'Furniture and finishes schedule'] }),
      ],
    },
    {
      name: 'Tender',
      role: LEAD,
      stateLine: 'Trades being asked for prices',
      rounds: 1,
      checks: [
        ['tasks-done', 'Contracts signed'],
        ['client-done', 'Client has awarded the works'],
      ],
      tasks: [
        work('Bills of quantities', by(LEAD, 12, 4)),
        work('Ask three firms per trade', by(LEAD, 4, 8), { after: ['Bills of quantities'] }),
        work('Compare the prices', by(LEAD, 5, 2), { after: ['Ask three firms per trade'] }),
        client('Award the works', 5, { after: ['Compare the prices'] }),
        work('Order furniture', by(DESIGNER, 3, 1), {
          kind: 'order',
          after: ['Award the works'],
          outside: { maker: 'Furniture maker', turnaroundDays: 30, bufferDays: 5 },
        }),
        work('Building schedule with the firms', by(SITE, 4, 2), { after: ['Award the works'] }),
      ],
    },
    {
      name: 'Building works',
      role: SITE,
      stateLine: 'Works on site',
      checks: [
        ['tasks-done', 'Works accepted'],
        ['steps-done', 'Snag list cleared'],
      ],
      tasks: [
        meeting('Start on site', { role: SITE, hours: 2 }, { isShownToClient: true }),
        work('Demolition and partitions', by(SITE, 12, 8)),
        work('Services in walls and ceilings', by(SITE, 12, 8), { after: ['Demolition and partitions'] }),
        work('Finishes', by(SITE, 14, 10), { after: ['Services in walls and ceilings'] }),
        work('Weekly site meetings', by(SITE, 10, 26)),
        work('Check details on site', by(DESIGNER, 6, 20), { anchor: ['phase-start', 6] }),
        work('Acceptance and snag list', by(SITE, 5, 2), {
          after: ['Finishes'],
          steps: ['Walls and joints', 'Doors', 'Sockets tested', 'Light tested', 'Keys counted'],
        }),
      ],
    },
    {
      name: 'Furniture and move',
      role: DESIGNER,
      stateLine: 'Furniture in, move being prepared',
      checks: [
        ['tasks-done', 'Rooms handed over'],
        ['client-done', 'Client has taken over the rooms'],
      ],
      tasks: [
        work('Furniture delivery', by(SITE, 8, 2)),
        work('Plants, signs and pictures', by(DESIGNER, 6, 2), { after: ['Furniture delivery'] }),
        client('Take over the rooms', 2, { after: ['Plants, signs and pictures'] }),
        milestone('Team moves in', ['Take over the rooms']),
        work('Visit after four weeks', by(DESIGNER, 2, 1), { after: [{ task: 'Take over the rooms', lag: 20 }] }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client chooses a layout', to: 'Two layouts', reason: 'wants changes' },
    { from: 'Award the works', to: 'Ask three firms per trade', reason: 'too expensive' },
  ],
};

/** A shop or a small café with a fixed day of opening. */
export const shopFitting: TemplateDraft = {
  kind: 'engagement',
  name: 'Shop or café fit-out',
  description: 'A shop or café up to 150 m², planned back from its opening: design, joinery, building works, opening.',
  phases: [
    ...OFFER,
    {
      name: 'Shop concept',
      role: DESIGNER,
      stateLine: 'Shop being designed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Concept and budget done'],
        ['client-done', 'Client has chosen the concept'],
      ],
      tasks: [
        work('Measure the shop', by(DRAFTER, 5, 1)),
        meeting('How customers move', { role: DESIGNER, hours: 2, onDay: 1 }, { isShownToClient: true }),
        work('Layout and sight lines', by(DESIGNER, 10, 3), { after: ['Measure the shop', 'How customers move'], deliverable: 'Shop' }),
        work('Look, materials, light', by(DESIGNER, 12, 4), { after: ['Layout and sight lines'], deliverable: 'Shop' }),
        work('Budget of the fit-out', by(LEAD, 3, 1), { after: ['Look, materials, light'] }),
        client('Client chooses the concept', 4, { after: ['Budget of the fit-out'] }),
      ],
    },
    {
      name: 'Working drawings',
      role: DRAFTER,
      stateLine: 'Joinery and services being drawn',
      rounds: 2,
      checks: [
        ['tasks-done', 'Drawings released'],
        ['client-done', 'Client has signed the drawings'],
        ['word', 'Rules on hygiene and fire are met'],
      ],
      tasks: [
        work('Joinery drawings', by(DRAFTER, 24, 6), { deliverable: 'Shop' }),
        work('Power, water, light plan', by(DRAFTER, 8, 3)),
        work('Hygiene and fire rules', by(LEAD, 4, 3)),
        work('Shop front and sign', by(DESIGNER, 6, 3), { deliverable: 'Shop' }),
        client('Sign the drawings', 3, { after: ['Joinery drawings', 'Shop front and sign'] }),
      ],
    },
    {
      name: 'Making',
      role: LEAD,
      stateLine: 'Joinery being made, shop being prepared',
      checks: [['tasks-done', 'Joinery ready, shop prepared']],
      tasks: [
        work('Order joinery', by(LEAD, 2, 1), {
          kind: 'order',
          outside: { maker: 'Joiner', turnaroundDays: 20, bufferDays: 4 },
        }),
        work('Order equipment and light', by(LEAD, 2, 1), { kind: 'order' }),
        work('Walls, floor and services', by(SITE, 16, 15)),
        work('Visit the joiner', by(DESIGNER, 3, 1), { after: [{ task: 'Order joinery', lag: 10 }] }),
      ],
    },
    {
      name: 'Fitting and opening',
      role: SITE,
      stateLine: 'Shop being fitted for its opening',
      checks: [
        ['tasks-done', 'Shop accepted'],
        ['client-done', 'Client has taken over the shop'],
      ],
      tasks: [
        work('Fit joinery and equipment', by(SITE, 16, 5)),
        work('Sign and shop front', by(SITE, 4, 1), { after: ['Fit joinery and equipment'] }),
        work('Snag list of the shop', by(DESIGNER, 3, 1), { after: ['Fit joinery and equipment'] }),
        client('Take over the shop', 2, { after: ['Snag list of the shop', 'Sign and shop front'] }),
        milestone('Shop opens', ['Take over the shop']),
        work('Pictures for the portfolio', by(DESIGNER, 2, 1), { after: ['Take over the shop'], isShownToClient: false }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client chooses the concept', to: 'Look, materials, light', reason: 'wants changes' },
    { from: 'Sign the drawings', to: 'Joinery drawings', reason: 'wants changes' },
  ],
};
