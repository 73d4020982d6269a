import type { Area } from '../platform/area.ts';
import { KeepCustomFields } from './keep-custom-fields.ts';
import { CustomFieldController } from './custom-field.controller.ts';
import { CustomField } from './custom-field.entity.ts';

export const field: Area = {
  controllers: [CustomFieldController],
  providers: [KeepCustomFields],
  entities: [CustomField],
};
