import type { TemplateDraft } from '../create-template.ts';
import { permanentGallery } from './gallery.ts';
import { careVisits, galleryTalkKit, inHouse, singleTasks, standAlonePhases, travellingDisplay } from './smaller.ts';
import { audioTrail, wayfinding } from './trails.ts';

/** Templates of an exhibition studio: the demo's library, and something to begin from. */
export const exampleTemplates: readonly TemplateDraft[] = [
  permanentGallery,
  wayfinding,
  audioTrail,
  travellingDisplay,
  careVisits,
  galleryTalkKit,
  inHouse,
  ...standAlonePhases,
  ...singleTasks,
];

/** The roles those templates name. */
export const exampleRoles: readonly string[] = [
  'Client manager',
  'Engagement lead',
  'Researcher',
  'Writer',
  'Exhibit designer',
  'Graphic designer',
  'Graphic artworker',
  'Media producer',
  'Fabrication coordinator',
  'Installer',
];
