import type { SetupStep } from '@crew/contract';

/** What each step is called, what it is for, and where it is done. */
export const STEP_WORDS: Readonly<Record<SetupStep, { readonly name: string; readonly about: string; readonly to: string }>> = {
  agency: { name: 'Set up the agency', about: 'name, country, working hours', to: '/settings/agency' },
  holidays: { name: 'Close public holidays', about: 'no work is planned on them', to: '/settings/set-up/holidays' },
  templates: { name: 'Choose templates', about: 'how your kind of work runs, phase by phase', to: '/settings/set-up/templates' },
  people: { name: 'Invite your people', about: 'each gets a link to choose a password', to: '/settings/set-up/people' },
  engagement: { name: 'Start your first engagement', about: 'with its tasks, dates and people', to: '/settings/set-up/engagement' },
  mail: { name: 'Connect your mail server', about: 'until then, mail stays in the app', to: '/mail/server' },
};

/** Those that follow one another when an agency is set up. */
export const GUIDED = ['holidays', 'templates', 'people', 'engagement'] as const;
export type GuidedStep = (typeof GUIDED)[number];

export const isGuided = (step: string | undefined): step is GuidedStep => GUIDED.some((one) => one === step);

/** Where one goes on to after a step. */
export function nextOf(step: GuidedStep): string {
  const next = GUIDED[GUIDED.indexOf(step) + 1];
  return next === undefined ? '/desk' : STEP_WORDS[next].to;
}
