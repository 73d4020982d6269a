import type { PhaseDraft, TaskDraft, TemplateDraft } from '../../template/create-template.ts';

/** What of a task is written besides its title, its role and its size. */
type More = Omit<TaskDraft, 'title' | 'role' | 'hours' | 'days'>;

/** Hours of effort and open days of length. */
type Size = readonly [hours: number, days: number];

/** Who does the work and how large it is, as `by('Designer', 12, 4)`. */
export const by = (role: string, hours: number, days: number): { readonly role: string; readonly size: Size } => ({
  role,
  size: [hours, days],
});

/** Work of the crew. */
export const work = (title: string, { role, size }: ReturnType<typeof by>, more: More = {}): TaskDraft => ({
  ...{ title, role, hours: size[0], days: size[1] },
  ...more,
});

/** A meeting of one day that begins some days into its phase. */
export const meeting = (title: string, { role, hours, onDay = 0 }: { role: string; hours: number; onDay?: number }, more: More = {}) =>
  work(title, by(role, hours, 1), { kind: 'meeting', anchor: ['phase-start', onDay], ...more });

/** Something the client does, in so many open days. */
export const client = (title: string, days: number, more: More = {}): TaskDraft => ({ title, days, kind: 'client', ...more });

/** A point that is reached when the work before it is done. */
export const milestone = (title: string, after: TaskDraft['after'] = []): TaskDraft => ({
  ...{ title, days: 0, kind: 'milestone', after },
  isShownToClient: true,
});

interface OfferFacts {
  /** Who talks with the client. */
  readonly lead: string;
  /** Who knows what it takes. */
  readonly expert: string;
  /** What is looked at before an offer is made. */
  readonly look: string;
}

/** From first call to signed offer: the two phases most client work begins with. */
export const offer = ({ lead, expert, look }: OfferFacts): readonly PhaseDraft[] => [
  {
    name: 'Enquiry',
    role: lead,
    stateLine: 'Enquiry received, first call next',
    checks: [
      ['tasks-done', 'First call held and notes written'],
      ['word', 'The work is a fit for us'],
    ],
    tasks: [
      meeting('First call', { role: lead, hours: 1 }, { steps: ['Goal and audience', 'Budget range', 'Wanted date', 'Who decides'] }),
      work(look, by(expert, 2, 1), { after: ['First call'] }),
      work('Write up the enquiry', by(lead, 1, 1), { after: ['First call'] }),
    ],
  },
  {
    name: 'Proposal',
    role: lead,
    stateLine: 'Proposal in preparation or with the client',
    rounds: 2,
    checks: [
      ['tasks-done', 'Proposal sent, contract prepared'],
      ['client-done', 'Client has accepted'],
      ['word', 'Deposit is in'],
    ],
    tasks: [
      work('Define the scope', by(expert, 3, 1), { steps: ['What is included', 'What is not', 'What we need from the client'] }),
      work('Estimate effort and price', by(expert, 2, 1), { after: ['Define the scope'] }),
      work('Write the proposal', by(lead, 3, 2), { after: ['Estimate effort and price'] }),
      client('Client answers the proposal', 5, { after: ['Write the proposal'] }),
      work('Contract and deposit invoice', by(lead, 1.5, 1), { after: ['Client answers the proposal'] }),
    ],
  },
];

/** The ways out of the two phases of an offer. */
export const OFFER_WAYS: NonNullable<TemplateDraft['ways']> = [
  { from: 'First call', ending: 'Not a fit', reason: 'not a fit' },
  { from: 'Client answers the proposal', to: 'Define the scope', reason: 'wants changes' },
  { from: 'Client answers the proposal', ending: 'Client declined', reason: 'declined' },
];

/** The last phase: invoice, files, feedback and what was learned. */
export const closeOut = (lead: string): PhaseDraft => ({
  name: 'Close-out',
  role: lead,
  stateLine: 'Delivered, being closed',
  checks: [['tasks-done', 'Invoice sent, files archived']],
  tasks: [
    work('Send the final invoice', by(lead, 1, 1)),
    work('Archive files and accesses', by(lead, 1.5, 1)),
    client('Client gives feedback', 5),
    meeting(
      'Look back as a team',
      { role: lead, hours: 1, onDay: 3 },
      { steps: ['What to keep', 'What to change', 'Update the template'] },
    ),
  ],
});
