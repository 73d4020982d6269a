import type { Starter, Trade } from '@crew/contract';
import type { TemplateDraft } from '../../template/create-template.ts';
import { brandIdentity, brochure, packaging } from './branding.ts';
import { monthlyRetainer, websiteCare } from './care.ts';
import { audit, strategyProject } from './consulting.ts';
import { articleSeries, podcastSeason, video } from './content.ts';
import { conference, exhibitionStand } from './events.ts';
import { officeInterior, shopFitting } from './interiors.ts';
import { landingPage, newWebsite, websiteRelaunch } from './websites.ts';

/** The templates a new agency can begin with. */
export const STARTERS: Readonly<Record<Starter, TemplateDraft>> = {
  'new-website': newWebsite,
  'landing-page': landingPage,
  'website-relaunch': websiteRelaunch,
  'brand-identity': brandIdentity,
  brochure,
  packaging,
  video,
  'article-series': articleSeries,
  'podcast-season': podcastSeason,
  conference,
  'exhibition-stand': exhibitionStand,
  'office-interior': officeInterior,
  'shop-fitting': shopFitting,
  audit,
  'strategy-project': strategyProject,
  'website-care': websiteCare,
  'monthly-retainer': monthlyRetainer,
};

/** What a trade is called, and whom it is for. */
export const TRADE_WORDS: Readonly<Record<Trade, { readonly name: string; readonly about: string }>> = {
  websites: { name: 'Websites', about: 'Design and build of websites and campaign pages' },
  branding: { name: 'Brand and print', about: 'Identities, brochures, reports, packaging' },
  content: { name: 'Content production', about: 'Film, articles, podcasts' },
  events: { name: 'Events and exhibitions', about: 'Conferences, trade fair stands' },
  interiors: { name: 'Interiors', about: 'Offices, shops and cafés' },
  consulting: { name: 'Consulting and audits', about: 'Examinations, strategy, roadmaps' },
  care: { name: 'Care and retainers', about: 'Monthly work for clients who stay' },
};
