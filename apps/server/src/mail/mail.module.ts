import { job, type Area } from '../platform/area.ts';
import { ActOnMail } from './act-on-mail.ts';
import { IncomingMailServer } from './incoming-mail-server.ts';
import { KeepMailServer } from './keep-mail-server.ts';
import { MailController } from './mail.controller.ts';
import { CaughtMail, IncomingMail, IncomingMailFile, Mail, MailFault, MailServer } from './mail.entity.ts';
import { FindMailRoute } from './mail-route.ts';
import { MailSecrets } from './mail-secrets.ts';
import { MailboxServer } from './mailbox-server.ts';
import { FollowMailLink } from './open-mail-link.ts';
import { PruneMail } from './prune-mail.ts';
import { ReadMailbox } from './read-mailbox.ts';
import { ReadSentMail } from './read-sent-mail.ts';
import { SendMail } from './send-mail.ts';
import { TakeMail } from './take-mail.ts';

export const mail: Area = {
  controllers: [MailController],
  providers: [
    ...[MailSecrets, MailboxServer, FindMailRoute, SendMail, TakeMail, IncomingMailServer, ActOnMail],
    ...[ReadMailbox, ReadSentMail, KeepMailServer, FollowMailLink, PruneMail],
  ],
  entities: [Mail, IncomingMail, IncomingMailFile, MailFault, MailServer, CaughtMail],
  jobs: [
    job({ name: 'send-mail', by: SendMail, run: (handler, payload) => handler.run(payload) }),
    job({ name: 'act-on-mail', by: ActOnMail, run: (handler, payload) => handler.run(payload) }),
    job({ name: 'prune-mail', by: PruneMail, run: (handler) => handler.run(), at: '41 3 * * *' }),
  ],
};
