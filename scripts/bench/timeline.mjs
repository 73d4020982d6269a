import { framesWhile, openBrowser, ratioOf } from './frames.mjs';
import { report } from './measure.mjs';

const NAME = 'Engagement 41';

/** Four more of each task of one engagement: 500 in all, on the days of the first. */
const GROW = `
  INSERT INTO task (id, agency_id, engagement_id, phase_id, number, position, title, role_id, status, estimate_minutes, days, real_start, done_on,
      start_day, due_day, expected_day, baseline_start, baseline_due, logged_minutes)
    SELECT gen_random_uuid(), t.agency_id, t.engagement_id, t.phase_id, t.number + 100 * g, t.position + 100 * g, t.title || ' again ' || g, t.role_id,
      t.status, t.estimate_minutes, t.days, t.real_start, t.done_on, t.start_day, t.due_day, t.expected_day, t.baseline_start, t.baseline_due, 0
    FROM task t JOIN engagement e ON e.id = t.engagement_id, generate_series(1, 4) g WHERE e.name = $1 AND t.number <= 100`;

/** Frame times of the timeline with 500 tasks at 1280 × 800, against those of a plain table of 500 rows that is scrolled the same way. */
export async function benchTimeline(client, { address, sessionCookie }) {
  await client.query(GROW, [NAME]);
  const { rows } = await client.query(
    'SELECT id, (SELECT count(*)::int FROM task t WHERE t.engagement_id = e.id) AS tasks FROM engagement e WHERE name = $1',
    [NAME],
  );
  const { browser, context } = await openBrowser({ address, sessionCookie });
  try {
    const plain = await context.newPage();
    const lines = Array.from({ length: rows[0].tasks }, (_, row) => `<tr style="height:31px"><td>Task ${row}</td><td>${row} h</td></tr>`);
    await plain.setContent(`<table style="width:100%">${lines.join('')}</table>`);
    const floor = { scroll: await framesWhile(plain, { scroll: 'page' }), drag: await framesWhile(plain, { drag: { x: 600, y: 400 } }) };
    await plain.close();
    const page = await context.newPage();
    await page.goto(`${address}/engagements/${rows[0].id}?view=timeline`);
    await page.getByRole('treegrid', { name: 'Phases and tasks' }).waitFor();
    const scroll = await framesWhile(page, { scroll: 'page' });
    await page.evaluate(() => globalThis.scrollTo(0, 0));
    const bar = await page.locator('svg g[data-task] rect').last().boundingBox();
    const drag = await framesWhile(page, { drag: { x: bar.x + bar.width / 2, y: bar.y + bar.height / 2 } });
    await page.keyboard.press('Escape');
    report(
      `timeline of ${rows[0].tasks} tasks, a frame while scrolling, against a plain table`,
      ratioOf(scroll, floor.scroll, 'middle'),
      '≤ 1.2 ×',
    );
    report('  the slowest frame in twenty', ratioOf(scroll, floor.scroll, 'slow'), '≤ 2 ×');
    report('  a frame while a bar is dragged, against the pointer over a plain table', ratioOf(drag, floor.drag, 'middle'), '≤ 1.2 ×');
    report('  the slowest frame in twenty', ratioOf(drag, floor.drag, 'slow'), '≤ 2 ×');
  } finally {
    await browser.close();
  }
}
