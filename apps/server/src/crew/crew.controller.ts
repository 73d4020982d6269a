import { Body, Controller, Get, Param, Patch } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EditPerson, type Crew, type CrewMember, type PersonEdited } from '@crew/contract';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { CrewRepository } from './crew.repository.ts';
import { LookAfterCrew } from './look-after-crew.ts';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('crew')
@Controller('crew')
export class CrewController {
  private readonly crew: CrewRepository;
  private readonly lookingAfter: LookAfterCrew;
  constructor(crew: CrewRepository, lookingAfter: LookAfterCrew) {
    this.crew = crew;
    this.lookingAfter = lookingAfter;
  }

  /** The agency's people and roles. */
  @Get()
  @Answers('Crew')
  @Allow('crew.read')
  read(@Caller() who: Who): Promise<Crew> {
    return this.crew.read(who.agencyId);
  }

  /** Everybody with how they sign in and what they still have to do for that; those who left last. */
  @Get('members')
  @Answers('CrewMember', { isList: true })
  @Allow('crew.edit')
  listMembers(@Caller() who: Who): Promise<CrewMember[]> {
    return this.crew.listMembers(who.agencyId);
  }

  /** Changes the fields given. 409 with `details.current` when the version is stale. */
  @Patch(':id')
  @Answers('PersonEdited')
  @Allow('crew.edit')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditPerson): Promise<PersonEdited> {
    return this.lookingAfter.edit(who, id, input);
  }
}
