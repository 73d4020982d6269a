import { addBusinessDays } from 'date-fns';
import { addWorkingDays, compileCalendar, formatDay, openBook, load, LoadBook, schedule } from '../../packages/core/dist/index.js';
import { rank } from '../../packages/core/dist/calendar/calendar.js';
import { readPerson } from '../../packages/core/dist/calendar/capacity.js';
import { readItem } from '../../packages/core/dist/load/load.js';
import { buildNetwork } from '../../packages/core/dist/schedule/network.js';
import { placeBackward, placeForward } from '../../packages/core/dist/schedule/passes.js';
import { report, seeded, timeOf } from './measure.mjs';

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const CALENDAR = { week: WEEK, closed: ['2026-12-25', '2026-12-28', '2027-01-01', '2027-05-03', '2027-08-30'] };

function planOf(tasks, links) {
  const random = seeded(7);
  const phases = Array.from({ length: 10 }, (_, index) => ({
    id: `p${index}`,
    ...(index === 0 ? {} : { after: { phase: `p${index - 1}`, edge: 'finish', lag: 0 } }),
  }));
  const list = Array.from({ length: tasks }, (_, index) => ({
    id: `t${index}`,
    phase: `p${Math.floor((index * 10) / tasks)}`,
    days: random(5),
    after: [],
  }));
  for (let link = 0; link < links; link++) {
    const to = 1 + random(tasks - 1);
    list[to].after.push({ task: `t${Math.max(0, to - 1 - random(50))}`, type: 'FS', lag: random(3) });
  }
  return { calendar: CALENDAR, start: '2026-12-14', phases, tasks: list };
}

/** The forward and backward pass alone, reading from arrays that stand ready. */
function barePass(input) {
  const index = new Map(input.tasks.map((task, place) => [task.id, place]));
  const first = new Int32Array(input.tasks.length + 1);
  const links = input.tasks.flatMap((task) => task.after);
  input.tasks.forEach((task, place) => (first[place + 1] = first[place] + task.after.length));
  const from = Int32Array.from(links, (link) => index.get(link.task));
  const lag = Int32Array.from(links, (link) => link.lag);
  const days = Int32Array.from(input.tasks, (task) => task.days);
  const phase = Int32Array.from(input.tasks, (task) => Number(task.phase.slice(1)));
  return () => {
    // An answer is new each time, here as there.
    const start = new Int32Array(days.length);
    const late = new Int32Array(days.length);
    const ends = new Int32Array(11);
    for (let task = 0; task < days.length; task++) {
      let at = phase[task] === 0 ? 0 : ends[phase[task] - 1];
      for (let edge = first[task]; edge < first[task + 1]; edge++) at = Math.max(at, start[from[edge]] + days[from[edge]] + lag[edge]);
      start[task] = at;
      ends[phase[task]] = Math.max(ends[phase[task]], at + days[task]);
    }
    late.fill(ends[9]);
    for (let task = days.length - 1; task >= 0; task--) {
      late[task] -= days[task];
      for (let edge = first[task]; edge < first[task + 1]; edge++) late[from[edge]] = Math.min(late[from[edge]], late[task] - lag[edge]);
    }
    return late[0];
  };
}

/** The same rule as one writes it first: plain objects and Maps, every date reached by walking the calendar. */
function plainSchedule(input) {
  const closed = new Set(input.calendar.closed);
  const isOpen = (day) => day.getUTCDay() % 6 !== 0 && !closed.has(day.toISOString().slice(0, 10));
  const walk = (from, days) => {
    const day = new Date(from);
    const step = days < 0 ? -1 : 1;
    while (!isOpen(day)) day.setUTCDate(day.getUTCDate() + 1);
    for (let left = Math.abs(days); left > 0;) {
      day.setUTCDate(day.getUTCDate() + step);
      if (isOpen(day)) left--;
    }
    return day;
  };
  const later = (left, right) => (left > right ? left : right);
  const placed = new Map();
  const ends = new Map(input.phases.map((phase) => [phase.id, new Date(input.start)]));
  for (const task of input.tasks) {
    const before = input.phases.find((phase) => phase.id === task.phase).after;
    let start = before ? ends.get(before.phase) : new Date(input.start);
    for (const link of task.after) start = later(start, walk(placed.get(link.task).end, link.lag));
    const end = walk(start, task.days);
    placed.set(task.id, { start, end });
    ends.set(task.phase, later(ends.get(task.phase), end));
  }
  const finish = [...ends.values()].reduce(later);
  const late = new Map();
  for (const task of [...input.tasks].reverse()) {
    const limit = late.get(task.id) ?? finish;
    const start = walk(limit, -task.days);
    late.set(task.id, start);
    for (const link of task.after) {
      const bound = walk(start, -link.lag);
      if (bound < (late.get(link.task) ?? finish)) late.set(link.task, bound);
    }
  }
  return input.tasks.map((task) => {
    const { start, end } = placed.get(task.id);
    return { id: task.id, start: start.toISOString(), finish: end.toISOString(), isCritical: late.get(task.id) <= start };
  });
}

function loadInput(tasks) {
  const random = seeded(11);
  const people = Array.from({ length: 200 }, (_, index) => ({ id: `p${index}`, week: WEEK }));
  return {
    ...{ calendar: CALENDAR, today: '2026-12-14', from: '2026-12-14', to: '2027-06-13', defaultMinutes: 60, people },
    tasks: Array.from({ length: tasks }, (_, index) => {
      const start = 20_801 + random(160);
      return {
        id: `t${index}`,
        assignees: [{ person: `p${random(200)}` }],
        estimate: 60 + random(1200),
        start: formatDay(start),
        due: formatDay(start + random(14)),
      };
    }),
  };
}

/** Spreading alone, over columns that stand ready, by the same largest-remainder rule. */
function bareLoad(input) {
  const day = (text) => Date.parse(text) / 86_400_000 - 20_801;
  const columns = { person: [], first: [], last: [], minutes: [] };
  for (const task of input.tasks) {
    columns.person.push(Number(task.assignees[0].person.slice(1)));
    columns.first.push(Math.max(0, day(task.start)));
    columns.last.push(day(task.due));
    columns.minutes.push(task.estimate);
  }
  const [person, first, last, minutes] = Object.values(columns).map((column) => Int32Array.from(column));
  const closed = new Set(input.calendar.closed.map(day));
  const capacity = Int32Array.from({ length: 200 }, (_, at) => (WEEK[at % 7] > 0 && !closed.has(at) ? 450 : 0));
  return () => {
    const grid = new Int32Array(200 * 200);
    for (let task = 0; task < person.length; task++) {
      let open = 0;
      for (let at = first[task]; at <= last[task]; at++) if (capacity[at] > 0) open++;
      const share = open === 0 ? 0 : Math.floor(minutes[task] / open);
      let rest = open === 0 ? 0 : minutes[task] - share * open;
      for (let at = first[task]; at <= last[task]; at++) {
        if (capacity[at] === 0) continue;
        grid[person[task] * 200 + at] += share + (rest > 0 ? 1 : 0);
        rest--;
      }
    }
    return grid;
  };
}

/** The core's figures of core-spec, each beside its baseline in the same run. */
export function benchCore() {
  const times = (ratio) => `${ratio.toFixed(1)} ×`;
  const calendar = compileCalendar(CALENDAR).value;
  const ours = timeOf(() => {
    let sum = 0;
    for (let day = 0; day < 200_000; day++) sum += addWorkingDays(calendar, 20_801 + (day & 255), 37);
    return sum;
  });
  const theirs = timeOf(() => {
    let sum = 0;
    for (let day = 0; day < 20_000; day++) sum += addBusinessDays(new Date((20_801 + (day & 255)) * 86_400_000), 37).getTime();
    return sum;
  });
  report('working-day addition, faster than date-fns addBusinessDays', times((theirs * 10) / ours), '≥ 50 ×');
  for (const [tasks, links, aim] of [
    [10_000, 15_000, 5],
    [100_000, 150_000, 20],
  ]) {
    const input = planOf(tasks, links);
    const bare = timeOf(barePass(input), 9);
    const network = buildNetwork(input);
    const axis = { calendar, base: rank(calendar, 20_801), today: null, promise: null };
    const passes = timeOf(() => {
      const placement = placeForward(network, axis);
      return placeBackward(network, placement, placement.finish);
    }, 9);
    const whole = timeOf(() => schedule(input), 5);
    report(`schedule ${tasks} tasks, the passes, against bare typed-array passes`, times(passes / bare), '≤ 2 ×');
    report('  the same with input read and answer built', times(whole / bare), 'told beside it');
    report('  the same, faster than plain objects and Maps', times(timeOf(() => plainSchedule(input), 3) / whole), `≥ ${aim} ×`);
  }
  const input = loadInput(50_000);
  const bare = timeOf(bareLoad(input), 7);
  const people = input.people.map((person) => readPerson(person, 'person'));
  const index = new Map(input.people.map((person, place) => [person.id, place]));
  const items = input.tasks.map((task) => readItem(task, index, 60));
  const window = { calendar, people, today: 20_801, from: 20_801, to: 20_982 };
  const placing = timeOf(() => {
    const empty = new LoadBook(window);
    for (const item of items) empty.add(item);
    return empty;
  }, 7);
  const whole = timeOf(() => load(input), 5);
  report('load 50 000 tasks × 200 people × 182 days, placing, against the bare pass', times(placing / bare), '≤ 2 ×');
  report('  the same with input read and answer built', times(whole / bare), 'told beside it');
  const { book } = openBook(input);
  const item = { minutes: 600, first: 20_810, last: 20_820, people: [7], shares: [1], placed: null };
  const one = timeOf(() => {
    for (let change = 0; change < 1000; change++) {
      book.add(item);
      book.remove(item);
    }
  });
  report('load, one task changed, as a part of the whole', `1/${Math.round(whole / (one / 2000))}`, '≤ 1/1000');
}
