import { job, type Area } from '../platform/area.ts';
import { AccessLink } from './access-link.entity.ts';
import { AskForAccessLink } from './ask-for-access-link.ts';
import { AccessTokens } from './access-tokens.ts';
import { InvitationController } from './invitation.controller.ts';
import { InvitePeople } from './invite-people.ts';
import { MakeAccessLink } from './make-access-link.ts';
import { UseAccessLink } from './use-access-link.ts';

export const invitation: Area = {
  controllers: [InvitationController],
  providers: [AccessTokens, MakeAccessLink, InvitePeople, AskForAccessLink, UseAccessLink],
  entities: [AccessLink],
  jobs: [job({ name: 'send-access-link', by: AskForAccessLink, run: (asking, payload) => asking.send(payload) })],
};
