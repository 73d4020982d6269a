const WARM_MS = 150;

/** The middle of several runs in milliseconds, once warm: short work is run until it has been compiled. */
export function timeOf(work, runs = 7) {
  const warmUntil = performance.now() + WARM_MS;
  do work();
  while (performance.now() < warmUntil);
  const times = Array.from({ length: runs }, () => {
    const began = performance.now();
    work();
    return performance.now() - began;
  });
  return times.sort((left, right) => left - right)[runs >> 1];
}

/** As `timeOf` for work that answers later. */
export async function timeOfAsync(work, runs = 40) {
  for (let warm = 0; warm < 5; warm++) await work();
  const times = [];
  for (let run = 0; run < runs; run++) {
    const began = performance.now();
    await work();
    times.push(performance.now() - began);
  }
  return times.sort((left, right) => left - right)[runs >> 1];
}

const sorted = (values) => [...values].sort((left, right) => left - right);
export const middle = (values) => sorted(values)[Math.floor(values.length / 2)] ?? 0;
export const slowestInTwenty = (values) => sorted(values)[Math.ceil(values.length * 0.95) - 1] ?? 0;
/** Middle and slowest in twenty of times in milliseconds, as text. */
export const bothOf = (values) => `${middle(values).toFixed(0)} / ${slowestInTwenty(values).toFixed(0)} ms`;

/** One line of the report: what, against what, as a ratio, and what was aimed at. */
export function report(figure, ratio, aim) {
  console.log(`${figure.padEnd(74)} ${ratio.padStart(10)}   aim ${aim}`);
}

/** A small generator with a seed, so that every run measures the same work. */
export function seeded(seed) {
  let state = seed >>> 0;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 4_294_967_296) * below);
  };
}
