import { passSpeed, roundedMedianOf, type IsoDay, type PassedCase, type SpeedColumn } from '@crew/core';
import { Injectable } from '@nestjs/common';
import type { HandoffBoard, HandoffCase, HandoffSpeed, HandoffSpeedColumn, SpeedBy, SpeedMonths } from '@crew/contract';
import papa from 'papaparse';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { readPassedHandoffs, type PassedHandoff } from './passed-handoffs.ts';

/** What the speed of handoffs is asked for. */
export interface SpeedAsked {
  readonly by: SpeedBy;
  readonly templateId?: string | undefined;
  readonly months: SpeedMonths;
}

/** The columns of each way to look, in the order in which they stand: phases as in their template, roles and people by how many. */
const TEMPLATE_PHASES = `
  SELECT p.name FROM template_phase p WHERE p.template_id = $1 ORDER BY p.position`;
const TEMPLATES = `SELECT id, name FROM template WHERE agency_id = $1 AND kind = 'engagement' AND NOT is_archived ORDER BY name`;

/** Rules about handoffs that stand, by the day they were turned on, and reminders that were set. */
const MARKS = `
  SELECT (u.on_since AT TIME ZONE $3)::date::text AS day, 'a rule about handoffs was turned on' AS words FROM rule u
  WHERE u.agency_id = $1 AND u.is_on AND u.removed_at IS NULL AND u.on_since >= $2::date AND u.content->'when'->>'kind' IN ('handed-off', 'picked-up', 'sent-back', 'gate-cleared')
    AND (u.template_id IS NULL OR $4::uuid IS NULL OR u.template_id = $4)
  UNION SELECT (v.at AT TIME ZONE $3)::date::text, 'reminders: ' || (x->>'to') || ' working hours' FROM event v, jsonb_array_elements(v.changes) x
  WHERE v.agency_id = $1 AND v.kind = 'settings-changed' AND v.at >= $2::date AND x->>'field' = 'remindHours' ORDER BY 1 LIMIT 12`;

const ALL = 'all';

/** Handoff times: time in the phase, wait until picked up, and how many come back, over months. */
@Injectable()
export class ReadSpeed {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(who: Who, asked: SpeedAsked): Promise<HandoffSpeed> {
    const [passed, templates, marks] = await Promise.all([
      this.passed(who, asked),
      this.database.rows<HandoffSpeed['templates'][number]>(TEMPLATES, [who.agencyId]),
      this.database.rows<HandoffSpeed['marks'][number]>(MARKS, [
        ...[who.agencyId, this.since(asked.months), this.clock.zone, asked.templateId ?? null],
      ]),
    ]);
    const months = this.months(asked.months);
    const columns = await this.columnsOf(passed, asked);
    const keys = columns.map(({ key }) => key);
    const names = new Map(columns.map(({ key, name }) => [key, name]));
    const cases = passed.map((one) => toCase(one, asked.by));
    const named = (column: SpeedColumn): HandoffSpeedColumn => ({ ...column, name: names.get(column.key) ?? '' });
    return {
      templates,
      months,
      columns: passSpeed(cases, { keys, months }).map(named),
      all: named(passSpeed(cases.map(asOne), { keys: [ALL], months })[0] as SpeedColumn),
      marks,
    };
  }

  /** The handoffs behind the numbers of a column and a month. */
  async cases(who: Who, asked: SpeedAsked & { readonly key: string; readonly month: string }): Promise<readonly HandoffCase[]> {
    const isIn = (one: PassedHandoff): boolean => {
      const { key, waitKey, month } = toCase(one, asked.by);
      return month === asked.month && (key === asked.key || waitKey === asked.key);
    };
    return (await this.passed(who, asked)).filter(isIn).map(toHandoffCase);
  }

  /** Every handoff of the months as a table. */
  async csv(who: Who, asked: SpeedAsked): Promise<string> {
    const rows = (await this.passed(who, asked)).map((one) => ({
      ...{ engagement: one.engagement.name, from: one.from, to: one.to ?? '', role: one.role?.name ?? '' },
      ...{ 'handed off by': one.giver?.name ?? '', 'received by': one.receiver?.name ?? '' },
      ...{ 'handed off': one.handedOffAt, 'picked up': one.pickedUpAt ?? '', 'wait (working hours)': Math.round(one.waitMinutes / 6) / 10 },
      ...{ 'working days in phase': one.days ?? '', 'planned working days': one.plannedDays ?? '', 'sent back': one.questions.length },
    }));
    return `${papa.unparse(rows, { escapeFormulae: true })}\r\n`;
  }

  /** How long handoffs usually waited, of this month and the one before. */
  async pickUp(agencyId: string): Promise<HandoffBoard['pickUpMinutes']> {
    const [last = '', current = ''] = this.months(2);
    const since = `${last}-01` as IsoDay;
    const passed = await readPassedHandoffs(this.database, { agencyId, since, now: this.clock.now(), zone: this.clock.zone });
    const median = (month: string): number | null =>
      roundedMedianOf(passed.filter((one) => one.month === month).flatMap((one) => waitOf(one) ?? []));
    return { thisMonth: median(current), lastMonth: median(last) };
  }

  private async passed({ agencyId }: Who, { by, templateId, months }: SpeedAsked): Promise<readonly PassedHandoff[]> {
    const since = this.since(months);
    const all = await readPassedHandoffs(this.database, { agencyId, since, now: this.clock.now(), zone: this.clock.zone });
    return all.filter((one) => (templateId === undefined ? by !== 'phase' : one.templateId === templateId));
  }

  private async columnsOf(
    passed: readonly PassedHandoff[],
    { by, templateId }: SpeedAsked,
  ): Promise<readonly { key: string; name: string }[]> {
    if (by === 'phase') {
      const phases = templateId === undefined ? [] : await this.database.rows<{ name: string }>(TEMPLATE_PHASES, [templateId]);
      return phases.map(({ name }) => ({ key: name, name }));
    }
    const found = new Map<string, { readonly name: string; readonly cases: number }>();
    const add = (one: { readonly id: string; readonly name: string } | null): void => {
      if (one !== null) found.set(one.id, { name: one.name, cases: (found.get(one.id)?.cases ?? 0) + 1 });
    };
    for (const { role, giver, receiver } of passed) (by === 'role' ? [role] : [giver, receiver]).forEach(add);
    return [...found]
      .sort(([, left], [, right]) => right.cases - left.cases || left.name.localeCompare(right.name))
      .map(([key, { name }]) => ({ key, name }));
  }

  private months(count: number): string[] {
    const [year = 0, month = 1] = this.clock.today().split('-').map(Number);
    return Array.from({ length: count }, (_, place) => new Date(Date.UTC(year, month - count + place, 1)).toISOString().slice(0, 7));
  }

  private since(months: number): IsoDay {
    return `${this.months(months)[0] ?? ''}-01` as IsoDay;
  }
}

/** Until it was picked up. Behind the last phase nobody picks up: a lead completes the engagement. */
const waitOf = ({ to, pickedUpAt, waitMinutes }: PassedHandoff): number | null => (to === null || pickedUpAt === null ? null : waitMinutes);

function toCase(one: PassedHandoff, by: SpeedBy): PassedCase {
  const { month, from, role, giver, receiver, days, plannedDays, questions } = one;
  const key = by === 'phase' ? from : ((by === 'role' ? role?.id : giver?.id) ?? '');
  const rest = { month, days, plannedDays, waitMinutes: waitOf(one), isBack: questions.length > 0 };
  return by === 'person' ? { key, waitKey: receiver?.id ?? '', ...rest } : { key, ...rest };
}

function asOne(one: PassedCase): PassedCase {
  const { waitKey: _, ...rest } = one;
  return { ...rest, key: ALL };
}

function toHandoffCase({ month: _month, role: _role, templateId: _template, ...rest }: PassedHandoff): HandoffCase {
  return rest;
}
