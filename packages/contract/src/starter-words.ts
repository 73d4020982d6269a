/** Kinds of agency for which starter templates come with the product. */
export const TRADE = ['websites', 'branding', 'content', 'events', 'interiors', 'consulting', 'care'] as const;
export type Trade = (typeof TRADE)[number];

/** The starter templates, by key. */
export const STARTER = [
  'new-website',
  'landing-page',
  'website-relaunch',
  'brand-identity',
  'brochure',
  'packaging',
  'video',
  'article-series',
  'podcast-season',
  'conference',
  'exhibition-stand',
  'office-interior',
  'shop-fitting',
  'audit',
  'strategy-project',
  'website-care',
  'monthly-retainer',
] as const;
export type Starter = (typeof STARTER)[number];

/** Those of each trade. */
export const STARTERS_OF_TRADE: Readonly<Record<Trade, readonly Starter[]>> = {
  websites: ['new-website', 'landing-page', 'website-relaunch'],
  branding: ['brand-identity', 'brochure', 'packaging'],
  content: ['video', 'article-series', 'podcast-season'],
  events: ['conference', 'exhibition-stand'],
  interiors: ['office-interior', 'shop-fitting'],
  consulting: ['audit', 'strategy-project'],
  care: ['website-care', 'monthly-retainer'],
};

/** The steps of setting up an agency, in their order. */
export const SETUP_STEP = ['agency', 'holidays', 'templates', 'people', 'engagement', 'mail'] as const;
export type SetupStep = (typeof SETUP_STEP)[number];
