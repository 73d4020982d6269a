import { fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { DryRun } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { dryRun, odalys, teo } from '../../../test/samples.ts';
import { TemplatePage } from './TemplatePage.tsx';

/** Each test reads a template of its own: what was read a moment ago is shown while the next is asked for. */
const open = (id: string, run: Partial<DryRun> = {}, { query = '', me = odalys } = {}) =>
  openScreen(<TemplatePage />, {
    path: '/templates/:id',
    address: `/templates/${id}${query}`,
    me,
    answers: { [`GET /templates/${id}${query}`]: { ...dryRun, ...run } },
  });
const phase = (name: string): HTMLElement => screen.getByRole('region', { name });

test('phases and tasks stand with role, effort and when, in sentences', async () => {
  await open('read');
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
    page.network.answer('GET /templates/start?start=2026-12-07', 200, { ...dryRun, start: '2026-12-07', finish: '2027-01-29' });
    fireEvent.change(screen.getByLabelText('Start'), { target: { value: '2026-12-07' } });
    expect(await screen.findByText('Fri 29 Jan 2027')).toBeTruthy();
    expect(page.address()).toBe('/templates/start?start=2026-12-07');
  });

  test('back from a promise says when to start by', async () => {
    const page = await open('back');
    page.network.answer('GET /templates/back?promise=2027-01-15', 200, { ...dryRun, promise: '2027-01-15', start: '2026-11-24' });
    await userEvent.click(screen.getByRole('radio', { name: 'Back from a promise' }));
    expect(await screen.findByText('Tue 24 Nov')).toBeTruthy();
    expect(screen.getByRole('region', { name: 'Dry run' }).textContent).toContain('start by');
    expect(page.address()).toBe('/templates/back?promise=2027-01-15');
  });

  test('that cannot be is refused at the date, and the last one stays on the screen', async () => {
    const page = await open('early');
    const refusal = { code: 'promise-too-early', message: 'No start is early enough for this promise. Choose a later day.' };
    page.network.answer('GET /templates/early?promise=2026-11-24', 409, refusal);
    await userEvent.click(screen.getByRole('radio', { name: 'Back from a promise' }));
    fireEvent.change(screen.getByLabelText('Promised date'), { target: { value: '2026-11-24' } });
    expect(await screen.findByText(refusal.message)).toBeTruthy();
    expect(phase('Script')).toBeTruthy();
  });
});

describe('starting with it', () => {
  test('is offered to who leads', async () => {
    await open('lead');
    expect(screen.getByRole('link', { name: 'Start an engagement with this' }).getAttribute('href')).toBe('/engagements/start?template=x1');
  });

  test.each<[string, Partial<DryRun>, typeof odalys]>([
    ['who does not lead', {}, teo],
    ['what is only a phase', { template: { ...dryRun.template, kind: 'phase' } }, odalys],
  ])('is not offered for %s', async (what, run, me) => {
    await open(what.replaceAll(' ', '-'), run, { me });
    expect(screen.queryByRole('link', { name: 'Start an engagement with this' })).toBeNull();
  });
});

test('a template that is not there says so', async () => {
  await openScreen(<TemplatePage />, { path: '/templates/:id', address: '/templates/none', answers: {} });
  expect(screen.getByText('Nothing answers /templates/none here.')).toBeTruthy();
});
