import { Injectable } from '@nestjs/common';
import type {
  ChangeTaskSeries,
  FieldChange,
  LikeThis,
  PreviewRule,
  RepeatTask,
  ResumeSeries,
  RuleDays,
  StopSeries,
  TaskSeriesLine,
  TaskSeriesView,
} from '@crew/contract';
import { addDays, type Occurrence, occurrences, type IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { assigneesOf, ENGAGEMENT, isOpen, PERSON } from '../platform/sql-words.ts';
import { record } from '../activity/record.ts';
import type { By } from '../platform/actor.ts';
import { readCalendar } from '../calendar/read-calendar.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { lockEngagement } from '../plan-change/change-plan.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { readTaskImage } from '../task/task-images.ts';
import { copiedValues } from '../task/task-fields.ts';
import type { TaskPattern } from './task-series.entity.ts';
import { occurrencesOf, readSeriesFacts, removeRepeats, settleTaskSeries, type SeriesFacts } from './settle-tasks.ts';

/** How far ahead the days of a series are shown. */
const SHOWN_DAYS = 400;
const SHOWN_MOST = 24;

interface TaskToRepeat {
  readonly id: string;
  readonly engagementId: string;
  readonly phaseId: string;
  readonly seriesId: string | null;
  readonly isGroup: boolean;
  readonly isBegun: boolean;
  readonly start: IsoDay;
}

/** Tasks that repeat: started from one task, edited, stopped, continued. Each is one transaction. */
@Injectable()
export class KeepTaskSeries {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** The days of a rule on the agency's calendar, as far as they are worth looking at. Saves nothing. */
  async preview(who: Who, input: PreviewRule): Promise<RuleDays> {
    const calendar = await readCalendar(this.database.manager, who.agencyId);
    const days = occurrences({
      ...{ calendar, rhythms: [{ from: input.from, rule: input.rule }], onClosed: input.onClosed ?? 'after', from: input.from },
      to: addDays(input.from, SHOWN_DAYS * 4),
    });
    return { days: unwrap(days).slice(0, SHOWN_MOST) };
  }

  /** Makes a task repeat: it becomes the first of its series, on the first day of the rule unless it has begun, and the next are made. */
  repeat(who: Who, taskId: string, input: RepeatTask): Promise<TaskSeriesView> {
    return this.database.transaction(async (manager) => {
      await lockEngagement(manager, who, requireFound(await findTask(manager, who, taskId), 'task').engagementId);
      const task = requireFound(await findTask(manager, who, taskId), 'task');
      if (task.seriesId !== null)
        throw new Refusal('already-there', 'This task repeats already. Change how on its sheet.', { field: 'rule' });
      if (task.isGroup)
        throw new Refusal('wrong-moment', 'A task with subtasks does not repeat. Make one with steps repeat instead.', { field: 'rule' });
      const first = await this.firstOf(manager, who, { task, input });
      const { id } = (await firstRow<{ id: string }>(
        manager,
        `INSERT INTO task_series (agency_id, engagement_id, phase_id, pattern, rule, first_day, on_closed, when_missed, made_until)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $6) RETURNING id`,
        [
          ...[
            who.agencyId,
            task.engagementId,
            input.isPhaseOnly === true ? task.phaseId : null,
            await patternOf(manager, taskId),
            input.rule,
            first.day,
          ],
          ...[input.onClosed ?? 'after', input.whenMissed ?? 'keep'],
        ],
      )) as { id: string };
      // From now on it is detached from the plan: it has its own day.
      await rowsOf(
        manager,
        'UPDATE task SET series_id = $2, series_day = $3, fixed_day = CASE WHEN start_day = $4 THEN coalesce(fixed_day, $4) ELSE $4 END, version = version + 1 WHERE id = $1',
        [taskId, id, first.day, first.on],
      );
      const by = { today: this.clock.today(), by: this.by(who) };
      if (first.on !== task.start) await refreshEngagement(manager, task.engagementId, { ...by, changed: [taskId], made: [] });
      await this.record(manager, who, { taskId, engagementId: task.engagementId }, [{ field: 'repeats', from: null, to: input.rule }]);
      await this.settle(manager, who, task.engagementId);
      return this.view(manager, who, id);
    });
  }

  /** Where the first one falls: on the first day of the rule from the task's own on, or on its own day once it has begun. */
  private async firstOf(
    manager: EntityManager,
    who: Who,
    { task, input }: { readonly task: TaskToRepeat; readonly input: RepeatTask },
  ): Promise<Pick<Occurrence, 'day' | 'on'>> {
    const from = task.start;
    if (task.isBegun) return { day: from, on: from };
    const calendar = await readCalendar(manager, who.agencyId);
    const rhythms = [{ from, rule: input.rule }];
    const [first] = unwrap(
      occurrences({ calendar, rhythms, onClosed: input.onClosed ?? 'after', from, to: addDays(from, SHOWN_DAYS * 4) }),
    );
    if (first === undefined)
      throw new Refusal('invalid-input', 'No day of this rule comes within four years. Choose another.', { field: 'rule' });
    return first;
  }

  /** Another rule holds from a day on: what was made from then on and nobody touched is made anew. */
  change(who: Who, id: string, input: ChangeTaskSeries): Promise<TaskSeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      const today = this.clock.today();
      const from = input.from ?? today;
      if (input.rule !== undefined && from < today)
        throw new Refusal('invalid-day', 'That day is over. Choose today or a later one.', { field: 'from' });
      const isNew = input.rule !== undefined && (input.rule !== series.rule || input.from !== undefined);
      if (isNew) await removeAhead(manager, this.by(who), { series, from });
      const before = addDays(from, -1);
      await rowsOf(
        manager,
        `UPDATE task_series SET rule = $2, first_day = $3, made_until = $4, on_closed = $5, when_missed = $6, skipped = $7, extra = $8 WHERE id = $1`,
        [
          ...[id, input.rule ?? series.rule, isNew ? from : series.firstDay, isNew ? before : series.madeUntil],
          ...[input.onClosed ?? series.onClosed, input.whenMissed ?? series.whenMissed],
          ...[JSON.stringify(sorted(input.skipped) ?? series.skipped), JSON.stringify(sorted(input.extra) ?? series.extra)],
        ],
      );
      if (!isNew) await makeRoomFor(manager, series, input);
      return isNew ? [{ field: 'repeats', from: series.rule, to: input.rule }] : [];
    });
  }

  /** Nothing is made from a day on; tasks nobody has touched are removed. */
  stop(who: Who, id: string, input: StopSeries): Promise<TaskSeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      const from = input.from ?? addDays(this.clock.today(), 1);
      if (from <= this.clock.today())
        throw new Refusal('invalid-day', 'The past cannot be changed. Stop from tomorrow or a later day.', { field: 'from' });
      await rowsOf(manager, 'UPDATE task_series SET stopped_on = $2 WHERE id = $1', [id, from]);
      return [{ field: 'repeats', from: series.rule, to: null }];
    });
  }

  /** Goes on from today with what was stopped. */
  resume(who: Who, id: string, input: ResumeSeries): Promise<TaskSeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      if (series.stoppedOn === null) throw new Refusal('wrong-moment', 'It was not stopped. Reload to see how it repeats.');
      const yesterday = addDays(this.clock.today(), -1);
      await rowsOf(
        manager,
        'UPDATE task_series SET stopped_on = NULL, made_until = least(greatest(made_until, $2), stopped_on - 1) WHERE id = $1',
        [id, yesterday],
      );
      return [{ field: 'repeats', from: null, to: series.rule }];
    });
  }

  /** Later ones begin as this one is: title, people, effort, steps and the rest. */
  likeThis(who: Who, id: string, input: LikeThis): Promise<TaskSeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      const task = await findTask(manager, who, input.taskId);
      if (task?.seriesId !== id) throw new Refusal('unknown-id', 'That task is not one of these. Choose one that is.', { field: 'taskId' });
      await removeAhead(manager, this.by(who), { series, from: addDays(task.start, 1) });
      await rowsOf(manager, 'UPDATE task_series SET pattern = $2, made_until = $3 WHERE id = $1', [
        id,
        await patternOf(manager, task.id),
        task.start,
      ]);
      return [];
    });
  }

  /** Those of open engagements, those that are stopped last. */
  list(who: Who): Promise<TaskSeriesLine[]> {
    return this.database.rows<TaskSeriesLine>(LINES, [who.agencyId, this.clock.today()]);
  }

  async read(who: Who, id: string): Promise<TaskSeriesView> {
    return this.database.transaction((manager) => this.view(manager, who, id));
  }

  private async turn(
    who: Who,
    id: string,
    version: number,
    act: (manager: EntityManager, series: SeriesFacts) => Promise<FieldChange[]>,
  ): Promise<TaskSeriesView> {
    return this.database.transaction(async (manager) => {
      const engagementId = requireFound(await placeOf(manager, who, id), 'series');
      await lockEngagement(manager, who, engagementId);
      const series = (await readSeriesFacts(manager, engagementId)).find((one) => one.id === id) as SeriesFacts;
      const written = await rowsOf(manager, 'UPDATE task_series SET version = version + 1 WHERE id = $1 AND version = $2 RETURNING id', [
        id,
        version,
      ]);
      if (written.length === 0)
        throw new Refusal('changed-meanwhile', 'Somebody changed how it repeats since you opened it. Reload and check.', {
          details: { current: await this.view(manager, who, id) },
        });
      const changes = await act(manager, series);
      const first = series.made[0];
      if (first !== undefined && changes.length > 0) await this.record(manager, who, { taskId: first.id, engagementId }, changes);
      await this.settle(manager, who, engagementId);
      return this.view(manager, who, id);
    });
  }

  private async settle(manager: EntityManager, who: Who, engagementId: string): Promise<void> {
    await settleTaskSeries(manager, engagementId, { today: this.clock.today(), by: this.by(who) });
  }

  private async record(
    manager: EntityManager,
    who: Who,
    { taskId, engagementId }: { readonly taskId: string; readonly engagementId: string },
    changes: readonly FieldChange[],
  ): Promise<void> {
    await record(manager, this.by(who), [{ kind: 'task-series-changed', engagementId, subject: 'task', subjectId: taskId, changes }]);
  }

  private by(who: Who): By {
    return { actor: who, at: this.clock.now() };
  }

  private async view(manager: EntityManager, who: Who, id: string): Promise<TaskSeriesView> {
    const engagementId = requireFound(await placeOf(manager, who, id), 'series');
    const facts = (await readSeriesFacts(manager, engagementId)).find((one) => one.id === id) as SeriesFacts;
    const shown = requireFound(
      await firstRow<Pick<TaskSeriesView, 'version' | 'engagement' | 'title' | 'phase' | 'made'>>(manager, SHOWN, [id]),
      'series',
    );
    const today = this.clock.today();
    const last = facts.stoppedOn === null ? null : addDays(facts.stoppedOn, -1);
    const to = [addDays(today, SHOWN_DAYS), last ?? '9999-12-31'].sort()[0] as IsoDay;
    const made = new Set(facts.made.map((task) => task.day));
    const coming = to < today || facts.isOver ? [] : occurrencesOf(facts, { from: today, to });
    return {
      id,
      ...shown,
      ...{ rule: facts.rule, firstDay: facts.firstDay, onClosed: facts.onClosed, whenMissed: facts.whenMissed },
      ...{ skipped: facts.skipped, extra: facts.extra, stoppedOn: facts.stoppedOn },
      // What was made and is gone was taken out by hand.
      coming: coming.filter(({ day }) => made.has(day) || facts.madeUntil === null || day > facts.madeUntil).slice(0, SHOWN_MOST),
    };
  }
}

/** What every task of a series begins as: as this one is, but for where it stands and how far it is. */
async function patternOf(manager: EntityManager, taskId: string): Promise<TaskPattern> {
  const { row, steps, assignees, files } = requireFound(await readTaskImage(manager, taskId), 'task');
  return { ...copiedValues(row), title: row.title, steps: steps.map(({ title }) => title), assignees, fileIds: files };
}

const LINES = `
  SELECT s.id, s.pattern->>'title' AS title, s.rule, s.stopped_on AS "stoppedOn", n.id AS "taskId", n.start_day AS next,
    ${ENGAGEMENT} AS engagement,
    ${assigneesOf('n', PERSON('q'))} AS assignees
  FROM task_series s JOIN engagement e ON e.id = s.engagement_id AND e.state IN ('proposal', 'open') JOIN client c ON c.id = e.client_id
  LEFT JOIN LATERAL (SELECT t.id, t.start_day FROM task t WHERE t.series_id = s.id AND t.start_day >= $2 AND ${isOpen('t')}
    ORDER BY t.start_day, t.number LIMIT 1) n ON true
  WHERE s.agency_id = $1 ORDER BY s.stopped_on IS NOT NULL, n.start_day, title, s.id`;

const SHOWN = `
  SELECT s.version, json_build_object('id', e.id, 'name', e.name) AS engagement, s.pattern->>'title' AS title,
    CASE WHEN p.id IS NULL THEN NULL ELSE json_build_object('id', p.id, 'name', p.name) END AS phase,
    coalesce((SELECT json_agg(json_build_object('id', t.id, 'title', t.title, 'status', t.status, 'day', t.series_day, 'start', t.start_day) ORDER BY t.series_day)
      FROM task t WHERE t.series_id = s.id), '[]') AS made
  FROM task_series s JOIN engagement e ON e.id = s.engagement_id LEFT JOIN phase p ON p.id = s.phase_id WHERE s.id = $1`;

async function placeOf(manager: EntityManager, who: Who, id: string): Promise<string | null> {
  const sql = 'SELECT engagement_id AS id FROM task_series WHERE id = $1 AND agency_id = $2';
  return (await firstRow<{ id: string }>(manager, sql, [id, who.agencyId]))?.id ?? null;
}

const findTask = (manager: EntityManager, who: Who, id: string): Promise<TaskToRepeat | null> =>
  firstRow<TaskToRepeat>(
    manager,
    `SELECT t.id, t.engagement_id AS "engagementId", t.phase_id AS "phaseId", t.series_id AS "seriesId", t.is_group AS "isGroup",
       t.status <> 'queued' OR t.logged_minutes > 0 AS "isBegun", t.start_day AS start
     FROM task t WHERE t.id = $1 AND t.agency_id = $2`,
    [id, who.agencyId],
  );

/** What nobody has touched goes, so that it can be made anew. */
async function removeAhead(
  manager: EntityManager,
  by: By,
  { series, from }: { readonly series: SeriesFacts; readonly from: string },
): Promise<void> {
  const untouched = await rowsOf<{ id: string }>(
    manager,
    `SELECT t.id FROM task t WHERE t.series_id = $1 AND t.series_day >= $2 AND t.status = 'queued' AND t.logged_minutes = 0 AND t.version = 1 AND t.steps_done = 0
       AND NOT t.is_group AND t.planned_week IS NULL AND NOT EXISTS (SELECT 1 FROM desk_place d WHERE d.task_id = t.id) AND NOT EXISTS (SELECT 1 FROM timer x WHERE x.task_id = t.id)`,
    [series.id, from],
  );
  await removeRepeats(manager, by, { engagementId: series.engagementId, ids: untouched.map(({ id }) => id) });
}

/** A day taken in again, or added, within what was made already is made like any other. */
async function makeRoomFor(manager: EntityManager, series: SeriesFacts, input: ChangeTaskSeries): Promise<void> {
  const back = [
    ...series.skipped.filter((day) => input.skipped !== undefined && !input.skipped.includes(day)),
    ...(input.extra ?? []).filter((day) => !series.extra.includes(day)),
  ].sort();
  const [first] = back;
  if (first === undefined || series.madeUntil === null || first > series.madeUntil) return;
  const gone = series.made.map(({ day }) => day);
  const lost = occurrencesOf(series, { from: first, to: series.madeUntil }).filter(({ day }) => !gone.includes(day) && !back.includes(day));
  // What somebody took out between there and the end of what was made stays out.
  const skipped = [...new Set([...(input.skipped ?? series.skipped), ...lost.map(({ day }) => day)])].sort();
  await rowsOf(manager, 'UPDATE task_series SET made_until = $2, skipped = $3 WHERE id = $1', [
    series.id,
    addDays(first, -1),
    JSON.stringify(skipped),
  ]);
}

const sorted = (days: readonly string[] | undefined): string[] | undefined => (days === undefined ? undefined : [...new Set(days)].sort());
