import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ShowPresence as Input, type PeopleHere } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { PathId } from '../platform/query-pipes.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { ShowPresence } from './show-presence.ts';

/** Who else looks at the same engagement or task. */
@ApiTags('presence')
@Controller('presence')
export class PresenceController {
  private readonly presence: ShowPresence;
  constructor(presence: ShowPresence) {
    this.presence = presence;
  }

  /**
   * All that a window shows now, in place of what it reported before. Report it again every 40
   * seconds; a silent window counts as closed after 100.
   */
  @Post()
  @HttpCode(204)
  @Allow('presence.use')
  show(@Caller() who: Who, @Body() input: Input): Promise<void> {
    return this.presence.show(who, input);
  }

  @Get('engagements/:id')
  @Answers('PeopleHere')
  @Allow('presence.use')
  atEngagement(@Caller() who: Who, @Param('id', PathId) id: string): Promise<PeopleHere> {
    return this.presence.people(who, { kind: 'engagement', id });
  }

  @Get('tasks/:id')
  @Answers('PeopleHere')
  @Allow('presence.use')
  atTask(@Caller() who: Who, @Param('id', PathId) id: string): Promise<PeopleHere> {
    return this.presence.people(who, { kind: 'task', id });
  }
}
