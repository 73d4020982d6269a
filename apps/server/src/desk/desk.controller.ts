import { Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import type { Desk } from '@crew/contract';
import { isUUID } from 'class-validator';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, CREW, isLead, type Who } from '../platform/rights.ts';
import { TaskParts } from '../task/task-parts.ts';
import { ReadDesk } from './read-desk.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('desk')
@Controller('desk')
export class DeskController {
  private readonly reading: ReadDesk;
  private readonly parts: TaskParts;
  constructor(reading: ReadDesk, parts: TaskParts) {
    this.reading = reading;
    this.parts = parts;
  }

  /** One person's work; a lead may open anyone's with `person`. */
  @Get()
  @Answers('Desk')
  @Allow(CREW)
  @ApiQuery({ name: 'person', required: false })
  read(@Caller() who: Who, @Query('person') person?: string): Promise<Desk> {
    if (person !== undefined && !isUUID(person))
      throw new Refusal('invalid-input', 'This is no id of a person. Choose from the list.', { field: 'person' });
    if (person !== undefined && person !== who.personId && !isLead(who)) {
      throw new Refusal('not-allowed', 'Only leads open the desk of somebody else.', { field: 'person' });
    }
    return this.reading.run(who, person ?? (who.personId as string));
  }

  /** Everything new on the desk has been seen. */
  @Post('seen')
  @HttpCode(204)
  @Allow(CREW)
  markSeen(@Caller() who: Who): Promise<void> {
    return this.parts.markSeen(who, null);
  }
}
