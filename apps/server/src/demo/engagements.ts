/** Where an engagement of the demo stands on the day the demo starts. */
export type Stand =
  /**
   * The phase runs, with this share of it gone; with `held` the client has not done its task, and what
   * is `left` was begun and not finished in time.
   */
  | { readonly kind: 'running'; readonly phase: string; readonly gone: number; readonly held?: boolean; readonly left?: readonly string[] }
  /** Handed off so many working days ago, not picked up. */
  | { readonly kind: 'handed-off'; readonly phase: string; readonly daysAgo: number; readonly words: string }
  /** Handed off and sent back so many working days ago. */
  | { readonly kind: 'sent-back'; readonly phase: string; readonly daysAgo: number; readonly words: string; readonly question: string }
  /** Closed so many working days ago. */
  | { readonly kind: 'finished'; readonly daysAgo: number };

/** One engagement of the demo. `spare` working days lie between the computed finish and the promise; negative = late. */
export interface DemoEngagement {
  readonly name: string;
  readonly client: string;
  readonly template: string;
  readonly lead: string;
  readonly stand: Stand;
  readonly spare: number;
  readonly likelihood?: number;
  /** People for roles; null leaves the work unassigned. */
  readonly people: Readonly<Record<string, string | null>>;
}

export const CREW = {
  'Client manager': 'Sunniva Ashe',
  Researcher: 'Mirela Stoyan',
  Writer: 'Mirela Stoyan',
  'Exhibit designer': 'Noor Haddad',
  'Graphic designer': 'Ines Calloway',
  'Graphic artworker': 'Rafe Dombrow',
  'Media producer': 'Emeka Strand',
  'Fabrication coordinator': 'Petra Vail',
  Installer: 'Jonah Ferreira',
} as const;

const led = (lead: string, more: Readonly<Record<string, string | null>> = {}) => ({
  lead,
  people: { ...CREW, 'Engagement lead': lead, ...more },
});

/** In the order they are lived through, oldest first. */
export const demoEngagements: readonly DemoEngagement[] = [
  {
    name: 'Comet cart',
    client: 'Vennick Observatory',
    template: 'Travelling display',
    stand: { kind: 'finished', daysAgo: 120 },
    spare: 2,
    ...led('Bastien Okoro'),
  },
  {
    name: 'Platform signs',
    client: 'Pellworth Tram Museum',
    template: 'Wayfinding & signage',
    stand: { kind: 'finished', daysAgo: 105 },
    spare: 4,
    ...led('Odalys Renn'),
  },
  {
    name: 'Glasshouse audio walk',
    client: 'Marrowdale Botanic Garden',
    template: 'Audio trail',
    stand: { kind: 'finished', daysAgo: 88 },
    spare: -2,
    ...led('Bastien Okoro'),
  },
  {
    name: 'Bell stair labels',
    client: 'Corvane Clock House',
    template: 'Wayfinding & signage',
    stand: { kind: 'finished', daysAgo: 70 },
    spare: 3,
    ...led('Sunniva Ashe', { 'Engagement lead': 'Odalys Renn' }),
  },
  {
    name: 'Rock pool walk',
    client: 'Brindle Bay Sea Centre',
    template: 'Audio trail',
    stand: { kind: 'finished', daysAgo: 45 },
    spare: 1,
    ...led('Odalys Renn'),
  },
  {
    name: 'Lamp room cabinet',
    client: 'Oskerry Lighthouse Trust',
    template: 'Travelling display',
    stand: { kind: 'finished', daysAgo: 30 },
    spare: 0,
    ...led('Odalys Renn', { 'Exhibit designer': 'Tavi Lindqvist' }),
  },
  {
    name: 'Keepers’ Quarters gallery',
    client: 'Oskerry Lighthouse Trust',
    template: 'Permanent gallery',
    stand: { kind: 'running', phase: 'Concept', gone: 0.86, held: true },
    spare: -3,
    ...led('Odalys Renn', { Installer: null }),
  },
  {
    name: 'Seed vault wayfinding',
    client: 'Marrowdale Botanic Garden',
    template: 'Wayfinding & signage',
    stand: { kind: 'running', phase: 'Fabrication', gone: 0.45, left: ['Glass quote'] },
    spare: 5,
    ...led('Bastien Okoro'),
  },
  {
    name: 'Depot audio trail',
    client: 'Pellworth Tram Museum',
    template: 'Audio trail',
    stand: {
      kind: 'handed-off',
      phase: 'Script',
      daysAgo: 2,
      words: 'Stop 7 has no music, see the note. Names are checked with the museum.',
    },
    spare: 1,
    ...led('Odalys Renn'),
  },
  {
    name: 'Night sky travelling display',
    client: 'Vennick Observatory',
    template: 'Travelling display',
    stand: {
      kind: 'sent-back',
      phase: 'Concept',
      daysAgo: 1,
      words: 'Two crates instead of three, the model is in the studio.',
      question: 'Which dome floor plan is current? Two are in the folder and they differ by a metre.',
    },
    spare: -8,
    ...led('Bastien Okoro', { 'Exhibit designer': 'Tavi Lindqvist' }),
  },
  {
    name: 'Loom floor interpretation',
    client: 'Ludd Mill Heritage',
    template: 'Permanent gallery',
    stand: { kind: 'running', phase: 'Proposal', gone: 0.6 },
    spare: 8,
    likelihood: 60,
    ...led('Odalys Renn', { 'Exhibit designer': null, 'Graphic artworker': null }),
  },
  {
    name: 'Touch-pool signage',
    client: 'Brindle Bay Sea Centre',
    template: 'Wayfinding & signage',
    stand: { kind: 'running', phase: 'Final payment', gone: 0.5 },
    spare: 2,
    ...led('Sunniva Ashe', { 'Engagement lead': 'Bastien Okoro' }),
  },
  {
    name: 'Boardwalk trail posts',
    client: 'Tarrow Fen Reserve',
    template: 'Audio trail',
    stand: { kind: 'running', phase: 'Kickoff', gone: 0.5 },
    spare: 3,
    ...led('Bastien Okoro', { 'Media producer': null }),
  },
  {
    name: 'New website for the studio',
    client: 'Quillmarsh Studio',
    template: 'In-house work',
    stand: { kind: 'running', phase: 'Make', gone: 0.5, left: ['Pictures of past work'] },
    spare: 12,
    ...led('Bastien Okoro'),
  },
];
