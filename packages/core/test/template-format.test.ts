import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { readExchange, toExchange } from '../src/index.ts';

const formats = join(__dirname, '../../../docs/formats');
const json = (name: string): unknown => JSON.parse(readFileSync(join(formats, name), 'utf8'));
const samples = readdirSync(formats).filter((name) => name.startsWith('template-'));
const obeys = new Ajv2020({ strict: false, allErrors: true }).compile(json('template.schema.json') as object);

function read(file: unknown) {
  let last = 0;
  return readExchange(file, { newId: () => `id${(last += 1)}`, roleId: (name) => name, personId: (name) => name, customField: () => null });
}

test('there are two sample files', () => expect(samples).toHaveLength(2));

test.each(samples)('%s obeys the published schema, is read without a fault, and is written the same again', (name) => {
  const file = json(name);
  expect(obeys(file) ? [] : obeys.errors).toEqual([]);
  const found = read(file);
  if (!found.ok) throw new Error(JSON.stringify(found.faults));
  const fields = new Map(found.newFields.map(({ id, ...field }) => [id, field]));
  const files = new Map(found.newFiles.map(({ id, bytes: _, ...item }) => [id, item]));
  const written = toExchange(found.content, {
    kind: found.kind,
    roleName: (id) => id,
    personName: (id) => id,
    fieldOf: (id) => fields.get(id) ?? null,
    fileOf: (id) => files.get(id) ?? null,
  });
  expect(written).toEqual(file);
});

type Loose = Record<string, unknown> & { phases: (Record<string, unknown> & { tasks: Record<string, unknown>[] })[] };
const first = (file: Loose) => file.phases[0]?.tasks[0] as Record<string, unknown>;

test.each<[string, (file: Loose) => void]>([
  ['another format', (file) => (file['format'] = 'something/1')],
  ['a field that is not known', (file) => (first(file)['colour'] = 'red')],
  ['no title', (file) => delete first(file)['title']],
  ['an empty title', (file) => (first(file)['title'] = ' ')],
  ['half a day', (file) => (first(file)['days'] = 0.5)],
  ['a kind that is none', (file) => (first(file)['kind'] = 'magic')],
  ['an anchor that is none', (file) => (first(file)['anchor'] = { at: 'some-day', offset: 1 })],
  ['an address that runs something', (file) => (first(file)['links'] = [{ title: 'Here', url: 'javascript:alert(1)' }])],
  ['words instead of a list', (file) => (first(file)['steps'] = 'one, two')],
  ['a file that is no base64', (file) => (file['files'] = [{ key: 'f1', name: 'Plan', type: 'text/plain', content: '§' }])],
  ['a custom field that is none', (file) => (file['fields'] = [{ name: 'Size', kind: 'colour' }])],
  ['no state line', (file) => delete file.phases[0]?.['stateLine']],
])('the schema and the reader both refuse %s', (_, spoil) => {
  const file = json(samples[0] as string) as Loose;
  spoil(file);
  expect(obeys(file)).toBe(false);
  expect(read(file).ok).toBe(false);
});
