import type { Area } from '../platform/area.ts';
import { AccessLink } from './access-link.entity.ts';
import { AccessTokens } from './access-tokens.ts';
import { InvitationController } from './invitation.controller.ts';
import { InvitePeople } from './invite-people.ts';
import { MakeAccessLink } from './make-access-link.ts';
import { UseAccessLink } from './use-access-link.ts';

export const invitation: Area = {
  controllers: [InvitationController],
  providers: [AccessTokens, MakeAccessLink, InvitePeople, UseAccessLink],
  entities: [AccessLink],
};
