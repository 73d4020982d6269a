import { Body, Controller, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  ChangeRhythm,
  ChangeSeries,
  ResumeSeries,
  StartSeries,
  StopSeries,
  CancelRhythm,
  TryRhythm as TryInput,
  type RhythmChanged,
  type RhythmTried,
  type SeriesView,
} from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepSeries } from './keep-series.ts';
import { ReadSeries } from './read-series.ts';
import { TryRhythm } from './try-rhythm.ts';

@ApiTags('series')
@Controller('series')
export class SeriesController {
  private readonly reading: ReadSeries;
  private readonly keeping: KeepSeries;
  private readonly trying: TryRhythm;
  constructor(reading: ReadSeries, keeping: KeepSeries, trying: TryRhythm) {
    this.reading = reading;
    this.keeping = keeping;
    this.trying = trying;
  }

  /** Engagements that repeat and production lines, with their units. */
  @Get()
  @Answers('SeriesView', { isList: true })
  @Allow('series.read')
  list(@Caller() who: Who): Promise<SeriesView[]> {
    return this.reading.list(who);
  }

  /** Starts one; its first units are made at once, the others ahead by a job. */
  @Post()
  @Answers('SeriesView')
  @Allow('series.edit')
  start(@Caller() who: Who, @Body() input: StartSeries): Promise<SeriesView> {
    return this.keeping.start(who, input);
  }

  @Get(':id')
  @Answers('SeriesView')
  @Allow('series.read')
  read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<SeriesView> {
    return this.reading.read(who, id);
  }

  /** Edits it for units that have not begun: people, names, agreed hours, days left out and added. */
  @Patch(':id')
  @Answers('SeriesView')
  @Allow('series.edit')
  change(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ChangeSeries): Promise<SeriesView> {
    return this.keeping.change(who, id, input);
  }

  /** What another rhythm would do to hours by role and week, and to people's load. Saves nothing. */
  @Post(':id/rhythms/preview')
  @Answers('RhythmTried')
  @HttpCode(200)
  @Allow('series.edit')
  tryRhythm(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: TryInput): Promise<RhythmTried> {
    return this.trying.run(who, id, input);
  }

  /** Another rhythm from a day on; what was made from then on and nobody touched is made anew. */
  @Post(':id/rhythms')
  @Answers('RhythmChanged')
  @Allow('series.edit')
  changeRhythm(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ChangeRhythm): Promise<RhythmChanged> {
    return this.keeping.changeRhythm(who, id, input);
  }

  /** Removes a rhythm that has not begun. */
  @Post(':id/rhythms/cancel')
  @Answers('SeriesView')
  @HttpCode(200)
  @Allow('series.edit')
  cancelRhythm(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: CancelRhythm): Promise<SeriesView> {
    return this.keeping.cancelRhythm(who, id, input);
  }

  /** Nothing is made from a day on; units ahead that nobody has touched are removed. */
  @Post(':id/stop')
  @Answers('SeriesView')
  @HttpCode(200)
  @Allow('series.edit')
  stop(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: StopSeries): Promise<SeriesView> {
    return this.keeping.stop(who, id, input);
  }

  @Post(':id/resume')
  @Answers('SeriesView')
  @HttpCode(200)
  @Allow('series.edit')
  resume(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ResumeSeries): Promise<SeriesView> {
    return this.keeping.resume(who, id, input);
  }
}
