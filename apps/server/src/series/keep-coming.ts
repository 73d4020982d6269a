import { createHash } from 'node:crypto';
import { addDays, scheduleUnits, toSchedulePlan, type IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import type { TemplateDocument, TemplateTaskDocument } from '../template/template.repository.ts';
import { daysOfSeries, nameOfUnit, type EngagementSeriesFacts } from './series-facts.ts';

/** As far as the load is kept: beyond it everybody would look free. */
const COMING_DAYS = 800;
/** More units than these lie further away than their hours mean anything. */
const MOST_UNITS = 300;

/** One task of a unit that is not created yet. */
interface ComingTask {
  readonly unit: string;
  readonly title: string;
  readonly roleId: string | null;
  readonly personId: string | null;
  readonly estimateMinutes: number | null;
  readonly startDay: IsoDay;
  readonly dueDay: IsoDay;
}

const REPLACE = `
  WITH gone AS (DELETE FROM series_coming WHERE series_id = $1)
  INSERT INTO series_coming (series_id, unit, title, role_id, person_id, estimate_minutes, start_day, due_day)
  SELECT $1, v.unit, v.title, v."roleId", v."personId", v."estimateMinutes", v."startDay", v."dueDay"
  FROM jsonb_to_recordset($2) AS v(unit text, title text, "roleId" uuid, "personId" uuid, "estimateMinutes" int, "startDay" date, "dueDay" date)`;

/**
 * Keeps the work of the units a series has not created yet, for the load. Nothing is written when it
 * is what it was. The series is locked by the caller.
 */
export async function keepComing(
  manager: EntityManager,
  series: EngagementSeriesFacts,
  { template, today }: { readonly template: TemplateDocument; readonly today: IsoDay },
): Promise<void> {
  const tasks = comingTasks(series, template, today);
  const text = JSON.stringify(tasks);
  const mark = createHash('sha256').update(text).digest('base64url');
  const changed = await rowsOf(
    manager,
    'UPDATE engagement_series SET coming_mark = $2 WHERE id = $1 AND coming_mark IS DISTINCT FROM $2 RETURNING id',
    [series.id, mark],
  );
  if (changed.length > 0) await rowsOf(manager, REPLACE, [series.id, text]);
}

function comingTasks(series: EngagementSeriesFacts, template: TemplateDocument, today: IsoDay): ComingTask[] {
  const after = series.madeUntil === null ? today : addDays(series.madeUntil, 1);
  const from = after < today ? today : after;
  const to = addDays(today, COMING_DAYS);
  const days = (to < from ? [] : daysOfSeries(series, { from, to }))
    .flatMap(({ day, on, each }) => Array.from({ length: each }, () => ({ day, on })))
    .slice(0, MOST_UNITS);
  const plan = { calendar: series.calendar, plan: toSchedulePlan(template), places: series.places };
  const scheduled = unwrap(
    scheduleUnits(
      plan,
      days.map(({ on }) => on),
    ),
  );
  const first = series.made.reduce((most, { number }) => Math.max(most, number), 0) + 1;
  const work = template.tasks.filter((task) => !task.isGroup && task.kind !== 'client' && task.kind !== 'milestone');
  return scheduled.flatMap(({ schedule }, index) => {
    const unit = nameOfUnit(series.unitName, { number: first + index, day: (days[index] as { day: IsoDay }).day });
    const dates = new Map(schedule.tasks.map((task) => [task.id, task]));
    return work.flatMap((task): ComingTask[] => {
      const at = dates.get(task.id);
      if (at === undefined) return [];
      const { title, roleId, estimateMinutes } = task;
      return [{ unit, title, roleId, personId: personOf(series, task), estimateMinutes, startDay: at.start, dueDay: at.finish }];
    });
  });
}

const personOf = ({ roles }: EngagementSeriesFacts, { personId, roleId }: TemplateTaskDocument): string | null =>
  personId ?? roles.find((choice) => choice.roleId === roleId)?.personId ?? null;
