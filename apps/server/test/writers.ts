import type { EngagementPlan, PlanTask, SeriesView, TaskSheet, TemplateContentView, TaskEdited } from '@crew/contract';
import type { Response } from 'supertest';
import { startSmall, TODAY, type Caller, type Harness } from './harness.ts';

/** Something somebody does, on things of their own, and how it is known afterwards that it was done. */
export interface Writer {
  readonly name: string;
  /** Answers the response, or null for a job. */
  readonly write: () => Promise<Response | null>;
  readonly check: () => Promise<void>;
}

/** What the writers of one side work on: nobody else changes these very things. */
export interface Side {
  readonly caller: Caller;
  /** One of the crew who is signed in on this side, for a timer of their own. */
  readonly own: Caller;
  readonly personId: string;
  /** An engagement both sides write to, and another one. */
  readonly engagementId: string;
  readonly otherId: string;
  /** The phases of the shared engagement. */
  readonly phaseIds: readonly string[];
  /** Which of two: its tasks, days and names differ from the other's. */
  readonly place: 0 | 1;
  readonly settle: () => Promise<void>;
}

const planOf = async (caller: Caller, id: string): Promise<EngagementPlan> =>
  (await caller.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const sheetOf = async (caller: Caller, id: string): Promise<TaskSheet> => (await caller.get(`/tasks/${id}`).expect(200)).body as TaskSheet;

let count = 0;
/** A name nobody has used. */
const fresh = (word: string): string => `${word} ${++count}`;

/** Adds a task of one's own to the shared engagement. */
async function addTask({ caller, engagementId, phaseIds }: Side, title: string): Promise<TaskSheet> {
  const answer = await caller.post(`/engagements/${engagementId}/tasks`, {
    phaseId: phaseIds[0],
    title,
    days: 1,
    estimateMinutes: 600,
  });
  return (answer.body as TaskEdited).task;
}

/** Every kind of writer of one side, each ready to be run once. Making one reads and prepares; only `write` races. */
export function writersOf(side: Side, harness: Harness): readonly { readonly name: string; readonly ready: () => Promise<Writer> }[] {
  const { caller, own, engagementId, otherId, place } = side;
  const expectTask = async (id: string, fields: object): Promise<void> => expect(await sheetOf(caller, id)).toMatchObject(fields);
  const writer = (name: string, ready: () => Promise<Omit<Writer, 'name'>>) => ({
    name,
    ready: async () => ({ name, ...(await ready()) }),
  });
  return [
    writer('status', async () => {
      const task = await addTask(side, fresh('Status'));
      return {
        write: () => caller.patch(`/tasks/${task.id}`, { version: task.version, status: 'active' }),
        check: () => expectTask(task.id, { status: 'active' }),
      };
    }),
    writer('dates', async () => {
      const task = await addTask(side, fresh('Dates'));
      return {
        write: () => caller.patch(`/tasks/${task.id}`, { version: task.version, days: 4, notBefore: '2026-12-01' }),
        check: () => expectTask(task.id, { days: 4, notBefore: '2026-12-01' }),
      };
    }),
    writer('many tasks', async () => {
      const tasks = [await addTask(side, fresh('Many')), await addTask(side, fresh('Many'))];
      return {
        write: () =>
          caller.post(`/engagements/${engagementId}/changes`, {
            tasks: tasks.map(({ id, version }) => ({ id, version, priority: 'high' })),
          }),
        check: async () => {
          for (const { id } of tasks) await expectTask(id, { priority: 'high' });
        },
      };
    }),
    writer('several plans', async () => {
      const task = await addTask(side, fresh('Several'));
      const there = (await planOf(caller, otherId)).tasks.find(({ title }) => title === (place === 0 ? 'Sketch' : 'Cut')) as PlanTask;
      return {
        write: () =>
          caller.post('/workload/changes', {
            parts: [
              { engagementId, tasks: [{ id: task.id, version: task.version, labels: ['both'] }] },
              { engagementId: otherId, tasks: [{ id: there.id, version: there.version, labels: [fresh('both')] }] },
            ],
          }),
        check: () => expectTask(task.id, { labels: ['both'] }),
      };
    }),
    writer('a new task', () => {
      const [title, phaseId] = [fresh('New'), side.phaseIds[1]];
      return Promise.resolve({
        write: () => caller.post(`/engagements/${engagementId}/tasks`, { phaseId, title }),
        check: async () => expect((await planOf(caller, engagementId)).tasks.filter((task) => task.title === title)).toHaveLength(1),
      });
    }),
    writer('deleting a task', async () => {
      const task = await addTask(side, fresh('Gone'));
      return {
        write: () =>
          caller.post(`/engagements/${engagementId}/changes`, { tasks: [{ id: task.id, version: task.version, isDeleted: true }] }),
        check: async () => void (await caller.get(`/tasks/${task.id}`).expect(404)),
      };
    }),
    writer('steps', async () => {
      const task = await addTask(side, fresh('Steps'));
      return {
        write: () => caller.post(`/tasks/${task.id}/steps`, { title: 'One' }),
        check: async () => expect((await sheetOf(caller, task.id)).steps).toHaveLength(1),
      };
    }),
    writer('a tick', async () => {
      const task = await addTask(side, fresh('Tick'));
      const { steps } = (await caller.post(`/tasks/${task.id}/steps`, { title: 'One' }).expect(201)).body as TaskSheet;
      return {
        write: () => caller.patch(`/steps/${steps[0]?.id}`, { isDone: true }),
        check: async () => expect((await sheetOf(caller, task.id)).steps[0]?.isDone).toBe(true),
      };
    }),
    writer('logging time', async () => {
      const task = await addTask(side, fresh('Time'));
      return {
        write: () => caller.post(`/tasks/${task.id}/time`, { day: TODAY, minutes: 1 }),
        check: () => expectTask(task.id, { loggedMinutes: 1 }),
      };
    }),
    writer('correcting time', async () => {
      const task = await addTask(side, fresh('Correct'));
      await caller.post(`/tasks/${task.id}/time`, { day: TODAY, minutes: 1 }).expect(201);
      const entry = await harness.database.row<{ id: string }>('SELECT id FROM time_entry WHERE task_id = $1', [task.id]);
      return {
        write: () => caller.patch(`/time/${entry?.id}`, { version: 1, minutes: 2 }),
        check: () => expectTask(task.id, { loggedMinutes: 2 }),
      };
    }),
    writer('a timer', async () => {
      const task = await addTask(side, fresh('Timer'));
      return {
        write: () => own.post('/timer', { taskId: task.id }),
        check: async () => {
          expect((await own.get('/timer').expect(200)).body).toMatchObject({ timer: { task: { id: task.id } } });
          await expectTask(task.id, { status: 'active' });
        },
      };
    }),
    writer('the week’s planning', async () => {
      const tasks = [await addTask(side, fresh('Week')), await addTask(side, fresh('Week'))];
      return {
        write: () => caller.post('/week-plan/places', { tasks: tasks.map(({ id }) => ({ taskId: id, week: '2026-11-30' })) }),
        check: async () => {
          const rows = await harness.database.rows('SELECT 1 FROM task WHERE id = ANY($1) AND planned_week = $2', [
            tasks.map(({ id }) => id),
            '2026-11-30',
          ]);
          expect(rows).toHaveLength(2);
        },
      };
    }),
    writer('placing on a day', async () => {
      const task = await addTask(side, fresh('Place'));
      const given = await caller.patch(`/tasks/${task.id}`, { version: task.version, assigneeIds: [side.personId] });
      expect(given.status).toBe(200);
      return {
        write: () => own.post('/desk/places', { taskId: task.id, day: '2026-11-24', minutes: 15 }),
        check: async () => expect(await harness.database.rows('SELECT 1 FROM desk_place WHERE task_id = $1', [task.id])).toHaveLength(1),
      };
    }),
    writer('having seen', async () => {
      const task = await addTask(side, fresh('Seen'));
      await caller.patch(`/tasks/${task.id}`, { version: task.version, assigneeIds: [side.personId] }).expect(200);
      return {
        write: () => own.post('/desk/seen'),
        check: async () =>
          expect(
            await harness.database.rows('SELECT 1 FROM task_assignee WHERE task_id = $1 AND seen_at IS NOT NULL', [task.id]),
          ).toHaveLength(1),
      };
    }),
    writer('a gate’s word', async () => {
      const check = await harness.database.row<{ id: string }>(
        `SELECT k.id FROM gate_check k JOIN phase p ON p.id = k.phase_id WHERE p.engagement_id = $1 AND k.kind = 'word'`,
        [place === 0 ? engagementId : otherId],
      );
      return {
        write: () => caller.patch(`/gate-checks/${check?.id}`, { isClear: true }),
        check: async () =>
          expect(await harness.database.rows('SELECT 1 FROM gate_check WHERE id = $1 AND given_at IS NOT NULL', [check?.id])).toHaveLength(
            1,
          ),
      };
    }),
    writer('a baseline', () =>
      Promise.resolve({
        write: () => caller.post(`/engagements/${engagementId}/baseline`),
        check: async () => expect((await planOf(caller, engagementId)).baseline.keptOn).toBe(TODAY),
      }),
    ),
    writer('a deliverable', () => {
      const name = fresh('Deliverable');
      return Promise.resolve({
        write: () => caller.post(`/engagements/${engagementId}/deliverables`, { name }),
        check: async () => expect((await planOf(caller, engagementId)).deliverables.map((one) => one.name)).toContain(name),
      });
    }),
    writer('the engagement itself', async () => {
      const id = await startSmall(caller, harness, { name: fresh('Own') });
      const name = fresh('Renamed');
      return {
        write: () => caller.patch(`/engagements/${id}`, { version: 1, name }),
        check: async () => expect((await planOf(caller, id)).engagement.name).toBe(name),
      };
    }),
    writer('an undo', async () => {
      const task = await addTask(side, fresh('Undo'));
      const { changeId } = (await caller.patch(`/tasks/${task.id}`, { version: task.version, days: 7 }).expect(200)).body as {
        changeId: string;
      };
      return { write: () => caller.post(`/changes/${changeId}/undo`), check: () => expectTask(task.id, { days: 1 }) };
    }),
    writer('a new engagement', () => {
      const name = fresh('Started');
      const { template, client } = harness.ids;
      return Promise.resolve({
        write: () => caller.post('/engagements', { templateId: template, clientId: client, name, start: TODAY }),
        check: async () => expect(await harness.database.rows('SELECT 1 FROM engagement WHERE name = $1', [name])).toHaveLength(1),
      });
    }),
    writer('a template', async () => {
      const { id } = (await caller.post('/templates', { name: fresh('Template') }).expect(201)).body as { id: string };
      const view = (await caller.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView;
      const description = fresh('changed');
      return {
        write: () => caller.put(`/templates/${id}/content`, { revision: view.revision, content: { ...view.content, description } }),
        check: async () =>
          expect(((await caller.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView).content.description).toBe(
            description,
          ),
      };
    }),
    writer('a line', async () => {
      const series = (
        await caller
          .post('/series', {
            ...{ kind: 'line', name: fresh('Line'), clientId: harness.ids.client, templateId: harness.ids.template },
            ...{ firstDay: '2026-11-30', rule: 'FREQ=WEEKLY;BYDAY=MO', aheadDays: 14 },
          })
          .expect(201)
      ).body as SeriesView;
      return {
        write: () =>
          caller.post(`/series/${series.id}/rhythms`, { version: series.version, from: '2026-12-01', rule: 'FREQ=WEEKLY;BYDAY=TH' }),
        check: async () =>
          expect(((await caller.get(`/series/${series.id}`).expect(200)).body as SeriesView).version).toBe(series.version + 1),
      };
    }),
    writer('a closed day', () => {
      const day = `2027-0${place + 1}-${String(10 + (++count % 18))}`;
      return Promise.resolve({
        write: () => caller.post('/calendar/closed-days', { days: [{ day, name: 'Closed' }] }),
        check: async () => expect(await harness.database.rows('SELECT 1 FROM closed_day WHERE day = $1', [day])).toHaveLength(1),
      });
    }),
    writer('time off', () => {
      const note = fresh('Away');
      return Promise.resolve({
        write: () => own.post(`/crew/${side.personId}/time-off`, { from: '2027-03-01', to: '2027-03-02', note }),
        check: async () => expect(await harness.database.rows('SELECT 1 FROM time_off WHERE note = $1', [note])).toHaveLength(1),
      });
    }),
    writer('a person', async () => {
      const row = await harness.database.row<{ version: number }>('SELECT version FROM person WHERE id = $1', [side.personId]);
      const week = [480, 480, 480, 480, 300 + (++count % 100), 0, 0];
      return {
        write: () => caller.patch(`/crew/${side.personId}`, { version: row?.version, week }),
        check: async () =>
          expect((await harness.database.row<{ week: number[] }>('SELECT week FROM person WHERE id = $1', [side.personId]))?.week).toEqual(
            week,
          ),
      };
    }),
    writer('a custom field', () => {
      const name = fresh('Field');
      return Promise.resolve({
        write: () => caller.post('/custom-fields', { name, kind: 'text' }),
        check: async () => expect(await harness.database.rows('SELECT 1 FROM custom_field WHERE name = $1', [name])).toHaveLength(1),
      });
    }),
    writer('the jobs', () => Promise.resolve({ write: () => side.settle().then(() => null), check: () => Promise.resolve() })),
  ];
}
