import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn } from 'class-validator';
import { NOTICE_CHANNEL, NOTICE_KIND, type NoticeChannel, type NoticeKind } from './notices.ts';
import { IsId } from './rules.ts';

/** Marks one's own notices as read, or as unread again. */
export class MarkNotices {
  @IsArray({ message: 'Name the notices.' })
  @ArrayMinSize(1, { message: 'Name at least one notice.' })
  @ArrayMaxSize(500, { message: 'Name at most 500 notices at once.' })
  @IsId({ each: true })
  noticeIds!: string[];

  @IsBoolean({ message: 'Read is yes or no.' })
  isRead!: boolean;
}

/** Snoozes one's own notices until tomorrow morning, or brings them back now. */
export class SnoozeNotices {
  @IsArray({ message: 'Name the notices.' })
  @ArrayMinSize(1, { message: 'Name at least one notice.' })
  @ArrayMaxSize(500, { message: 'Name at most 500 notices at once.' })
  @IsId({ each: true })
  noticeIds!: string[];

  @IsBoolean({ message: 'Snoozed is yes or no.' })
  isSnoozed!: boolean;
}

/** Whether one gets a kind of notice in one of the channels. */
export class ChooseNotices {
  @IsIn(NOTICE_KIND, { message: 'Choose one of the kinds of notices.' })
  kind!: NoticeKind;

  @IsIn(NOTICE_CHANNEL, { message: 'Choose the screen, mail or the digest.' })
  channel!: NoticeChannel;

  @IsBoolean({ message: 'On is yes or no.' })
  isOn!: boolean;
}
