import { randomUUID } from 'node:crypto';
import type { CustomFieldEntry, IsoDay } from '@crew/core';
import type { EditTask, TaskStatus } from '@crew/contract';
import { recordDeeds, type Deed, type NewEvent } from '../activity/record.ts';
import { taskEvents } from '../plan-change/task-events.ts';
import type { Database } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { nextFields, type TaskFields } from '../task/next-fields.ts';
import { valuesOf } from '../task/task-fields.ts';
import { changedImage, readTaskImages, type ImageChange, type TaskImage } from '../task/task-images.ts';
import { writeTaskImages } from '../task/write-task-images.ts';
import { timeEvents, type TimeChange } from '../time/record-time.ts';
import { writeTimes, type WorkedTime } from '../time/write-time.ts';

/** Something somebody did to a task on a past day. */
export type PastDeed = { readonly who: Who; readonly taskId: string; readonly day: IsoDay; readonly at: Date } & (
  | { readonly kind: 'status'; readonly change: Pick<EditTask, 'status' | 'waitingOn'> }
  | { readonly kind: 'steps' }
  | { readonly kind: 'fields'; readonly customFields: readonly CustomFieldEntry[] }
  | { readonly kind: 'time'; readonly minutes: number }
);

/**
 * Writes what was done in the past to tasks of one engagement: in a few statements, however much
 * it was, and with the same result as when everybody had done it that day by the use cases for
 * one task, history included. Only the plan is computed once, at the end. `past-work.test.ts`
 * compares the two. `deeds` in the order of their time.
 */
export async function writePastWork(database: Database, engagementId: string, deeds: readonly PastDeed[]): Promise<void> {
  const last = deeds.at(-1);
  if (last === undefined) return;
  await database.transaction(async (manager) => {
    await lockEngagements(manager, [engagementId]);
    const before = await readTaskImages(manager, engagementId);
    const images = new Map(before.map((image) => [image.id, image]));
    const imageOf = (taskId: string): TaskImage => images.get(taskId) as TaskImage;
    const times = deeds.filter((deed) => deed.kind === 'time');
    const ids = await writeTimes(
      manager,
      times.map((deed) => toEntry(engagementId, deed, imageOf(deed.taskId))),
    );
    const entryIds = new Map(times.map((deed, index) => [deed, ids[index] as string]));
    const done: Deed[] = [];
    for (const deed of deeds) {
      const image = imageOf(deed.taskId);
      const next = deed.kind === 'time' ? image : changedImage(image, changeOf(deed, image));
      images.set(deed.taskId, next);
      const events =
        deed.kind === 'time'
          ? timeEvents(toChange(engagementId, deed, { entryId: entryIds.get(deed) as string, title: image.row.title }))
          : await taskEvents(manager, { engagementId, before: [image], after: [next] });
      // Each step is ticked by itself.
      for (const event of events) done.push({ by: { actor: deed.who, at: deed.at }, batchId: randomUUID(), events: [asOf(next, event)] });
    }
    const by = { actor: { job: 'plan' }, at: last.at } as const;
    await writeTaskImages(manager, by, { before, after: before.map(({ id }) => imageOf(id)) });
    await recordDeeds(manager, done);
    // What follows finished work moves with it; work that is overdue stays so, as it does for people.
    const changed = before.flatMap(({ id }) => (imageOf(id).row['status'] === 'done' ? [id] : []));
    await refreshEngagement(manager, engagementId, { today: last.day, by, changed });
  });
}

/** The status is a fact of an event as it was then; the table has it as it is after the last of them. */
const asOf = ({ row }: TaskImage, event: NewEvent): NewEvent => ({
  ...event,
  facts: { ...event.facts, status: row['status'] as TaskStatus },
});

type TimeDeed = Extract<PastDeed, { readonly kind: 'time' }>;

function changeOf(deed: Exclude<PastDeed, TimeDeed>, { row, steps }: TaskImage): ImageChange {
  if (deed.kind === 'steps') return { steps: steps.map((step) => ({ ...step, isDone: true })) };
  const values = valuesOf(row);
  const input = deed.kind === 'fields' ? { customFields: [...deed.customFields] } : deed.change;
  const next = nextFields(values, input, deed.day);
  const changed = (Object.keys(next) as (keyof TaskFields)[]).filter((field) => next[field] !== values[field]);
  return { values: Object.fromEntries(changed.map((field) => [field, next[field]])) };
}

const toEntry = (engagementId: string, { who, taskId, day, minutes }: TimeDeed, { row }: TaskImage): WorkedTime => ({
  ...{ personId: who.personId as string, task: { id: taskId, engagementId }, day, minutes },
  ...{ startMinute: null, note: '', isChargeable: row['is_chargeable'] as boolean },
});

const toChange = (
  engagementId: string,
  { who, taskId, day, minutes }: TimeDeed,
  { entryId, title }: { readonly entryId: string; readonly title: string },
): TimeChange => ({
  kind: 'time-logged',
  ...{ entryId, personId: who.personId as string, day, lateReason: null },
  ...{ tasks: [{ id: taskId, engagementId, title }], minutes: { from: null, to: minutes } },
});
