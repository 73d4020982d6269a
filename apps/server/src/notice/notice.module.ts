import { job, type Area } from '../platform/area.ts';
import { DigestController } from './digest.controller.ts';
import { KeepNotices } from './keep-notices.ts';
import { MailNotices } from './mail-notices.ts';
import { NoticeController } from './notice.controller.ts';
import { Notice, NoticeChoice, NoticeMailing } from './notice.entity.ts';
import { ReadNotices } from './read-notices.ts';
import { TellPeople } from './tell-people.ts';
import { TOLD_EVENTS } from './who-is-told.ts';

export const notice: Area = {
  controllers: [NoticeController, DigestController],
  providers: [ReadNotices, KeepNotices, TellPeople, MailNotices],
  entities: [Notice, NoticeChoice, NoticeMailing],
  jobs: [
    job({ name: 'prune-notices', by: KeepNotices, run: (keeping) => keeping.prune(), at: '17 3 * * *' }),
    job({ name: 'mail-notices', by: MailNotices, run: (mailing) => mailing.run(), at: '* * * * *', isAlone: true }),
  ],
  followers: [{ kinds: TOLD_EVENTS, by: TellPeople }],
};
