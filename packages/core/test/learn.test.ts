import fc from 'fast-check';
import { learn, type Learned, type LearnTask } from '../src/index.ts';

function learned(task: Omit<LearnTask, 'id'>): Learned {
  const result = learn({ tasks: [{ id: 'drawings', ...task }] });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value.tasks[0] as Learned;
}
const took = (...minutes: number[]) => minutes.map((each) => ({ minutes: each, days: Math.ceil(each / 450) }));

describe('what runs really took', () => {
  test('middle and range are by nearest rank, over those that were done', () => {
    const runs = [...took(400, 500, 600, 700, 1000), { dropped: true }];
    expect(learned({ estimate: 450, runs })).toMatchObject({ n: 5, minutes: { p20: 400, middle: 600, p80: 700 }, dropped: 16 });
  });

  test('of an even number the middle is the lower of the two', () => {
    expect(learned({ runs: took(100, 200, 300, 400) }).minutes?.middle).toBe(200);
  });

  test('a run without time says nothing about minutes, and still how many days', () => {
    const { n, minutes, days } = learned({ runs: [{ days: 2 }, { days: 4 }, { minutes: 90, days: 3 }] });
    expect([n, minutes?.middle, days?.middle]).toEqual([3, 90, 3]);
  });

  test('without runs there is nothing', () => {
    expect(learned({ estimate: 60, runs: [] })).toMatchObject({ n: 0, minutes: null, days: null, dropped: 0, proposal: null });
  });
});

describe('a better estimate is proposed', () => {
  test.each([
    ['the middle rounded to 15 minutes', 300, [400, 427, 500], 420],
    ['also when it is less', 600, [200, 240, 250], 240],
    ['not for two runs', 300, [600, 600], null],
    ['not within 15 %', 1000, [1100, 1140, 1150], null],
    ['not within 30 minutes', 60, [85, 90, 95], null],
    ['just beyond both', 200, [231, 231, 231], 225],
    ['where nobody has estimated yet', undefined, [50, 52, 70], 45],
    ['never nothing', 300, [1, 2, 3], 15],
  ])('%s', (_rule, estimate, minutes, proposal) => {
    expect(learned({ ...(estimate === undefined ? {} : { estimate }), runs: took(...minutes) }).proposal).toBe(proposal);
  });

  test('and a better length, in whole days', () => {
    const runs = [{ days: 4 }, { days: 5 }, { days: 5 }];
    expect(learned({ days: 3, runs }).proposedDays).toBe(5);
    expect(learned({ days: 5, runs }).proposedDays).toBeNull();
    expect(learned({ days: 0, runs }).proposedDays).toBeNull();
  });
});

test('steps that most runs add or leave out are told', () => {
  const runs = [
    { steps: ['Draft', 'Ask the museum'] },
    { steps: ['Draft', 'Ask the museum'] },
    { steps: ['Draft', 'Ask the museum', 'Spell check'] },
    { steps: ['Draft'] },
  ];
  expect(learned({ steps: ['Draft', 'Spell check'], runs }).habits).toEqual([
    { title: 'Spell check', habit: 'left-out', runs: 3 },
    { title: 'Ask the museum', habit: 'added', runs: 3 },
  ]);
});

test('the order of the runs changes nothing, and the middle lies within the range', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(5000), { minLength: 1, maxLength: 30 }), (minutes) => {
      const there = learned({ estimate: 300, runs: took(...minutes) });
      expect(learned({ estimate: 300, runs: took(...[...minutes].reverse()) })).toEqual(there);
      const range = there.minutes as NonNullable<Learned['minutes']>;
      expect(range.p20 <= range.middle && range.middle <= range.p80).toBe(true);
      expect(minutes.filter((each) => each <= range.middle).length * 2).toBeGreaterThanOrEqual(minutes.length);
    }),
  );
});

test.each([
  [{ estimate: -1, runs: [] }, 'tasks[drawings].estimate'],
  [{ runs: [{ minutes: 1.5 }] }, 'tasks[drawings].runs[0].minutes'],
  [{ runs: [{ steps: [3] }] }, 'tasks[drawings].runs[0].steps'],
  [{ runs: [{ dropped: 'yes' }] }, 'tasks[drawings].runs[0].dropped'],
  [{}, 'tasks[drawings].runs'],
])('%j is refused at its place', (task, at) => {
  expect(learn({ tasks: [{ id: 'drawings', ...task } as LearnTask] })).toMatchObject({ ok: false, problem: { at } });
});
