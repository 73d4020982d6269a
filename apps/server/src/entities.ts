import { Account } from './account/account.entity.ts';
import { SignInAttempt } from './account/sign-in-attempt.entity.ts';
import { WorkerHeartbeat } from './jobs/worker-heartbeat.entity.ts';
import { IdempotencyKey } from './platform/idempotency-key.entity.ts';
import { KeptForecast } from './forecast/forecast.entity.ts';
import { DeskPlace } from './desk/desk-place.entity.ts';
import { Agency, ClosedDay } from './agency/agency.entity.ts';
import { Client, Contact } from './client/client.entity.ts';
import { Person, PersonRole, Role, TimeOff } from './crew/crew.entity.ts';
import { Deliverable, Engagement, EngagementRole, EngagementSummary, Phase } from './engagement/engagement.entity.ts';
import { Event } from './activity/event.entity.ts';
import { OwnField } from './field/own-field.entity.ts';
import { StoredFile, TaskFile, TemplateTaskFile } from './file/file.entity.ts';
import { GateCheck, Handoff } from './handoff/handoff.entity.ts';
import { EngagementSeries, SeriesRhythm } from './series/engagement-series.entity.ts';
import { TaskSeries } from './series/task-series.entity.ts';
import { Step, Task, TaskAssignee, TaskLink } from './task/task.entity.ts';
import {
  Template,
  TemplateCheck,
  TemplateLink,
  TemplatePhase,
  TemplateStep,
  TemplateTask,
  TemplateVersion,
  TemplateWay,
} from './template/template.entity.ts';
import { Timer } from './time/timer.entity.ts';
import { TimeEntry } from './time/time-entry.entity.ts';

/** Every table the product owns. */
export const entities = [
  Agency,
  ClosedDay,
  Role,
  Person,
  PersonRole,
  TimeOff,
  Client,
  Contact,
  Account,
  SignInAttempt,
  WorkerHeartbeat,
  IdempotencyKey,
  Template,
  TemplatePhase,
  TemplateTask,
  TemplateStep,
  TemplateLink,
  TemplateCheck,
  TemplateWay,
  TemplateVersion,
  EngagementSeries,
  SeriesRhythm,
  Engagement,
  EngagementRole,
  Deliverable,
  Phase,
  EngagementSummary,
  TaskSeries,
  Task,
  TaskAssignee,
  Step,
  TaskLink,
  OwnField,
  StoredFile,
  TaskFile,
  TemplateTaskFile,
  TimeEntry,
  Timer,
  DeskPlace,
  KeptForecast,
  Handoff,
  GateCheck,
  Event,
];
