import type { CalendarInput } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import { calendarOf } from '../platform/sql-words.ts';

/** The working week and closed days of an agency. */
export async function readCalendar(manager: EntityManager, agencyId: string): Promise<CalendarInput> {
  const sql = `SELECT ${calendarOf('agency')} AS calendar FROM agency WHERE id = $1`;
  return requireFound(await firstRow<{ calendar: CalendarInput }>(manager, sql, [agencyId]), 'agency').calendar;
}
