import { addDays, type IsoDay } from '@crew/core';
import { exampleRoles } from '../template/examples/index.ts';
import type { AgencyDraft, ClientDraft, PersonDraft } from '../agency/create-agency.ts';

/** The demo's one password; it opens made-up data only. */
export const DEMO_PASSWORD = 'lamp room at dusk';

const FULL_WEEK = [450, 450, 450, 450, 450, 0, 0];

/** Quillmarsh Studio on the day the demo starts. */
export function demoAgency(today: IsoDay): AgencyDraft {
  const from = (days: number): IsoDay => addDays(today, days);
  const year = Number(today.slice(0, 4));
  return {
    name: 'Quillmarsh Studio',
    zone: 'Europe/London',
    week: FULL_WEEK,
    closed: [year - 1, year, year + 1].flatMap((each) => [
      { day: `${each}-12-24` as const, name: 'Studio closed' },
      { day: `${each}-12-25` as const, name: 'Midwinter' },
      { day: `${each}-12-28` as const, name: 'Studio closed' },
      { day: `${each}-12-29` as const, name: 'Studio closed' },
      { day: `${each}-12-30` as const, name: 'Studio closed' },
      { day: `${each}-12-31` as const, name: 'Studio closed' },
      { day: `${each}-01-01` as const, name: 'New year' },
      { day: `${each}-05-03` as const, name: 'Spring day' },
      { day: `${each}-08-30` as const, name: 'Harvest day' },
    ]),
    roles: exampleRoles,
    people: people(from),
    clients,
  };
}

function people(from: (days: number) => IsoDay): PersonDraft[] {
  const crew = (name: string, roles: readonly string[], more: Partial<PersonDraft> = {}): PersonDraft => ({
    name,
    email: `${name.split(' ')[0]?.toLowerCase()}@quillmarsh.example`,
    password: DEMO_PASSWORD,
    access: 'member',
    roles,
    week: FULL_WEEK,
    ...more,
  });
  return [
    crew('Odalys Renn', ['Engagement lead'], { access: 'lead' }),
    crew('Bastien Okoro', ['Engagement lead'], { access: 'lead' }),
    crew('Mirela Stoyan', ['Researcher', 'Writer'], { off: [{ from: from(9), to: from(11), note: 'Long weekend' }] }),
    crew('Tavi Lindqvist', ['Exhibit designer']),
    crew('Noor Haddad', ['Exhibit designer'], { off: [{ from: from(4), to: from(4), minutes: 180, note: 'Dentist' }] }),
    crew('Ines Calloway', ['Graphic designer']),
    crew('Emeka Strand', ['Media producer']),
    crew('Petra Vail', ['Fabrication coordinator'], { off: [{ from: from(21), to: from(25), note: 'Away' }] }),
    crew('Jonah Ferreira', ['Installer'], { week: [450, 450, 450, 450, 0, 0, 0] }),
    crew('Sunniva Ashe', ['Client manager'], { access: 'owner', reserve: 20 }),
    crew('Rafe Dombrow', ['Graphic artworker', 'Graphic designer'], { access: 'freelancer', week: [0, 450, 450, 450, 0, 0, 0] }),
  ];
}

const contact = (name: string, host: string, known: Pick<ClientDraft['contacts'][number], 'phone' | 'notes'>) => ({
  ...{ name, email: `${name.split(' ')[0]?.toLowerCase()}@${host}.example`, password: DEMO_PASSWORD },
  ...known,
});

const clients: readonly ClientDraft[] = [
  {
    name: 'Oskerry Lighthouse Trust',
    hue: 'blue',
    contacts: [
      contact('Freya Kell', 'oskerry', { phone: '01632 960 114', notes: 'Director. Decides about money; best reached before ten.' }),
      contact('Dougal Imrie', 'oskerry', { phone: '01632 960 127', notes: 'Keeper of the lamp room. Knows where everything is.' }),
    ],
  },
  { name: 'Marrowdale Botanic Garden', hue: 'leaf', contacts: [contact('Hana Whitlow', 'marrowdale', { phone: '01632 960 141' })] },
  {
    name: 'Pellworth Tram Museum',
    hue: 'plum',
    contacts: [contact('Gus Pellow', 'pellworth', { phone: '01632 960 156', notes: 'Volunteers on Thursdays: call then.' })],
  },
  { name: 'Vennick Observatory', hue: 'violet', contacts: [contact('Ilse Marchetti', 'vennick', { phone: '01632 960 163' })] },
  {
    name: 'Ludd Mill Heritage',
    hue: 'ochre',
    contacts: [contact('Owen Thrale', 'luddmill', { phone: '01632 960 172', notes: 'Sends long mails; a call is quicker.' })],
  },
  { name: 'Brindle Bay Sea Centre', hue: 'teal', contacts: [contact('Marnie Cope', 'brindlebay', { phone: '01632 960 185' })] },
  {
    name: 'Corvane Clock House',
    hue: 'umber',
    contacts: [contact('Aldous Finch', 'corvane', { phone: '01632 960 190', notes: 'Likes a week’s notice before a visit.' })],
  },
  { name: 'Tarrow Fen Reserve', hue: 'olive', contacts: [contact('Wren Sallow', 'tarrowfen', { phone: '01632 960 118' })] },
  { name: 'Quillmarsh Studio', hue: 'slate', isOwn: true, contacts: [] },
];
