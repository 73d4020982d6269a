import { listed, ruleWords } from './rhythm.ts';

const TODAY = '2026-11-23';

test.each([
  ['FREQ=DAILY', 'every day'],
  ['FREQ=DAILY;INTERVAL=3', 'every third day'],
  ['FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', 'every second Tuesday'],
  ['FREQ=WEEKLY;BYDAY=MO,TH', 'every Monday and Thursday'],
  ['FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'every weekday'],
  ['FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE,FR', 'every second week on Monday, Wednesday and Friday'],
  ['FREQ=WEEKLY;INTERVAL=6', 'every 6 weeks'],
  ['FREQ=MONTHLY;BYMONTHDAY=15', 'on the 15th of each month'],
  ['FREQ=MONTHLY;BYMONTHDAY=1,22,-1', 'on the 1st, 22nd and last day of each month'],
  ['FREQ=MONTHLY;INTERVAL=3;BYDAY=2TU', 'on the second Tuesday of every third month'],
  ['FREQ=MONTHLY;BYDAY=-1FR', 'on the last Friday of each month'],
  ['FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', 'on the last working day of each month'],
  ['FREQ=MONTHLY;BYMONTHDAY=11', 'on the 11th of each month'],
  ['FREQ=MONTHLY;BYMONTHDAY=28,29,30;BYSETPOS=-1', 'on the 30th (or the last day) of each month'],
  ['FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=3', 'every year on the 3rd of March'],
  ['FREQ=WEEKLY;BYDAY=MO;COUNT=6', 'every Monday, 6 times'],
  ['FREQ=WEEKLY;BYDAY=MO;UNTIL=20270331', 'every Monday, until 31 Mar 2027'],
])('%s is “%s”', (rule, words) => {
  expect(ruleWords(rule, TODAY)).toBe(words);
});

test('a rule that is beyond these words is shown as it is written', () => {
  expect(ruleWords('FREQ=YEARLY;BYYEARDAY=100', TODAY)).toBe('by the rule FREQ=YEARLY;BYYEARDAY=100');
  expect(ruleWords('FREQ=DAILY;BYMONTH=6', TODAY)).toBe('by the rule FREQ=DAILY;BYMONTH=6');
});

test('lists read as people write them', () => {
  expect([listed([]), listed(['a']), listed(['a', 'b']), listed(['a', 'b', 'c'])]).toEqual(['', 'a', 'a and b', 'a, b and c']);
});
