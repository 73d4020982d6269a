import type { Area } from '../platform/area.ts';
import { ClientController, ContactController } from './client.controller.ts';
import { Client, Contact, ContactClient } from './client.entity.ts';
import { ClientRepository } from './client.repository.ts';
import { LookAfterClients } from './look-after-clients.ts';

export const client: Area = {
  controllers: [ClientController, ContactController],
  providers: [ClientRepository, LookAfterClients],
  entities: [Client, Contact, ContactClient],
};
