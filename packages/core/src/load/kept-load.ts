import { readCalendar, type Calendar } from '../calendar/calendar.ts';
import { capacityOn, readPerson, type Person } from '../calendar/capacity.ts';
import { formatDay, type DayNumber, type IsoDay } from '../calendar/day.ts';
import { indexById, refuse, requireDay } from '../check.ts';
import { attempt, type Result } from '../result.ts';
import { isSameItem, LoadBook, type LoadItem } from './book.ts';
import { readItem } from './load.ts';
import type { LoadDay, LoadInput, LoadTaskInput } from './types.ts';

interface Laid<Task> {
  readonly task: Task;
  readonly item: LoadItem;
}

/**
 * A load that is kept and brought up to date. Tasks come in groups, such as engagements; when a
 * group is given anew, only those of its tasks that count otherwise are taken off and put
 * again, with their people's days. It answers what `load` would; problems as for `load`.
 */
export class KeptLoad<Task extends LoadTaskInput = LoadTaskInput> {
  private readonly calendar: Calendar;
  private readonly people: readonly Person[];
  private readonly personIndex: ReadonlyMap<string, number>;
  private readonly defaultMinutes: number;
  private readonly book: LoadBook;
  private readonly groups = new Map<string, ReadonlyMap<string, Laid<Task>>>();

  private constructor({ calendar, people, today, to, defaultMinutes }: Omit<LoadInput, 'from' | 'tasks'>) {
    this.calendar = readCalendar(calendar, 'calendar');
    this.personIndex = indexById(people, 'people');
    this.people = people.map((person) => readPerson(person, `people[${person.id}]`));
    this.defaultMinutes = defaultMinutes;
    const from = requireDay(today, 'today');
    this.book = new LoadBook({ calendar: this.calendar, people: this.people, today: from, from, to: requireDay(to, 'to') });
  }

  /** An empty load of these people; days from today to `to` are kept. */
  static open<Task extends LoadTaskInput>(input: Omit<LoadInput, 'from' | 'tasks'>): Result<KeptLoad<Task>> {
    return attempt(() => new KeptLoad<Task>(input));
  }

  /** Gives a group its tasks, in place of those it had; none takes it away. With a problem everything stays as it was. */
  replace(group: string, tasks: readonly Task[]): Result<void> {
    return attempt(() => this.put(group, tasks));
  }

  private put(group: string, tasks: readonly Task[]): void {
    const before = this.groups.get(group) ?? new Map<string, Laid<Task>>();
    // Everything is read before anything is put there.
    const after = new Map(tasks.map((task) => [task.id, { task, item: this.itemOf(task) }]));
    for (const [id, { item }] of before) {
      const next = after.get(id);
      if (next === undefined || !isSameItem(item, next.item)) this.book.remove(item);
    }
    for (const [id, { item }] of after) {
      const old = before.get(id);
      if (old === undefined || !isSameItem(old.item, item)) this.book.add(item);
    }
    if (after.size === 0) this.groups.delete(group);
    else this.groups.set(group, after);
  }

  private itemOf(task: Task): LoadItem {
    const item = readItem(task, this.personIndex, this.defaultMinutes);
    return task.done === true ? { ...item, minutes: 0 } : item;
  }

  /** The groups there are. */
  names(): string[] {
    return [...this.groups.keys()];
  }

  /** All tasks, group by group. */
  tasks(): Task[] {
    const all: Task[] = [];
    for (const scheduled of this.groups.values()) for (const { task } of scheduled.values()) all.push(task);
    return all;
  }

  /** The days of each person, in the order of the people; before today there is nothing planned. Days behind those that are kept are refused. */
  days(window: { readonly from: string; readonly to: string }): Result<LoadDay[][]> {
    return attempt(() => this.daysOf(window));
  }

  private daysOf(window: { readonly from: string; readonly to: string }): LoadDay[][] {
    const [from, to] = [requireDay(window.from, 'from'), requireDay(window.to, 'to')];
    if (to < from) refuse({ kind: 'invalid-field', at: 'to', expected: 'on or after from' });
    if (to >= this.book.from + this.book.days) refuse({ kind: 'invalid-field', at: 'to', expected: 'a day that is kept' });
    const dates = Array.from({ length: to - from + 1 }, (_, index) => formatDay(from + index));
    return this.people.map((person, index) => dates.map((date, place) => this.dayOf({ person, index, date, day: from + place })));
  }

  private dayOf(at: { readonly person: Person; readonly index: number; readonly date: IsoDay; readonly day: DayNumber }): LoadDay {
    const { person, index, date, day } = at;
    if (day < this.book.from) return { date, capacity: capacityOn(this.calendar, person, day), load: 0, over: 0 };
    const cell = index * this.book.days + day - this.book.from;
    const [capacity, load] = [this.book.capacity[cell] as number, this.book.load[cell] as number];
    return { date, capacity, load, over: Math.max(0, load - capacity) };
  }
}
