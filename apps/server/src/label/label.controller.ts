import { Body, Controller, Get, Patch } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EditLabel, type LabelLine, type ListChanged } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepLabels } from './keep-labels.ts';

@ApiTags('labels')
@Controller('labels')
export class LabelController {
  private readonly keeping: KeepLabels;
  constructor(keeping: KeepLabels) {
    this.keeping = keeping;
  }

  /** The labels in use by name, with how many tasks carry each. */
  @Get()
  @Answers('LabelLine', { isList: true })
  @Allow('label.read')
  list(@Caller() who: Who): Promise<LabelLine[]> {
    return this.keeping.list(who);
  }

  /** Renames a label on all tasks, merges it into another, or with `to: null` removes it from them. */
  @Patch()
  @Answers('ListChanged')
  @Allow('label.edit')
  edit(@Caller() who: Who, @Body() input: EditLabel): Promise<ListChanged> {
    return this.keeping.edit(who, input);
  }
}
