import type { INestApplicationContext } from '@nestjs/common';
import { FollowEvents } from '../activity/follow-events.ts';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { AddExampleRules } from '../rule/add-example-rules.ts';
import { CarryOut } from '../rule/carry-out.ts';
import { KeepRules } from '../rule/keep-rules.ts';

/** The rules that come with the templates. */
export const addRules = (app: INestApplicationContext, who: Who): Promise<void> =>
  app.get(Database).transaction((manager) => app.get(AddExampleRules).run(manager, who));

/** What a lead added for one engagement only. */
export async function addRuleOfOne(app: INestApplicationContext, who: Who, engagementName: string): Promise<void> {
  const engagement = await app.get(Database).row<{ id: string }>('SELECT id FROM engagement WHERE name = $1', [engagementName]);
  if (engagement === null) throw new Error(`there is no engagement ${engagementName}`);
  await app.get(KeepRules).add(who, {
    ...{ level: 'engagement', engagementId: engagement.id },
    content: {
      when: { kind: 'task-day', slots: { days: 1, date: 'due', task: { by: 'title', is: 'Client picks a direction' } } },
      if: [],
      then: [{ do: 'tell', slots: { who: { by: 'lead' }, text: 'Call {client}: the direction is overdue' } }],
    },
  });
}

/** Jobs of what has been carried out. */
const DONE_ALREADY = `
  SELECT graphile_worker.complete_jobs(array_agg(id)) FROM graphile_worker.jobs WHERE task_identifier IN ('carry-out-rules', 'send-mail', 'act-on-mail', 'mail-notices') HAVING count(*) > 0`;

/** What is left to be followed, and what rules are left to be carried out for. */
const LEFT = `
  SELECT EXISTS (SELECT 1 FROM event WHERE is_pending) AS "isPending",
    (SELECT coalesce(json_agg(DISTINCT event_id::text), '[]') FROM rule_run WHERE state = 'waiting') AS "eventIds"`;
interface Left {
  readonly isPending: boolean;
  readonly eventIds: readonly string[];
}

/** What the queue does a moment later, done now: rules are decided and carried out until nothing follows any more. */
export async function settleRules(app: INestApplicationContext): Promise<void> {
  const [database, following, carrying] = [app.get(Database), app.get(FollowEvents), app.get(CarryOut)];
  const carried = new Set<string>();
  for (;;) {
    const left = await database.row<Left>(LEFT);
    if (left === null || (!left.isPending && left.eventIds.length === 0)) break;
    if (left.isPending && (await following.run()) === 0) throw new Error('an event of the demo cannot be followed');
    if (left.isPending) continue;
    for (const eventId of left.eventIds) {
      if (carried.has(eventId)) throw new Error(`rules at event ${eventId} of the demo cannot be carried out`);
      carried.add(eventId);
      await carrying.run({ eventId });
    }
  }
  await database.rows(DONE_ALREADY);
}
