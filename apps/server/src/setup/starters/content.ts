import type { TemplateDraft } from '../../template/create-template.ts';
import { by, client, closeOut, meeting, milestone, OFFER_WAYS, offer, work } from './parts.ts';

const [PRODUCER, MANAGER, WRITER, CAMERA, EDITOR, SOUND] = [
  'Producer',
  'Client manager',
  'Writer',
  'Camera',
  'Video editor',
  'Sound editor',
];

/** A film of a few minutes, from idea to published versions. */
export const video: TemplateDraft = {
  kind: 'engagement',
  name: 'Video',
  description: 'A film of two to five minutes: concept, script, one or two days of shooting, edit, sound and all versions.',
  phases: [
    ...offer({ lead: MANAGER, expert: PRODUCER, look: 'Watch three films the client likes' }),
    {
      name: 'Concept and script',
      role: WRITER,
      stateLine: 'Script being written',
      rounds: 2,
      checks: [
        ['tasks-done', 'Script and storyboard done'],
        ['client-done', 'Client has approved the script'],
      ],
      tasks: [
        meeting('Concept meeting', { role: PRODUCER, hours: 2 }, { isShownToClient: true }),
        work('Research and pre-interviews', by(WRITER, 6, 3), { after: ['Concept meeting'] }),
        work('Script', by(WRITER, 10, 4), { after: ['Research and pre-interviews'], deliverable: 'Film' }),
        work('Storyboard and shot list', by(CAMERA, 8, 3), { after: ['Script'], deliverable: 'Film' }),
        client('Client approves the script', 4, { after: ['Script'] }),
      ],
    },
    {
      name: 'Preparation',
      role: PRODUCER,
      stateLine: 'Shoot being prepared',
      checks: [
        ['tasks-done', 'Call sheet sent'],
        ['client-done', 'Client has named people and places'],
        ['word', 'Consents are signed'],
      ],
      tasks: [
        client('Name people and places to film', 4),
        work('Visit the location', by(CAMERA, 4, 1), { steps: ['Light at the hour of shooting', 'Noise', 'Power', 'Parking'] }),
        work('Permissions and insurance', by(PRODUCER, 3, 3)),
        work('Consent forms', by(PRODUCER, 2, 2), { after: ['Name people and places to film'] }),
        work('Book crew and equipment', by(PRODUCER, 3, 2), { after: ['Visit the location'] }),
        work('Call sheet', by(PRODUCER, 2, 1), { after: ['Book crew and equipment', 'Consent forms'] }),
      ],
    },
    {
      name: 'Shoot',
      role: PRODUCER,
      stateLine: 'Filming',
      checks: [
        ['tasks-done', 'Material copied twice'],
        ['word', 'Every shot on the list is there'],
      ],
      tasks: [
        work('Shoot', by(CAMERA, 18, 2), { helpers: [SOUND, PRODUCER], priority: 'high', deliverable: 'Film' }),
        work('Copy and log the material', by(EDITOR, 3, 1), { after: ['Shoot'], steps: ['Two disks', 'One outside the house'] }),
        work('Return equipment', by(CAMERA, 1, 1), { after: ['Shoot'] }),
      ],
    },
    {
      name: 'Edit',
      role: EDITOR,
      stateLine: 'Film being edited',
      rounds: 2,
      checks: [
        ['tasks-done', 'Fine cut with sound and colour'],
        ['client-done', 'Client has approved the fine cut'],
      ],
      tasks: [
        work('Rough cut', by(EDITOR, 16, 5), { deliverable: 'Film' }),
        work('Watch the rough cut together', by(PRODUCER, 1.5, 1), { kind: 'review', after: ['Rough cut'] }),
        work('Fine cut', by(EDITOR, 12, 4), { after: ['Watch the rough cut together'], deliverable: 'Film' }),
        client('Client approves the fine cut', 3, { after: ['Fine cut'] }),
        work('Music and licences', by(PRODUCER, 3, 2)),
        work('Sound mix', by(SOUND, 6, 2), { after: ['Client approves the fine cut', 'Music and licences'] }),
        work('Colour and titles', by(EDITOR, 6, 2), { after: ['Client approves the fine cut'] }),
      ],
    },
    {
      name: 'Delivery',
      role: EDITOR,
      stateLine: 'Versions being made',
      checks: [['tasks-done', 'All versions delivered']],
      tasks: [
        work('Subtitles', by(EDITOR, 4, 2), { deliverable: 'Versions' }),
        work('Short and upright versions', by(EDITOR, 6, 2), { deliverable: 'Versions' }),
        work('Preview picture and description', by(WRITER, 2, 1)),
        work('Upload and hand over', by(PRODUCER, 1.5, 1), {
          after: ['Subtitles', 'Short and upright versions', 'Preview picture and description'],
        }),
        milestone('Film is published', ['Upload and hand over']),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client approves the script', to: 'Script', reason: 'wants changes' },
    { from: 'Client approves the fine cut', to: 'Fine cut', reason: 'wants changes' },
  ],
};

/** A row of articles with one plan. */
export const articleSeries: TemplateDraft = {
  kind: 'engagement',
  name: 'Article series',
  description: 'Six articles over two months: plan, research, writing, editing, pictures, publishing and a report.',
  phases: [
    {
      name: 'Editorial plan',
      role: WRITER,
      stateLine: 'Topics being agreed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Plan and tone written'],
        ['client-done', 'Client has agreed the plan'],
      ],
      tasks: [
        meeting('Editorial meeting', { role: WRITER, hours: 1.5 }, { isShownToClient: true }),
        work('What readers search and ask', by(WRITER, 4, 2), { after: ['Editorial meeting'] }),
        work('Plan of six articles', by(WRITER, 4, 2), { after: ['What readers search and ask'] }),
        work('Tone and do-not-say list', by(WRITER, 2, 1), { after: ['Editorial meeting'] }),
        client('Client agrees the plan', 3, { after: ['Plan of six articles'] }),
        client('Name experts to interview', 4),
      ],
    },
    {
      name: 'First article',
      role: WRITER,
      stateLine: 'First article being written',
      rounds: 2,
      checks: [
        ['tasks-done', 'First article published'],
        ['client-done', 'Client has approved the first article'],
      ],
      tasks: [
        work('Interview for article 1', by(WRITER, 2, 1)),
        work('Write article 1', by(WRITER, 8, 3), { after: ['Interview for article 1'], deliverable: 'Articles' }),
        work('Edit article 1', by(PRODUCER, 2, 1), { after: ['Write article 1'], kind: 'review' }),
        client('Client approves article 1', 3, { after: ['Edit article 1'] }),
        work('Picture and publication of article 1', by(PRODUCER, 2, 1), { after: ['Client approves article 1'] }),
      ],
    },
    {
      name: 'Series',
      role: WRITER,
      stateLine: 'Remaining articles being written',
      rounds: 1,
      checks: [
        ['tasks-done', 'Six articles published'],
        ['client-done', 'Client has approved all articles'],
      ],
      tasks: [
        work('Interviews for articles 2 to 6', by(WRITER, 10, 15)),
        work('Write articles 2 and 3', by(WRITER, 16, 8), { deliverable: 'Articles', anchor: ['phase-start', 2] }),
        work('Write articles 4 to 6', by(WRITER, 22, 12), { after: ['Write articles 2 and 3'], deliverable: 'Articles' }),
        work('Edit articles 2 to 6', by(PRODUCER, 8, 12), {
          after: [{ task: 'Write articles 2 and 3', type: 'SS', lag: 6 }],
          kind: 'review',
        }),
        client('Client approves the articles', 5, { after: ['Write articles 4 to 6'] }),
        work('Pictures and publication', by(PRODUCER, 8, 10), { after: [{ task: 'Edit articles 2 to 6', type: 'SS', lag: 4 }] }),
        milestone('Last article is published', ['Client approves the articles', 'Pictures and publication']),
      ],
    },
    {
      name: 'Report',
      role: PRODUCER,
      stateLine: 'Results being collected',
      checks: [['tasks-done', 'Report sent']],
      tasks: [
        work('Figures per article', by(PRODUCER, 3, 1), { anchor: ['phase-start', 10] }),
        work('Report and next topics', by(WRITER, 3, 1), { after: ['Figures per article'], isShownToClient: true }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    { from: 'Client agrees the plan', to: 'Plan of six articles', reason: 'wants other topics' },
    { from: 'Client agrees the plan', ending: 'Client stopped the series', reason: 'does not go on' },
    { from: 'Client approves article 1', to: 'Write article 1', reason: 'wants changes' },
  ],
};

/** A season of episodes, after a pilot. */
export const podcastSeason: TemplateDraft = {
  kind: 'engagement',
  name: 'Podcast season',
  description: 'A season of eight episodes: format, pilot, guests, recordings, editing, publishing.',
  phases: [
    ...offer({ lead: MANAGER, expert: PRODUCER, look: 'Listen to three shows of the field' }),
    {
      name: 'Format',
      role: PRODUCER,
      stateLine: 'Format being developed',
      checks: [
        ['tasks-done', 'Format on one page, guests listed'],
        ['client-done', 'Client has agreed format and host'],
      ],
      tasks: [
        meeting('Format workshop', { role: PRODUCER, hours: 3 }, { helpers: [WRITER, SOUND], isShownToClient: true }),
        work('Format on one page', by(WRITER, 4, 2), { after: ['Format workshop'] }),
        work('List of guests and topics', by(WRITER, 5, 3), { after: ['Format workshop'] }),
        work('Opening music and cover', by(SOUND, 6, 4), { after: ['Format on one page'] }),
        client('Agree format and host', 3, { after: ['Format on one page'] }),
      ],
    },
    {
      name: 'Pilot',
      role: SOUND,
      stateLine: 'Pilot being produced',
      rounds: 2,
      checks: [
        ['tasks-done', 'Pilot finished'],
        ['client-done', 'Client has approved the pilot'],
      ],
      tasks: [
        work('Questions for the pilot', by(WRITER, 3, 1)),
        work('Record the pilot', by(SOUND, 4, 1), { after: ['Questions for the pilot'], helpers: [PRODUCER] }),
        work('Edit and mix the pilot', by(SOUND, 8, 3), { after: ['Record the pilot'], deliverable: 'Episodes' }),
        client('Client approves the pilot', 4, { after: ['Edit and mix the pilot'] }),
      ],
    },
    {
      name: 'Season',
      role: PRODUCER,
      stateLine: 'Episodes being recorded',
      checks: [
        ['tasks-done', 'Seven episodes finished'],
        ['word', 'Every guest has agreed to publication'],
      ],
      tasks: [
        work('Invite and brief guests', by(PRODUCER, 8, 15)),
        work('Questions for seven episodes', by(WRITER, 14, 15), { after: [{ task: 'Invite and brief guests', type: 'SS', lag: 3 }] }),
        work('Record seven episodes', by(SOUND, 21, 18), { after: [{ task: 'Questions for seven episodes', type: 'SS', lag: 3 }] }),
        work('Edit and mix seven episodes', by(SOUND, 42, 20), {
          after: [{ task: 'Record seven episodes', type: 'SS', lag: 2 }],
          deliverable: 'Episodes',
        }),
        client('Client hears each episode', 20, { after: [{ task: 'Edit and mix seven episodes', type: 'SS', lag: 3 }] }),
        work('Texts and transcripts', by(WRITER, 14, 18), { after: [{ task: 'Edit and mix seven episodes', type: 'SS', lag: 3 }] }),
      ],
    },
    {
      name: 'Publication',
      role: PRODUCER,
      stateLine: 'Season being published weekly',
      checks: [['tasks-done', 'Last episode published, report sent']],
      tasks: [
        work('Set up feed and directories', by(PRODUCER, 3, 2)),
        milestone('First episode is out', ['Set up feed and directories']),
        work('Publish every week', by(PRODUCER, 8, 40), { after: ['Set up feed and directories'] }),
        work('Report of the season', by(PRODUCER, 3, 1), { after: ['Publish every week'], isShownToClient: true }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [...OFFER_WAYS, { from: 'Client approves the pilot', to: 'Edit and mix the pilot', reason: 'wants changes' }],
};
