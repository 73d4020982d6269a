import type { TemplateDraft } from '../../template/create-template.ts';
import { by, client, closeOut, meeting, milestone, OFFER_WAYS, offer, work } from './parts.ts';

const [LEAD, MANAGER, DESIGNER, DEVELOPER, WRITER] = ['Project lead', 'Client manager', 'Web designer', 'Web developer', 'Writer'];
const OFFER = offer({ lead: MANAGER, expert: LEAD, look: 'Review the present website' });

/** A website from the first idea to the weeks after launch. */
export const newWebsite: TemplateDraft = {
  kind: 'engagement',
  name: 'New website',
  description: 'A website of 10 to 30 pages: strategy, content, design, build, launch and two weeks of support.',
  phases: [
    ...OFFER,
    {
      name: 'Discovery',
      role: LEAD,
      stateLine: 'Goals and audiences being agreed',
      checks: [
        ['tasks-done', 'Site map and brief written'],
        ['client-done', 'Client has sent material and agreed the site map'],
      ],
      tasks: [
        meeting('Kickoff workshop', { role: LEAD, hours: 4 }, { helpers: [DESIGNER, DEVELOPER], isShownToClient: true }),
        client('Send logo, photos and present texts', 5),
        client('Give access to domain, hosting and statistics', 5),
        work('Read statistics and search terms', by(LEAD, 3, 2), { after: ['Kickoff workshop'] }),
        work('Content inventory', by(WRITER, 5, 2), { after: ['Kickoff workshop'] }),
        work('Site map and page goals', by(LEAD, 6, 3), { after: ['Read statistics and search terms', 'Content inventory'] }),
        client('Agree the site map', 3, { after: ['Site map and page goals'] }),
      ],
    },
    {
      name: 'Design',
      role: DESIGNER,
      stateLine: 'Pages being designed',
      rounds: 2,
      checks: [
        ['tasks-done', 'All page types designed for desktop and phone'],
        ['client-done', 'Client has approved the design'],
      ],
      tasks: [
        work('Wireframes of the page types', by(DESIGNER, 14, 5), { deliverable: 'Design' }),
        work('Look and feel of home page', by(DESIGNER, 12, 4), { after: ['Wireframes of the page types'], deliverable: 'Design' }),
        meeting('Present the design', { role: DESIGNER, hours: 1.5, onDay: 9 }, { isShownToClient: true }),
        client('Client approves the design', 4, { after: ['Look and feel of home page', 'Present the design'] }),
        work('Design the remaining page types', by(DESIGNER, 18, 5), { after: ['Client approves the design'], deliverable: 'Design' }),
        work('Check contrast, sizes and focus order', by(DESIGNER, 3, 1), { after: ['Design the remaining page types'] }),
      ],
    },
    {
      name: 'Content',
      role: WRITER,
      stateLine: 'Texts and pictures being prepared',
      rounds: 2,
      checks: [
        ['tasks-done', 'Texts final, pictures chosen'],
        ['client-done', 'Client has approved the texts'],
      ],
      tasks: [
        work('Tone and one sample page', by(WRITER, 5, 2), { deliverable: 'Content' }),
        work('Write all pages', by(WRITER, 28, 8), { after: ['Tone and one sample page'], deliverable: 'Content' }),
        work('Choose and edit pictures', by(DESIGNER, 6, 3), { deliverable: 'Content' }),
        client('Client approves the texts', 5, { after: ['Write all pages'] }),
        work('Titles, descriptions and alternative texts', by(WRITER, 4, 2), { after: ['Client approves the texts'] }),
        client('Provide imprint and privacy text', 5),
      ],
    },
    {
      name: 'Build',
      role: DEVELOPER,
      stateLine: 'Website being built',
      checks: [
        ['tasks-done', 'All pages work on the test server'],
        ['steps-done', 'Test list completed'],
      ],
      tasks: [
        work('Set up repository and test server', by(DEVELOPER, 4, 1), { deliverable: 'Website' }),
        work('Build page types', by(DEVELOPER, 36, 9), { after: ['Set up repository and test server'], deliverable: 'Website' }),
        work('Forms, search and newsletter', by(DEVELOPER, 10, 3), { after: ['Build page types'], deliverable: 'Website' }),
        work('Enter the content', by(WRITER, 8, 3), { after: ['Build page types'], deliverable: 'Website' }),
        work('Redirects from old addresses', by(DEVELOPER, 3, 1), { after: ['Build page types'] }),
        work('Test on browsers and phones', by(DESIGNER, 6, 2), {
          after: ['Forms, search and newsletter', 'Enter the content'],
          steps: ['Three browsers', 'Two phones', 'Keyboard only', 'Screen reader', 'Slow connection', 'Every form sent once'],
        }),
        work('Correct what the tests found', by(DEVELOPER, 8, 2), { after: ['Test on browsers and phones'] }),
      ],
    },
    {
      name: 'Launch',
      role: LEAD,
      stateLine: 'Ready for launch, last checks',
      rounds: 1,
      checks: [
        ['tasks-done', 'Website is public and monitored'],
        ['client-done', 'Client has given the go-ahead'],
      ],
      tasks: [
        meeting('Walk through the website', { role: LEAD, hours: 1.5 }, { isShownToClient: true }),
        client('Client gives the go-ahead', 3, { after: ['Walk through the website'] }),
        work('Backup and rollback plan', by(DEVELOPER, 2, 1)),
        work('Go live', by(DEVELOPER, 3, 1), { after: ['Client gives the go-ahead', 'Backup and rollback plan'], priority: 'high' }),
        work('Check forms, statistics and search consoles', by(DEVELOPER, 2, 1), { after: ['Go live'] }),
        meeting('Train the editors', { role: WRITER, hours: 2, onDay: 4 }, { isShownToClient: true }),
        milestone('Website is live', ['Check forms, statistics and search consoles']),
      ],
    },
    {
      name: 'Support after launch',
      role: DEVELOPER,
      stateLine: 'Live, supported for two weeks',
      checks: [['tasks-done', 'Two weeks without open faults']],
      tasks: [
        work('Answer and correct for two weeks', by(DEVELOPER, 6, 10)),
        work('Report of the first two weeks', by(LEAD, 2, 1), { anchor: ['before-phase-end', 1] }),
        work('Offer a care plan', by(MANAGER, 1, 1), { anchor: ['before-phase-end', 0] }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client approves the design', to: 'Look and feel of home page', reason: 'wants changes' },
    { from: 'Client approves the texts', to: 'Write all pages', reason: 'wants changes' },
    { from: 'Client gives the go-ahead', to: 'Walk through the website', reason: 'found faults' },
  ],
};

/** One page for one campaign, in about three weeks. */
export const landingPage: TemplateDraft = {
  kind: 'engagement',
  name: 'Landing page',
  description: 'One page for a campaign or a product, from brief to first results in about four weeks.',
  phases: [
    {
      name: 'Brief',
      role: MANAGER,
      stateLine: 'Brief being agreed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Brief and price sent'],
        ['client-done', 'Client has ordered'],
      ],
      tasks: [
        meeting('Brief call', { role: MANAGER, hours: 1 }, { steps: ['One goal', 'One audience', 'How success is counted'] }),
        work('Brief and fixed price', by(LEAD, 2, 1), { after: ['Brief call'] }),
        client('Client orders', 3, { after: ['Brief and fixed price'] }),
        client('Send logo, pictures and figures', 3),
      ],
    },
    {
      name: 'Text and design',
      role: DESIGNER,
      stateLine: 'Page being written and designed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Text and design finished'],
        ['client-done', 'Client has approved the page'],
      ],
      tasks: [
        work('Offer, headline and structure', by(WRITER, 4, 2)),
        work('Write the page', by(WRITER, 5, 2), { after: ['Offer, headline and structure'] }),
        work('Design for phone and desktop', by(DESIGNER, 10, 3), { after: ['Offer, headline and structure'] }),
        client('Client approves the page', 3, { after: ['Write the page', 'Design for phone and desktop'] }),
      ],
    },
    {
      name: 'Build and test',
      role: DEVELOPER,
      stateLine: 'Page being built and tested',
      checks: [
        ['tasks-done', 'Page works and is counted'],
        ['steps-done', 'Test list completed'],
      ],
      tasks: [
        work('Build the page', by(DEVELOPER, 10, 3)),
        work('Form and thank-you mail', by(DEVELOPER, 3, 1), { after: ['Build the page'] }),
        work('Consent and statistics', by(DEVELOPER, 2, 1), { after: ['Build the page'] }),
        work('Test the page', by(LEAD, 2, 1), {
          after: ['Form and thank-you mail', 'Consent and statistics'],
          steps: ['Phone', 'Slow connection', 'Form arrives', 'Goal is counted'],
        }),
      ],
    },
    {
      name: 'Campaign',
      role: LEAD,
      stateLine: 'Page is live, campaign running',
      checks: [['tasks-done', 'First results reported']],
      tasks: [
        milestone('Page is live'),
        work('Second headline as a test', by(WRITER, 2, 1), { anchor: ['phase-start', 3] }),
        work('Weekly figures', by(LEAD, 2, 10)),
        work('Results and advice', by(LEAD, 3, 1), { after: ['Weekly figures'], isShownToClient: true }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    { from: 'Brief call', ending: 'Not a fit', reason: 'not a fit' },
    { from: 'Client orders', to: 'Brief and fixed price', reason: 'wants changes' },
    { from: 'Client orders', ending: 'Client declined', reason: 'declined' },
    { from: 'Client approves the page', to: 'Write the page', reason: 'wants changes' },
  ],
};

/** The old website moved to a new base and look, without losing what works. */
export const websiteRelaunch: TemplateDraft = {
  kind: 'engagement',
  name: 'Website relaunch',
  description: 'An existing website gets a new base and look; its good pages, its ranking and its editors come along.',
  phases: [
    ...OFFER,
    {
      name: 'Audit',
      role: LEAD,
      stateLine: 'Present website being examined',
      checks: [
        ['tasks-done', 'Audit presented'],
        ['client-done', 'Client has decided what stays'],
      ],
      tasks: [
        client('Give access to website and statistics', 3),
        work('Crawl all addresses', by(DEVELOPER, 3, 1)),
        work('Which pages are used and found', by(LEAD, 5, 2), { after: ['Crawl all addresses'] }),
        work('Speed, accessibility and security', by(DEVELOPER, 6, 2)),
        work('Interview three editors', by(LEAD, 4, 3)),
        meeting('Present the audit', { role: LEAD, hours: 1.5, onDay: 5 }, { isShownToClient: true }),
        client('Decide for each page: keep, merge or drop', 5, { after: ['Present the audit'] }),
      ],
    },
    {
      name: 'Redesign',
      role: DESIGNER,
      stateLine: 'New look being designed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Component library designed'],
        ['client-done', 'Client has approved the new look'],
      ],
      tasks: [
        work('Component library', by(DESIGNER, 24, 7), { deliverable: 'Design' }),
        work('Three key pages', by(DESIGNER, 14, 4), { after: ['Component library'], deliverable: 'Design' }),
        client('Client approves the new look', 4, { after: ['Three key pages'] }),
        work('Texts of the key pages', by(WRITER, 10, 4), { deliverable: 'Content' }),
      ],
    },
    {
      name: 'Migration',
      role: DEVELOPER,
      stateLine: 'New system built, content being moved',
      rounds: 1,
      checks: [
        ['tasks-done', 'All kept pages are on the new system'],
        ['word', 'Redirects cover every old address'],
      ],
      tasks: [
        work('Build components and templates', by(DEVELOPER, 40, 10), { deliverable: 'Website' }),
        work('Import script for content', by(DEVELOPER, 12, 4), { deliverable: 'Website' }),
        work('Import and correct the pages', by(WRITER, 14, 5), { after: ['Build components and templates', 'Import script for content'] }),
        work('Redirect list', by(LEAD, 4, 2), { after: ['Import and correct the pages'] }),
        client('Editors check their pages', 5, { after: ['Import and correct the pages'] }),
        work('Correct the remarks', by(DEVELOPER, 8, 2), { after: ['Editors check their pages'] }),
      ],
    },
    {
      name: 'Switch-over',
      role: DEVELOPER,
      stateLine: 'Switch-over being prepared',
      checks: [
        ['tasks-done', 'New website is live'],
        ['client-done', 'Client has given the go-ahead'],
      ],
      tasks: [
        work('Rehearse the switch-over', by(DEVELOPER, 4, 1)),
        client('Go-ahead and content freeze', 2, { after: ['Rehearse the switch-over'] }),
        work('Switch over', by(DEVELOPER, 4, 1), { after: ['Go-ahead and content freeze'], priority: 'high' }),
        work('Check redirects and errors daily', by(DEVELOPER, 4, 5), { after: ['Switch over'] }),
        milestone('New website is live', ['Switch over']),
        work('Compare ranking before and after', by(LEAD, 2, 1), { after: [{ task: 'Switch over', lag: 10 }] }),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client approves the new look', to: 'Three key pages', reason: 'wants changes' },
    { from: 'Editors check their pages', to: 'Import and correct the pages', reason: 'pages are missing' },
  ],
};
