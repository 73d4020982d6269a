import type { IsoDay } from '@crew/core';
import { Body, Controller, Get, HttpCode, Post, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import { of, PlaceOnDay as PlaceInput, RemoveFromDay, RestorePlaces, type Desk, type DeskPlaces } from '@crew/contract';
import { OptionalDay, OptionalId } from '../platform/query-pipes.ts';
import { Allow, Caller, requireCan, type Who } from '../platform/rights.ts';
import { TaskParts } from '../task/task-parts.ts';
import { PlaceOnDay } from './place-on-day.ts';
import { ReadDesk } from './read-desk.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('desk')
@Controller('desk')
export class DeskController {
  private readonly reading: ReadDesk;
  private readonly parts: TaskParts;
  private readonly placing: PlaceOnDay;
  constructor(reading: ReadDesk, parts: TaskParts, placing: PlaceOnDay) {
    this.placing = placing;
    this.reading = reading;
    this.parts = parts;
  }

  /** One person's work; a lead may open anyone's with `person`. `week` is a day of the week to show, this week if left out. */
  @Get()
  @Answers('Desk')
  @Allow('desk.read')
  @ApiQuery({ name: 'person', required: false })
  @ApiQuery({ name: 'week', required: false })
  read(@Caller() who: Who, @Query('person', OptionalId) person?: string, @Query('week', OptionalDay) week?: IsoDay): Promise<Desk> {
    const personId = person ?? (who.personId as string);
    requireCan(who, 'desk.read', { subject: of(personId), words: 'Only leads can open somebody else’s desk.', field: 'person' });
    return this.reading.run(who, personId, week);
  }

  /** Puts work on a day of one's week, in an order; its dates stay. Leads arrange anybody's week. */
  @Post('places')
  @Answers('DeskPlaces')
  @HttpCode(200)
  @Allow('desk.edit')
  place(@Caller() who: Who, @Body() input: PlaceInput): Promise<DeskPlaces> {
    return this.placing.place(who, input);
  }

  /** Takes work off a day again, or off all of them. */
  @Post('places/remove')
  @Answers('DeskPlaces')
  @HttpCode(200)
  @Allow('desk.edit')
  removeFromDay(@Caller() who: Who, @Body() input: RemoveFromDay): Promise<DeskPlaces> {
    return this.placing.removeFromDay(who, input);
  }

  /** Undoes a step, from the days its answer named. */
  @Post('places/restore')
  @Answers('DeskPlaces')
  @HttpCode(200)
  @Allow('desk.edit')
  restorePlaces(@Caller() who: Who, @Body() input: RestorePlaces): Promise<DeskPlaces> {
    return this.placing.restore(who, input);
  }

  /** Marks everything new on the desk as seen. */
  @Post('seen')
  @HttpCode(204)
  @Allow('desk.edit')
  markSeen(@Caller() who: Who): Promise<void> {
    return this.parts.markSeen(who, null);
  }
}
