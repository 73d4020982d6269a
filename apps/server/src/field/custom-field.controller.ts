import { Body, Controller, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { AddCustomField, EditCustomField, type Made, type CustomField } from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepCustomFields } from './keep-custom-fields.ts';

@ApiTags('custom fields')
@Controller('custom-fields')
export class CustomFieldController {
  private readonly keeping: KeepCustomFields;
  constructor(keeping: KeepCustomFields) {
    this.keeping = keeping;
  }

  /** The agency's custom fields, those in use first. */
  @Get()
  @Answers('CustomField', { isList: true })
  @Allow('field.read')
  list(@Caller() who: Who): Promise<CustomField[]> {
    return this.keeping.list(who);
  }

  @Post()
  @Answers('Made')
  @Allow('field.edit')
  async add(@Caller() who: Who, @Body() input: AddCustomField): Promise<Made> {
    return { id: await this.keeping.add(who, input) };
  }

  @Patch(':id')
  @HttpCode(204)
  @Allow('field.edit')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditCustomField): Promise<void> {
    return this.keeping.edit(who, id, input);
  }
}
