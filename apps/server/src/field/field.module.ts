import type { Area } from '../platform/area.ts';
import { KeepOwnFields } from './keep-own-fields.ts';
import { OwnFieldController } from './own-field.controller.ts';
import { OwnField } from './own-field.entity.ts';

export const field: Area = {
  controllers: [OwnFieldController],
  providers: [KeepOwnFields],
  entities: [OwnField],
};
