import type { Database } from '../src/platform/database.ts';

/** Tables that a refused request may write: who is signed in, what was tried in vain, and what the security log says of it. */
const LEFT_OUT = ['session', 'sign_in_attempt', 'security_event', 'migrations'];

/** How many rows each table of the product has, and a sum of all that stands in them. */
export async function sumsOfTables(database: Database): Promise<Readonly<Record<string, string>>> {
  const tables = await database.rows<{ name: string }>(
    `SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' AND tablename <> ALL($1) ORDER BY 1`,
    [LEFT_OUT],
  );
  const sums = tables.map(
    ({ name }) => `SELECT '${name}' AS name, count(*) || ' ' || coalesce(sum(hashtextextended(t::text, 0)), 0) AS sum FROM "${name}" t`,
  );
  const rows = await database.rows<{ name: string; sum: string }>(sums.join(' UNION ALL '));
  return Object.fromEntries(rows.map(({ name, sum }) => [name, sum]));
}
