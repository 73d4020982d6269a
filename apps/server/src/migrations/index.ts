import { Foundation1764000000001 } from './0001-foundation.ts';
import { Behind1764000000002 } from './0002-behind.ts';
import { Crew1764000000003 } from './0003-crew.ts';
import { Progress1764000000004 } from './0004-progress.ts';
import { Plan1764000000005 } from './0005-plan.ts';
import { Shape1764000000006 } from './0006-shape.ts';
import { Origin1764000000007 } from './0007-origin.ts';
import { OwnFieldsAndFiles1764000000008 } from './0008-own-fields-and-files.ts';
import { PhasesUndone1764000000009 } from './0009-phases-undone.ts';
import { Timer1764000000010 } from './0010-timer.ts';
import { JointChanges1764000000011 } from './0011-joint-changes.ts';
import { Time1764000000012 } from './0012-time.ts';
import { Week1764000000013 } from './0013-week.ts';
import { Forecast1764000000014 } from './0014-forecast.ts';
import { Series1764000000015 } from './0015-series.ts';
import { Taken1764000000016 } from './0016-taken.ts';
import { Joined1764000000017 } from './0017-joined.ts';
import { RequestsAndWorkers1764000000018 } from './0018-requests-and-workers.ts';
import { Activity1764000000019 } from './0019-activity.ts';
import { Names1764000000020 } from './0020-names.ts';
import { Steer1764000000021 } from './0021-steer.ts';
import { Endings1764000000022 } from './0022-endings.ts';
import { LargeReads1764000000023 } from './0023-large-reads.ts';
import { Contacts1764000000024 } from './0024-contacts.ts';
import { HelpingPeople1764000000025 } from './0025-helping-people.ts';
import { Notices1764000000026 } from './0026-notices.ts';
import { Rules1764000000027 } from './0027-rules.ts';
import { Mail1764000000028 } from './0028-mail.ts';
import { Webhooks1764000000029 } from './0029-webhooks.ts';
import { Presence1764000000030 } from './0030-presence.ts';
import { Reminders1764000000031 } from './0031-reminders.ts';
import { Access1764000000032 } from './0032-access.ts';
import { AgencyProfile1764000000033 } from './0033-agency-profile.ts';
import { ClosedHints1764000000034 } from './0034-closed-hints.ts';
import { CustomFields1764000000035 } from './0035-custom-fields.ts';
import { AgencyLogo1764000000036 } from './0036-agency-logo.ts';

/** In the order they run. */
export const migrations = [
  Foundation1764000000001,
  Behind1764000000002,
  Crew1764000000003,
  Progress1764000000004,
  Plan1764000000005,
  Shape1764000000006,
  Origin1764000000007,
  OwnFieldsAndFiles1764000000008,
  PhasesUndone1764000000009,
  Timer1764000000010,
  JointChanges1764000000011,
  Time1764000000012,
  Week1764000000013,
  Forecast1764000000014,
  Series1764000000015,
  Taken1764000000016,
  Joined1764000000017,
  RequestsAndWorkers1764000000018,
  Activity1764000000019,
  Names1764000000020,
  Steer1764000000021,
  Endings1764000000022,
  LargeReads1764000000023,
  Contacts1764000000024,
  HelpingPeople1764000000025,
  Notices1764000000026,
  Rules1764000000027,
  Mail1764000000028,
  Webhooks1764000000029,
  Presence1764000000030,
  Reminders1764000000031,
  Access1764000000032,
  AgencyProfile1764000000033,
  ClosedHints1764000000034,
  CustomFields1764000000035,
  AgencyLogo1764000000036,
];
