import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { DryRun, TemplateContentView } from '@crew/contract';
import { blankTask } from '@crew/core';
import { openScreen } from '../../../test/screen.tsx';
import { dryRun, odalys, teo } from '../../../test/samples.ts';
import { TemplatePage } from './TemplatePage.tsx';

/** What the dry run of the samples was computed from. */
const view: TemplateContentView = {
  ...{ id: 'x1', kind: 'engagement', version: 3, revision: 5, isChanged: false, isArchived: false, usedTimes: 4 },
  content: {
    name: 'Audio trail',
    description: '',
    phases: dryRun.phases.map(({ id, name, roleId, stateLine, rounds, checks }, index) => ({
      ...{ id, name, roleId, stateLine, rounds, checks, afterEdge: 'finish' as const, afterLag: 0 },
      afterPhaseId: dryRun.phases[index - 1]?.id ?? null,
    })),
    tasks: dryRun.tasks.map(({ id, phaseId, parentId, title, kind, roleId, estimateMinutes, days, anchor, after }) => ({
      ...blankTask({ id, phaseId, title }),
      ...{ parentId, kind, roleId, estimateMinutes, days, anchor },
      after: after.map(({ taskId, type, lag }) => ({ taskId, type, lag })),
    })),
    ways: [],
  },
};

/** Each test reads a template of its own: what was read a moment ago is shown while the next is asked for. */
const open = async (id: string, run: Partial<DryRun> = {}, { query = '', me = odalys, more = {} as Partial<TemplateContentView> } = {}) => {
  const draft = `${query}${me.access === 'lead' ? `${query === '' ? '?' : '&'}draft=yes` : ''}`;
  const page = await openScreen(<TemplatePage />, {
    path: '/templates/:id',
    address: `/templates/${id}${query}`,
    me,
    answers: {
      [`GET /templates/${id}/content`]: { ...view, ...more, id },
      [`GET /templates/${id}${draft}`]: { ...dryRun, ...run },
      'GET /crew': { people: [], roles: [{ id: 'r1', name: 'Writer' }] },
    },
  });
  await screen.findByRole('region', { name: 'Dry run' });
  return page;
};
const phase = (name: string): HTMLElement => screen.getByRole('region', { name });

test('phases and tasks stand with role, effort and when, in sentences', async () => {
  await open('read', {}, { me: teo });
  expect(screen.getByText('version 3')).toBeTruthy();
  expect(screen.getByText('used 4 times · 2 phases · 2 tasks')).toBeTruthy();
  const script = phase('Script');
  expect(within(script).getByRole('heading').textContent).toBe('Script15 working days');
  expect(script.textContent).toContain('2 rounds');
  expect(script.textContent).toContain('gate: 1 check');
  expect(script.textContent).toContain('DraftWriter40 hat the start');
  expect(script.textContent).toContain('Client readsthe client—after Draft');
  expect(phase('Recording').textContent).toContain('no gate');
});

test('a task that names somebody says who it is, whatever its role', async () => {
  const person = { id: 'm1', name: 'Teo Marsh', initials: 'TM' };
  await open('who', { tasks: dryRun.tasks.map((task) => (task.id === 'k1' ? { ...task, person } : task)) }, { me: teo });
  expect(phase('Script').textContent).toContain('DraftTeo Marsh40 h');
});

test('bars lie on the days of the run', async () => {
  await open('bars');
  const bars = [...phase('Script').querySelectorAll('i')].map((bar) => Number.parseFloat(bar.style.left));
  expect(bars[0]).toBe(0);
  expect(bars).toEqual([...bars].sort((left, right) => left - right));
  expect(screen.getByTitle('1 – 3 Dec · 0 days of slack')).toBeTruthy();
});

describe('the dry run', () => {
  test('says when it ends, what it takes and who would be overloaded most', async () => {
    await open('sums');
    const run = screen.getByRole('region', { name: 'Dry run' });
    expect(run.textContent).toContain('finishes Fri 15 Jan 2027');
    expect(run.textContent).toContain('effort 90 h');
    expect(run.textContent).toContain('skips 3 closed days');
    expect(run.textContent).toContain('Priya would go 7 h over from Wed 25 Nov; 1 other too');
  });

  test('with room for everybody says so', async () => {
    await open('room', { overloads: [] });
    expect(screen.getByText('Nobody would be overloaded')).toBeTruthy();
  });

  test('from another start is asked for and kept in the address', async () => {
    const page = await open('start');
    page.network.answer('GET /templates/start?start=2026-12-07&draft=yes', 200, { ...dryRun, start: '2026-12-07', finish: '2027-01-29' });
    fireEvent.change(screen.getByLabelText('Start'), { target: { value: '2026-12-07' } });
    expect(await screen.findByText('Fri 29 Jan 2027')).toBeTruthy();
    expect(page.address()).toBe('/templates/start?start=2026-12-07');
  });

  test('back from a promise says when to start by', async () => {
    const page = await open('back');
    page.network.answer('GET /templates/back?promise=2027-01-15&draft=yes', 200, { ...dryRun, promise: '2027-01-15', start: '2026-11-24' });
    await userEvent.click(screen.getByRole('radio', { name: 'Back from promised date' }));
    expect(await screen.findByText('Tue 24 Nov')).toBeTruthy();
    expect(screen.getByRole('region', { name: 'Dry run' }).textContent).toContain('start by');
    expect(page.address()).toBe('/templates/back?promise=2027-01-15');
  });

  test('that cannot be is refused at the date, and the last one stays on the screen', async () => {
    const page = await open('early');
    const refusal = { code: 'promise-too-early', message: 'No start is early enough for this promise. Choose a later day.' };
    page.network.answer('GET /templates/early?promise=2026-11-24&draft=yes', 409, refusal);
    await userEvent.click(screen.getByRole('radio', { name: 'Back from promised date' }));
    fireEvent.change(screen.getByLabelText('Promised date'), { target: { value: '2026-11-24' } });
    expect(await screen.findByText(refusal.message)).toBeTruthy();
    expect(phase('Script')).toBeTruthy();
  });
});

describe('starting with it', () => {
  test('is offered to who leads', async () => {
    await open('lead');
    expect(screen.getByRole('link', { name: 'Start an engagement with this' }).getAttribute('href')).toBe(
      '/engagements/start?template=lead',
    );
  });

  test.each<[string, Partial<TemplateContentView>, typeof odalys]>([
    ['who does not lead', {}, teo],
    ['what is only a phase', { kind: 'phase' }, odalys],
  ])('is not offered for %s', async (what, more, me) => {
    await open(what.replaceAll(' ', '-'), {}, { me, more });
    expect(screen.queryByRole('link', { name: 'Start an engagement with this' })).toBeNull();
  });
});

test('a template that is not there says so', async () => {
  await openScreen(<TemplatePage />, { path: '/templates/:id', address: '/templates/none', answers: {} });
  expect(screen.getByText('Nothing answers /templates/none/content here.')).toBeTruthy();
});

describe('edited where it is read', () => {
  const saved = (page: Awaited<ReturnType<typeof open>>) => page.sent().filter(({ request }) => request.startsWith('PUT'));
  type Sent = { revision: number; content: TemplateContentView['content'] };

  test('a title is saved when it is left, whole and behind what is shown', async () => {
    const page = await open('title');
    page.network.answer('PUT /templates/title/content', 200, { ...view, id: 'title', revision: 6, isChanged: true });
    const title = screen.getByLabelText('Title of Draft');
    await userEvent.clear(title);
    await userEvent.type(title, 'First draft{Enter}');
    expect(screen.getByLabelText('Title of First draft')).toBeTruthy();
    await waitFor(() => expect(saved(page)).toHaveLength(1));
    const { revision, content } = saved(page)[0]?.body as Sent;
    expect(revision).toBe(5);
    expect(content.tasks.map((task) => task.title)).toEqual(['First draft', 'Client reads']);
    expect(await screen.findByRole('button', { name: 'Save as version 4…' })).toBeTruthy();
  });

  test('effort that cannot be read stays typed and is marked; nothing is sent', async () => {
    const page = await open('effort');
    const effort = screen.getByLabelText('Effort of Draft, in hours');
    await userEvent.clear(effort);
    await userEvent.type(effort, 'a lot{Enter}');
    expect(effort.getAttribute('aria-invalid')).toBe('true');
    expect((effort as HTMLInputElement).value).toBe('a lot');
    expect(saved(page)).toEqual([]);
  });

  test('what the server refuses is said, kept on the screen, and taken back by a press', async () => {
    const page = await open('faulty');
    const message = '“Script” and “Recording” both say “Being written”. Say what is different, for instance which payment.';
    page.network.answer('PUT /templates/faulty/content', 400, { code: 'faulty-template', message, field: 'phases[f2].stateLine' });
    await userEvent.click(screen.getByRole('button', { name: 'Recording: state line, gate and more' }));
    const line = await screen.findByLabelText('State line while this phase runs');
    await userEvent.clear(line);
    await userEvent.type(line, 'Being written');
    expect((await screen.findByRole('alert')).textContent).toContain(`Not saved yet: ${message}`);
    expect(screen.getAllByText(message).length).toBeGreaterThan(0);
    expect((line as HTMLInputElement).value).toBe('Being written');
  });

  test('when somebody else saved in between, one of the two is chosen and nothing is lost', async () => {
    const page = await open('met');
    const theirs = { ...view, id: 'met', revision: 9, content: { ...view.content, name: 'Sound walk' } };
    page.network.answer('PUT /templates/met/content', 409, { code: 'changed-meanwhile', message: '', details: { current: theirs } });
    await userEvent.type(screen.getByLabelText('Name of the template'), ' long{Enter}');
    expect(await screen.findByText(/Somebody changed this template/)).toBeTruthy();
    page.network.answer('PUT /templates/met/content', 200, { ...theirs, revision: 10 });
    await userEvent.click(screen.getByRole('button', { name: 'Keep my version' }));
    await waitFor(() => expect(saved(page)).toHaveLength(2));
    expect(saved(page)[1]?.body).toMatchObject({ revision: 9, content: { name: 'Audio trail long' } });
  });

  test('the last step is taken back', async () => {
    const page = await open('undo');
    page.network.answer('PUT /templates/undo/content', 200, { ...view, id: 'undo', revision: 6 });
    await userEvent.click(screen.getByRole('button', { name: 'Draft: when, who and all it presets' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Remove' }));
    expect(screen.queryByLabelText('Title of Draft')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(screen.getByLabelText('Title of Draft')).toBeTruthy();
  });

  test('the same steps stand as a list, where what happens next is said in words', async () => {
    const page = await open('list');
    page.network.answer('PUT /templates/list/content', 200, { ...view, id: 'list', revision: 6 });
    await userEvent.click(screen.getByRole('radio', { name: 'Step list' }));
    expect(within(screen.getByRole('list', { name: 'What happens after Draft' })).getByText(/Client reads/)).toBeTruthy();
    await userEvent.click(
      within(screen.getByRole('list', { name: 'What happens after Client reads' })).getByRole('button', { name: 'And what happens next?' }),
    );
    const form = screen.getByRole('form', { name: 'What happens after Client reads' });
    await userEvent.click(within(form).getByRole('button', { name: /Next/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'it ends' }));
    await userEvent.type(within(form).getByLabelText('How it ends'), 'Closed');
    await userEvent.type(within(form).getByLabelText('Only when'), 'not a fit{Enter}');
    await waitFor(() => expect(saved(page)).toHaveLength(1));
    const { content } = saved(page)[0]?.body as Sent;
    expect(content.ways).toEqual([{ id: expect.any(String), fromId: 'k2', toId: null, ending: 'Closed', reason: 'not a fit' }]);
  });
});

test('an empty template can be written before there is anything to schedule', async () => {
  const page = await openScreen(<TemplatePage />, {
    path: '/templates/:id',
    address: '/templates/empty',
    answers: {
      'GET /templates/empty/content': { ...view, id: 'empty', content: { ...view.content, tasks: [] } },
      'GET /crew': { people: [], roles: [] },
    },
  });
  page.network.answer('GET /templates/empty?draft=yes', 400, { code: 'empty-template', message: 'Nothing would be made.' });
  expect(await screen.findByText(/Add the first task below/)).toBeTruthy();
  await userEvent.click((await screen.findAllByRole('button', { name: /^Add a task/ }))[0] as HTMLElement);
  await userEvent.type(screen.getByRole('textbox', { name: /^New task in/ }), 'Sketch{Enter}');
  expect(await screen.findByDisplayValue('Sketch')).toBeTruthy();
  await userEvent.keyboard('{Escape}');
  expect(screen.queryByRole('textbox', { name: /^New task in/ })).toBeNull();
});

describe('changes that could not be saved', () => {
  const message = 'Two phases carry the same state line. Say what tells them apart.';
  /** Writes what the server refuses, waits until that is said, and leaves. */
  async function leaveUnsaved(id: string): Promise<void> {
    const page = await open(id);
    page.network.answer(`PUT /templates/${id}/content`, 400, { code: 'faulty-template', message, field: 'phases[f2].stateLine' });
    const title = screen.getByRole('textbox', { name: 'Name of the template' });
    await userEvent.clear(title);
    await userEvent.type(title, 'Audio walk{Enter}');
    await screen.findByText(`Not saved yet: ${message}`);
    page.close();
  }

  test('are warned about when the page is left, with why, and gone on with when it is opened again', async () => {
    await leaveUnsaved('left');
    const page = await open('left');
    expect(screen.getByText(new RegExp(`“Audio walk” is not saved: ${message} Your changes are kept`))).toBeTruthy();
    expect((await screen.findByText(/You have unsaved changes/)).textContent).toContain(message);
    expect(screen.getByDisplayValue('Audio trail')).toBeTruthy();
    page.network.answer('PUT /templates/left/content', 200, { ...view, id: 'left', revision: 6 });
    await userEvent.click(screen.getByRole('button', { name: 'Continue editing' }));
    expect(screen.getByDisplayValue('Audio walk')).toBeTruthy();
    await waitFor(() => expect(page.sent().map(({ request }) => request)).toEqual(['PUT /templates/left/content']));
    expect(screen.queryByText(/You have unsaved changes/)).toBeNull();
    page.close();
    await open('left');
    expect(screen.queryByText(/You have unsaved changes/)).toBeNull();
  });

  test('meet what somebody saved meanwhile: both are there, and one is chosen', async () => {
    await leaveUnsaved('moved');
    await open('moved', {}, { more: { revision: 8, content: { ...view.content, name: 'Sound trail' } } });
    await userEvent.click(await screen.findByRole('button', { name: 'Continue editing' }));
    expect(screen.getByRole('button', { name: 'Keep my version' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Use their version' }));
    expect(screen.getByDisplayValue('Sound trail')).toBeTruthy();
  });

  test('are gone once they are discarded', async () => {
    await leaveUnsaved('dropped');
    const page = await open('dropped');
    await userEvent.click(await screen.findByRole('button', { name: 'Discard changes' }));
    expect(screen.queryByText(/You have unsaved changes/)).toBeNull();
    page.close();
    await open('dropped');
    expect(screen.queryByText(/You have unsaved changes/)).toBeNull();
  });
});
