import { Body, Controller, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { AddOwnField, EditOwnField, type Made, type OwnField } from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepOwnFields } from './keep-own-fields.ts';

@ApiTags('own fields')
@Controller('own-fields')
export class OwnFieldController {
  private readonly keeping: KeepOwnFields;
  constructor(keeping: KeepOwnFields) {
    this.keeping = keeping;
  }

  /** The agency's own fields, those in use first. */
  @Get()
  @Answers('OwnField', { isList: true })
  @Allow('field.read')
  list(@Caller() who: Who): Promise<OwnField[]> {
    return this.keeping.list(who);
  }

  @Post()
  @Answers('Made')
  @Allow('field.edit')
  async add(@Caller() who: Who, @Body() input: AddOwnField): Promise<Made> {
    return { id: await this.keeping.add(who, input) };
  }

  @Patch(':id')
  @HttpCode(204)
  @Allow('field.edit')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditOwnField): Promise<void> {
    return this.keeping.edit(who, id, input);
  }
}
