import type { CustomFieldDefinition } from '@crew/core';

/** What the studio has at hand for its work: custom fields, files and pages its templates name. */

export const customFields = {
  printSize: { name: 'Print size', kind: 'text', choices: [] },
  printRun: { name: 'Print run', kind: 'number', choices: [] },
  paper: { name: 'Material', kind: 'choice', choices: ['Foamboard', 'Aluminium', 'Glass', 'Oak'] },
  proofBack: { name: 'Proof back on', kind: 'date', choices: [] },
  signedBy: { name: 'Signed off by', kind: 'person', choices: [] },
  recordings: { name: 'Recordings', kind: 'link', choices: [] },
} as const satisfies Readonly<Record<string, CustomFieldDefinition>>;

export const panelStyle = {
  name: 'Panel style sheet.txt',
  text: [
    'PANEL STYLE SHEET',
    '',
    'Ninety words a panel, never more than one hundred.',
    'One thought a paragraph; the first sentence stands by itself.',
    'Dates as 1874, not “in the year 1874”. Centuries in words.',
    'Objects by the name their keepers use, then what they are.',
    'Read it aloud standing, two metres from the wall.',
    '',
  ].join('\n'),
};

export const proofSheet = {
  name: 'Proof checklist.csv',
  text: [
    'What,Who looks,Passed',
    'Names against the list of donors,Writer,',
    'Dates against the fact sheet,Researcher,',
    'Colour under gallery light,Graphic designer,',
    'Reading height from a wheelchair,Exhibit designer,',
    'Fixing holes clear of words,Installer,',
    '',
  ].join('\n'),
};

export const recordingSheet = {
  name: 'Recording sheet.txt',
  text: [
    'RECORDING SHEET',
    '',
    'Stop: ____   Take: ____   Voice: ____',
    'Room tone first, thirty seconds.',
    'Note every breath and every gull; keep the gulls.',
    'File name: trail_stop_take, as trail_07_02.',
    '',
  ].join('\n'),
};

const wiki = (page: string): string => `https://how.quillmarsh.example/${page}`;

export const howTos = {
  writing: { title: 'Writing for a 90-word panel', url: wiki('90-words') },
  naming: { title: 'How we name files', url: wiki('file-names') },
  loans: { title: 'Preparing a loan request', url: wiki('loan-requests') },
  fabrication: { title: 'Handing over to fabrication', url: wiki('to-fabrication') },
};
