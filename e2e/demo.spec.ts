import type { EngagementTrack, HandoffBoard, HistoryPage, TemplateSummary, Workload } from '@crew/contract';
import { expect, test } from './fixtures.ts';

test('the demo has all it should have', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  const read = async <Answer>(path: string): Promise<Answer> =>
    (await (await page.request.get(`${world.url}/api${path}`)).json()) as Answer;

  // What repeats is one piece of work, however many of it are open.
  const rowsOf = (tracks: readonly EngagementTrack[]): EngagementTrack[] =>
    tracks.filter((track, place) => track.series === null || tracks.findIndex((other) => other.series?.id === track.series?.id) === place);
  const open = rowsOf(await read<EngagementTrack[]>('/engagements'));
  const forClients = open.filter((track) => track.client.hue !== 'slate');
  expect(forClients).toHaveLength(8);
  expect(new Set(forClients.map((track) => track.client.name)).size).toBe(8);
  expect(open.length - forClients.length).toBe(2);
  const standings = new Set(forClients.flatMap((track) => track.standing.map(({ kind }) => kind)));
  for (const kind of ['proposal', 'not-picked-up', 'late', 'on-time'] as const)
    expect([...standings], `one that is ${kind}`).toContain(kind);
  expect(
    forClients.some((track) => track.promise !== null && track.finish > track.promise),
    'one that is late',
  ).toBe(true);

  const finished = await read<EngagementTrack[]>('/engagements?finished=yes');
  expect(finished.filter((track) => track.series === null)).toHaveLength(6);
  expect(rowsOf(finished)).toHaveLength(8);
  for (const track of finished) expect(track.loggedMinutes, track.name).toBeGreaterThan(0);

  const templates = await read<TemplateSummary[]>('/templates');
  const names = templates.map((template) => template.name);
  for (const name of ['Permanent gallery', 'Wayfinding & signage', 'Audio trail', 'Travelling display', 'Care visits', 'Gallery talk kit'])
    expect(names).toContain(name);
  expect(templates.filter((template) => template.kind === 'phase')).toHaveLength(4);
  expect(templates.filter((template) => template.kind === 'task')).toHaveLength(3);
  for (const name of ['Accessibility check', 'Site survey'])
    expect(templates.find((template) => template.name === name)?.usedTimes, `${name} is used`).toBe(1);

  const board = await read<HandoffBoard>('/handoffs');
  expect(board.lines.map((line) => line.state)).toEqual(expect.arrayContaining(['handed-off', 'sent-back', 'getting-ready']));
  for (const { id, engagement } of board.lines) {
    const { lines } = await read<HistoryPage>(`/history?subject=handoff&id=${id}`);
    const times = lines.map(({ at }) => at);
    expect(times, `the turns of ${engagement.name}, the newest first`).toEqual([...times].sort().reverse());
  }

  const workload = await read<Workload>('/workload');
  expect(workload.rows).toHaveLength(11);
  const isOver = ({ load, capacity }: Workload['rows'][number]): boolean => load.some((minutes, place) => minutes > (capacity[place] ?? 0));
  expect(workload.rows.some(isOver), 'somebody is over').toBe(true);
  expect(workload.rows.every(isOver), 'somebody is not').toBe(false);
});

test('the demo lists five things to try for each kind of access, until the list is closed', async ({ page, world }) => {
  await world.enterAs(page, 'Mirela Stoyan');
  await page.goto(`${world.url}/settings`);
  await page.getByRole('button', { name: 'Show hints again' }).click();
  await page.goto(`${world.url}/desk`);
  const list = page.getByRole('region', { name: 'Five things to try' });
  await expect(list.getByRole('link')).toHaveCount(5);
  await expect(page.getByRole('region', { name: 'About your desk' })).toBeVisible();
  await list.getByRole('link', { name: /timesheet/ }).click();
  await expect(page).toHaveURL(/\/time/);
  await page.goto(`${world.url}/desk`);
  await list.getByRole('button', { name: 'Close list' }).click();
  await expect(list).toBeHidden();
  await page.reload();
  await expect(page.getByRole('region', { name: 'About your desk' })).toBeVisible();
  await expect(list).toBeHidden();
});

test.describe('to somebody new', () => {
  test.use({ hasHints: true });

  test('a client gets five things to try on their page, until the list is closed', async ({ page, world }) => {
    await world.enterAs(page, 'Freya Kell');
    const list = page.getByRole('region', { name: 'Five things to try' });
    await expect(list.getByRole('listitem')).toHaveCount(5);
    await list.getByRole('button', { name: 'Close list' }).click();
    await expect(list).toBeHidden();
    await page.reload();
    await expect(page.getByRole('heading', { name: 'What we need from you' }).first()).toBeVisible();
    await expect(list).toBeHidden();
  });
});
