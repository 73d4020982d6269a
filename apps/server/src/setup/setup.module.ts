import type { Area } from '../platform/area.ts';
import { AddStarters } from './add-starters.ts';
import { AgencyController } from './agency.controller.ts';
import { ReadSetup } from './read-setup.ts';
import { SetupController } from './setup.controller.ts';

export const setup: Area = {
  controllers: [AgencyController, SetupController],
  providers: [AddStarters, ReadSetup],
};
