import { Body, Controller, Get, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { AddStarters as AddStartersInput, type SetupState, type StartersAdded, type StarterTrade } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { AddStarters } from './add-starters.ts';
import { ReadSetup } from './read-setup.ts';

/** The steps of setting up an agency after it is there; each can be taken again later. */
@ApiTags('agency')
@Controller()
export class SetupController {
  private readonly setup: ReadSetup;
  private readonly starters: AddStarters;
  constructor(setup: ReadSetup, starters: AddStarters) {
    this.setup = setup;
    this.starters = starters;
  }

  /** Which steps are done, read from what there is. */
  @Get('setup')
  @Answers('SetupState')
  @Allow('agency.edit-settings')
  readSetup(@Caller() who: Who): Promise<SetupState> {
    return this.setup.run(who);
  }

  /** The starter templates, by kind of agency. */
  @Get('starters')
  @Answers('StarterTrade', { isList: true })
  @Allow('template.read')
  listStarters(@Caller() who: Who): Promise<StarterTrade[]> {
    return this.starters.list(who);
  }

  /** Adds starter templates to the library, and the roles they name; a template whose name is there already is left out. */
  @Post('starters')
  @Answers('StartersAdded')
  @Allow('template.edit')
  addStarters(@Caller() who: Who, @Body() input: AddStartersInput): Promise<StartersAdded> {
    return this.starters.run(who, input.templates);
  }
}
