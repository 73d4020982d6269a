import type { Area } from '../platform/area.ts';
import { KeepLoad } from './keep-load.ts';

export const load: Area = { controllers: [], providers: [KeepLoad] };
