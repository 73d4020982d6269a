import type { Area } from '../platform/area.ts';
import { CrewController } from './crew.controller.ts';
import { Person, PersonRole, Role, TimeOff } from './crew.entity.ts';
import { CrewRepository } from './crew.repository.ts';
import { KeepRoles } from './keep-roles.ts';
import { LookAfterCrew } from './look-after-crew.ts';
import { RoleController } from './role.controller.ts';
import { ROLE_EVENTS, UndoRoles } from './undo-roles.ts';

export const crew: Area = {
  controllers: [CrewController, RoleController],
  providers: [LookAfterCrew, CrewRepository, KeepRoles, UndoRoles],
  entities: [Role, Person, PersonRole, TimeOff],
  undoing: [{ kinds: ROLE_EVENTS, by: UndoRoles }],
};
