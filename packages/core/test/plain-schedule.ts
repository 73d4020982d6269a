import { isOpen, compileCalendar, parseDay, formatDay, type Calendar, type ScheduleInput, type TaskInput } from '../src/index.ts';

/**
 * The rules of core-spec section 2 written the slow, obvious way: walk the calendar day by
 * day, move everything until nothing moves any more. Kept only to compare the real one with.
 */
export function plainSchedule(input: ScheduleInput): { tasks: { id: string; start: string; finish: string }[]; finish: string } {
  const compiled = compileCalendar(input.calendar);
  if (!compiled.ok) throw new Error('calendar');
  const axis = new DayAxis(compiled.value, parseDay(input.start) as number);
  const promise = input.promise === undefined ? null : axis.boundaryAfter(parseDay(input.promise) as number);
  const first = relax(input, axis, new Map(), true);
  const late = new Map<string, number>();
  for (const task of input.tasks.filter(isLate)) {
    const others = input.tasks.filter((other) => !isLate(other)).map((other) => (first.start.get(other.id) as number) + other.days);
    const everything = Math.max(0, ...others, ...first.phaseEnd.values());
    const target = task.anchor?.at === 'before-phase-end' ? (first.phaseEnd.get(task.phase) as number) : (promise ?? everything);
    late.set(task.id, Math.max(0, target - (task.anchor?.offset ?? 0) - task.days));
  }
  const { start, phaseEnd } = relax(input, axis, late, false);
  const finish = Math.max(0, ...phaseEnd.values());
  const tasks = input.tasks.map((task) => {
    const from = start.get(task.id) as number;
    const shown = task.days > 0 ? from : from === 0 && task.fixed === undefined ? 0 : from - 1;
    const last = task.days > 0 ? from + task.days - 1 : shown;
    return { id: task.id, start: formatDay(axis.dayAt(shown)), finish: formatDay(axis.dayAt(last)) };
  });
  return { tasks, finish: formatDay(axis.dayAt(Math.max(0, finish - 1))) };
}

const isLate = (task: TaskInput): boolean => task.fixed === undefined && (task.anchor?.at ?? '').startsWith('before-');

function relax(input: ScheduleInput, axis: DayAxis, late: ReadonlyMap<string, number>, leaveLateOut: boolean) {
  const start = new Map(input.tasks.map((task) => [task.id, 0]));
  const phaseStart = new Map(input.phases.map((phase) => [phase.id, 0]));
  const phaseEnd = new Map(input.phases.map((phase) => [phase.id, 0]));
  const byId = new Map(input.tasks.map((task) => [task.id, task]));
  for (let changed = true; changed;) {
    changed = false;
    const set = (map: Map<string, number>, id: string, value: number): void => {
      if (map.get(id) !== value) changed = true;
      map.set(id, value);
    };
    for (const phase of input.phases) {
      const before = phase.after && (phase.after.edge === 'finish' ? phaseEnd : phaseStart).get(phase.after.phase);
      set(phaseStart, phase.id, Math.max(0, before === undefined ? 0 : before + (phase.after?.lag ?? 0)));
      const ends = input.tasks
        .filter((task) => task.phase === phase.id && !(leaveLateOut && isLate(task)))
        .map((task) => (start.get(task.id) as number) + task.days);
      set(phaseEnd, phase.id, Math.max(phaseStart.get(phase.id) as number, ...ends));
    }
    for (const task of input.tasks) {
      if (task.fixed !== undefined) {
        set(start, task.id, axis.boundaryOf(parseDay(task.fixed) as number) + (task.days === 0 ? 1 : 0));
        continue;
      }
      const phase = phaseStart.get(task.phase) as number;
      const bounds = [0, phase, late.get(task.id) ?? 0];
      if (task.anchor?.at === 'phase-start') bounds.push(phase + task.anchor.offset);
      if (task.anchor?.at === 'engagement-start') bounds.push(task.anchor.offset);
      for (const link of task.after ?? []) {
        const from = start.get(link.task) as number;
        const base = link.type[0] === 'F' ? from + (byId.get(link.task) as TaskInput).days : from;
        bounds.push(base + (link.lag ?? 0) - (link.type[1] === 'F' ? task.days : 0));
      }
      set(start, task.id, Math.max(...bounds));
    }
  }
  return { start, phaseEnd };
}

/** Boundaries by walking from day to day. */
class DayAxis {
  private readonly calendar: Calendar;
  private readonly origin: number;
  constructor(calendar: Calendar, start: number) {
    this.calendar = calendar;
    this.origin = this.openFrom(start);
  }
  private openFrom(day: number): number {
    while (!isOpen(this.calendar, day)) day++;
    return day;
  }
  boundaryOf(day: number): number {
    let count = 0;
    for (let at = this.origin; at < day; at++) if (isOpen(this.calendar, at)) count++;
    for (let at = this.origin - 1; at >= day; at--) if (isOpen(this.calendar, at)) count--;
    return count;
  }
  boundaryAfter(day: number): number {
    return this.boundaryOf(day + 1);
  }
  dayAt(boundary: number): number {
    let day = this.origin;
    for (let left = boundary; left > 0; left--) day = this.openFrom(day + 1);
    for (let left = boundary; left < 0; left++) {
      do day--;
      while (!isOpen(this.calendar, day));
    }
    return day;
  }
}
