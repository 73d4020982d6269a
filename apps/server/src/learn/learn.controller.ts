import { Body, Controller, Get, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { AcceptLearned, type LearnedTemplate, type TemplateContentView } from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { LearnFromRuns } from './learn-from-runs.ts';

@ApiTags('templates')
@Controller('templates/:id/learned')
export class LearnController {
  private readonly learning: LearnFromRuns;
  constructor(learning: LearnFromRuns) {
    this.learning = learning;
  }

  /** What each task really took over past runs, with the runs behind the numbers and what is worth changing. */
  @Get()
  @Answers('LearnedTemplate')
  @Allow('learn.read')
  read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<LearnedTemplate> {
    return this.learning.read(who, id);
  }

  /** Applies the proposals named to the template, as its next version. 409 with `details.current` when it was changed meanwhile. */
  @Post()
  @Answers('TemplateContentView')
  @Allow('learn.apply')
  accept(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AcceptLearned): Promise<TemplateContentView> {
    return this.learning.accept(who, id, input);
  }
}
