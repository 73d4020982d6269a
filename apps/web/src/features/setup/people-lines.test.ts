import { readPeople } from './people-lines.ts';

const known = { roles: ['Web designer', 'Writer'], week: [450, 450, 450, 450, 450, 0, 0] };
const one = (text: string) => readPeople(text, known)[0];

test('typed with commas: name, address, roles, hours', () => {
  expect(readPeople('Ada Brook, ada@brook.example, Writer, 30 h\nBen Vale, ben@vale.example', known)).toEqual([
    {
      line: 1,
      person: { name: 'Ada Brook', email: 'ada@brook.example', roles: ['Writer'], week: [360, 360, 360, 360, 360, 0, 0] },
      fault: null,
    },
    { line: 2, person: { name: 'Ben Vale', email: 'ben@vale.example', roles: [] }, fault: null },
  ]);
});

test('pasted from a spreadsheet, with its headings, in another order', () => {
  const pasted = 'Mail\tName\tHours a week\tRole\tAccess\r\nada@brook.example\tAda Brook\t37,5\tweb designer / writer\tLead\r\n';
  expect(readPeople(pasted, known)).toEqual([
    {
      line: 2,
      person: {
        ...{ name: 'Ada Brook', email: 'ada@brook.example', roles: ['Web designer', 'Writer'], access: 'lead' },
        week: [450, 450, 450, 450, 450, 0, 0],
      },
      fault: null,
    },
  ]);
});

test('with semicolons, quotes and an address in angle brackets', () => {
  expect(one('"Brook; Ada";ada@brook.example;Writer')?.person).toMatchObject({ name: 'Brook; Ada', roles: ['Writer'] });
  expect(one('Ada Brook <ada@brook.example>')?.person).toMatchObject({ name: 'Ada Brook', email: 'ada@brook.example' });
});

test.each([
  ['3 days', [450, 450, 450, 0, 0, 0, 0]],
  ['2.5 days', [450, 450, 225, 0, 0, 0, 0]],
  ['Mon-Thu', [450, 450, 450, 450, 0, 0, 0]],
  ['Tuesday – Wednesday', [0, 450, 450, 0, 0, 0, 0]],
  ['6 h a day', [360, 360, 360, 360, 360, 0, 0]],
  ['20', [240, 240, 240, 240, 240, 0, 0]],
  ['0 hours', [0, 0, 0, 0, 0, 0, 0]],
])('“%s” is a week', (text, week) => {
  expect(one(`Ada, ada@brook.example, ${text}`)?.person.week).toEqual(week);
});

test.each([
  ['Ada Brook', 'The mail address is missing.'],
  ['ada@brook.example', 'The name is missing.'],
  ['Ada, ada@brook', '“ada@brook” is not a mail address.'],
  ['Ada, ada@brook.example, ada@vale.example', 'There are two mail addresses.'],
  ['Ada, ada@brook.example, Thu-Mon', 'Thu comes after Mon.'],
  ['Ada, ada@brook.example, 200 h', 'More than 24 hours a day are too many.'],
])('“%s” says what is wrong', (text, fault) => {
  expect(one(text)?.fault).toBe(fault);
});

test('an address that is there twice is found, whatever its case', () => {
  const faults = readPeople('Ada, ada@brook.example\nBen, ADA@brook.example', known).map(({ fault }) => fault);
  expect(faults).toEqual([null, 'ADA@brook.example is in the list twice.']);
});

test('lines without anything are nobody, and lines keep their numbers', () => {
  expect(readPeople('\n \nAda, ada@brook.example\n', known).map(({ line }) => line)).toEqual([3]);
});
