import { job, type Area } from '../platform/area.ts';
import { KeepNotices } from './keep-notices.ts';
import { NoticeController } from './notice.controller.ts';
import { Notice, NoticeChoice } from './notice.entity.ts';
import { ReadNotices } from './read-notices.ts';
import { TellPeople } from './tell-people.ts';
import { TOLD_EVENTS } from './who-is-told.ts';

export const notice: Area = {
  controllers: [NoticeController],
  providers: [ReadNotices, KeepNotices, TellPeople],
  entities: [Notice, NoticeChoice],
  jobs: [job({ name: 'prune-notices', by: KeepNotices, run: (keeping) => keeping.prune(), at: '17 3 * * *' })],
  followers: [{ kinds: TOLD_EVENTS, by: TellPeople }],
};
