import { Body, Controller, Get, Patch } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EditSettings, type AgencySettings } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepSettings } from './keep-settings.ts';

@ApiTags('agency')
@Controller('settings')
export class SettingsController {
  private readonly settings: KeepSettings;
  constructor(settings: KeepSettings) {
    this.settings = settings;
  }

  @Get()
  @Answers('AgencySettings')
  @Allow('agency.read-settings')
  read(@Caller() who: Who): Promise<AgencySettings> {
    return this.settings.read(who);
  }

  /**
   * How long history is kept: 3 months to 10 years; older history of what is over goes the next night. And after how
   * many working hours whoever holds a handoff is reminded of it, and then the lead. What is left out stays.
   */
  @Patch()
  @Answers('AgencySettings')
  @Allow('agency.edit-settings')
  edit(@Caller() who: Who, @Body() input: EditSettings): Promise<AgencySettings> {
    return this.settings.edit(who, input);
  }
}
