import { Body, Controller, Delete, Get, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { KeepRole, type ListChanged, type RoleLine } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { PathId } from '../platform/query-pipes.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepRoles } from './keep-roles.ts';

@ApiTags('crew')
@Controller('roles')
@Allow('role.edit')
export class RoleController {
  private readonly keeping: KeepRoles;
  constructor(keeping: KeepRoles) {
    this.keeping = keeping;
  }

  /** The agency's roles by name, with where each is used. */
  @Get()
  @Answers('RoleLine', { isList: true })
  list(@Caller() who: Who): Promise<RoleLine[]> {
    return this.keeping.list(who);
  }

  @Post()
  @Answers('ListChanged')
  add(@Caller() who: Who, @Body() input: KeepRole): Promise<ListChanged> {
    return this.keeping.add(who, input);
  }

  /** People, tasks, templates and rules keep the role under its new name. */
  @Patch(':id')
  @Answers('ListChanged')
  rename(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: KeepRole): Promise<ListChanged> {
    return this.keeping.rename(who, id, input);
  }

  /** 409 `still-used` while anything names it. */
  @Delete(':id')
  @Answers('ListChanged')
  delete(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ListChanged> {
    return this.keeping.delete(who, id);
  }
}
