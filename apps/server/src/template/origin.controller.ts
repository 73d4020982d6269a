import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  BringNews,
  SaveBack as SaveBackInput,
  AddFromLibrary as TakeInput,
  type PlanChanged,
  type PlanEffect,
  type SavedBack,
  type TemplateNews,
} from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { BringChanges } from './bring-changes.ts';
import { SaveBack } from './save-back.ts';
import { AddFromLibrary } from './add-from-library.ts';

/** Between an engagement and the library: what is new in its template, what is taken from others, and what is worth keeping of it. */
@ApiTags('templates')
@Controller('engagements/:id')
export class OriginController {
  private readonly bringing: BringChanges;
  private readonly saving: SaveBack;
  private readonly taking: AddFromLibrary;
  constructor(bringing: BringChanges, saving: SaveBack, taking: AddFromLibrary) {
    this.bringing = bringing;
    this.saving = saving;
    this.taking = taking;
  }

  /** Template updates since the engagement began. */
  @Get('template-news')
  @Answers('TemplateNews')
  @Allow('engagement.open')
  news(@Caller() who: Who, @Param('id', PathId) id: string): Promise<TemplateNews> {
    return this.bringing.read(who, id);
  }

  /** Brings chosen changes of the template in, all or none. */
  @Post('template-news')
  @Answers('PlanChanged')
  @Allow('engagement.edit')
  bring(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: BringNews): Promise<PlanChanged> {
    return this.bringing.run(who, id, input.ids);
  }

  /** What bringing chosen changes in would move, clash with and overload. Saves nothing. */
  @Post('template-news/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('engagement.edit')
  preview(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: BringNews): Promise<PlanEffect> {
    return this.bringing.preview(who, id, input.ids);
  }

  /** Takes phases of a template, or a kept task, into the engagement, with all they preset. */
  @Post('from-library')
  @Answers('PlanChanged')
  @Allow('engagement.edit')
  take(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: TakeInput): Promise<PlanChanged> {
    return this.taking.run(who, id, input);
  }

  /** What taking it would move, clash with and overload. Saves nothing. */
  @Post('from-library/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('engagement.edit')
  previewTaking(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: TakeInput): Promise<PlanEffect> {
    return this.taking.preview(who, id, input);
  }

  /** Turns the engagement, one of its phases or one of its tasks into a template. */
  @Post('template')
  @Answers('SavedBack')
  @Allow('template.edit')
  saveBack(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: SaveBackInput): Promise<SavedBack> {
    return this.saving.run(who, id, input);
  }
}
