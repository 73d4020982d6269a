import type { Area } from '../platform/area.ts';
import { ClientController } from './client.controller.ts';
import { Client, Contact } from './client.entity.ts';

export const client: Area = {
  controllers: [ClientController],
  entities: [Client, Contact],
};
