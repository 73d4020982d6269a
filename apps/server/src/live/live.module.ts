import type { Area } from '../platform/area.ts';
import { ChangesFeed } from './changes-feed.ts';
import { ChangesController } from './changes.controller.ts';

export const live: Area = {
  controllers: [ChangesController],
  providers: [ChangesFeed],
};
