import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import type { EntityManager } from 'typeorm';
import { startSmall, testWorld } from '../../test/harness.ts';
import { tryOut } from '../platform/try-out.ts';
import type { TaskImage } from '../task/task-images.ts';
import { applyEdit } from './apply-edit.ts';
import { ChangePlan } from './change-plan.ts';
import { editOfChanges } from './edit-of-changes.ts';
import type { PlanOperation } from './plan-edit.ts';
import { readPlanImage, type PlanImage } from './plan-image.ts';
import { writePlan } from './write-plan.ts';

const { harness, lead } = testWorld();

/** Opens a plan, lets a test work with it, and takes everything back. */
async function within<Value>(id: string, work: (manager: EntityManager, plan: PlanImage) => Promise<Value>): Promise<Value> {
  const who = await harness.whoIs('Lena');
  return tryOut(harness.database, async (manager) => work(manager, (await harness.app.get(ChangePlan).open(manager, who, id)).plan));
}

const write = async (manager: EntityManager, { before, after }: { readonly before: PlanImage; readonly after: PlanImage }) =>
  writePlan(manager, { actor: await harness.whoIs('Lena'), at: harness.clock.now() }, { before, after });

/** Numbers that choose an operation among those that are possible in a plan. */
const dice = fc.record({ kind: fc.nat(6), task: fc.nat(50), other: fc.nat(50), days: fc.integer({ min: 1, max: 9 }), isOn: fc.boolean() });
type Dice = typeof dice extends fc.Arbitrary<infer Value> ? Value : never;

function operationOf({ kind, task, other, days, isOn }: Dice, { tasks, phases }: PlanImage, people: readonly string[]): PlanOperation {
  const pick = <Item>(items: readonly Item[], at: number): Item => items[at % items.length] as Item;
  const [image, second] = [pick(tasks, task), pick(tasks, other)];
  const isWithin = (inner: TaskImage | undefined): boolean =>
    inner !== undefined && (inner === image || isWithin(tasks.find(({ id }) => id === inner.row.parent_id)));
  const change = (values: object, parts = {}): PlanOperation => ({ kind: 'change-task', id: image.id, change: { values, parts } });
  if (kind === 0) {
    const values = { title: `New ${days}`, phaseId: image.row.phase_id, parentId: isOn ? image.id : null };
    return { kind: 'add-tasks', tasks: [{ id: randomUUID(), values, steps: ['One', 'Two'] }] };
  }
  if (kind === 1) return change({ days, labels: [`label ${days}`], fixedDay: isOn ? '2026-12-01' : null });
  if (kind === 2) return change({}, { assignees: isOn ? people.slice(0, 2).map((personId) => ({ personId, share: days })) : [] });
  if (kind === 3 && second !== image) return change({}, { after: isOn ? [{ taskId: second.id, type: 'SS', lag: days }] : [] });
  if (kind === 4 && !isWithin(second)) return change({ parentId: isOn ? second.id : null, phaseId: pick(phases, other).id });
  if (kind === 5) return { kind: 'place-task', id: image.id, beforeId: null };
  return { kind: 'remove-tasks', ids: tasks.filter(isWithin).map(({ id }) => id) };
}

test('what is written is what the edit makes of the plan, whatever it does', async () => {
  const id = await startSmall(lead, harness);
  const people = Object.values(harness.ids.people);
  const seen = new Set<string>();
  await fc.assert(
    fc.asyncProperty(fc.array(dice, { minLength: 1, maxLength: 8 }), (throws) =>
      within(id, async (manager, before) => {
        let after = before;
        for (const thrown of throws) {
          if (after.tasks.length === 0) break;
          const operation = operationOf(thrown, after, people);
          seen.add(operation.kind);
          after = applyEdit(after, { operations: [operation] });
        }
        await write(manager, { before, after });
        expect(await readPlanImage(manager, id)).toEqual(after);
      }),
    ),
    { numRuns: 120 },
  );
  expect([...seen].sort()).toEqual(['add-tasks', 'change-task', 'place-task', 'remove-tasks']);
});

test('subtasks stand in the phase of what they are a part of, and nothing waits for what is gone', async () => {
  const id = await startSmall(lead, harness);
  const people = Object.values(harness.ids.people);
  await within(id, async (_manager, start) => {
    let checked = 0;
    fc.assert(
      fc.property(fc.array(dice, { minLength: 3, maxLength: 15 }), (throws) => {
        let plan = start;
        for (const thrown of throws) if (plan.tasks.length > 0) plan = applyEdit(plan, { operations: [operationOf(thrown, plan, people)] });
        const byId = new Map(plan.tasks.map((task) => [task.id, task]));
        for (const { row, after } of plan.tasks) {
          const parent = row.parent_id === null ? undefined : (byId.get(row.parent_id) as TaskImage);
          if (parent !== undefined) checked++;
          expect(row.phase_id).toBe(parent?.row.phase_id ?? row.phase_id);
          expect(row.is_group).toBe(plan.tasks.some((task) => task.row.parent_id === row['id']));
          for (const { taskId } of after) expect(byId.has(taskId)).toBe(true);
        }
      }),
      { numRuns: 300 },
    );
    expect(checked).toBeGreaterThan(50);
  });
});

/** How many statements a transaction sends while some work is done. */
async function countStatements(manager: EntityManager, work: () => Promise<unknown>): Promise<number> {
  const client = (await manager.queryRunner?.connect()) as { query: (...given: unknown[]) => unknown };
  const { query } = client;
  let count = 0;
  client.query = (...given) => {
    count++;
    return query.apply(client, given);
  };
  await work().finally(() => Reflect.deleteProperty(client, 'query'));
  return count;
}

test('a change of very many tasks takes no more statements than one of few', async () => {
  const id = await startSmall(lead, harness);
  const dora = harness.ids.people['Dora'] as string;
  const statements = (tasks: number): Promise<number> =>
    within(id, async (manager, before) => {
      const phaseId = (before.phases[0] as { id: string }).id;
      const added = Array.from({ length: tasks }, (_, index) => ({ id: randomUUID(), values: { title: `Task ${index}`, phaseId } }));
      const filled = applyEdit(before, { operations: [{ kind: 'add-tasks', tasks: added }] });
      await write(manager, { before, after: filled });
      const context = await harness.app.get(ChangePlan).open(manager, await harness.whoIs('Lena'), id);
      const changes = added.map((task, index) => ({
        ...{ id: task.id, version: 1, days: 3, priority: 'high' as const, assigneeIds: [dora], beforeId: null, shiftDays: 2 },
        after: index === 0 ? [] : [{ taskId: (added[index - 1] as { id: string }).id, type: 'FS' as const }],
      }));
      const after = applyEdit(filled, { operations: editOfChanges(changes, context) });
      return countStatements(manager, () => write(manager, { before: filled, after }));
    });
  const few = await statements(3);
  expect(few).toBeGreaterThan(3);
  expect(await statements(240)).toBe(few);
});

test('a preview keeps no history, not even for a moment', async () => {
  const id = await startSmall(lead, harness);
  const { body } = await lead.get(`/engagements/${id}/plan`).expect(200);
  const [task] = (body as { tasks: { id: string; version: number }[] }).tasks as [{ id: string; version: number }];
  const numbered = () => harness.database.rows('SELECT last_value FROM event_id_seq');
  const before = await numbered();
  await lead.post(`/engagements/${id}/changes/preview`, { tasks: [{ id: task.id, version: task.version, days: 7 }] }).expect(200);
  expect(await numbered()).toEqual(before);
  await lead.post(`/engagements/${id}/changes`, { tasks: [{ id: task.id, version: task.version, days: 7 }] }).expect(201);
  expect(await numbered()).not.toEqual(before);
});
