import type { Area } from './area.ts';
import { HealthController } from './health.controller.ts';
import { IdempotencyKey } from './idempotency-key.entity.ts';

export const platform: Area = {
  controllers: [HealthController],
  entities: [IdempotencyKey],
};
