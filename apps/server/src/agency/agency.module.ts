import type { Area } from '../platform/area.ts';
import { Agency, ClosedDay } from './agency.entity.ts';
import { FollowZone } from './follow-zone.ts';
import { CreateAgency } from './create-agency.ts';
import { KeepSettings } from './keep-settings.ts';
import { SettingsController } from './settings.controller.ts';

export const agency: Area = {
  controllers: [SettingsController],
  providers: [KeepSettings, CreateAgency, FollowZone],
  entities: [Agency, ClosedDay],
};
