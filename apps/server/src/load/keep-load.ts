import { Injectable } from '@nestjs/common';
import { addDays, KeptLoad, type LoadDay, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { LoadWindow } from './load-window.ts';
import { readCrewAndMarks, readTasksOf, type CrewAndMarks, type LoadFacts, type LoadTaskFacts, type PersonFacts } from './load-facts.ts';

/** How many days before and after today are kept: more than anybody looks at. */
const KEPT_DAYS = { before: 400, after: 800 } as const;

/** The load of an agency as of a moment. */
export interface LoadNow {
  readonly people: readonly PersonFacts[];
  readonly defaultMinutes: number;
  /** Open work in no order. */
  readonly tasks: () => LoadTaskFacts[];
  /** People and open work, put in order when asked for: of a large agency that takes longer than all else here. */
  readonly facts: () => LoadFacts;
  /** The days of each person in the order of the people, or null for days so far away that they are not kept. */
  readonly days: (window: LoadWindow) => LoadDay[][] | null;
  /** Of it what is only likely: work of proposals and of units that are not created yet. */
  readonly likelyDays: (window: LoadWindow) => LoadDay[][] | null;
}

interface Kept {
  readonly today: IsoDay;
  /** The crew and the calendar it was computed for: with others everything is computed anew. */
  readonly crew: string;
  readonly load: KeptLoad<LoadTaskFacts>;
  readonly likely: KeptLoad<LoadTaskFacts>;
  readonly marks: Map<string, string>;
}

/**
 * The load of each agency, kept in memory and brought up to date when somebody asks: of the
 * engagements only those are read whose mark is another than before, and of their tasks only
 * those are computed anew that count otherwise. Every process keeps its own; the database tells
 * all of them what has changed, so none of them answers what is no longer so.
 */
@Injectable()
export class KeepLoad {
  private readonly database: Database;
  private readonly clock: Clock;
  private readonly kept = new Map<string, Kept>();
  private readonly queues = new Map<string, Promise<unknown>>();
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** One after the other for each agency: two who ask at once would compute the same change twice. */
  read(agencyId: string): Promise<LoadNow> {
    const before = this.queues.get(agencyId) ?? Promise.resolve();
    const next = before.catch(() => undefined).then(() => this.bringUpToDate(agencyId));
    this.queues.set(agencyId, next);
    return next;
  }

  /** Computes everything anew the next time. */
  forget(agencyId: string): void {
    this.kept.delete(agencyId);
  }

  private async bringUpToDate(agencyId: string): Promise<LoadNow> {
    const today = this.clock.today();
    const [first, last] = [addDays(today, -KEPT_DAYS.before), addDays(today, KEPT_DAYS.after)];
    const { marks, ...crew } = requireFound(await readCrewAndMarks(this.database.manager, agencyId, { offFrom: first, today }), 'agency');
    const known = this.kept.get(agencyId);
    const as = JSON.stringify(crew);
    const opened = (): KeptLoad<LoadTaskFacts> => unwrap(KeptLoad.open<LoadTaskFacts>({ ...crew, today, to: last }));
    const kept: Kept =
      known?.today === today && known.crew === as ? known : { today, crew: as, load: opened(), likely: opened(), marks: new Map() };
    // Half brought up to date it would be wrong: until it is whole again, there is none.
    this.kept.delete(agencyId);
    await this.replaceChanged(agencyId, kept, { ...crew, marks });
    this.kept.set(agencyId, kept);
    return {
      people: crew.people,
      defaultMinutes: crew.defaultMinutes,
      tasks: () => kept.load.tasks(),
      facts: () => ({ ...crew, tasks: inOrder(kept.load.tasks()) }),
      days: (window) => (window.from < first || window.to > last ? null : unwrap(kept.load.days(window))),
      likelyDays: (window) => (window.from < first || window.to > last ? null : unwrap(kept.likely.days(window))),
    };
  }

  private async replaceChanged(agencyId: string, kept: Kept, { marks, people }: CrewAndMarks): Promise<void> {
    const changed = marks.filter(({ id, mark }) => kept.marks.get(id) !== mark);
    const there = new Set(marks.map(({ id }) => id));
    const tasks =
      changed.length === 0
        ? []
        : await readTasksOf(
            this.database.manager,
            agencyId,
            changed.map(({ id }) => id),
          );
    // Somebody who joined or left between the two readings comes with the next one.
    const crew = new Set(people.map(({ id }) => id));
    const byEngagement = new Map<string, LoadTaskFacts[]>(changed.map(({ id }) => [id, []]));
    for (const task of tasks)
      byEngagement.get(task.engagementId)?.push({ ...task, assignees: task.assignees.filter(({ person }) => crew.has(person)) });
    const gone = kept.load.names().filter((id) => !there.has(id));
    const put = (id: string, own: readonly LoadTaskFacts[]): void => {
      unwrap(kept.load.replace(id, own));
      unwrap(kept.likely.replace(id, own.filter(isLikely)));
    };
    for (const [id, own] of byEngagement) put(id, own);
    for (const id of gone) put(id, []);
    kept.marks.clear();
    for (const { id, mark } of marks) kept.marks.set(id, mark);
  }
}

/** Work that may not come: that of a proposal, and that of a unit nobody has made yet. */
export const isLikely = ({ isComing, likelihood = 100 }: LoadTaskFacts): boolean => isComing === true || likelihood < 100;

/** By the day they are due, as lists show them. */
const inOrder = (tasks: readonly LoadTaskFacts[]): LoadTaskFacts[] =>
  [...tasks].sort((left, right) => (left.due === right.due ? compare(left.id, right.id) : compare(left.due, right.due)));
const compare = (left: string, right: string): number => (left < right ? -1 : left > right ? 1 : 0);
