import type { Area } from '../platform/area.ts';
import { FoundingController } from './founding.controller.ts';

export const founding: Area = {
  controllers: [FoundingController],
};
