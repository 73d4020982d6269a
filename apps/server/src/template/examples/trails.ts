import type { TemplateDraft } from '../create-template.ts';

/** A sound walk of stops with a script, voices and a small map. */
export const audioTrail: TemplateDraft = {
  kind: 'engagement',
  name: 'Audio trail',
  description: 'Stops to listen to along a walk: script, studio, map and posts.',
  phases: [
    {
      name: 'Proposal',
      role: 'Client manager',
      stateLine: 'Trail proposed, waiting for an answer',
      checks: [
        ['tasks-done', 'Proposal sent'],
        ['client-done', 'Client has answered'],
      ],
      tasks: [
        { title: 'First call', role: 'Client manager', hours: 1, days: 1, kind: 'meeting' },
        { title: 'Walk the site', role: 'Engagement lead', hours: 4, days: 1, after: ['First call'] },
        { title: 'Send proposal', role: 'Client manager', hours: 3, days: 2, after: ['Walk the site'] },
        { title: 'Client answers', days: 4, kind: 'client', after: ['Send proposal'] },
      ],
    },
    {
      name: 'Kickoff',
      role: 'Engagement lead',
      stateLine: 'Deposit in, kickoff being held',
      checks: [['tasks-done', 'Every task of this phase done']],
      tasks: [
        { title: 'Kickoff call with the client', role: 'Engagement lead', hours: 1.5, days: 1, kind: 'meeting' },
        { title: 'Choose the number of stops', role: 'Engagement lead', hours: 1, days: 1, after: ['Kickoff call with the client'] },
        { title: 'Name somebody to check facts', days: 2, kind: 'client', after: ['Kickoff call with the client'] },
      ],
    },
    {
      name: 'Script',
      role: 'Writer',
      stateLine: 'Script being written, round 1 of 3',
      rounds: 3,
      checks: [
        ['tasks-done', 'Script finished'],
        ['client-done', 'Script approved by the client'],
        ['word', 'Names checked'],
      ],
      tasks: [
        { title: 'Walk the route, list stops', role: 'Writer', hours: 6, days: 2 },
        { title: 'Facts for each stop', role: 'Researcher', hours: 10, days: 4, after: ['Walk the route, list stops'] },
        {
          title: 'Write the script',
          role: 'Writer',
          hours: 18,
          days: 6,
          after: ['Walk the route, list stops'],
          steps: ['Opening', 'Stops', 'Way-finding lines', 'Close'],
        },
        { title: 'Pronunciation list', role: 'Researcher', hours: 2, days: 1, after: ['Write the script'] },
        { title: 'Read aloud, time each stop', role: 'Media producer', hours: 3, days: 1, after: ['Write the script'] },
        { title: 'Client reads the script', days: 4, kind: 'client', after: ['Write the script'] },
        { title: 'Script fixes', role: 'Writer', hours: 5, days: 2, after: ['Client reads the script', 'Read aloud, time each stop'] },
      ],
    },
    {
      name: 'Studio',
      role: 'Media producer',
      stateLine: 'Voices being recorded',
      checks: [['tasks-done', 'Every stop mixed and checked']],
      tasks: [
        { title: 'Voice casting', role: 'Media producer', hours: 4, days: 3 },
        { title: 'Book the recording booth', role: 'Media producer', hours: 0.5, days: 1, kind: 'order' },
        { title: 'Record voices', role: 'Media producer', hours: 12, days: 3, after: ['Voice casting', 'Book the recording booth'] },
        { title: 'Field recordings', role: 'Media producer', hours: 6, days: 2 },
        { title: 'Edit and mix', role: 'Media producer', hours: 24, days: 7, after: ['Record voices', 'Field recordings'] },
        { title: 'Transcripts', role: 'Writer', hours: 5, days: 2, after: ['Record voices'] },
        { title: 'Transcript check', role: 'Researcher', hours: 2, days: 1, after: ['Transcripts'] },
        { title: 'Client listens', days: 3, kind: 'client', after: ['Edit and mix'] },
      ],
    },
    {
      name: 'On site',
      role: 'Installer',
      stateLine: 'Posts and map going in',
      checks: [
        ['tasks-done', 'Trail open'],
        ['word', 'Final payment in'],
      ],
      tasks: [
        { title: 'Trail map artwork', role: 'Graphic designer', hours: 10, days: 4 },
        { title: 'Posts ordered', role: 'Fabrication coordinator', hours: 2, days: 1, kind: 'order' },
        { title: 'Posts set', role: 'Installer', hours: 16, days: 3, after: [{ task: 'Posts ordered', lag: 5 }] },
        { title: 'Walk it with visitors', role: 'Engagement lead', hours: 4, days: 1, after: ['Posts set', 'Trail map artwork'] },
        { title: 'Trail opens', days: 0, kind: 'milestone', after: ['Walk it with visitors'], isShownToClient: true },
        { title: 'Last invoice', role: 'Client manager', hours: 0.5, days: 1, after: ['Trail opens'] },
      ],
    },
  ],
};

/** Signs that get people there: from a walk of the ground to the last post. */
export const wayfinding: TemplateDraft = {
  kind: 'engagement',
  name: 'Wayfinding & signage',
  description: 'Signs, plaques and posts for a site: survey, design, proofs, making and setting.',
  phases: [
    {
      name: 'Enquiry',
      role: 'Client manager',
      stateLine: 'Signage asked for, being looked at',
      checks: [['word', 'Scope is clear']],
      tasks: [
        { title: 'Call about the site', role: 'Client manager', hours: 1, days: 1, kind: 'meeting' },
        { title: 'Price by sign kind', role: 'Fabrication coordinator', hours: 3, days: 2, after: ['Call about the site'] },
        { title: 'Client says yes', days: 3, kind: 'client', after: ['Price by sign kind'] },
      ],
    },
    {
      name: 'Survey',
      role: 'Engagement lead',
      stateLine: 'Site being walked and counted',
      checks: [['tasks-done', 'Every place counted']],
      tasks: [
        { title: 'Kickoff on site', role: 'Engagement lead', hours: 2, days: 1, kind: 'meeting' },
        { title: 'Walk and count places', role: 'Researcher', hours: 9, days: 3, after: ['Kickoff on site'] },
        { title: 'Photographs of each place', role: 'Graphic designer', hours: 4, days: 1, after: ['Kickoff on site'] },
        { title: 'Power and ground check', role: 'Installer', hours: 4, days: 1, after: ['Kickoff on site'] },
      ],
    },
    {
      name: 'Design',
      role: 'Graphic designer',
      stateLine: 'Signs being designed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Sign family finished'],
        ['client-done', 'Client has approved the family'],
      ],
      tasks: [
        { title: 'Sign family', role: 'Graphic designer', hours: 20, days: 6 },
        { title: 'Names and words', role: 'Writer', hours: 8, days: 4 },
        { title: 'Post construction', role: 'Exhibit designer', hours: 12, days: 4 },
        { title: 'Client approves the family', days: 4, kind: 'client', after: ['Sign family', 'Names and words'] },
        { title: 'Names check', role: 'Writer', hours: 2, days: 1, after: ['Client approves the family'] },
      ],
    },
    {
      name: 'Fabrication',
      role: 'Fabrication coordinator',
      stateLine: 'Proofs out, plaques being made',
      checks: [['tasks-done', 'Made and checked']],
      tasks: [
        { title: 'Bench plaque artwork', role: 'Graphic designer', hours: 9, days: 4 },
        {
          title: 'Plaque proofs',
          role: 'Graphic designer',
          hours: 5,
          days: 3,
          after: ['Bench plaque artwork'],
          steps: ['Colour', 'Names', 'Fixing holes'],
        },
        { title: 'Proof read', role: 'Writer', hours: 2, days: 1, after: ['Plaque proofs'] },
        { title: 'Glass quote', role: 'Fabrication coordinator', hours: 1.5, days: 2, kind: 'order' },
        { title: 'Plaques made', role: 'Fabrication coordinator', hours: 4, days: 7, after: ['Proof read'] },
        { title: 'Map fold test', role: 'Graphic artworker', hours: 3.5, days: 2, after: ['Bench plaque artwork'] },
      ],
    },
    {
      name: 'Setting',
      role: 'Installer',
      stateLine: 'Signs being set on site',
      checks: [
        ['tasks-done', 'Every sign up'],
        ['client-done', 'Client has walked the signs'],
      ],
      tasks: [
        { title: 'Mounting plan', role: 'Installer', hours: 3, days: 1 },
        { title: 'Signs set', role: 'Installer', hours: 26, days: 4, after: ['Mounting plan'] },
        { title: 'Client walks the signs', days: 2, kind: 'client', after: ['Signs set'] },
        { title: 'Put right', role: 'Installer', hours: 5, days: 1, after: ['Client walks the signs'] },
      ],
    },
    {
      name: 'Final payment',
      role: 'Client manager',
      stateLine: 'All set, final payment asked for',
      checks: [
        ['tasks-done', 'Invoice sent'],
        ['word', 'Invoice paid'],
      ],
      tasks: [
        { title: 'Send the final invoice', role: 'Client manager', hours: 1, days: 1 },
        { title: 'Species label edits', role: 'Writer', hours: 1.5, days: 2 },
        { title: 'Care notes for the ground staff', role: 'Writer', hours: 2, days: 2 },
        {
          title: 'Close the folder',
          role: 'Engagement lead',
          hours: 1,
          days: 1,
          after: ['Send the final invoice', 'Care notes for the ground staff'],
        },
      ],
    },
  ],
};
