import fc from 'fast-check';
import { elapsedSeconds, guessMinutes, minutesToLog, pauseTimer, resumeTimer, type Timer } from '../src/index.ts';

const fresh: Timer = { bankedSeconds: 0, runningSince: 0 };
const second = (count: number): number => count * 1000;

test('a timer counts while it runs, and not while it is paused', () => {
  const paused = pauseTimer(fresh, second(90));
  expect(elapsedSeconds(paused, second(5000))).toBe(90);
  expect(elapsedSeconds(resumeTimer(paused, second(5000)), second(5030))).toBe(120);
});

test('pausing twice and resuming twice change nothing more', () => {
  const paused = pauseTimer(fresh, second(60));
  expect(pauseTimer(paused, second(99))).toEqual(paused);
  const running = resumeTimer(paused, second(100));
  expect(resumeTimer(running, second(200))).toEqual(running);
});

test('a clock that was set back takes nothing away', () => {
  expect(elapsedSeconds({ bankedSeconds: 30, runningSince: second(100) }, second(50))).toBe(30);
});

test('however often it is paused, it counts the time between', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(5000), fc.nat(5000)), { maxLength: 20 }), (turns) => {
      let [now, timer] = [0, { bankedSeconds: 0, runningSince: null } as Timer];
      for (const [worked, rested] of turns) {
        timer = pauseTimer(resumeTimer(timer, second(now)), second(now + worked));
        now += worked + rested;
      }
      expect(elapsedSeconds(timer, second(now))).toBe(turns.reduce((sum, [worked]) => sum + worked, 0));
    }),
  );
});

test.each([
  [0, 0],
  [29, 0],
  [30, 1],
  [89, 1],
  [90, 2],
  [3600, 60],
])('%d seconds are %d minutes to log', (seconds, minutes) => expect(minutesToLog(seconds)).toBe(minutes));

test.each([
  ['left on over night: what was left of the day', { seconds: 57_600, dayMinutes: 450, loggedMinutes: 300 }, 150],
  ['left on for a little: what it counted', { seconds: 3600, dayMinutes: 450, loggedMinutes: 0 }, 60],
  ['on a day that was full already: a quarter of an hour', { seconds: 57_600, dayMinutes: 450, loggedMinutes: 480 }, 15],
])('%s', (_what, known, minutes) => expect(guessMinutes(known)).toBe(minutes));
