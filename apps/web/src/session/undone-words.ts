import type { FieldKept } from '@crew/contract';
import { count } from '../words/format.ts';

const FIELD_WORDS: Readonly<Record<string, string>> = {
  title: 'the title',
  description: 'the description',
  status: 'the status',
  assignees: 'the assignees',
  priority: 'the priority',
  estimateMinutes: 'the effort',
  days: 'the length',
  notBefore: 'the earliest start',
  fixedDay: 'the fixed date',
  after: 'the dependencies',
  place: 'the phase',
  deliverableId: 'the deliverable',
  outside: 'the outside maker',
  labels: 'the labels',
  pageLinks: 'the links',
  files: 'the files',
  customFields: 'the custom fields',
  week: 'the planned week',
  steps: 'the steps',
  ...{ name: 'the name', hue: 'the colour', email: 'the mail address', phone: 'the phone number', notes: 'the notes' },
  ...{ clients: 'the clients', isActive: 'the sign-in', access: 'the access', roles: 'the roles', hours: 'the working week' },
};

/** How many are named before the rest is only counted. */
const NAMED = 2;

/** What undoing left as it is, in one or two sentences: "Undone, except for what changed since: Noor Haddad changed the title of “Boards”." */
export function undoneWords(kept: readonly FieldKept[]): string {
  if (kept.length === 0) return 'Undone.';
  const named = kept.slice(0, NAMED).map(keptWords).join('; ');
  const more = kept.length > NAMED ? `; and ${count(kept.length - NAMED, 'more change')}` : '';
  return `Undone, except for what changed since: ${named}${more}.`;
}

function keptWords({ title, field, by }: FieldKept): string {
  const who = by ?? 'someone';
  if (field === 'added') return `“${title}” stays, because ${who} has worked on it`;
  if (field === 'deleted') return `${who} deleted “${title}”`;
  return `${who} changed ${FIELD_WORDS[field] ?? 'a field'} of “${title}”`;
}
