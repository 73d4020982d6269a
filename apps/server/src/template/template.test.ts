import type { DryRun, TemplateSummary } from '@crew/contract';
import { testWorld } from '../../test/harness.ts';
import { smallTemplate } from '../../test/small-world.ts';
import { CreateTemplate, type TaskDraft, type TemplateDraft } from './create-template.ts';
import { exampleTemplates } from './examples/index.ts';

const { harness, lead } = testWorld();

const names = async (): Promise<string[]> =>
  ((await lead.get('/templates').expect(200)).body as TemplateSummary[]).map((template) => template.name);
const create = async (draft: Partial<TemplateDraft>): Promise<string> =>
  harness.app.get(CreateTemplate).run(await harness.whoIs('Lena'), { ...smallTemplate, name: 'Draft', ...draft });
const onePhase = (tasks: readonly TaskDraft[]): Partial<TemplateDraft> => ({
  phases: [{ name: 'Only', stateLine: 'In the only phase', tasks }],
});

describe('keeping a template', () => {
  test.each<[string, Partial<TemplateDraft>, string, RegExp]>([
    ['without a phase', { phases: [] }, 'empty-template', /at least one phase/],
    [
      'whose tasks wait on each other',
      onePhase([
        { title: 'Draft', days: 1, after: ['Review'] },
        { title: 'Review', days: 1, after: ['Draft'] },
      ]),
      'waits-in-a-loop',
      /wait on each other: .*Draft.*Review|wait on each other: .*Review.*Draft/,
    ],
    [
      'with a dependency to a task that is not there',
      onePhase([{ title: 'Draft', days: 1, after: ['Nothing'] }]),
      'faulty-template',
      /Nothing/,
    ],
    ['with a role nobody knows', onePhase([{ title: 'Draft', days: 1, role: 'Welder' }]), 'unknown-id', /Welder/],
  ])('%s is refused with a sentence and nothing is kept', async (_what, draft, code, words) => {
    const before = await names();
    await expect(create(draft)).rejects.toMatchObject({ code, message: expect.stringMatching(words) as string });
    expect(await names()).toEqual(before);
  });

  test('the same name twice is refused', async () => {
    await expect(create({ name: smallTemplate.name })).rejects.toThrow();
    expect((await names()).filter((name) => name === smallTemplate.name)).toHaveLength(1);
  });
});

describe('a template read on the calendar', () => {
  const read = async (query: string): Promise<DryRun> =>
    (await lead.get(`/templates/${harness.ids.template}${query}`).expect(200)).body as DryRun;

  test('from a start, over a closed Friday', async () => {
    const run = await read('?start=2026-11-23');
    expect(run.tasks.map((task) => [task.title, task.start, task.finish])).toEqual([
      ['Sketch', '2026-11-23', '2026-11-24'],
      ['Ink', '2026-11-25', '2026-11-30'],
      ['Client looks', '2026-12-01', '2026-12-02'],
      ['Cut', '2026-12-03', '2026-12-03'],
      ['Paint', '2026-12-04', '2026-12-07'],
    ]);
    expect(run).toMatchObject({ finish: '2026-12-07', closedDays: 1, effortMinutes: 2400 });
  });

  test('back from a promise it starts as late as still keeps it', async () => {
    const run = await read('?promise=2026-12-18');
    expect(run).toMatchObject({ finish: '2026-12-18', promise: '2026-12-18' });
    const later = await read(`?start=${nextDay(run.start)}`);
    expect(later.finish > '2026-12-18').toBe(true);
  });

  test('with neither it begins today; its effort is told by role with who could do it', async () => {
    const run = await read('');
    expect(run.start).toBe('2026-11-23');
    const needs = run.roles.map((need) => [need.role, need.tasks, need.minutes]);
    expect(needs).toEqual([
      ['Drawer', 2, 1440],
      ['Maker', 2, 960],
    ]);
    for (const need of run.roles) expect(need.suggestions.length).toBeGreaterThan(0);
  });

  test('every phase says what its gate wants and how many working days it takes', async () => {
    const run = await read('?start=2026-11-23');
    expect(run.phases.map((phase) => [phase.name, phase.workingDays, phase.checks.length])).toEqual([
      ['Draw', 7, 3],
      ['Make', 3, 1],
    ]);
  });

  test.each([
    ['a day that does not exist', '?start=2026-02-30', 400],
    ['a promise that is none', '?promise=soon', 400],
  ])('%s is refused at its field', async (_what, query, status) => {
    const { body } = await lead.get(`/templates/${harness.ids.template}${query}`).expect(status);
    expect(body).toMatchObject({ code: 'invalid-day', field: query.slice(1).split('=')[0] });
  });

  test('one of another agency is not there', async () => {
    await lead.get('/templates/00000000-0000-4000-8000-000000000000').expect(404);
  });
});

describe('the examples', () => {
  const size = (name: string): number =>
    exampleTemplates.find((template) => template.name === name)?.phases.reduce((sum, phase) => sum + phase.tasks.length, 0) ?? 0;

  test.each([
    ['Permanent gallery', 55, 65],
    ['Wayfinding & signage', 33, 37],
    ['Audio trail', 33, 37],
    ['Travelling display', 43, 47],
  ])('%s has as many tasks as such work has', (name, least, most) => {
    expect(size(name)).toBeGreaterThanOrEqual(least);
    expect(size(name)).toBeLessThanOrEqual(most);
  });

  test.each(exampleTemplates.map((template) => [template.name, template] as const))(
    'no two phases of %s say the same',
    (_name, template) => {
      const lines = template.phases.map((phase) => phase.stateLine);
      expect(new Set(lines).size).toBe(lines.length);
    },
  );
});

const nextDay = (day: string): string => new Date(Date.parse(day) + 3 * 86_400_000).toISOString().slice(0, 10);
