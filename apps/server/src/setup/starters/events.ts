import type { TemplateDraft } from '../../template/create-template.ts';
import { by, client, closeOut, meeting, milestone, OFFER_WAYS, offer, work } from './parts.ts';

const [LEAD, MANAGER, DESIGNER, TECHNICIAN, BUILDER, GUESTS] = [
  'Event manager',
  'Client manager',
  'Designer',
  'Event technician',
  'Stand builder',
  'Guest manager',
];

/** A day with speakers and guests; everything is counted back from the day itself. */
export const conference: TemplateDraft = {
  kind: 'engagement',
  name: 'Conference day',
  description: 'A conference for 80 to 300 guests, planned back from the day: place, programme, guests, technology, the day itself.',
  phases: [
    ...offer({ lead: MANAGER, expert: LEAD, look: 'Check dates against holidays and other events' }),
    {
      name: 'Place and frame',
      role: LEAD,
      stateLine: 'Venue being chosen',
      rounds: 2,
      checks: [
        ['tasks-done', 'Venue booked, budget confirmed'],
        ['client-done', 'Client has chosen the venue'],
      ],
      tasks: [
        meeting('Kickoff: goals, guests, budget', { role: LEAD, hours: 2 }, { isShownToClient: true }),
        work('Ask six venues', by(LEAD, 4, 3), { after: ['Kickoff: goals, guests, budget'] }),
        work('Visit three venues', by(LEAD, 9, 2), {
          after: ['Ask six venues'],
          steps: ['Step-free access', 'Escape routes', 'Power and network', 'Loading bay', 'Rooms for small groups'],
        }),
        client('Client chooses the venue', 4, { after: ['Visit three venues'] }),
        work('Contract with the venue', by(LEAD, 2, 2), { after: ['Client chooses the venue'] }),
        work('Budget in detail', by(LEAD, 4, 2), { after: ['Client chooses the venue'] }),
      ],
    },
    {
      name: 'Programme',
      role: LEAD,
      stateLine: 'Programme and speakers being confirmed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Programme complete, speakers confirmed'],
        ['client-done', 'Client has agreed the programme'],
      ],
      tasks: [
        work('Draft of the programme', by(LEAD, 6, 3)),
        client('Client agrees the programme', 4, { after: ['Draft of the programme'] }),
        work('Invite speakers and moderator', by(LEAD, 6, 8), { after: ['Client agrees the programme'] }),
        work('Travel and rooms of the speakers', by(GUESTS, 5, 5), { after: ['Invite speakers and moderator'] }),
        work('Brief the speakers', by(LEAD, 4, 3), { after: ['Invite speakers and moderator'] }),
      ],
    },
    {
      name: 'Invitations',
      role: GUESTS,
      stateLine: 'Invitations out, registration open',
      checks: [
        ['tasks-done', 'Registration works, reminders sent'],
        ['client-done', 'Guest list is in'],
      ],
      tasks: [
        client('Send the guest list', 5),
        work('Look of the event', by(DESIGNER, 10, 4), { deliverable: 'Printed matter' }),
        work('Registration page', by(GUESTS, 6, 3), { after: ['Look of the event'] }),
        work('Send invitations', by(GUESTS, 3, 2), { after: ['Registration page', 'Send the guest list'] }),
        work('Answer guests', by(GUESTS, 12, 20), { after: ['Send invitations'] }),
        work('Second invitation to who has not answered', by(GUESTS, 2, 1), { after: [{ task: 'Send invitations', lag: 10 }] }),
      ],
    },
    {
      name: 'Production',
      role: TECHNICIAN,
      stateLine: 'Technology, food and print being prepared',
      checks: [
        ['tasks-done', 'Everything ordered and confirmed'],
        ['word', 'Safety plan is with the venue'],
      ],
      tasks: [
        work('Stage, sound and light plan', by(TECHNICIAN, 10, 4)),
        work('Order technology', by(TECHNICIAN, 2, 1), {
          kind: 'order',
          after: ['Stage, sound and light plan'],
          outside: { maker: 'Technology hire', turnaroundDays: 10, bufferDays: 2 },
        }),
        work('Order catering', by(LEAD, 3, 2), { kind: 'order', steps: ['Allergies', 'Vegan choice', 'Times of the breaks'] }),
        work('Badges, signs and programme', by(DESIGNER, 10, 4), { deliverable: 'Printed matter' }),
        client('Check names on badges', 2, { after: ['Badges, signs and programme'] }),
        work('Print', by(DESIGNER, 2, 4), { kind: 'order', after: ['Check names on badges'] }),
        work('Safety and first-aid plan', by(LEAD, 3, 2)),
        work('Running order by minute', by(LEAD, 5, 2), { after: ['Stage, sound and light plan'] }),
      ],
    },
    {
      name: 'The day',
      role: LEAD,
      stateLine: 'Set-up and the day itself',
      checks: [['tasks-done', 'Everything returned']],
      tasks: [
        work('Set up and rehearse', by(TECHNICIAN, 9, 1), { helpers: [BUILDER, LEAD] }),
        work('Event day', by(LEAD, 12, 1), { after: ['Set up and rehearse'], helpers: [TECHNICIAN, GUESTS], priority: 'high' }),
        milestone('Event is held', ['Event day']),
        work('Take down and return', by(BUILDER, 6, 1), { after: ['Event day'] }),
      ],
    },
    {
      name: 'Afterwards',
      role: GUESTS,
      stateLine: 'Thanks, pictures and answers of the guests',
      checks: [['tasks-done', 'Report sent']],
      tasks: [
        work('Thank-you mail with pictures', by(GUESTS, 3, 2)),
        work('Survey of the guests', by(GUESTS, 2, 6)),
        work('Report with final costs', by(LEAD, 4, 2), { after: ['Survey of the guests'], isShownToClient: true }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client chooses the venue', to: 'Ask six venues', reason: 'none of them' },
    { from: 'Client agrees the programme', to: 'Draft of the programme', reason: 'wants changes' },
  ],
};

/** A stand at a trade fair, from the plan of the hall to the crates back in store. */
export const exhibitionStand: TemplateDraft = {
  kind: 'engagement',
  name: 'Trade fair stand',
  description: 'A stand of 20 to 80 m² for a fair with fixed dates: concept, drawings, fair services, build and return.',
  phases: [
    ...offer({ lead: MANAGER, expert: DESIGNER, look: 'Read the rules of the fair' }),
    {
      name: 'Stand concept',
      role: DESIGNER,
      stateLine: 'Stand being designed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Concept with costs done'],
        ['client-done', 'Client has chosen the concept'],
      ],
      tasks: [
        meeting('Briefing with sales', { role: LEAD, hours: 2 }, { isShownToClient: true }),
        client('Send products and key messages', 4),
        work('Visitor paths and zones', by(DESIGNER, 6, 2), { after: ['Briefing with sales'] }),
        work('Concept with pictures', by(DESIGNER, 20, 5), { after: ['Visitor paths and zones'], deliverable: 'Stand' }),
        work('Cost of building', by(BUILDER, 4, 2), { after: ['Concept with pictures'] }),
        client('Client chooses the concept', 4, { after: ['Cost of building'] }),
      ],
    },
    {
      name: 'Drawings and approval',
      role: DESIGNER,
      stateLine: 'Drawings with the fair for approval',
      checks: [
        ['tasks-done', 'Fair has approved the stand'],
        ['client-done', 'Client has released the graphics'],
      ],
      tasks: [
        work('Working drawings', by(DESIGNER, 18, 5), { deliverable: 'Stand' }),
        work('Structural check', by(BUILDER, 3, 3), { after: ['Working drawings'] }),
        work('Send drawings to the fair', by(LEAD, 1, 1), { after: ['Structural check'] }),
        work('Fair approves the stand', by(LEAD, 0.5, 8), {
          after: ['Send drawings to the fair'],
          outside: { maker: 'Fair organiser', turnaroundDays: 8, bufferDays: 2 },
        }),
        work('Power, water, network, cleaning', by(LEAD, 3, 2), { kind: 'order' }),
        work('Graphics of the walls', by(DESIGNER, 12, 4), { deliverable: 'Graphics' }),
        client('Release the graphics', 3, { after: ['Graphics of the walls'] }),
      ],
    },
    {
      name: 'Workshop',
      role: BUILDER,
      stateLine: 'Stand being built in the workshop',
      checks: [
        ['tasks-done', 'Stand assembled once and packed'],
        ['steps-done', 'Trial assembly completed'],
      ],
      tasks: [
        work('Order material and furniture', by(BUILDER, 3, 1), { kind: 'order' }),
        work('Build the parts', by(BUILDER, 48, 10), { after: [{ task: 'Order material and furniture', lag: 3 }], deliverable: 'Stand' }),
        work('Print the graphics', by(DESIGNER, 2, 5), {
          kind: 'order',
          outside: { maker: 'Large-format printer', turnaroundDays: 5, bufferDays: 2 },
        }),
        work('Screens and light', by(TECHNICIAN, 10, 4)),
        work('Trial assembly', by(BUILDER, 10, 2), {
          after: ['Build the parts', 'Print the graphics', 'Screens and light'],
          steps: ['Everything fits', 'Light works', 'Photographed for the crew', 'Packed by order of assembly'],
        }),
      ],
    },
    {
      name: 'At the fair',
      role: BUILDER,
      stateLine: 'Build-up and fair',
      checks: [['tasks-done', 'Stand is back in store']],
      tasks: [
        work('Transport and build-up', by(BUILDER, 24, 3), { helpers: [TECHNICIAN], priority: 'high' }),
        client('Client takes over the stand', 1, { after: ['Transport and build-up'] }),
        milestone('Fair opens', ['Client takes over the stand']),
        work('On call during the fair', by(TECHNICIAN, 6, 4), { after: ['Client takes over the stand'] }),
        work('Take down and transport', by(BUILDER, 14, 2), { after: ['On call during the fair'] }),
        work('Check and store', by(BUILDER, 4, 1), { after: ['Take down and transport'], steps: ['Damage listed', 'Parts labelled'] }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [...OFFER_WAYS, { from: 'Client chooses the concept', to: 'Concept with pictures', reason: 'wants changes' }],
};
