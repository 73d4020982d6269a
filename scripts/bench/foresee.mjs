import { Worker } from 'node:worker_threads';
import { addWorkingDays, compileCalendar, easeLoad, formatDay, load, openForecast, parseDay } from '../../packages/core/dist/index.js';
import { report, seeded, timeOf, timeOfAsync } from './measure.mjs';

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const CALENDAR = { week: WEEK, closed: ['2026-12-25', '2026-12-28', '2027-01-01'] };
const RUNS = 10_000;
const FEW = 5;

/** Everybody about as full as they can be, so that there is always something to ease. */
function easeInput(tasks, people) {
  const random = seeded(5);
  return {
    ...{ calendar: CALENDAR, today: '2026-12-14', from: '2026-12-14', to: '2027-01-31', defaultMinutes: 60, person: 'p0' },
    people: Array.from({ length: people }, (_, index) => ({ id: `p${index}`, week: WEEK, roles: [`r${index % 12}`] })),
    tasks: Array.from({ length: tasks }, (_, index) => {
      const start = 20_801 + random(150);
      return {
        ...{ id: `t${index}`, assignees: [{ person: `p${index % people}` }], role: `r${(index % people) % 12}`, slack: random(8) },
        ...{ estimate: 120 + random(900), start: formatDay(start), due: formatDay(start + random(9)) },
      };
    }),
  };
}

/** The tries of the rule that move a task: within its slack, and up to ten days beyond it. */
function triesOf(input) {
  return input.tasks
    .filter((task) => task.assignees[0].person === input.person && task.start <= input.to)
    .flatMap((task) => Array.from({ length: Math.min(task.slack, 10) + 10 }, (_, days) => ({ task, days: days + 1 })));
}

/**
 * The same rule as one writes it first: the whole load again for every try. Every try costs as much as the next, so a few
 * of them are made and counted for all. Gives and splits are left aside: it flatters this way.
 */
function plainEase(input, tries) {
  const calendar = compileCalendar(input.calendar).value;
  const later = (day, days) => formatDay(addWorkingDays(calendar, parseDay(day), days));
  const until = { ...input, to: formatDay(parseDay(input.to) + 92) };
  const overOf = (tasks) =>
    load({ ...until, tasks })
      .value.people.find(({ id }) => id === input.person)
      .days.reduce((sum, day) => sum + day.over, 0);
  return tries.map(({ task, days }) => {
    const moved = { ...task, start: later(task.start, days), due: later(task.due, days) };
    return overOf(input.tasks.map((other) => (other === task ? moved : other)));
  });
}

function forecastInput(tasks) {
  const random = seeded(3);
  return {
    ...{ calendar: CALENDAR, start: '2026-12-14', promise: '2027-04-30', runs: RUNS, seed: 1 },
    phases: Array.from({ length: 6 }, (_, index) => ({
      id: `p${index}`,
      ...(index === 0 ? {} : { after: { phase: `p${index - 1}`, edge: 'finish', lag: 0 } }),
    })),
    tasks: Array.from({ length: tasks }, (_, index) => ({
      ...{ id: `t${index}`, phase: `p${Math.floor((index * 6) / tasks)}`, days: 1 + random(5), role: `r${index % 4}` },
      after: index === 0 ? [] : [{ task: `t${Math.max(0, index - 1 - random(6))}`, type: 'FS', lag: random(2) }],
    })),
    record: Array.from({ length: 200 }, (_, index) => ({ role: `r${index % 4}`, planned: 4, real: 2 + random(7) })),
  };
}

/** A generator as one writes it: a function that gives the next number. Source: mulberry32, public domain. */
function seededRandom(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** Drawing and placing alone, over arrays that stand ready: no calendar, no longest chain, no answer. */
function bareForecast(input) {
  const days = Float64Array.from(input.tasks, (task) => task.days);
  const phase = Int32Array.from(input.tasks, (task) => Number(task.phase.slice(1)));
  const from = Int32Array.from(input.tasks, (task) => (task.after.length === 0 ? -1 : Number(task.after[0].task.slice(1))));
  const lag = Int32Array.from(input.tasks, (task) => task.after[0]?.lag ?? 0);
  const pools = Array.from({ length: 4 }, (_, role) =>
    Float64Array.from(
      input.record.filter((row) => row.role === `r${role}`),
      (row) => row.real / row.planned,
    ).sort(),
  );
  return () => {
    const random = seededRandom(1);
    const end = new Float64Array(days.length);
    const ends = new Float64Array(7);
    const finishes = new Float64Array(RUNS);
    for (let run = 0; run < RUNS; run++) {
      ends.fill(0);
      for (let task = 0; task < days.length; task++) {
        const pool = pools[task & 3];
        let at = phase[task] === 0 ? 0 : ends[phase[task] - 1];
        if (from[task] >= 0) at = Math.max(at, end[from[task]] + lag[task]);
        end[task] = at + days[task] * pool[(random() * pool.length) | 0];
        if (end[task] > ends[phase[task]]) ends[phase[task]] = end[task];
      }
      finishes[run] = ends[5];
    }
    return finishes.sort();
  };
}

const WORKER = new URL('../../apps/server/dist/forecast/worker.js', import.meta.url);

/** One worker that stands ready does its share; what is measured is the computing, not the starting of threads. */
function inWorkers(input, count) {
  const { chunks } = openForecast(input);
  const shares = Array.from({ length: count }, (_, worker) =>
    Array.from({ length: chunks }, (_unused, chunk) => chunk).filter((chunk) => chunk % count === worker),
  );
  return () =>
    Promise.all(
      shares.map(
        (own) =>
          new Promise((resolve, reject) => {
            const worker = new Worker(WORKER, { workerData: { input, chunks: own } });
            worker.on('error', reject);
            worker.on('exit', resolve);
          }),
      ),
    );
}

/** Easing and forecasting, each beside its baseline in the same run. */
export async function benchForesight() {
  const times = (ratio) => `${ratio.toFixed(1)} ×`;
  const input = forecastInput(120);
  const bare = timeOf(bareForecast(input), 9);
  const simulated = timeOf(() => {
    const plan = openForecast(input);
    for (let chunk = 0; chunk < plan.chunks; chunk++) plan.simulate(chunk);
    return plan.answer();
  }, 9);
  report('forecast 120 tasks × 10 000 runs, against the bare loop', times(simulated / bare), '≤ 1.5 ×');
  const long = { ...input, runs: 400_000 };
  const alone = await timeOfAsync(inWorkers(long, 1), 3);
  const together = await timeOfAsync(inWorkers(long, 2), 3);
  report('  two workers, faster than one (400 000 runs)', times(alone / together), '≥ 1.7 ×');
  const crowd = easeInput(20_000, 200);
  const tries = triesOf(crowd);
  const plain = (timeOf(() => plainEase(crowd, tries.slice(0, FEW)), 3) / FEW) * tries.length;
  report(
    'levelling 20 000 tasks × 200 people, faster than the whole load for every try',
    times(plain / timeOf(() => easeLoad(crowd), 3)),
    '≥ 25 ×',
  );
}
