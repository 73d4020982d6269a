import type { TemplateDraft } from '../../template/create-template.ts';
import { by, client, closeOut, meeting, milestone, OFFER_WAYS, offer, work } from './parts.ts';

const [LEAD, MANAGER, DESIGNER, ARTWORKER, WRITER] = ['Project lead', 'Client manager', 'Brand designer', 'Artworker', 'Writer'];
const OFFER = offer({ lead: MANAGER, expert: LEAD, look: 'Collect what the brand looks like today' });

/** A brand from strategy to guidelines. */
export const brandIdentity: TemplateDraft = {
  kind: 'engagement',
  name: 'Brand identity',
  description: 'Positioning, name check, logo, colours, type, first applications and guidelines.',
  phases: [
    ...OFFER,
    {
      name: 'Brand strategy',
      role: LEAD,
      stateLine: 'Position and values being defined',
      rounds: 2,
      checks: [
        ['tasks-done', 'Strategy on two pages written'],
        ['client-done', 'Client has agreed the strategy'],
      ],
      tasks: [
        meeting('Brand workshop', { role: LEAD, hours: 5 }, { helpers: [DESIGNER, WRITER], isShownToClient: true }),
        client('Name five customers we may call', 4),
        work('Customer interviews', by(LEAD, 6, 4), { after: ['Name five customers we may call'] }),
        work('Look at six competitors', by(DESIGNER, 5, 2)),
        work('Position, promise and tone on two pages', by(WRITER, 8, 3), {
          after: ['Brand workshop', 'Customer interviews', 'Look at six competitors'],
          deliverable: 'Strategy',
        }),
        client('Client agrees the strategy', 4, { after: ['Position, promise and tone on two pages'] }),
      ],
    },
    {
      name: 'Directions',
      role: DESIGNER,
      stateLine: 'Three directions being drawn',
      rounds: 2,
      checks: [
        ['tasks-done', 'Directions presented'],
        ['client-done', 'Client has chosen one direction'],
      ],
      tasks: [
        work('Sketch broadly', by(DESIGNER, 14, 4)),
        work('Draw three directions', by(DESIGNER, 24, 6), { after: ['Sketch broadly'], deliverable: 'Identity' }),
        work('Crit with a second designer', by(LEAD, 2, 1), { kind: 'review', after: ['Draw three directions'] }),
        meeting('Present the directions', { role: DESIGNER, hours: 2, onDay: 11 }, { isShownToClient: true }),
        client('Client chooses a direction', 5, { after: ['Present the directions', 'Crit with a second designer'] }),
      ],
    },
    {
      name: 'Refinement',
      role: DESIGNER,
      stateLine: 'Chosen direction being refined',
      rounds: 3,
      checks: [
        ['tasks-done', 'Identity drawn in all its parts'],
        ['client-done', 'Client has signed the identity'],
        ['word', 'Name and logo are free to use'],
      ],
      tasks: [
        work('Refine logo and small sizes', by(DESIGNER, 16, 5), { deliverable: 'Identity' }),
        work('Colours and type', by(DESIGNER, 8, 3), {
          deliverable: 'Identity',
          steps: ['Contrast on screen', 'Print values', 'Licences of the fonts'],
        }),
        work('Picture style and icons', by(DESIGNER, 10, 4), { deliverable: 'Identity' }),
        work('Trademark search', by(MANAGER, 2, 2), {
          outside: { maker: 'Trademark attorney', turnaroundDays: 5, bufferDays: 2 },
        }),
        client('Client signs the identity', 5, { after: ['Refine logo and small sizes', 'Colours and type', 'Picture style and icons'] }),
      ],
    },
    {
      name: 'Applications',
      role: ARTWORKER,
      stateLine: 'First applications being made',
      checks: [
        ['tasks-done', 'Applications ready for print and screen'],
        ['client-done', 'Client has checked names and addresses'],
      ],
      tasks: [
        work('Stationery and mail signature', by(ARTWORKER, 8, 3), { deliverable: 'Applications' }),
        work('Presentation and document templates', by(ARTWORKER, 12, 4), { deliverable: 'Applications' }),
        work('Profile pictures and headers', by(ARTWORKER, 4, 1), { deliverable: 'Applications' }),
        client('Check names and addresses', 3, { after: ['Stationery and mail signature'] }),
        work('Print files', by(ARTWORKER, 4, 1), { after: ['Check names and addresses'] }),
      ],
    },
    {
      name: 'Guidelines and handover',
      role: DESIGNER,
      stateLine: 'Guidelines being written',
      checks: [
        ['tasks-done', 'Guidelines and files handed over'],
        ['word', 'Every file opens on another computer'],
      ],
      tasks: [
        work('Write the guidelines', by(WRITER, 8, 3), { deliverable: 'Guidelines' }),
        work('Lay out the guidelines', by(DESIGNER, 14, 4), { after: ['Write the guidelines'], deliverable: 'Guidelines' }),
        work('Pack of logo files', by(ARTWORKER, 4, 1), { steps: ['Vector', 'Pixels', 'One colour', 'On dark'] }),
        meeting('Show the team how to use it', { role: DESIGNER, hours: 1.5, onDay: 7 }, { isShownToClient: true }),
        milestone('Brand is handed over', ['Lay out the guidelines', 'Pack of logo files', 'Show the team how to use it']),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client agrees the strategy', to: 'Position, promise and tone on two pages', reason: 'wants changes' },
    { from: 'Client chooses a direction', to: 'Draw three directions', reason: 'none of them' },
    { from: 'Client signs the identity', to: 'Refine logo and small sizes', reason: 'wants changes' },
  ],
};

/** A printed piece with several pages. */
export const brochure: TemplateDraft = {
  kind: 'engagement',
  name: 'Brochure or report',
  description: 'A printed piece of 8 to 60 pages: concept, text, layout, proof, print and delivery by a fixed day.',
  phases: [
    {
      name: 'Brief',
      role: MANAGER,
      stateLine: 'Brief and print price being agreed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Offer with print price sent'],
        ['client-done', 'Client has ordered'],
      ],
      tasks: [
        meeting('Brief meeting', { role: MANAGER, hours: 1 }, { steps: ['Pages and run', 'Delivery day', 'Who checks facts'] }),
        work('Ask three printers', by(ARTWORKER, 2, 3), { after: ['Brief meeting'] }),
        work('Offer with schedule', by(MANAGER, 2, 1), { after: ['Ask three printers'] }),
        client('Client orders', 4, { after: ['Offer with schedule'] }),
      ],
    },
    {
      name: 'Content plan',
      role: WRITER,
      stateLine: 'Pages being planned',
      checks: [
        ['tasks-done', 'Page plan and sample spread done'],
        ['client-done', 'Texts and pictures are in'],
      ],
      tasks: [
        work('Page plan', by(WRITER, 4, 2)),
        client('Send texts, figures and pictures', 7, { after: ['Page plan'] }),
        work('Sample spread', by(DESIGNER, 8, 3), { after: ['Page plan'] }),
        client('Agree the sample spread', 3, { after: ['Sample spread'] }),
      ],
    },
    {
      name: 'Text and layout',
      role: DESIGNER,
      stateLine: 'Pages being laid out',
      rounds: 2,
      checks: [
        ['tasks-done', 'Layout complete and proofread'],
        ['client-done', 'Client has released the pages'],
      ],
      tasks: [
        work('Edit the texts', by(WRITER, 14, 5), { deliverable: 'Brochure' }),
        work('Charts and tables', by(DESIGNER, 8, 3), { deliverable: 'Brochure' }),
        work('Lay out all pages', by(DESIGNER, 26, 7), {
          after: [{ task: 'Edit the texts', type: 'SS', lag: 2 }],
          deliverable: 'Brochure',
        }),
        work('Proofread', by(WRITER, 5, 2), { after: ['Edit the texts', 'Lay out all pages'], kind: 'review' }),
        client('Client releases the pages', 5, { after: ['Proofread'] }),
      ],
    },
    {
      name: 'Print',
      role: ARTWORKER,
      stateLine: 'At the printer',
      checks: [
        ['tasks-done', 'Copies delivered and checked'],
        ['word', 'Proof signed'],
      ],
      tasks: [
        work('Print-ready files', by(ARTWORKER, 6, 2), { steps: ['Bleed', 'Colour profile', 'Fonts embedded', 'Pictures at 300 dpi'] }),
        work('Check the printed proof', by(DESIGNER, 2, 1), { after: [{ task: 'Print-ready files', lag: 2 }] }),
        work('Print run', by(ARTWORKER, 1, 5), {
          kind: 'order',
          after: ['Check the printed proof'],
          outside: { maker: 'Printer', turnaroundDays: 5, bufferDays: 2 },
        }),
        work('Check and hand over the delivery', by(MANAGER, 1.5, 1), { after: ['Print run'] }),
        work('Screen version with bookmarks', by(ARTWORKER, 4, 2), { after: ['Print-ready files'] }),
        milestone('Copies are delivered', ['Check and hand over the delivery']),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    { from: 'Brief meeting', ending: 'Not a fit', reason: 'not a fit' },
    { from: 'Client orders', to: 'Offer with schedule', reason: 'wants changes' },
    { from: 'Client orders', ending: 'Client declined', reason: 'declined' },
    { from: 'Client releases the pages', to: 'Lay out all pages', reason: 'wants changes' },
  ],
};

/** A pack with its legal text, proof and print run. */
export const packaging: TemplateDraft = {
  kind: 'engagement',
  name: 'Packaging',
  description: 'A pack or a range of packs: structure, design, legal text, dummies, print and first delivery.',
  phases: [
    ...OFFER,
    {
      name: 'Groundwork',
      role: LEAD,
      stateLine: 'Shelf and requirements being studied',
      checks: [
        ['tasks-done', 'Requirements on one page'],
        ['client-done', 'Product samples and legal text are in'],
      ],
      tasks: [
        client('Send product samples', 4),
        client('Send ingredients and legal text', 6),
        work('Visit the shelf', by(DESIGNER, 4, 1), { steps: ['Neighbours', 'Distance of reading', 'Light'] }),
        work('Requirements of maker and shop', by(ARTWORKER, 4, 2)),
        work('Requirements on one page', by(LEAD, 3, 1), { after: ['Visit the shelf', 'Requirements of maker and shop'] }),
      ],
    },
    {
      name: 'Pack design',
      role: DESIGNER,
      stateLine: 'Pack being designed',
      rounds: 2,
      checks: [
        ['tasks-done', 'Design on a dummy'],
        ['client-done', 'Client has chosen the design'],
      ],
      tasks: [
        work('Structure and sizes', by(DESIGNER, 8, 3), { deliverable: 'Pack' }),
        work('Two designs', by(DESIGNER, 20, 6), { after: ['Structure and sizes'], deliverable: 'Pack' }),
        work('Build dummies', by(ARTWORKER, 8, 2), { after: ['Two designs'] }),
        meeting('Dummies on the shelf', { role: LEAD, hours: 2, onDay: 12 }, { isShownToClient: true }),
        client('Client chooses the design', 4, { after: ['Build dummies', 'Dummies on the shelf'] }),
      ],
    },
    {
      name: 'Artwork',
      role: ARTWORKER,
      stateLine: 'Artwork being finished',
      rounds: 2,
      checks: [
        ['tasks-done', 'Artwork of every variant done'],
        ['client-done', 'Client has signed every word'],
        ['word', 'Barcode reads on the dummy'],
      ],
      tasks: [
        work('Back-of-pack text', by(WRITER, 6, 2), { deliverable: 'Pack' }),
        work('Artwork of all variants', by(ARTWORKER, 24, 6), { after: ['Back-of-pack text'], deliverable: 'Pack' }),
        work('Check sizes, symbols and barcode', by(ARTWORKER, 3, 1), { after: ['Artwork of all variants'] }),
        client('Client signs every word', 5, { after: ['Check sizes, symbols and barcode'] }),
      ],
    },
    {
      name: 'Production',
      role: ARTWORKER,
      stateLine: 'Packs in production',
      checks: [['tasks-done', 'First delivery checked']],
      tasks: [
        work('Files to the maker', by(ARTWORKER, 3, 1)),
        work('Approve the press proof', by(DESIGNER, 4, 1), { after: [{ task: 'Files to the maker', lag: 5 }] }),
        work('Production run', by(ARTWORKER, 1, 10), {
          kind: 'order',
          after: ['Approve the press proof'],
          outside: { maker: 'Packaging maker', turnaroundDays: 10, bufferDays: 3 },
        }),
        work('Check the first delivery', by(ARTWORKER, 3, 1), { after: ['Production run'] }),
        milestone('Packs are delivered', ['Check the first delivery']),
      ],
    },
    closeOut(MANAGER),
  ],
  ways: [
    ...OFFER_WAYS,
    { from: 'Client chooses the design', to: 'Two designs', reason: 'wants changes' },
    { from: 'Client signs every word', to: 'Artwork of all variants', reason: 'wants corrections' },
  ],
};
