import { DataSource } from 'typeorm';
import { databaseOptions, migrate } from '../apps/server/dist/data-source.js';
import { hashPassword } from '../apps/server/dist/account/password.js';
import { refreshEngagement } from '../apps/server/dist/schedule/refresh-engagement.js';
import { dropDatabase, ensureDatabase, moveDatabase } from './cluster.mjs';

/**
 * A large agency for benchmarks, made by set-based SQL: 200 people, 400 clients, 2 000
 * engagements of which 150 are open, 200 000 tasks. The same on every run; the open ones are
 * then computed by the planner like any other. Never shipped, never shown to people.
 */
export const LARGE_DATABASE = 'crew_large';
const PHASES = 9;
const TASKS = 100;
/** How many engagements there are, and how many of them are open. */
const SIZE = { engagements: 2000, open: 150 };

/** A steady number below `below` from what stands in `seed`; the order of rows cannot change it. */
const some = (seed, below) => `(abs(hashtext((${seed})::text)) % ${below})`;
/** A UUID of the usual form, the same for the same thing. */
const key = (kind, seed) => `overlay(overlay(md5('${kind} ' || (${seed})) placing '4' from 13) placing '8' from 17)::uuid`;

const WORLD = (password) => `
  INSERT INTO agency (id, name, zone, week) VALUES (${key('agency', 1)}, 'A very large studio', 'Europe/London', '{450,450,450,450,450,0,0}');
  INSERT INTO role (id, agency_id, name) SELECT ${key('role', 'n')}, ${key('agency', 1)}, 'Role ' || n FROM generate_series(1, 12) n;
  INSERT INTO person (id, agency_id, name, initials, access, week)
    SELECT ${key('person', 'n')}, ${key('agency', 1)}, 'Person ' || n, 'P' || n % 10, CASE WHEN n = 1 THEN 'owner' WHEN n <= 20 THEN 'lead' ELSE 'member' END,
      '{450,450,450,450,450,0,0}' FROM generate_series(1, 200) n;
  INSERT INTO person_role (person_id, role_id) SELECT ${key('person', 'n')}, ${key('role', '1 + n % 12')} FROM generate_series(1, 200) n;
  INSERT INTO account (agency_id, email, password_hash, person_id)
    SELECT ${key('agency', 1)}, 'person' || n || '@large.example', '${password}', ${key('person', 'n')} FROM generate_series(1, 200) n;
  INSERT INTO client (id, agency_id, name, hue)
    SELECT ${key('client', 'n')}, ${key('agency', 1)}, 'Client ' || n, (ARRAY['blue','leaf','plum','violet','ochre','teal','umber','olive'])[1 + n % 8]
    FROM generate_series(1, 400) n;`;

/** The first are open and began within the last weeks, the others lie in the past. */
const ENGAGEMENTS = (today, { engagements, open }) => `
  CREATE TEMP TABLE made_engagement AS SELECT n, n <= ${open} AS is_open, CASE WHEN n <= ${open} THEN n % ${PHASES} ELSE ${PHASES} END AS at_phase,
    CASE WHEN n <= ${open} THEN date '${today}' - (n % ${PHASES}) * 14 - ${some('n', 10)} ELSE date '${today}' - 140 - ${some('n', 2000)} END AS start
    FROM generate_series(1, ${engagements}) n;
  INSERT INTO engagement (id, agency_id, client_id, lead_id, name, state, closed_on, start_day, promised_day, last_number, created_at,
      baseline_on, baseline_finish, baseline_promise)
    SELECT ${key('engagement', 'n')}, ${key('agency', 1)}, ${key('client', '1 + n % 400')}, ${key('person', '1 + n % 20')}, 'Engagement ' || n,
      CASE WHEN is_open THEN 'open' ELSE 'finished' END, CASE WHEN NOT is_open THEN start + 125 END, start, start + 150, ${TASKS}, start::timestamptz, start, start + 140, start + 150 FROM made_engagement;
  INSERT INTO engagement_role (engagement_id, role_id, person_id)
    SELECT ${key('engagement', 'n')}, ${key('role', 'r')}, ${key('person', `1 + ${some(`n || '.' || r`, 16)} * 12 + (r + 11) % 12`)} FROM made_engagement, generate_series(1, 12) r;
  INSERT INTO phase (id, engagement_id, position, name, state_line, role_id, after_phase_id, state, started_on, finished_on, planned_start, planned_finish, percent)
    SELECT ${key('phase', `n || '.' || p`)}, ${key('engagement', 'n')}, p, 'Phase ' || p + 1, 'In phase ' || p + 1, ${key('role', '1 + p')},
      CASE WHEN p > 0 THEN ${key('phase', `n || '.' || p - 1`)} END,
      CASE WHEN p < at_phase THEN 'over' WHEN p = at_phase THEN 'running' ELSE 'ahead' END,
      CASE WHEN p <= at_phase THEN start + p * 14 END, CASE WHEN p < at_phase THEN start + p * 14 + 13 END, start + p * 14, start + p * 14 + 13,
      CASE WHEN p < at_phase THEN 100 ELSE 0 END
    FROM made_engagement, generate_series(0, ${PHASES - 1}) p ORDER BY n, p;
  INSERT INTO gate_check (phase_id, position, kind, text)
    SELECT ${key('phase', `n || '.' || p`)}, k, CASE WHEN k = 0 THEN 'tasks-done' ELSE 'word' END, 'Check ' || k FROM made_engagement, generate_series(0, ${PHASES - 1}) p, generate_series(0, 1) k;
  INSERT INTO handoff (engagement_id, from_phase_id, to_phase_id, state, giver_id, receiver_id, since)
    SELECT ${key('engagement', 'n')}, ${key('phase', `n || '.' || p`)}, CASE WHEN p < ${PHASES - 1} THEN ${key('phase', `n || '.' || p + 1`)} END,
      CASE WHEN p < at_phase THEN 'picked-up' WHEN p = at_phase AND n % 11 = 0 THEN 'handed-off' ELSE 'getting-ready' END,
      ${key('person', '1 + n % 200')}, ${key('person', '1 + (n + p) % 200')}, CASE WHEN p <= at_phase THEN (start + p * 14)::timestamptz END
    FROM made_engagement, generate_series(0, ${PHASES - 1}) p;`;

const WORK = `
  CREATE TEMP TABLE drawn AS SELECT n, k, k * ${PHASES} / ${TASKS} AS p, start + k * 14 * ${PHASES} / ${TASKS} AS day,
    NOT is_open OR k * ${PHASES} / ${TASKS} < at_phase OR (k * ${PHASES} / ${TASKS} = at_phase AND k % 2 = 0) AS is_done
    FROM made_engagement, generate_series(0, ${TASKS - 1}) k;
  INSERT INTO task (id, agency_id, engagement_id, phase_id, number, position, title, role_id, status, estimate_minutes, days, real_start, done_on,
      start_day, due_day, expected_day, baseline_start, baseline_due, logged_minutes, steps_all, steps_done)
    SELECT ${key('task', `n || '.' || k`)}, ${key('agency', 1)}, ${key('engagement', 'n')}, ${key('phase', `n || '.' || p`)}, k + 1, k, 'Task ' || k + 1,
      ${key('role', '1 + k % 12')}, CASE WHEN is_done THEN 'done' ELSE 'queued' END, 60 + ${some(`n || ' ' || k`, 12)} * 30, 1 + k % 3,
      CASE WHEN is_done THEN day END, CASE WHEN is_done THEN day + k % 3 END, day, day + k % 3, day + k % 3, day, day + k % 3,
      CASE WHEN is_done THEN 60 + ${some(`k || ' ' || n`, 12)} * 30 ELSE 0 END, 3, CASE WHEN is_done THEN 3 ELSE 0 END FROM drawn ORDER BY n, k;
  INSERT INTO step (task_id, position, title, is_done) SELECT ${key('task', `n || '.' || k`)}, s, 'Step ' || s + 1, is_done FROM drawn, generate_series(0, 2) s;
  INSERT INTO task_dependency (successor_id, predecessor_id)
    SELECT ${key('task', `n || '.' || k`)}, ${key('task', `n || '.' || k - d`)} FROM drawn, generate_series(1, 2) d WHERE k >= d AND (d = 1 OR k % 2 = 0);
  INSERT INTO task_assignee (task_id, person_id, position, assigned_at, seen_at)
    SELECT ${key('task', `n || '.' || k`)}, ${key('person', `1 + ${some(`n || '.' || k % 12`, 200)}`)}, 0, day::timestamptz, day::timestamptz FROM drawn;
  INSERT INTO time_entry (person_id, engagement_id, task_id, day, minutes)
    SELECT a.person_id, t.engagement_id, t.id, t.done_on, least(t.logged_minutes, 600) FROM task t JOIN task_assignee a ON a.task_id = t.id WHERE t.status = 'done';
  INSERT INTO event (agency_id, engagement_id, subject, subject_id, kind, changes, facts, actor_kind, job, batch_id, at)
    SELECT agency_id, engagement_id, 'task', id, 'task-status-changed', '[{"field": "status", "from": "active", "to": "done"}]',
      jsonb_build_object('task', title, 'status', 'done', 'from', 'active', 'engagement', engagement_id), 'job', 'plan', gen_random_uuid(), done_on::timestamptz
    FROM task WHERE status = 'done' ORDER BY done_on;
  INSERT INTO engagement_summary (engagement_id, percent, effort_minutes, logged_minutes, finish_day, refreshed_on)
    SELECT ${key('engagement', 'n')}, 100, t.effort, t.logged, start + 125, start + 125 FROM made_engagement
    JOIN (SELECT engagement_id, sum(estimate_minutes)::int AS effort, sum(logged_minutes)::int AS logged FROM task GROUP BY 1) t
      ON t.engagement_id = ${key('engagement', 'n')} WHERE NOT is_open;`;

/** The day the world is made for, unless another is asked. */
export const demoToday = () => process.env.DEMO_TODAY ?? new Date().toISOString().slice(0, 10);

/** Where it is made, so that one half made is never taken for the whole. */
const UNFINISHED = `${LARGE_DATABASE}_unfinished`;

/** Makes the large world anew; says how far it is. */
export async function makeLargeWorld(cluster, { today, size = SIZE, say = () => {} }) {
  await dropDatabase(cluster, UNFINISHED);
  await ensureDatabase(cluster, UNFINISHED);
  const source = await new DataSource(databaseOptions(cluster.url(UNFINISHED), 4)).initialize();
  try {
    await migrate(cluster.url(UNFINISHED));
    await source.transaction(async (manager) => {
      say('People, clients and engagements …');
      await manager.query(WORLD(await hashPassword('a very large studio')));
      await manager.query(ENGAGEMENTS(today, size));
      say(`${size.engagements * TASKS} tasks with steps, dependencies, time and history …`);
      await manager.query(WORK);
    });
    await source.query('VACUUM ANALYZE');
    say(`Computing the ${size.open} open engagements …`);
    for (const { id } of await source.query(`SELECT id FROM engagement WHERE state = 'open'`))
      await source.transaction((manager) =>
        refreshEngagement(manager, id, { today, by: { actor: { job: 'plan' }, at: new Date() }, changed: [] }),
      );
    await source.query('VACUUM ANALYZE');
  } finally {
    await source.destroy();
  }
  await moveDatabase(cluster, UNFINISHED, LARGE_DATABASE);
}
