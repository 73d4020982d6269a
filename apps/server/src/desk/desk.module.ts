import type { Area } from '../platform/area.ts';
import { DeskPlace } from './desk-place.entity.ts';
import { DeskController } from './desk.controller.ts';
import { PlaceOnDay } from './place-on-day.ts';
import { FindRoom } from './find-room.ts';
import { ReadDesk } from './read-desk.ts';

export const desk: Area = {
  controllers: [DeskController],
  providers: [FindRoom, ReadDesk, PlaceOnDay],
  entities: [DeskPlace],
};
