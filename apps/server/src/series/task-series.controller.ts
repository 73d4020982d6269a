import { Body, Controller, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  ChangeTaskSeries,
  LikeThis,
  PreviewRule,
  RepeatTask,
  ResumeSeries,
  StopSeries,
  type RuleDays,
  type TaskSeriesLine,
  type TaskSeriesView,
} from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepTaskSeries } from './keep-task-series.ts';

@ApiTags('series')
@Controller()
@Allow('task-series.edit')
export class TaskSeriesController {
  private readonly keeping: KeepTaskSeries;
  constructor(keeping: KeepTaskSeries) {
    this.keeping = keeping;
  }

  /** The next days of a rule (RFC 5545) on the agency's calendar. Saves nothing. */
  @Post('rhythms/preview')
  @Answers('RuleDays')
  @HttpCode(200)
  preview(@Caller() who: Who, @Body() input: PreviewRule): Promise<RuleDays> {
    return this.keeping.preview(who, input);
  }

  /** Makes a task repeat: it is the first, the next are created in advance. */
  @Post('tasks/:id/series')
  @Answers('TaskSeriesView')
  repeat(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: RepeatTask): Promise<TaskSeriesView> {
    return this.keeping.repeat(who, id, input);
  }

  /** The tasks that repeat in open engagements, each with when it comes next. */
  @Get('task-series')
  @Answers('TaskSeriesLine', { isList: true })
  list(@Caller() who: Who): Promise<TaskSeriesLine[]> {
    return this.keeping.list(who);
  }

  @Get('task-series/:id')
  @Answers('TaskSeriesView')
  read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<TaskSeriesView> {
    return this.keeping.read(who, id);
  }

  /** Changes how it repeats: another rule from a day on, days left out, days added. */
  @Patch('task-series/:id')
  @Answers('TaskSeriesView')
  change(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ChangeTaskSeries): Promise<TaskSeriesView> {
    return this.keeping.change(who, id, input);
  }

  /** Makes later ones like one of them. */
  @Post('task-series/:id/like')
  @Answers('TaskSeriesView')
  @HttpCode(200)
  likeThis(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: LikeThis): Promise<TaskSeriesView> {
    return this.keeping.likeThis(who, id, input);
  }

  /** Nothing is made from a day on; tasks ahead that nobody has touched are removed. */
  @Post('task-series/:id/stop')
  @Answers('TaskSeriesView')
  @HttpCode(200)
  stop(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: StopSeries): Promise<TaskSeriesView> {
    return this.keeping.stop(who, id, input);
  }

  @Post('task-series/:id/resume')
  @Answers('TaskSeriesView')
  @HttpCode(200)
  resume(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ResumeSeries): Promise<TaskSeriesView> {
    return this.keeping.resume(who, id, input);
  }
}
