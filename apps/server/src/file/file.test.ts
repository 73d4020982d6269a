import { readdir, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { TemplateContent } from '@crew/core';
import { MOST_FILE_BYTES } from '@crew/contract';
import type { EngagementPlan, KeptFile, TaskEdited, TaskSheet, TemplateContentView } from '@crew/contract';
import { historyOf, startHarness, startSmall, testWorld, type Caller } from '../../test/harness.ts';
import { SweepFilesJob } from './sweep-files.job.ts';
import { plainName } from './keep-files.ts';

const { harness, lead } = testWorld();

const send = (who: Caller, name: string, text: string) => who.post('/files').attach('file', Buffer.from(text), name);
const kept = async (name: string, text = name, who = lead): Promise<KeptFile> => (await send(who, name, text).expect(201)).body as KeptFile;
const sheet = async (id: string): Promise<TaskSheet> => (await lead.get(`/tasks/${id}`).expect(200)).body as TaskSheet;
async function begun(title = 'Sketch', more: object = {}): Promise<TaskSheet> {
  const id = await startSmall(lead, harness, more);
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  return sheet(tasks.find((task) => task.title === title)?.id ?? '');
}
async function put(id: string, fileIds: readonly string[]): Promise<TaskEdited> {
  const { version } = await sheet(id);
  return (await lead.patch(`/tasks/${id}`, { version, fileIds }).expect(200)).body as TaskEdited;
}
const read = (who: Caller, id: string) =>
  who
    .get(`/files/${id}`)
    .buffer(true)
    .parse((stream, done) => {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => done(null, Buffer.concat(chunks)));
    });
const contentsOnDisk = async (): Promise<string[]> =>
  (await readdir(harness.filesRoot, { recursive: true })).filter((path) => /[0-9a-f]{64}$/.test(path));

describe('a file', () => {
  test('comes back byte by byte, under its name, and never as a page', async () => {
    const file = await kept('Grüße aus “Tür 3”.html', '<script>alert(1)</script>');
    expect(file).toMatchObject({ name: 'Grüße aus “Tür 3”.html', bytes: 25, addedBy: 'Lena Park' });
    const answer = await read(lead, file.id).expect(200);
    expect((answer.body as Buffer).toString()).toBe('<script>alert(1)</script>');
    expect(answer.headers['content-type']).toBe('application/octet-stream');
    expect(answer.headers['content-disposition']).toMatch(/^attachment; .*filename\*=UTF-8''Gr%C3%BC%C3%9Fe/);
    expect(answer.headers['x-content-type-options']).toBe('nosniff');
  });

  test('of the same content lies on the disk once', async () => {
    await kept('one.txt', 'the same words');
    const before = (await contentsOnDisk()).length;
    await kept('two.txt', 'the same words');
    expect((await contentsOnDisk()).length).toBe(before);
  });

  test.each([
    ['../../etc/passwd', 'passwd'],
    ['a\\b\\plan.pdf', 'plan.pdf'],
    ['tab\there.txt', 'tabhere.txt'],
    ['..', 'file'],
    ['', 'file'],
    [`${'x'.repeat(300)}.pdf`, `${'x'.repeat(196)}.pdf`],
    ['photo\u202egpj.exe', 'photogpj.exe'],
  ])('%j is kept as %j', (name, plain) => expect(plainName(name)).toBe(plain));

  test('a request without a file is refused in a sentence', async () => {
    const answer = await lead.post('/files').field('note', 'nothing');
    expect([answer.status, (answer.body as { message: string }).message]).toEqual([400, 'There is no file in the request. Choose one.']);
  });

  test('larger than is taken is refused, and nothing of it stays', async () => {
    const before = await readdir(harness.filesRoot, { recursive: true });
    const answer = await lead.post('/files').attach('file', Buffer.alloc(MOST_FILE_BYTES + 1), 'film.mov');
    expect([answer.status, (answer.body as { code: string }).code]).toEqual([413, 'too-large']);
    expect(await readdir(harness.filesRoot, { recursive: true })).toEqual(before);
  });

  test('of another agency or of nobody is not found', async () => {
    await lead.get(`/files/${crypto.randomUUID()}`).expect(404);
    await harness.nobody.get(`/files/${(await kept('x')).id}`).expect(401);
    const client = await harness.as('Hal');
    await client.get(`/files/${(await kept('y')).id}`).expect(403);
  });
});

describe('files of a task', () => {
  test('are put on, ordered, taken off, told in the history by name, and undone', async () => {
    const task = await begun();
    const [plan, photo] = [await kept('plan.pdf'), await kept('photo.png')];
    await put(task.id, [plan.id, photo.id]);
    const edited = await put(task.id, [photo.id]);
    expect(edited.task.files.map((file) => file.name)).toEqual(['photo.png']);
    expect((await historyOf(lead, task.id))[0]?.changes).toEqual([{ field: 'files', from: ['plan.pdf', 'photo.png'], to: ['photo.png'] }]);
    await lead.post(`/changes/${edited.changeId}/undo`).expect(200);
    expect((await sheet(task.id)).files.map((file) => file.name)).toEqual(['plan.pdf', 'photo.png']);
  });

  test('come back with a task that was removed', async () => {
    const task = await begun('Cut');
    await put(task.id, [(await kept('cut list.csv')).id]);
    const { version } = await sheet(task.id);
    const change = await lead
      .post(`/engagements/${task.engagement.id}/changes`, { tasks: [{ id: task.id, version, isDeleted: true }] })
      .expect(201);
    await lead.get(`/tasks/${task.id}`).expect(404);
    await lead.post(`/changes/${(change.body as { changeId: string }).changeId}/undo`).expect(200);
    expect((await sheet(task.id)).files.map((file) => file.name)).toEqual(['cut list.csv']);
  });

  test('a freelancer reads those of own tasks, adds own ones, and cannot reach others by their id', async () => {
    const [mine, other] = [await begun(), await begun('Cut')];
    const [guide, secret] = [await kept('guide.txt'), await kept('prices.txt')];
    await put(mine.id, [guide.id]);
    await put(other.id, [secret.id]);
    await lead
      .patch(`/tasks/${mine.id}`, { version: (await sheet(mine.id)).version, assigneeIds: [harness.ids.people['Fred']] })
      .expect(200);
    const fred = await harness.as('Fred');
    await read(fred, guide.id).expect(200);
    await fred.get(`/files/${secret.id}`).expect(404);
    const { version } = await sheet(mine.id);
    const sly = await fred.patch(`/tasks/${mine.id}`, { version, fileIds: [guide.id, secret.id] });
    expect([sly.status, (sly.body as { code: string }).code]).toEqual([400, 'unknown-id']);
    const sent = await kept('drawing.svg', 'lines', fred);
    await fred.patch(`/tasks/${mine.id}`, { version, fileIds: [guide.id, sent.id] }).expect(200);
  });
});

describe('files of a template', () => {
  async function withFile(name: string): Promise<{ template: string; file: KeptFile }> {
    const { body } = await lead.post('/templates', { name, copyOf: harness.ids.template }).expect(201);
    const template = (body as { id: string }).id;
    const file = await kept(`${name}.txt`);
    const view = (await lead.get(`/templates/${template}/content`).expect(200)).body as TemplateContentView;
    const field = await lead.post('/custom-fields', { name: `${name} size`, kind: 'number' }).expect(201);
    const content: TemplateContent = {
      ...view.content,
      tasks: view.content.tasks.map((task) =>
        task.title === 'Sketch'
          ? {
              ...task,
              files: [{ fileId: file.id, name: 'whatever', bytes: 0 }],
              customFields: [{ fieldId: (field.body as { id: string }).id, value: 3 }],
              pageLinks: [{ title: 'How we draw', url: 'https://example.org/draw' }],
            }
          : task,
      ),
    };
    const saved = await lead.put(`/templates/${template}/content`, { revision: view.revision, content }).expect(200);
    await lead.post(`/templates/${template}/versions`, { revision: (saved.body as TemplateContentView).revision }).expect(201);
    return { template, file };
  }

  test('go with an engagement that starts from it, with links and custom fields', async () => {
    const { template, file } = await withFile('Gone along');
    const task = await begun('Sketch', { templateId: template });
    expect(task.files.map(({ id, name }) => [id, name])).toEqual([[file.id, 'Gone along.txt']]);
    expect(task.customFields.map((entry) => entry.value)).toEqual([3]);
    expect(task.pageLinks).toEqual([{ title: 'How we draw', url: 'https://example.org/draw' }]);
  });

  test('are told as a difference of versions, by name', async () => {
    const { template } = await withFile('Told');
    const lines = (await lead.get(`/templates/${template}/difference?from=1&to=2`).expect(200)).body as { words: string[] }[];
    expect(lines.flatMap((line) => line.words).sort()).toEqual([
      'custom fields: + Told size “3”',
      'files: + Told.txt',
      'web links: + How we draw',
    ]);
  });

  test('travel in the open format with their content, to an agency that has neither file nor field', async () => {
    const { template, file } = await withFile('Travelled');
    const exported = (await lead.get(`/templates/${template}/export`).expect(200)).body as { name: string };
    const other = await startHarness();
    try {
      const there = await other.as('Lena');
      const looked = await there.post('/templates/import', { file: exported, isTrial: true }).expect(200);
      expect(looked.body).toMatchObject({ id: null, newFields: ['Travelled size'], files: 1 });
      expect((await there.get('/custom-fields')).body).toEqual([]);
      const { body } = await there.post('/templates/import', { file: exported }).expect(200);
      const back = (await there.get(`/templates/${(body as { id: string }).id}/export`).expect(200)).body as object;
      expect(back).toEqual(exported);
      const view = (await there.get(`/templates/${(body as { id: string }).id}/content`)).body as TemplateContentView;
      const [copy] = view.content.tasks.flatMap((task) => task.files);
      expect(copy?.fileId).not.toBe(file.id);
      expect(((await read(there, copy?.fileId ?? '').expect(200)).body as Buffer).toString()).toBe('Travelled.txt');
    } finally {
      await other.close();
    }
  });

  test('come in with a newer version, unless they were taken off here', async () => {
    const { template, file } = await withFile('Brought');
    const task = await begun('Sketch', { templateId: template });
    const own = await kept('own.txt');
    await put(task.id, [own.id]);
    const view = (await lead.get(`/templates/${template}/content`).expect(200)).body as TemplateContentView;
    const added = await kept('added.txt');
    const content = {
      ...view.content,
      tasks: view.content.tasks.map((one) =>
        one.title === 'Sketch' ? { ...one, files: [...one.files, { fileId: added.id, name: added.name, bytes: added.bytes }] } : one,
      ),
    };
    const saved = await lead.put(`/templates/${template}/content`, { revision: view.revision, content }).expect(200);
    await lead.post(`/templates/${template}/versions`, { revision: (saved.body as TemplateContentView).revision }).expect(201);
    const path = `/engagements/${task.engagement.id}/template-news`;
    const news = (await lead.get(path).expect(200)).body as { lines: { id: string }[] };
    await lead.post(path, { ids: news.lines.map((line) => line.id) }).expect(201);
    const names = (await sheet(task.id)).files.map(({ id }) => id);
    expect(names).toEqual([own.id, added.id]);
    expect(names).not.toContain(file.id);
  });

  test('a large template with many tasks is saved whole', async () => {
    const { template } = await withFile('Large');
    const view = (await lead.get(`/templates/${template}/content`).expect(200)).body as TemplateContentView;
    const [first] = view.content.tasks;
    const many = Array.from({ length: 900 }, (_, index) => ({ ...first, id: crypto.randomUUID(), title: `Panel ${index}`, after: [] }));
    const content = { ...view.content, tasks: [...view.content.tasks, ...many] };
    expect(JSON.stringify(content).length).toBeGreaterThan(300_000);
    await lead.put(`/templates/${template}/content`, { revision: view.revision, content }).expect(200);
  });
});

describe('files that belong to nothing', () => {
  test('what was only half sent goes after a day', async () => {
    const incoming = join(harness.filesRoot, 'incoming');
    for (const name of ['yesterday', 'now']) await writeFile(join(incoming, name), 'half');
    const old = new Date(harness.clock.now().getTime() - 2 * 24 * 3_600_000);
    await utimes(join(incoming, 'yesterday'), old, old);
    await utimes(join(incoming, 'now'), harness.clock.now(), harness.clock.now());
    await harness.app.get(SweepFilesJob).run();
    expect(await readdir(incoming)).toEqual(['now']);
    await rm(join(incoming, 'now'));
  });

  const sweep = async (): Promise<void> => {
    await harness.database.rows(`UPDATE file SET added_at = added_at - interval '3 days'`);
    await harness.app.get(SweepFilesJob).run();
  };

  test('are swept away after a day; what a task, a version or an undo needs stays', async () => {
    const task = await begun();
    const [alone, used, undoable] = [await kept('alone'), await kept('used'), await kept('undoable')];
    await put(task.id, [used.id, undoable.id]);
    await put(task.id, [used.id]);
    const fresh = await kept('fresh');
    await harness.app.get(SweepFilesJob).run();
    await read(lead, alone.id).expect(200);
    await sweep();
    await lead.get(`/files/${alone.id}`).expect(404);
    await lead.get(`/files/${fresh.id}`).expect(404);
    await read(lead, used.id).expect(200);
    await read(lead, undoable.id).expect(200);
  });

  test('their content goes with the last file that had it', async () => {
    const task = await begun();
    await put(task.id, [(await kept('a', 'shared words')).id]);
    await kept('b', 'shared words');
    await kept('c', 'words of its own');
    const before = (await contentsOnDisk()).length;
    await sweep();
    expect((await contentsOnDisk()).length).toBe(before - 1);
    await read(lead, (await sheet(task.id)).files[0]?.id ?? '').expect(200);
  });
});

test('contents are for their owner on the machine alone, and one that is missing says so', async () => {
  const { id } = await kept('drawing.txt', 'lines on paper');
  const { sha256 } = (await harness.database.row<{ sha256: string }>('SELECT sha256 FROM file WHERE id = $1', [id])) as { sha256: string };
  const path = join(harness.filesRoot, sha256.slice(0, 2), sha256);
  expect((await stat(path)).mode & 0o777).toBe(0o600);
  await rm(path);
  const answer = await lead.get(`/files/${id}`).expect(404);
  expect((answer.body as { message: string }).message).toMatch(/^The content of “drawing.txt” is missing on the server\./);
});
