import type { TaskDraft, TemplateDraft } from '../create-template.ts';

/** Crates that open into an exhibition. */
export const travellingDisplay: TemplateDraft = {
  kind: 'engagement',
  name: 'Travelling display',
  description: 'A display that packs into crates and tours: light, quick to build, hard to break.',
  phases: [
    {
      name: 'Enquiry',
      role: 'Client manager',
      stateLine: 'Tour idea received',
      checks: [['tasks-done', 'Our tasks are done']],
      tasks: [
        { title: 'Call about the tour', role: 'Client manager', hours: 1, days: 1, kind: 'meeting' },
        { title: 'Route and venues', role: 'Engagement lead', hours: 4, days: 2, after: ['Call about the tour'] },
        { title: 'Offer sent', role: 'Client manager', hours: 3, days: 2, after: ['Route and venues'] },
        { title: 'Client takes the offer', days: 4, kind: 'client', after: ['Offer sent'] },
        { title: 'Insurance question list', role: 'Client manager', hours: 1, days: 1, after: ['Call about the tour'] },
        { title: 'Dates of the tour', days: 2, kind: 'client', after: ['Route and venues'] },
      ],
    },
    {
      name: 'Content',
      role: 'Researcher',
      stateLine: 'Content being gathered',
      checks: [['tasks-done', 'Outline and labels drafted']],
      tasks: [
        { title: 'Read the collection', role: 'Researcher', hours: 10, days: 4 },
        { title: 'Story outline', role: 'Writer', hours: 6, days: 3, after: ['Read the collection'] },
        { title: 'Label list', role: 'Writer', hours: 8, days: 3, after: ['Story outline'] },
        { title: 'Pictures and rights', role: 'Researcher', hours: 7, days: 4, after: ['Read the collection'] },
        { title: 'Object list with sizes', role: 'Researcher', hours: 4, days: 2 },
        { title: 'Loan request letters', role: 'Client manager', hours: 2, days: 2, after: ['Object list with sizes'] },
        { title: 'Tone and word count', role: 'Writer', hours: 1.5, days: 1 },
      ],
    },
    {
      name: 'Concept',
      role: 'Exhibit designer',
      stateLine: 'Crate concept being drawn',
      rounds: 2,
      checks: [
        ['tasks-done', 'Concept drawn'],
        ['client-done', 'Client has agreed the concept'],
      ],
      tasks: [
        { title: 'Crate idea and sizes', role: 'Exhibit designer', hours: 12, days: 4 },
        { title: 'Weight and lorry check', role: 'Fabrication coordinator', hours: 3, days: 1, after: ['Crate idea and sizes'] },
        { title: 'Model of one crate', role: 'Exhibit designer', hours: 10, days: 3, after: ['Crate idea and sizes'] },
        { title: 'Floor plan of each venue', days: 4, kind: 'client' },
        { title: 'Client agrees the concept', days: 3, kind: 'client', after: ['Model of one crate'] },
        { title: 'Colour and type', role: 'Graphic designer', hours: 6, days: 3 },
        { title: 'Budget check', role: 'Engagement lead', hours: 2, days: 1, after: ['Weight and lorry check'] },
      ],
    },
    {
      name: 'Detail design',
      role: 'Graphic designer',
      stateLine: 'Crates in detail, labels being checked',
      checks: [
        ['tasks-done', 'Drawings and labels finished'],
        ['client-done', 'Facts checked by the client'],
      ],
      tasks: [
        { title: 'Crate drawings', role: 'Exhibit designer', hours: 30, days: 8 },
        { title: 'Lighting drawings', role: 'Media producer', hours: 12, days: 5 },
        { title: 'Check label facts', role: 'Researcher', hours: 6, days: 3 },
        { title: 'Final labels', role: 'Writer', hours: 7, days: 3, after: ['Check label facts'] },
        { title: 'Label layouts', role: 'Graphic designer', hours: 16, days: 5, after: ['Check label facts'] },
        { title: 'Power points on the floor', days: 3, kind: 'client' },
        { title: 'Launch invite', role: 'Graphic designer', hours: 5, days: 2 },
        { title: 'Client checks the facts', days: 3, kind: 'client', after: ['Final labels'] },
        { title: 'Crate list', role: 'Fabrication coordinator', hours: 2, days: 1 },
        { title: 'Alt texts', role: 'Writer', hours: 2, days: 1 },
        { title: 'Print files', role: 'Graphic artworker', hours: 6, days: 2, after: ['Label layouts'] },
        { title: 'Proof on paper', role: 'Graphic designer', hours: 2, days: 1, after: ['Label layouts'] },
      ],
    },
    {
      name: 'Build',
      role: 'Fabrication coordinator',
      stateLine: 'Crates being built',
      checks: [['tasks-done', 'Built, packed and tried']],
      tasks: [
        { title: 'Timber and fittings ordered', role: 'Fabrication coordinator', hours: 3, days: 1, kind: 'order' },
        { title: 'Crates built', role: 'Installer', hours: 40, days: 10, after: [{ task: 'Timber and fittings ordered', lag: 3 }] },
        { title: 'Labels printed', role: 'Fabrication coordinator', hours: 2, days: 5 },
        { title: 'Lights fitted', role: 'Media producer', hours: 10, days: 3, after: ['Crates built'] },
        { title: 'Try packing with one van', role: 'Installer', hours: 6, days: 1, after: ['Lights fitted', 'Labels printed'] },
        { title: 'Foam cut to shape', role: 'Installer', hours: 6, days: 2, after: ['Crates built'] },
        { title: 'Packing list', role: 'Fabrication coordinator', hours: 1.5, days: 1 },
      ],
    },
    {
      name: 'First venue',
      role: 'Installer',
      stateLine: 'Opening at the first venue',
      checks: [
        ['tasks-done', 'Open'],
        ['word', 'Balance paid'],
      ],
      tasks: [
        { title: 'Drive and set up', role: 'Installer', hours: 14, days: 2 },
        { title: 'Show the staff how', role: 'Engagement lead', hours: 4, days: 1, after: ['Drive and set up'] },
        { title: 'Handbook for venues', role: 'Writer', hours: 6, days: 3 },
        { title: 'Display opens', days: 0, kind: 'milestone', after: ['Show the staff how'], isShownToClient: true },
        { title: 'Condition report', role: 'Researcher', hours: 2, days: 1, after: ['Drive and set up'] },
        { title: 'Photographs for the file', role: 'Graphic designer', hours: 2, days: 1 },
      ],
    },
  ],
};

/** What one visit is; it repeats for as long as it was agreed. */
export const careVisits: TemplateDraft = {
  kind: 'engagement',
  name: 'Care visits',
  description: 'One visit a month: check, clean, mend, report. Hours by retainer.',
  phases: [
    {
      name: 'Visit',
      role: 'Installer',
      stateLine: 'Being looked after on site',
      checks: [['tasks-done', 'Checked, cleaned and mended']],
      tasks: [
        { title: 'Agree the day', role: 'Client manager', hours: 0.5, days: 1 },
        { title: 'Check clock and cases', role: 'Installer', hours: 4, days: 1, after: ['Agree the day'], isShownToClient: true },
        { title: 'Clean and mend', role: 'Installer', hours: 2.5, days: 2, after: ['Check clock and cases'] },
      ],
    },
    {
      name: 'Report',
      role: 'Client manager',
      stateLine: 'Visit being written up',
      checks: [['tasks-done', 'Reported']],
      tasks: [{ title: 'Short report', role: 'Client manager', hours: 0.5, days: 1, isShownToClient: true }],
    },
  ],
};

/** A short film and a box of things to hold, made on a line. */
export const galleryTalkKit: TemplateDraft = {
  kind: 'engagement',
  name: 'Gallery talk kit',
  description: 'A talk somebody else can give: idea, script, recording, edit, check, out.',
  phases: [
    {
      name: 'Idea',
      role: 'Writer',
      stateLine: 'Talk being thought up',
      checks: [['word', 'Worth making']],
      tasks: [{ title: 'Idea on a card', role: 'Writer', hours: 1.5, days: 1 }],
    },
    {
      name: 'Script and record',
      role: 'Media producer',
      stateLine: 'Talk being written and recorded',
      checks: [['tasks-done', 'Recorded']],
      tasks: [
        { title: 'Talk script', role: 'Writer', hours: 5, days: 2 },
        { title: 'Record the talk', role: 'Media producer', hours: 3, days: 1, after: ['Talk script'] },
        { title: 'Edit the talk', role: 'Media producer', hours: 6, days: 3, after: ['Record the talk'] },
      ],
    },
    {
      name: 'Check and out',
      role: 'Client manager',
      stateLine: 'Talk being checked and sent',
      checks: [['tasks-done', 'Out']],
      tasks: [
        { title: 'Check with a teacher', role: 'Writer', hours: 2, days: 2 },
        { title: 'Kit sheet', role: 'Graphic designer', hours: 3, days: 2 },
        { title: 'Send it out', role: 'Client manager', hours: 0.5, days: 1, after: ['Check with a teacher', 'Kit sheet'] },
      ],
    },
  ],
};

/** Work for ourselves, kept as short as it can be. */
export const inHouse: TemplateDraft = {
  kind: 'engagement',
  name: 'In-house work',
  description: 'Something the studio does for itself, in the gaps.',
  phases: [
    {
      name: 'Plan',
      role: 'Engagement lead',
      stateLine: 'Being thought through',
      checks: [['tasks-done', 'Agreed among us']],
      tasks: [
        { title: 'What it must do', role: 'Engagement lead', hours: 3, days: 2 },
        { title: 'Sketch of the pages', role: 'Graphic designer', hours: 6, days: 3, after: ['What it must do'] },
      ],
    },
    {
      name: 'Make',
      role: 'Graphic designer',
      stateLine: 'Being made in the gaps',
      checks: [['tasks-done', 'Made and read']],
      tasks: [
        { title: 'Words for the site', role: 'Writer', hours: 8, days: 6 },
        { title: 'Pages drawn', role: 'Graphic designer', hours: 14, days: 8 },
        { title: 'Pictures of past work', role: 'Media producer', days: 4 },
        { title: 'Pages built', role: 'Media producer', hours: 16, days: 8, after: [{ task: 'Pages drawn', lag: -4 }] },
      ],
    },
    {
      name: 'Out',
      role: 'Engagement lead',
      stateLine: 'Being put out',
      checks: [['tasks-done', 'Out']],
      tasks: [{ title: 'Last look and out', role: 'Engagement lead', hours: 2, days: 1 }],
    },
  ],
};

/** Phases that stand alone, to be put into other templates. */
export const standAlonePhases: readonly TemplateDraft[] = [
  {
    kind: 'phase',
    name: 'Client onboarding',
    description: 'What every new client gets in its first week.',
    phases: [
      {
        name: 'Client onboarding',
        role: 'Client manager',
        stateLine: 'Getting to know each other',
        tasks: [
          { title: 'Welcome letter', role: 'Client manager', hours: 0.5, days: 1 },
          { title: 'Who is who', role: 'Client manager', hours: 0.5, days: 1 },
          { title: 'Client names a first contact', days: 3, kind: 'client' },
        ],
      },
    ],
  },
  {
    kind: 'phase',
    name: 'Accessibility check',
    description: 'Reading height, contrast, wording, ways round.',
    phases: [
      {
        name: 'Accessibility check',
        role: 'Graphic designer',
        stateLine: 'Being checked for everyone',
        checks: [['tasks-done', 'Checked']],
        tasks: [
          { title: 'Contrast and size', role: 'Graphic designer', hours: 3, days: 1 },
          { title: 'Plain words', role: 'Writer', hours: 3, days: 1 },
          { title: 'Wheelchair walk', role: 'Exhibit designer', hours: 3, days: 1, after: ['Contrast and size'] },
        ],
      },
    ],
  },
  {
    kind: 'phase',
    name: 'Press and opening',
    description: 'The fortnight before the doors open.',
    phases: [
      {
        name: 'Press and opening',
        role: 'Client manager',
        stateLine: 'Opening being prepared',
        tasks: [
          { title: 'Press text', role: 'Writer', hours: 3, days: 2 },
          { title: 'Invitations', role: 'Graphic designer', hours: 4, days: 2, anchor: ['before-phase-end', 5] },
          { title: 'Opening plan', role: 'Client manager', hours: 2, days: 1 },
        ],
      },
    ],
  },
  {
    kind: 'phase',
    name: 'Close-out and look-back',
    description: 'Money in, folders shut, lessons written down.',
    phases: [
      {
        name: 'Close-out and look-back',
        role: 'Engagement lead',
        stateLine: 'Closing and looking back',
        tasks: [
          { title: 'Hours against estimate', role: 'Engagement lead', hours: 1, days: 1 },
          { title: 'Look-back meeting', role: 'Engagement lead', hours: 2, days: 1, kind: 'meeting', after: ['Hours against estimate'] },
        ],
      },
    ],
  },
];

const singleTask = (task: TaskDraft, description: string): TemplateDraft => ({
  kind: 'task',
  name: task.title,
  description,
  phases: [{ name: task.title, stateLine: task.title, tasks: [task] }],
});

/** Single tasks worth saving. */
export const singleTasks: readonly TemplateDraft[] = [
  singleTask(
    { title: 'Site survey', role: 'Installer', hours: 6, days: 1, steps: ['Measure', 'Power', 'Access', 'Photographs'] },
    'Before anything is drawn.',
  ),
  singleTask(
    { title: 'Printer proof', role: 'Graphic designer', hours: 2, days: 2, kind: 'review', steps: ['Colour', 'Trim', 'Names'] },
    'Before anything is printed.',
  ),
  singleTask(
    { title: 'Loan request', role: 'Researcher', hours: 3, days: 2, steps: ['Letter', 'Conditions', 'Value', 'Transport'] },
    'Before an object may travel.',
  ),
];
