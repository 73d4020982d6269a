import { record } from '../../activity/record.ts';
import { rowsOf } from '../../platform/database.ts';
import { findHandoff, findPeople } from '../places.ts';
import { nothing, slotOf, type CarryOutEffect } from './types.ts';

const namesOf = (people: readonly { readonly name: string }[]): string => people.map(({ name }) => name).join(', ');

/** Tells people something: an event of the stream, which the notices follow. */
export const tell: CarryOutEffect = async (asked) => {
  const { manager, who, by, event } = asked;
  const people = await findPeople(manager, event, { agencyId: who.agencyId, somebody: slotOf(asked, 'who', 'who') });
  if (people.length === 0) return nothing('There was nobody to tell.');
  const payload = { personIds: people.map(({ id }) => id), words: slotOf(asked, 'text', 'text') };
  const { engagementId, subject, subjectId } = event;
  await record(manager, by, [{ kind: 'told', engagementId, subject, subjectId, payload }]);
  return { said: `Told ${namesOf(people)}.` };
};

/** Puts a handoff that can be handed off on somebody's desk. */
export const readyHandoff: CarryOutEffect = async (asked) => {
  const { manager, who, by, event } = asked;
  const handoff = await findHandoff(manager, event);
  const people = await findPeople(manager, event, { agencyId: who.agencyId, somebody: slotOf(asked, 'who', 'who') });
  if (people.length === 0) return nothing('There is nobody to hand it off.');
  const personIds = people.map(({ id }) => id);
  const set = `UPDATE handoff SET ready_for_ids = $2 WHERE id = $1 AND state IN ('getting-ready', 'sent-back') RETURNING id`;
  const ready = await rowsOf(manager, set, [handoff.id, personIds]);
  if (ready.length === 0) return nothing('It has been handed off already.');
  await record(manager, by, [
    { kind: 'handoff-readied', engagementId: event.engagementId, subject: 'handoff', subjectId: handoff.id, payload: { personIds } },
  ]);
  return { said: `Put it on the desk of ${namesOf(people)}.` };
};
