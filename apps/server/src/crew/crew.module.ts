import type { Area } from '../platform/area.ts';
import { CrewController } from './crew.controller.ts';
import { Person, PersonRole, Role, TimeOff } from './crew.entity.ts';
import { CrewRepository } from './crew.repository.ts';
import { LookAfterCrew } from './look-after-crew.ts';

export const crew: Area = {
  controllers: [CrewController],
  providers: [LookAfterCrew, CrewRepository],
  entities: [Role, Person, PersonRole, TimeOff],
};
