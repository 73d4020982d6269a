import type { IsoDay } from '@crew/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Crew, EngagementTrack, RoleStand } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { odalys, plan, teo } from '../../../test/samples.ts';
import { EngagementsPage } from './EngagementsPage.tsx';

const crew: Crew = {
  people: [
    {
      id: 'm1',
      name: 'Teo Marsh',
      initials: 'TM',
      access: 'member',
      roleIds: ['r-write', 'r-research'],
      roles: ['Writer', 'Researcher'],
      week: [],
    },
  ],
  roles: [
    { id: 'r-lead', name: 'Engagement lead' },
    { id: 'r-write', name: 'Writer' },
    { id: 'r-look', name: 'Researcher' },
  ],
};
const track = (name: string, stands: RoleStand | null = null): EngagementTrack => ({ ...plan.engagement, id: name, name, stands });
const stand = (more: Partial<RoleStand>): RoleStand => ({
  ...{ phase: plan.phases[0]?.name ?? '', stateLine: 'Script being written', isComing: false, until: '2026-12-11' },
  ...{ openTasks: 3, nextDue: '2026-11-25', phaseIds: [plan.phases[0]?.id ?? ''] },
  ...more,
});
const open = (me = odalys, address = '/engagements') =>
  openScreen(<EngagementsPage />, {
    ...{ path: '/engagements', address, me },
    answers: {
      'GET /crew': crew,
      'GET /engagements': [track('Reed walk'), track('Loom floor')],
      'GET /engagements?finished=yes&since=2025-11-23': [track('Comet cart')],
      'GET /engagements?finished=yes': [track('Comet cart'), track('Reed walk')],
      'GET /engagements?role=r-write': [track('Reed walk', stand({ isComing: true }))],
      'GET /engagements?role=r-write,r-look': [
        track('Reed walk', stand({})),
        track('Loom floor', stand({ openTasks: 1, nextDue: '2026-11-20' })),
        track('Bell stair', stand({ openTasks: 0, nextDue: null })),
      ],
    },
  });
const row = async (name: string): Promise<string> => (await screen.findByRole('link', { name })).closest('li')?.textContent ?? '';

test('a lead begins with all of them, their standing and their hours', async () => {
  await open();
  expect(await row('Reed walk')).toContain('h used');
  expect(screen.getByRole('link', { name: 'Loom floor' })).toBeTruthy();
});

test('what repeats is one row, however many of it are open, and leads to the series', async () => {
  const series = { id: 's1', name: 'Talk kits' };
  const page = await open();
  const kit = (id: string, start: IsoDay): EngagementTrack => ({ ...track(id), series, start, loggedMinutes: 60, effortMinutes: 120 });
  page.close();
  await openScreen(<EngagementsPage />, {
    path: '/engagements',
    answers: { 'GET /crew': crew, 'GET /engagements': [kit('Kit 1', '2026-11-02'), track('Loom floor'), kit('Kit 2', '2026-12-07')] },
  });
  expect(await row('Talk kits')).toContain('1 under way, 1 ahead');
  expect(screen.getByRole('link', { name: 'Talk kits' }).getAttribute('href')).toBe('/engagements/repeating/s1');
  expect(screen.queryByText('Kit 1')).toBeNull();
  expect(screen.getByText(/^2 open/)).toBeTruthy();
});

test('a member begins with what stands with own roles, and what in it is to be done', async () => {
  await open(teo);
  expect(await row('Reed walk')).toContain('3 tasks to donext due 25 Nov');
  expect(await row('Loom floor')).toContain('1 task to dowas due 20 Nov');
  expect(await row('Bell stair')).toContain('Nothing left to dountil 11 Dec');
  expect(await row('Reed walk')).not.toContain('h used');
  expect(screen.getByText('3 engagements where it is your turn')).toBeTruthy();
});

test('from there it is one step to all of them', async () => {
  const page = await open(teo);
  await userEvent.click(await screen.findByRole('link', { name: 'See all engagements' }));
  expect(page.address()).toBe('/engagements?role=everybody');
  expect(await row('Loom floor')).toContain('h used');
});

test('what is handed to a role waits to be picked up', async () => {
  const page = await open();
  await userEvent.click(await screen.findByRole('button', { name: /Anyone’s turn/ }));
  await userEvent.click(within(await screen.findByRole('listbox')).getByRole('option', { name: /Writer/ }));
  expect(page.address()).toBe('/engagements?role=r-write');
  expect(await row('Reed walk')).toContain('Waiting to be picked up');
});

test('finished ones are everybody’s', async () => {
  await open(teo, '/engagements?show=finished');
  expect(await row('Comet cart')).toContain('h used');
});

test('a member with nothing to do now sees what is with others, and is told so', async () => {
  const page = await openScreen(<EngagementsPage />, {
    ...{ path: '/engagements', me: teo },
    answers: { 'GET /crew': crew, 'GET /engagements': [track('Loom floor')], 'GET /engagements?role=r-write,r-look': [] },
  });
  expect(await row('Loom floor')).toContain('h used');
  expect(screen.getByText('Nothing is waiting for Writer or Researcher now; others have these')).toBeTruthy();
  page.close();
});

describe('narrowing the list', () => {
  const late: EngagementTrack = { ...track('Bell stair'), clientId: 'c2', client: { name: 'Corvane', hue: 'umber' } };
  const openAll = (address = '/engagements') =>
    openScreen(<EngagementsPage />, {
      ...{ path: '/engagements', address },
      answers: {
        'GET /crew': crew,
        'GET /engagements': [
          track('Reed walk'),
          { ...late, standing: [{ kind: 'late', days: 3, finish: '2026-12-20' }], promise: '2026-12-01' },
          { ...track('Loom floor'), standing: [{ kind: 'sent-back', since: '2026-11-20T09:00:00Z', question: 'Which?' }] },
        ],
      },
    });
  const names = (): (string | null)[] =>
    within(screen.getByRole('list', { name: 'Engagements' }))
      .getAllByRole('link')
      .map((link) => link.textContent);

  test('what is typed narrows it at once and stands in the address; how many are left is said', async () => {
    const page = await openAll();
    await userEvent.type(await screen.findByRole('textbox', { name: 'Search engagements' }), 'floor loom');
    await waitFor(() => expect(names()).toEqual(['Loom floor']));
    expect(screen.getByText('1 of 3 shown')).toBeTruthy();
    expect(page.address()).toBe('/engagements?text=floor+loom');
    await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
    expect(names()).toHaveLength(3);
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Search engagements' }).value).toBe('');
  });

  test('by client and standing: what there is can be chosen, worst first, and both together may leave nothing', async () => {
    const page = await openAll();
    await userEvent.click(await screen.findByRole('button', { name: /Any standing/ }));
    const options = within(await screen.findByRole('listbox')).getAllByRole('option');
    expect(options.map((option) => option.textContent)).toEqual(['Any standing', 'Sent back', 'Late', 'On time']);
    await userEvent.click(options[2] as HTMLElement);
    expect(names()).toEqual(['Bell stair']);
    await userEvent.click(screen.getByRole('button', { name: /Any client/ }));
    await userEvent.click(await screen.findByRole('option', { name: plan.engagement.client.name }));
    expect(page.address()).toBe(`/engagements?standing=late&client=${plan.engagement.clientId}`);
    expect(await screen.findByText('No engagement matches.')).toBeTruthy();
  });

  test('a link shows the same list again, in its order', async () => {
    await openAll('/engagements?sort=standing');
    await screen.findByRole('link', { name: 'Reed walk' });
    expect(names()).toEqual(['Loom floor', 'Bell stair', 'Reed walk']);
  });

  test('of the finished ones the last year is shown first, and all when something is looked for', async () => {
    const page = await open(odalys, '/engagements?show=finished');
    expect(await row('Comet cart')).toContain('h used');
    expect(screen.queryByRole('link', { name: 'Reed walk' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Show all years' }));
    expect(await row('Reed walk')).toContain('h used');
    expect(page.address()).toBe('/engagements?show=finished&years=all');
  });
});

test('of a long list only what is seen is drawn, and each row says which of how many it is', async () => {
  // jsdom lays nothing out, so each row says how high it is.
  const height = jest.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(60);
  await openScreen(<EngagementsPage />, {
    path: '/engagements',
    answers: { 'GET /crew': crew, 'GET /engagements': Array.from({ length: 150 }, (_, index) => track(`Job ${index + 1}`)) },
  });
  await screen.findByRole('link', { name: 'Job 1' });
  const drawn = screen.getAllByRole('listitem').filter((item) => item.getAttribute('aria-setsize') === '150');
  expect(drawn.length).toBeGreaterThan(5);
  expect(drawn.length).toBeLessThan(60);
  expect(drawn[0]?.getAttribute('aria-posinset')).toBe('1');
  height.mockRestore();
});
