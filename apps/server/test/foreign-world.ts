import { randomUUID } from 'node:crypto';
import type { Harness } from './harness.ts';

/** What another agency has of each kind, copied from a row of ours, in the order in which one needs the other. */
const TABLES = [
  ...['role', 'person', 'client', 'contact', 'template', 'template_phase', 'engagement_series', 'engagement', 'phase', 'deliverable'],
  ...['task_series', 'task', 'step', 'custom_field', 'file', 'handoff', 'gate_check', 'time_entry', 'time_off'],
] as const;
type Table = (typeof TABLES)[number];

/** Columns that name another row, by what they name. */
const REFERENCES: Readonly<Record<string, Table>> = {
  ...{ client_id: 'client', template_id: 'template', engagement_id: 'engagement', phase_id: 'phase', task_id: 'task', person_id: 'person' },
  ...{ lead_id: 'person', added_by_id: 'person', from_phase_id: 'phase', role_id: 'role' },
};

/** Columns that are left empty: what they name is not copied, or need not be. */
const EMPTY = [
  'parent_id',
  'deliverable_id',
  'series_id',
  'series_day',
  'series_number',
  'series_place',
  'contact_id',
  'to_phase_id',
  'after_phase_id',
];

/** Another agency in the same database, with one row of every kind of thing that a body or an address can name. */
export interface ForeignWorld {
  readonly agencyId: string;
  readonly ids: ReadonlyMap<Table, string>;
  /** The foreign row of the same kind as one of ours; undefined for an id of nothing. */
  readonly insteadOf: (id: string) => string | undefined;
}

/** Copies a row of each table into a new agency. Every table must hold a row of ours. */
export async function makeForeignWorld({ database }: Harness): Promise<ForeignWorld> {
  const agency = await database.row<{ id: string }>(
    `INSERT INTO agency (name, zone, week) VALUES ('Elsewhere', 'UTC', '{450,450,450,450,450,0,0}') RETURNING id`,
  );
  const agencyId = agency?.id ?? '';
  const ids = new Map<Table, string>();
  const kinds = new Map<string, Table>();
  for (const table of TABLES) {
    for (const { id } of await database.rows<{ id: string }>(`SELECT id FROM ${table}`)) kinds.set(id, table);
    const ours = await database.row<{ row: Record<string, unknown> }>(`SELECT to_jsonb(x) AS row FROM ${table} x LIMIT 1`);
    if (ours === null) throw new Error(`there is no ${table} to copy`);
    const id = randomUUID();
    const changed = Object.entries(ours.row).map(([column, value]): [string, unknown] => {
      if (column === 'id') return [column, id];
      if (column === 'agency_id') return [column, agencyId];
      if (EMPTY.includes(column)) return [column, null];
      const kind = REFERENCES[column];
      return [column, kind === undefined || value === null ? value : (ids.get(kind) ?? null)];
    });
    await database.rows(`INSERT INTO ${table} SELECT * FROM jsonb_populate_record(NULL::${table}, $1)`, [
      JSON.stringify(Object.fromEntries(changed)),
    ]);
    ids.set(table, id);
  }
  return { agencyId, ids, insteadOf: (id) => ids.get(kinds.get(id) as Table) };
}
