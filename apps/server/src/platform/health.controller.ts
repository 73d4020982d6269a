import { Controller, Get } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { HealthCheck, HealthCheckService, TypeOrmHealthIndicator, type HealthCheckResult } from '@nestjs/terminus';
import { Open } from './rights.ts';

@ApiTags('health')
@Controller('health')
export class HealthController {
  private readonly health: HealthCheckService;
  private readonly database: TypeOrmHealthIndicator;
  constructor(health: HealthCheckService, database: TypeOrmHealthIndicator) {
    this.health = health;
    this.database = database;
  }

  /** Whether the server and its database answer. */
  @Get()
  @Open()
  @HealthCheck()
  check(): Promise<HealthCheckResult> {
    return this.health.check([() => this.database.pingCheck('database')]);
  }
}
