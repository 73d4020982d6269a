import { Body, Controller, Get, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  AddClient,
  AddContact,
  EditClient,
  EditContact,
  type ClientEdited,
  type ClientSheet,
  type ClientSummary,
  type ContactEdited,
  type ContactView,
  type Made,
} from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { requireFound } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { ClientRepository } from './client.repository.ts';
import { LookAfterClients } from './look-after-clients.ts';

@ApiTags('clients')
@Controller('clients')
export class ClientController {
  private readonly clients: ClientRepository;
  private readonly lookingAfter: LookAfterClients;
  constructor(clients: ClientRepository, lookingAfter: LookAfterClients) {
    this.clients = clients;
    this.lookingAfter = lookingAfter;
  }

  /** Clients with their contacts; our agency last. */
  @Get()
  @Answers('ClientSummary', { isList: true })
  @Allow('client.read')
  list(@Caller() who: Who): Promise<ClientSummary[]> {
    return this.clients.list(who);
  }

  /** A new client; without a hue it takes the one used least. */
  @Post()
  @Answers('Made')
  @Allow('client.edit')
  add(@Caller() who: Who, @Body() input: AddClient): Promise<Made> {
    return this.lookingAfter.add(who, input);
  }

  /** A client with its contacts and engagements. */
  @Get(':id')
  @Answers('ClientSheet')
  @Allow('client.read')
  async read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ClientSheet> {
    return requireFound(await this.clients.find(who, id), 'client');
  }

  /** Changes the fields given. 409 with `details.current` when the version is stale. */
  @Patch(':id')
  @Answers('ClientEdited')
  @Allow('client.edit')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditClient): Promise<ClientEdited> {
    return this.lookingAfter.edit(who, id, input);
  }

  /** A new contact of a client. */
  @Post(':id/contacts')
  @Answers('ContactView')
  @Allow('client.edit')
  addContact(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AddContact): Promise<ContactView> {
    return this.lookingAfter.addContact(who, id, input);
  }
}

@ApiTags('clients')
@Controller('contacts')
export class ContactController {
  private readonly lookingAfter: LookAfterClients;
  constructor(lookingAfter: LookAfterClients) {
    this.lookingAfter = lookingAfter;
  }

  /** Changes the fields given. 409 with `details.current` when the version is stale. */
  @Patch(':id')
  @Answers('ContactEdited')
  @Allow('client.edit')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditContact): Promise<ContactEdited> {
    return this.lookingAfter.editContact(who, id, input);
  }
}
