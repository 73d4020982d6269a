import { Injectable } from '@nestjs/common';
import { waits, type CalendarInput, type LocalTime, type PersonInput } from '@crew/core';
import type { EventPayloads, HandoffState } from '@crew/contract';
import { record } from '../activity/record.ts';
import type { JobActor } from '../platform/actor.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, rowsOf } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { calendarOf, standInFor, timeOffOf } from '../platform/sql-words.ts';

const REMINDING: JobActor = { job: 'remind' };

type Step = EventPayloads['reminded']['step'];
interface Somebody {
  readonly id: string;
  readonly name: string;
}

/** A handoff that is with somebody, and who has been told of that since it came to them. */
interface Held {
  readonly id: string;
  readonly version: number;
  readonly state: HandoffState;
  readonly engagementId: string;
  readonly since: LocalTime;
  readonly until: LocalTime;
  readonly calendar: CalendarInput;
  readonly holder: Somebody & PersonInput;
  readonly lead: Somebody;
  readonly remindHours: number;
  readonly remindLeadHours: number;
  readonly told: readonly string[];
}

/** Who has what since when, on the agency's own clock ($1 its zone, $2 now). */
const local = (instant: string): string => `to_char(${instant} AT TIME ZONE $1, 'YYYY-MM-DD"T"HH24:MI')`;

const HELD = `
  SELECT h.id, h.version, h.state, h.engagement_id AS "engagementId", ${local('h.since')} AS since, ${local('$2::timestamptz')} AS until,
    ${calendarOf('g')} AS calendar, json_build_object('id', w.id, 'name', w.name, 'week', w.week, 'off', ${timeOffOf('w', 'o.to_day >= h.since::date')}) AS holder,
    json_build_object('id', l.id, 'name', l.name) AS lead, g.remind_hours AS "remindHours", g.remind_lead_hours AS "remindLeadHours",
    ARRAY(SELECT v.payload->>'step' || ' ' || (v.payload->>'personId') FROM event v WHERE v.subject_id = h.id AND v.kind = 'reminded' AND v.at >= h.since) AS told
  FROM handoff h JOIN engagement e ON e.id = h.engagement_id AND e.state IN ('open', 'proposal') JOIN agency g ON g.id = e.agency_id
  JOIN LATERAL (SELECT CASE h.state WHEN 'handed-off' THEN h.receiver_id ELSE h.giver_id END AS id) named ON true
  JOIN person w ON w.id = coalesce(${standInFor('named.id', { otherwise: 'e.lead_id', day: '($2::timestamptz AT TIME ZONE $1)::date' })}, named.id)
  JOIN person l ON l.id = e.lead_id
  WHERE h.state IN ('handed-off', 'sent-back') AND h.since <= $2
  ORDER BY h.engagement_id, h.id`;

/**
 * Nothing gets stuck: whoever has held a handoff for so many of their own working hours is reminded once,
 * then the lead. While somebody is away, their stand-in holds what they have. It can run as often as it
 * likes; who was told since the handoff came to them is not told again.
 */
@Injectable()
export class RemindJob {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(): Promise<void> {
    const held = await this.database.rows<Held>(HELD, [this.clock.zone, this.clock.now()]);
    for (const one of held) {
      const minutes = minutesHeld(one);
      const due = minutes === null ? [] : stepsDue(one, minutes);
      if (due.length > 0 && minutes !== null) await this.remind(one, due, minutes);
    }
  }

  private remind(held: Held, steps: readonly Step[], minutes: number): Promise<void> {
    return this.database.transaction(async (manager) => {
      // Somebody may have picked it up, or another process may have reminded them, a moment ago.
      const isStill = await affectedRows(manager, 'SELECT 1 FROM handoff WHERE id = $1 AND version = $2 FOR NO KEY UPDATE', [
        held.id,
        held.version,
      ]);
      const [now] =
        isStill === 0
          ? []
          : await rowsOf<Held>(manager, `SELECT * FROM (${HELD}) held WHERE id = $3`, [this.clock.zone, this.clock.now(), held.id]);
      if (now === undefined) return;
      await record(
        manager,
        { actor: REMINDING, at: this.clock.now() },
        stepsDue(now, minutes)
          .filter((step) => steps.includes(step))
          .map((step) => {
            const { id: personId, name } = step === 'holder' ? now.holder : now.lead;
            const payload = { personId, name, step, holder: now.holder.name, minutes };
            return { kind: 'reminded', engagementId: now.engagementId, subject: 'handoff', subjectId: now.id, payload } as const;
          }),
      );
    });
  }
}

/** In the holder's own working minutes; null for somebody who does not work. */
function minutesHeld({ calendar, holder, since, until }: Held): number | null {
  const held = unwrap(waits({ calendar, person: holder, from: since, to: until }));
  return 'minutes' in held ? held.minutes : null;
}

/** Who is to be told now; a lead who holds it was told as its holder. */
function stepsDue({ holder, lead, remindHours, remindLeadHours, told }: Held, minutes: number): Step[] {
  const isDue = (step: Step, hours: number, { id }: Somebody): boolean =>
    hours > 0 && minutes >= hours * 60 && !told.includes(`${step} ${id}`);
  return [
    ...(isDue('holder', remindHours, holder) ? ['holder' as const] : []),
    ...(lead.id !== holder.id && isDue('lead', remindLeadHours, lead) ? ['lead' as const] : []),
  ];
}
