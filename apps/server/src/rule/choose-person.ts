import { Injectable } from '@nestjs/common';
import type { Chosen } from '@crew/contract';
import { addDays, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { isOpen } from '../platform/sql-words.ts';
import { SuggestAssignees } from '../workload/suggest-assignees.ts';
import type { ChosenPerson, EffectEvent } from './effects/types.ts';

/** What somebody is chosen for: tasks, or work of this length from today. */
export interface ChosenFor {
  readonly agencyId: string;
  readonly event: EffectEvent;
  /** Open tasks they would do; empty for work that is not planned yet. */
  readonly taskIds: readonly string[];
}

/** Work that is not planned yet is taken to fall into the next two weeks. */
const SOON_DAYS = 13;

const WORK = `
  SELECT min(t.start_day) AS start, max(t.due_day) AS due, sum(t.estimate_minutes)::int AS minutes, sum(t.logged_minutes)::int AS logged
  FROM task t WHERE t.id = ANY($1::uuid[]) AND ${isOpen('t')}`;

const PERSON = `
  SELECT w.id, w.name, w.is_active AS "isActive", EXISTS (SELECT 1 FROM time_off o WHERE o.person_id = w.id AND o.minutes IS NULL AND $2 BETWEEN o.from_day AND o.to_day) AS "isAway"
  FROM person w WHERE w.agency_id = $1 AND w.id = ANY($3::uuid[])`;

/**
 * Whom a rule assigns: the person it names, or of a role whoever has the most free hours on the days of the
 * work. Nobody who is away today is chosen. Refuses with the reason when there is nobody.
 */
@Injectable()
export class ChoosePerson {
  private readonly database: Database;
  private readonly suggesting: SuggestAssignees;
  private readonly clock: Clock;
  constructor(database: Database, suggesting: SuggestAssignees, clock: Clock) {
    this.database = database;
    this.suggesting = suggesting;
    this.clock = clock;
  }

  async run(chosen: Chosen, work: ChosenFor): Promise<ChosenPerson> {
    if (chosen.by === 'person') return this.named(chosen.id, work);
    const ranked = await this.rank(chosen.id, work);
    const people = await this.look(
      work.agencyId,
      ranked.map(({ id }) => id),
    );
    const first = ranked.map(({ id }) => people.get(id)).find((person) => person !== undefined && person.isActive && !person.isAway);
    if (first === undefined) {
      const role = await this.database.row<{ name: string }>('SELECT name FROM role WHERE id = $1', [chosen.id]);
      throw new Refusal('wrong-moment', `Nobody with the role ${role?.name ?? 'it asks for'} is at work. Assign somebody by hand.`);
    }
    return { id: first.id, name: first.name, roleId: chosen.id };
  }

  private async named(id: string, { agencyId }: ChosenFor): Promise<ChosenPerson> {
    const person = (await this.look(agencyId, [id])).get(id);
    if (person === undefined || !person.isActive)
      throw new Refusal('wrong-moment', 'The person named in the rule has left. Edit the rule, or assign somebody by hand.');
    if (person.isAway) throw new Refusal('wrong-moment', `${person.name} is away today. Assign somebody by hand.`);
    return { id: person.id, name: person.name, roleId: null };
  }

  private async rank(roleId: string, { agencyId, event, taskIds }: ChosenFor): Promise<readonly { readonly id: string }[]> {
    const today = this.clock.today();
    const work = await this.database.row<{ start: IsoDay | null; due: IsoDay | null; minutes: number | null; logged: number | null }>(
      WORK,
      [taskIds],
    );
    const { people } = await this.suggesting.rank(agencyId, {
      ...{ id: taskIds[0] ?? event.subjectId, engagementId: event.engagementId ?? '', clientId: event.facts.clientId ?? '' },
      ...{ roleId, role: null, start: work?.start ?? today, due: work?.due ?? addDays(today, SOON_DAYS) },
      ...{ minutes: work?.minutes ?? null, logged: work?.logged ?? 0, assigneeIds: [] },
    });
    return people.map(({ person }) => person);
  }

  private async look(agencyId: string, ids: readonly string[]): Promise<ReadonlyMap<string, Looked>> {
    const people = await this.database.rows<Looked>(PERSON, [agencyId, this.clock.today(), ids]);
    return new Map(people.map((person) => [person.id, person]));
  }
}

interface Looked {
  readonly id: string;
  readonly name: string;
  readonly isActive: boolean;
  readonly isAway: boolean;
}
