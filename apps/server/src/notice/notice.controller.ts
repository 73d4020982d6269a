import { Body, Controller, Get, HttpCode, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ChooseMailing, ChooseNotices, MarkNotices, SnoozeNotices, type NoticeChoices, type Notices } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepNotices } from './keep-notices.ts';
import { ReadNotices } from './read-notices.ts';

@ApiTags('notices')
@Controller('notices')
@Allow('notice.use')
export class NoticeController {
  private readonly reading: ReadNotices;
  private readonly keeping: KeepNotices;
  constructor(reading: ReadNotices, keeping: KeepNotices) {
    this.reading = reading;
    this.keeping = keeping;
  }

  /** One's own notices by thing, the newest first: those not read, and those read in the last week. Snoozed ones are only counted. */
  @Get()
  @Answers('Notices')
  read(@Caller() who: Who): Promise<Notices> {
    return this.reading.run(who);
  }

  /** Marks notices as read, or as unread again. Sent twice it changes nothing. */
  @Post('read')
  @HttpCode(204)
  mark(@Caller() who: Who, @Body() input: MarkNotices): Promise<void> {
    return this.keeping.mark(who, input);
  }

  /** Snoozes notices until nine tomorrow morning, or brings them back. */
  @Post('snooze')
  @HttpCode(204)
  snooze(@Caller() who: Who, @Body() input: SnoozeNotices): Promise<void> {
    return this.keeping.snooze(who, input);
  }

  /** Which notices one gets. */
  @Get('choices')
  @Answers('NoticeChoices')
  choices(@Caller() who: Who): Promise<NoticeChoices> {
    return this.keeping.choices(who);
  }

  /** Turns a kind of notice on or off for oneself, on the screen, by mail or in the digest; it counts from the next event on. */
  @Patch('choices')
  @Answers('NoticeChoices')
  choose(@Caller() who: Who, @Body() input: ChooseNotices): Promise<NoticeChoices> {
    return this.keeping.choose(who, input);
  }

  /** When one is mailed: in one's own working time only, and whether a digest comes each morning. */
  @Patch('mailing')
  @Answers('NoticeChoices')
  chooseMailing(@Caller() who: Who, @Body() input: ChooseMailing): Promise<NoticeChoices> {
    return this.keeping.chooseMailing(who, input);
  }
}
