import type { Area } from './platform/area.ts';
import { platform } from './platform/platform.module.ts';
import { account } from './account/account.module.ts';
import { agency } from './agency/agency.module.ts';
import { crew } from './crew/crew.module.ts';
import { client } from './client/client.module.ts';
import { calendar } from './calendar/calendar.module.ts';
import { field } from './field/field.module.ts';
import { file } from './file/file.module.ts';
import { activity } from './activity/activity.module.ts';
import { template } from './template/template.module.ts';
import { series } from './series/series.module.ts';
import { engagement } from './engagement/engagement.module.ts';
import { schedule } from './schedule/schedule.module.ts';
import { load } from './load/load.module.ts';
import { task } from './task/task.module.ts';
import { label } from './label/label.module.ts';
import { planChange } from './plan-change/plan-change.module.ts';
import { handoff } from './handoff/handoff.module.ts';
import { time } from './time/time.module.ts';
import { desk } from './desk/desk.module.ts';
import { weekPlan } from './week-plan/week-plan.module.ts';
import { workload } from './workload/workload.module.ts';
import { forecast } from './forecast/forecast.module.ts';
import { learn } from './learn/learn.module.ts';
import { mail } from './mail/mail.module.ts';
import { webhook } from './webhook/webhook.module.ts';
import { notice } from './notice/notice.module.ts';
import { rule } from './rule/rule.module.ts';
import { reminder } from './reminder/reminder.module.ts';
import { invitation } from './invitation/invitation.module.ts';
import { presence } from './presence/presence.module.ts';
import { live } from './live/live.module.ts';
import { jobs } from './jobs/jobs.module.ts';
import { setup } from './setup/setup.module.ts';

/** Every area of the server. */
export const areas: readonly Area[] = [
  platform,
  account,
  agency,
  crew,
  client,
  calendar,
  field,
  file,
  activity,
  template,
  series,
  engagement,
  schedule,
  load,
  task,
  label,
  planChange,
  handoff,
  time,
  desk,
  weekPlan,
  workload,
  forecast,
  learn,
  mail,
  webhook,
  rule,
  notice,
  reminder,
  invitation,
  presence,
  live,
  jobs,
  setup,
];
