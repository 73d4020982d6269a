import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { daysBetween, type IsoDay } from '@crew/core';
import {
  of,
  type AddTimeOff,
  type TaskInTimeOff,
  type TimeOffAdded,
  type TimeOffFile,
  type TimeOffRemoved,
  type TimeOffSpan,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record, type NewEvent } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';
import { readInWorker } from './read-in-worker.ts';

const IN_TIME_OFF = `
  SELECT t.id, t.number, t.title, t.start_day AS start, t.due_day AS due, json_build_object('id', e.id, 'name', e.name) AS engagement
  FROM task_assignee a JOIN task t ON t.id = a.task_id JOIN engagement e ON e.id = t.engagement_id AND e.state IN ('proposal', 'open')
  WHERE a.person_id = $1 AND a.is_open AND NOT t.is_group AND EXISTS (
    SELECT 1 FROM jsonb_to_recordset($2) AS v("from" date, "to" date) WHERE t.start_day <= v."to" AND t.due_day >= v."from")
  ORDER BY t.start_day, t.number`;

const SPAN = `json_build_object('id', o.id, 'from', o.from_day, 'to', o.to_day, 'minutes', o.minutes, 'note', o.note, 'fileKey', o.file_key)`;

/** Time off of person $1 that came from entries $2 of a calendar file, or from one of the events $3. */
const FROM_FILE = `
  SELECT ${SPAN} AS span FROM time_off o
  WHERE o.person_id = $1 AND (o.file_key = ANY($2::text[]) OR EXISTS (SELECT 1 FROM unnest($3::text[]) AS u(uid) WHERE o.file_key = u.uid OR starts_with(o.file_key, u.uid || ' ')))
  ORDER BY o.from_day, o.id`;

const INSERT = `
  INSERT INTO time_off (id, person_id, from_day, to_day, minutes, note, file_key)
  SELECT v.id, $1, v."from", v."to", v.minutes, coalesce(v.note, ''), v."fileKey"
  FROM jsonb_to_recordset($2) AS v(id uuid, "from" date, "to" date, minutes int, note text, "fileKey" text)
  ON CONFLICT (id) DO NOTHING RETURNING id`;

const MOST_DAYS_OFF = 400;

/** What a change takes away of somebody's time off, and what it adds. */
export interface TimeOffChange {
  readonly personId: string;
  readonly removed: readonly TimeOffSpan[];
  readonly added: readonly TimeOffSpan[];
}

/** When people are away: by hand or from a calendar file. Everybody may enter their own, leads everybody's. */
@Injectable()
export class KeepTimeOff {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Answers the open work that falls in it. */
  add(who: Who, personId: string, input: AddTimeOff): Promise<TimeOffAdded> {
    const { from, to, minutes = null } = input;
    const span = { id: randomUUID(), from, to, minutes, note: input.note?.trim() ?? '', fileKey: null };
    return this.database.transaction(async (manager) => {
      await requireOwnOrLead(manager, who, personId);
      refuseOddSpan(span);
      return this.keep(manager, who, { personId, removed: [], added: [span] });
    });
  }

  /**
   * Imports the absences of a calendar file; with `isTrial` it only previews them. Absences imported
   * from it before are recognised: they are moved, removed or left as they are.
   */
  async import(who: Who, personId: string, { text, isTrial }: { readonly text: string; readonly isTrial: boolean }): Promise<TimeOffFile> {
    await requireOwnOrLead(this.database.manager, who, personId);
    const { spans, calledOff, ...told } = await readInWorker(text, { today: this.clock.today(), zone: this.clock.zone });
    for (const span of spans) refuseOddSpan(span);
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const keys = spans.map(({ key }) => key);
      const before = (await rowsOf<{ span: TimeOffSpan }>(manager, FROM_FILE, [personId, keys, calledOff])).map(({ span }) => span);
      const there = new Map(before.map((span) => [span.fileKey, span]));
      const added = spans
        .filter((span) => !isSame(there.get(span.key), span))
        .map(({ key, ...span }): TimeOffSpan => ({ ...span, id: randomUUID(), fileKey: key }));
      const again = new Set([
        ...added.map(({ fileKey }) => fileKey),
        ...before.map(({ fileKey }) => fileKey).filter((key) => !keys.includes(key ?? '')),
      ]);
      const change = { personId, added, removed: before.filter(({ fileKey }) => again.has(fileKey)) };
      const kept = isTrial ? { ids: [], tasks: [], changeId: null } : await this.keep(manager, who, change);
      return {
        ...{
          days: [],
          spans: added.map(({ from, to, minutes, note }) => ({ from, to, minutes, note })),
          unchanged: spans.length - added.length,
        },
        removed: change.removed
          .filter(({ fileKey }) => !added.some((span) => span.fileKey === fileKey))
          .map(({ from, to, note }) => ({ from, to, note })),
        ...{ ...told, isKept: !isTrial, ...kept },
      };
    });
  }

  remove(who: Who, id: string): Promise<TimeOffRemoved> {
    return this.database.transaction(async (manager) => {
      const sql = `SELECT o.person_id AS "personId", ${SPAN} AS span FROM time_off o JOIN person p ON p.id = o.person_id WHERE o.id = $1 AND p.agency_id = $2`;
      type Row = { personId: string; span: TimeOffSpan };
      const { personId, span } = requireFound(await firstRow<Row>(manager, sql, [id, who.agencyId]), 'time off');
      refuseOthers(who, personId);
      await this.apply(manager, who, { personId, removed: [span], added: [] });
      return { changeId: changeIdOf(manager) };
    });
  }

  private async keep(manager: EntityManager, who: Who, change: TimeOffChange): Promise<TimeOffAdded> {
    const tasks = await rowsOf<TaskInTimeOff>(manager, IN_TIME_OFF, [change.personId, JSON.stringify(change.added)]);
    await this.apply(manager, who, change);
    return { ids: change.added.map(({ id }) => id), tasks, changeId: changeIdOf(manager) };
  }

  /** Writes a change and records it; what is gone already is not removed again. Answers whether anything changed. */
  async apply(manager: EntityManager, who: Who, { personId, removed, added }: TimeOffChange): Promise<boolean> {
    const ids = removed.map(({ id }) => id);
    const gone = new Set(
      (await rowsOf<{ id: string }>(manager, 'DELETE FROM time_off WHERE id = ANY($1) RETURNING id', [ids])).map(({ id }) => id),
    );
    const made = new Set((await rowsOf<{ id: string }>(manager, INSERT, [personId, JSON.stringify(added)])).map(({ id }) => id));
    const about = { engagementId: null, subject: 'person', subjectId: personId } as const;
    const said = (kind: 'time-off-added' | 'time-off-removed', spans: readonly TimeOffSpan[]): NewEvent[] =>
      spans.length === 0 ? [] : [{ ...about, kind, payload: { spans } }];
    await record(manager, { actor: who, at: this.clock.now() }, [
      ...said(
        'time-off-removed',
        removed.filter(({ id }) => gone.has(id)),
      ),
      ...said(
        'time-off-added',
        added.filter(({ id }) => made.has(id)),
      ),
    ]);
    return gone.size + made.size > 0;
  }
}

const isSame = (
  before: TimeOffSpan | undefined,
  { from, to, minutes, note }: { readonly from: IsoDay; readonly to: IsoDay; readonly minutes: number | null; readonly note: string },
): boolean => before !== undefined && before.from === from && before.to === to && before.minutes === minutes && before.note === note;

/** Refuses people who are not on the crew, and anybody but oneself unless one is a lead. */
async function requireOwnOrLead(manager: EntityManager, who: Who, personId: string): Promise<void> {
  const person = await firstRow(manager, 'SELECT 1 FROM person WHERE id = $1 AND agency_id = $2 AND is_active', [personId, who.agencyId]);
  requireFound(person, 'person');
  refuseOthers(who, personId);
}

/** Refuses somebody else's time off, unless one is a lead. */
export const refuseOthers = (who: Who, personId: string): void =>
  requireCan(who, 'time-off.edit', {
    ...{ subject: of(personId), words: 'You can enter your own time off. Ask a lead for that of others.', field: 'personId' },
  });

function refuseOddSpan(span: { readonly from: IsoDay; readonly to: IsoDay }): void {
  if (span.to < span.from)
    throw new Refusal('invalid-day', 'Time off ends on or after the day it begins. Look at both days.', { field: 'to' });
  if (daysBetween(span.from, span.to) > MOST_DAYS_OFF)
    throw new Refusal('invalid-day', `Time off can be ${MOST_DAYS_OFF} days at most. If somebody has left, say so under Crew.`, {
      field: 'to',
    });
}
