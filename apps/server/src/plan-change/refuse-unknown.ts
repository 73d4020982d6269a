import { isDeepStrictEqual } from 'node:util';
import type { EntityManager } from 'typeorm';
import { refuseTwice, requireCustomFields } from '../field/keep-custom-fields.ts';
import { requireFiles } from '../file/keep-files.ts';
import { rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { valuesOf } from '../task/task-fields.ts';
import type { TaskImage } from '../task/task-images.ts';
import { refuseTimed } from '../time/refuse-timed.ts';
import type { PlanImage } from './plan-image.ts';

interface Pair {
  readonly before: TaskImage;
  readonly after: TaskImage;
}

/**
 * Refuses what an edit newly names and what is not there, or must not be named: people of another
 * crew or who left, files that may not be seen, values that do not fit their custom field. What a
 * task had already may stay. So is removing a task refused that somebody's timer is on.
 */
export async function refuseUnknown(
  manager: EntityManager,
  who: Who,
  { before, after }: { readonly before: PlanImage; readonly after: PlanImage },
): Promise<void> {
  const was = new Map(before.tasks.map((image) => [image.id, image]));
  const is = new Set(after.tasks.map(({ id }) => id));
  await refuseTimed(
    manager,
    [...was.keys()].filter((id) => !is.has(id)),
  );
  const changed = after.tasks.flatMap((image): Pair[] => {
    const first = was.get(image.id);
    return first === undefined || first === image ? [] : [{ before: first, after: image }];
  });
  const added = after.tasks.filter(({ id }) => !was.has(id));
  await refuseUnknownPeople(manager, who, [...changed.flatMap(newPeople), ...added.flatMap(peopleOf)]);
  await refuseUnknownFiles(manager, who, changed);
  await refuseOddValues(manager, who, changed);
}

const peopleOf = ({ assignees }: TaskImage): string[] => assignees.map(({ personId }) => personId);

const newPeople = ({ before, after }: Pair): string[] => {
  const there = new Set(peopleOf(before));
  return peopleOf(after).filter((id) => !there.has(id));
};

async function refuseUnknownPeople(manager: EntityManager, { agencyId }: Who, people: readonly string[]): Promise<void> {
  const ids = [...new Set(people)];
  if (ids.length === 0) return;
  const known = await rowsOf(manager, 'SELECT id FROM person WHERE agency_id = $1 AND is_active AND id = ANY($2)', [agencyId, ids]);
  if (known.length < ids.length)
    throw new Refusal('unknown-id', 'Somebody chosen is not on your crew. Choose from the list.', { field: 'assigneeIds' });
}

async function refuseUnknownFiles(manager: EntityManager, who: Who, changed: readonly Pair[]): Promise<void> {
  const files = changed.flatMap(({ before, after }) => after.files.filter((id) => !before.files.includes(id)));
  if (files.length > 0)
    await requireFiles(
      manager,
      who,
      files.map((fileId) => ({ fileId })),
    );
}

async function refuseOddValues(manager: EntityManager, who: Who, changed: readonly Pair[]): Promise<void> {
  const pairs = changed
    .map(({ before, after }) => ({ before: valuesOf(before.row).customFields, after: valuesOf(after.row).customFields }))
    .filter(({ before, after }) => !isDeepStrictEqual(before, after));
  if (pairs.length === 0) return;
  for (const { after } of pairs) refuseTwice(after, 'customFields');
  await requireCustomFields(manager, who, {
    entries: pairs.flatMap(({ after }) => after),
    ...{ before: pairs.flatMap(({ before }) => before), at: 'customFields' },
  });
}
