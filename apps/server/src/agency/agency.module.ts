import type { Area } from '../platform/area.ts';
import { Agency, AgencyLogo, ClosedDay } from './agency.entity.ts';
import { FollowZone } from './follow-zone.ts';
import { CreateAgency } from './create-agency.ts';
import { KeepLogo } from './keep-logo.ts';
import { KeepSettings } from './keep-settings.ts';
import { LogoController } from './logo.controller.ts';
import { SettingsController } from './settings.controller.ts';

export const agency: Area = {
  controllers: [SettingsController, LogoController],
  providers: [KeepSettings, KeepLogo, CreateAgency, FollowZone],
  entities: [Agency, AgencyLogo, ClosedDay],
};
