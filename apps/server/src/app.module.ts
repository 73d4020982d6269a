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
import { ActivityController } from './activity/activity.controller.ts';
import { PruneHistoryJob } from './activity/prune-history.job.ts';
import { ReadHistory } from './activity/read-history.ts';
import { FoundingController } from './founding/founding.controller.ts';
import { KeepSettings } from './agency/keep-settings.ts';
import { SettingsController } from './agency/settings.controller.ts';
import { FoundAgency } from './agency/found-agency.ts';
import { SessionController } from './account/session.controller.ts';
import { CalendarController } from './calendar/calendar.controller.ts';
import { KeepCalendar } from './calendar/keep-calendar.ts';
import { ClientController } from './client/client.controller.ts';
import { CrewController } from './crew/crew.controller.ts';
import { CrewRepository } from './crew/crew.repository.ts';
import { LookAfterCrew } from './crew/look-after-crew.ts';
import { DeskController } from './desk/desk.controller.ts';
import { PlaceOnDay } from './desk/place-on-day.ts';
import { ReadDesk } from './desk/read-desk.ts';
import { AcceptProposal } from './engagement/accept-proposal.ts';
import { DropEngagement } from './engagement/drop-engagement.ts';
import { EditEngagement } from './engagement/edit-engagement.ts';
import { ClientPageController, EngagementController } from './engagement/engagement.controller.ts';
import { EngagementRepository } from './engagement/engagement.repository.ts';
import { StartEngagement } from './engagement/start-engagement.ts';
import { KeepOwnFields } from './field/keep-own-fields.ts';
import { OwnFieldController } from './field/own-field.controller.ts';
import { FileController } from './file/file.controller.ts';
import { FileStore } from './file/file-store.ts';
import { KeepFiles } from './file/keep-files.ts';
import { SweepFilesJob } from './file/sweep-files.job.ts';
import { GiveWord } from './handoff/give-word.ts';
import { HandoffController } from './handoff/handoff.controller.ts';
import { HandoffRepository } from './handoff/handoff.repository.ts';
import { PassHandoff } from './handoff/pass-handoff.ts';
import { ReadHandoff } from './handoff/read-handoff.ts';
import { JobRunner } from './jobs/job-runner.ts';
import { PlanBehind } from './schedule/plan-behind.ts';
import { RefreshJob } from './jobs/refresh.job.ts';
import { ChangesController } from './live/changes.controller.ts';
import { ChangesFeed } from './live/changes-feed.ts';
import { SignInAttempts } from './account/sign-in-attempts.ts';
import { PruneJob } from './jobs/prune.job.ts';
import { WatchWorkers } from './jobs/watch-workers.ts';
import { Clock } from './platform/clock.ts';
import { CONFIG, type Config } from './platform/config.ts';
import { Drain } from './platform/drain.ts';
import { servingOptions } from './data-source.ts';
import { Database } from './platform/database.ts';
import { ErrorFilter } from './platform/error-filter.ts';
import { HealthController } from './platform/health.controller.ts';
import { ReadBody } from './platform/read-body.ts';
import { Accounts, RightsGuard } from './platform/rights.ts';
import { ThrottleByAccount } from './platform/throttle.ts';
import { ForecastController } from './forecast/forecast.controller.ts';
import { KeepForecast } from './forecast/keep-forecast.ts';
import { LearnController } from './learn/learn.controller.ts';
import { LearnFromRuns } from './learn/learn-from-runs.ts';
import { PlanWeek } from './week-plan/plan-week.ts';
import { WeekPlanController } from './week-plan/week-plan.controller.ts';
import { ChangePlan } from './plan-change/change-plan.ts';
import { Deliverables } from './plan-change/deliverables.ts';
import { KeepBaseline } from './plan-change/keep-baseline.ts';
import { PlanChangeController } from './plan-change/plan-change.controller.ts';
import { UndoChange } from './plan-change/undo-change.ts';
import { KeepSeries } from './series/keep-series.ts';
import { KeepTaskSeries } from './series/keep-task-series.ts';
import { ReadSeries } from './series/read-series.ts';
import { RepeatJob } from './series/repeat.job.ts';
import { SeriesController } from './series/series.controller.ts';
import { SettleUnits } from './series/settle-units.ts';
import { TaskSeriesController } from './series/task-series.controller.ts';
import { TryRhythm } from './series/try-rhythm.ts';
import { ChangeStatus } from './task/change-status.ts';
import { AddTask } from './task/add-task.ts';
import { EditTask } from './task/edit-task.ts';
import { ReadTaskPage } from './task/query/read-task-page.ts';
import { TaskParts } from './task/task-parts.ts';
import { TaskController } from './task/task.controller.ts';
import { TaskRepository } from './task/task.repository.ts';
import { CompareVersions } from './template/compare-versions.ts';
import { CreateTemplate } from './template/create-template.ts';
import { ExchangeTemplate } from './template/exchange-template.ts';
import { KeepTemplate } from './template/keep-template.ts';
import { DryRunTemplate } from './template/dry-run.ts';
import { BringChanges } from './template/bring-changes.ts';
import { OriginController } from './template/origin.controller.ts';
import { GrowTemplate } from './template/grow-template.ts';
import { ReadNews } from './template/read-news.ts';
import { ReadSource } from './template/read-source.ts';
import { SaveBack } from './template/save-back.ts';
import { TakeFromLibrary } from './template/take-from-library.ts';
import { TemplateController } from './template/template.controller.ts';
import { TemplateRepository } from './template/template.repository.ts';
import { KeepTimer } from './time/keep-timer.ts';
import { CloseTimePeriod } from './time/close-time.ts';
import { ExportTime } from './time/export-time.ts';
import { KeepTime } from './time/keep-time.ts';
import { ReadTime } from './time/read-time.ts';
import { TimeController } from './time/time.controller.ts';
import { TimerController } from './time/timer.controller.ts';
import { ChangePlans } from './workload/change-plans.ts';
import { EaseLoad } from './workload/ease-load.ts';
import { KeepLoad } from './workload/keep-load.ts';
import { ReadWorkload } from './workload/read-workload.ts';
import { SuggestAssignees } from './workload/suggest-assignees.ts';
import { TryEngagement } from './workload/try-engagement.ts';
import { WorkloadController } from './workload/workload.controller.ts';

const controllers = [
  ActivityController,
  SettingsController,
  FoundingController,
  SessionController,
  CrewController,
  CalendarController,
  ClientController,
  TemplateController,
  OriginController,
  LearnController,
  EngagementController,
  ClientPageController,
  TaskController,
  OwnFieldController,
  FileController,
  TimerController,
  TimeController,
  PlanChangeController,
  SeriesController,
  TaskSeriesController,
  HandoffController,
  WorkloadController,
  WeekPlanController,
  ForecastController,
  DeskController,
  ChangesController,
  HealthController,
];

const useCases = [
  ReadHistory,
  PruneHistoryJob,
  KeepSettings,
  RefreshJob,
  PruneJob,
  WatchWorkers,
  SignInAttempts,
  PlanBehind,
  JobRunner,
  ChangesFeed,
  FoundAgency,
  LookAfterCrew,
  KeepCalendar,
  StartEngagement,
  AcceptProposal,
  EditEngagement,
  DropEngagement,
  CreateTemplate,
  KeepTemplate,
  CompareVersions,
  ExchangeTemplate,
  SaveBack,
  BringChanges,
  TakeFromLibrary,
  DryRunTemplate,
  GrowTemplate,
  ReadNews,
  ReadSource,
  ChangePlan,
  UndoChange,
  KeepBaseline,
  Deliverables,
  KeepSeries,
  KeepTaskSeries,
  ReadSeries,
  SettleUnits,
  TryRhythm,
  RepeatJob,
  ChangeStatus,
  AddTask,
  EditTask,
  TaskParts,
  ReadTaskPage,
  KeepOwnFields,
  KeepTimer,
  KeepTime,
  ExportTime,
  ReadTime,
  CloseTimePeriod,
  FileStore,
  KeepFiles,
  SweepFilesJob,
  PassHandoff,
  ReadHandoff,
  GiveWord,
  KeepLoad,
  ReadWorkload,
  EaseLoad,
  ChangePlans,
  SuggestAssignees,
  TryEngagement,
  PlanWeek,
  KeepForecast,
  LearnFromRuns,
  ReadDesk,
  PlaceOnDay,
];

const repositories = [AccountRepository, CrewRepository, EngagementRepository, TaskRepository, TemplateRepository, HandoffRepository];

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
      controllers,
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: Database, useFactory: (source: DataSource) => new Database(source), inject: [DataSource] },
        // In this order: who has asked too often, who may, and only then what is asked.
        { provide: APP_GUARD, useClass: ThrottleByAccount },
        { provide: APP_GUARD, useClass: RightsGuard },
        { provide: APP_GUARD, useClass: ReadBody },
        { provide: APP_FILTER, useClass: ErrorFilter },
        { provide: Accounts, useExisting: AccountRepository },
        Clock,
        Drain,
        ...repositories,
        ...useCases,
      ],
    };
  }
}
