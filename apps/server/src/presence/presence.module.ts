import type { Area } from '../platform/area.ts';
import { PresenceController } from './presence.controller.ts';
import { Presence } from './presence.entity.ts';
import { ShowPresence } from './show-presence.ts';

export const presence: Area = {
  entities: [Presence],
  controllers: [PresenceController],
  providers: [ShowPresence],
};
