import { join } from 'node:path';
import { Module, type DynamicModule } from '@nestjs/common';
import { APP_FILTER, APP_GUARD } from '@nestjs/core';
import { MulterModule } from '@nestjs/platform-express';
import { TerminusModule } from '@nestjs/terminus';
import { ThrottlerModule } from '@nestjs/throttler';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LoggerModule } from 'nestjs-pino';
import { DataSource } from 'typeorm';
import { AccountRepository } from './account/account.repository.ts';
import { IncomingMailGuard } from './mail/incoming-mail.guard.ts';
import { Clock } from './platform/clock.ts';
import { CONFIG, type Config } from './platform/config.ts';
import { Drain } from './platform/drain.ts';
import { servingOptions } from './data-source.ts';
import { Database } from './platform/database.ts';
import { ErrorFilter } from './platform/error-filter.ts';
import { ReadBody } from './platform/read-body.ts';
import { Accounts, RightsGuard } from './platform/rights.ts';
import { RunCommand } from './platform/run-command.ts';
import { Seal } from './platform/seal.ts';
import { ThrottleByAccount } from './platform/throttle.ts';
import { areas } from './areas.ts';
import { AREA_COMMANDS, AREA_FOLLOWERS, AREA_JOBS, AREA_UNDOING } from './platform/area.ts';

/** The whole server. */
@Module({})
export class AppModule {
  static with(config: Config): DynamicModule {
    return {
      module: AppModule,
      imports: [
        TypeOrmModule.forRoot(servingOptions(config.databaseUrl)),
        ThrottlerModule.forRoot([{ limit: config.requestsPerMinute, ttl: 60_000 }]),
        MulterModule.register({ dest: join(config.filesRoot, 'incoming') }),
        // An outage is said once, by the filter of errors.
        TerminusModule.forRoot({ logger: false }),
        LoggerModule.forRoot({
          pinoHttp: {
            level: config.isQuiet ? 'error' : 'info',
            autoLogging: false,
            redact: ['req.headers.cookie', 'req.headers.authorization'],
          },
        }),
      ],
      controllers: areas.flatMap((area) => area.controllers ?? []),
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: Database, useFactory: (source: DataSource) => new Database(source), inject: [DataSource] },
        // In this order: who has asked too often, who may, and only then what is asked.
        { provide: APP_GUARD, useClass: ThrottleByAccount },
        { provide: APP_GUARD, useClass: RightsGuard },
        { provide: APP_GUARD, useClass: IncomingMailGuard },
        { provide: APP_GUARD, useClass: ReadBody },
        { provide: APP_FILTER, useClass: ErrorFilter },
        { provide: Accounts, useExisting: AccountRepository },
        Clock,
        Drain,
        Seal,
        RunCommand,
        { provide: AREA_COMMANDS, useValue: areas.flatMap((area) => area.commands ?? []) },
        { provide: AREA_FOLLOWERS, useValue: areas.flatMap((area) => area.followers ?? []) },
        { provide: AREA_UNDOING, useValue: areas.flatMap((area) => area.undoing ?? []) },
        { provide: AREA_JOBS, useValue: areas.flatMap((area) => area.jobs ?? []) },
        ...areas.flatMap((area) => area.providers ?? []),
      ],
    };
  }
}
