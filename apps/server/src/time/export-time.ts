import type { IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import papa from 'papaparse';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';

/** One entry as a line of the file; the columns are named by its fields. */
interface Line {
  readonly day: IsoDay;
  readonly person: string;
  readonly client: string;
  readonly engagement: string;
  readonly task: string;
  readonly minutes: number;
  readonly hours: number;
  readonly chargeable: string;
  readonly began: string;
  readonly note: string;
}

const COLUMNS: readonly (keyof Line)[] = [
  'day',
  'person',
  'client',
  'engagement',
  'task',
  'minutes',
  'hours',
  'chargeable',
  'began',
  'note',
];

const LINES = `
  SELECT x.day, p.name AS person, c.name AS client, e.name AS engagement, t.title AS task, x.minutes, round(x.minutes / 60.0, 2)::float AS hours,
    CASE WHEN x.is_chargeable THEN 'yes' ELSE 'no' END AS chargeable,
    CASE WHEN x.start_minute IS NULL THEN '' ELSE to_char(make_interval(mins => x.start_minute), 'HH24:MI') END AS began, x.note
  FROM time_entry x JOIN person p ON p.id = x.person_id JOIN task t ON t.id = x.task_id JOIN engagement e ON e.id = x.engagement_id JOIN client c ON c.id = e.client_id
  WHERE p.agency_id = $1 AND x.day BETWEEN $2 AND $3 AND ($4::uuid IS NULL OR x.person_id = $4)
  ORDER BY x.day, p.name, x.start_minute NULLS LAST, e.name, t.number, x.id`;

/** Time as a file of comma-separated values (RFC 4180): one line an entry, for a spreadsheet or a bill. */
@Injectable()
export class ExportTime {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  /** Of one person, or of the whole crew when none is named. What a spreadsheet would take for a formula is kept from being one. */
  async run(who: Who, asked: { readonly personId: string | null; readonly from: IsoDay; readonly to: IsoDay }): Promise<string> {
    const lines = await this.database.rows<Line>(LINES, [who.agencyId, asked.from, asked.to, asked.personId]);
    return `${papa.unparse({ fields: [...COLUMNS], data: lines.map((line) => COLUMNS.map((column) => guarded(line[column]))) })}\r\n`;
  }
}

/**
 * A cell that no spreadsheet takes for a formula, whatever it divides columns by: what begins
 * one at the start, behind blanks, or where a line break or another divider would begin a cell.
 */
const guarded = (cell: string | number): string | number =>
  typeof cell === 'number' ? cell : cell.replace(/(^|[;,\t\r\n])(\s*)([=+\-@])/g, "$1$2'$3");
