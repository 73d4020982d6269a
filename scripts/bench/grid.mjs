import { framesWhile, openBrowser, ratioOf } from './frames.mjs';
import { report } from './measure.mjs';

const PEOPLE = 40;
const WEEKS = 26;

/** The studio becomes one of so many people with their own work: the large world is made anew for each measuring, and this comes last. */
const KEEP = [
  `UPDATE person SET is_active = id IN (SELECT id FROM person ORDER BY length(name), name LIMIT ${PEOPLE})`,
  `UPDATE task SET status = 'dropped', waiting_on = NULL, waiting_since = NULL, done_on = NULL WHERE status NOT IN ('done', 'dropped')
     AND NOT EXISTS (SELECT 1 FROM task_assignee a JOIN person p ON p.id = a.person_id AND p.is_active WHERE a.task_id = task.id)`,
];

/** Frame times of the load grid with 40 people over 26 weeks of days, against a plain table with as many cells. */
export async function benchGrid(client, { address, sessionCookie }) {
  for (const sql of KEEP) await client.query(sql);
  const { browser, context } = await openBrowser({ address, sessionCookie });
  try {
    const floor = await framesOfTable(context);
    const page = await context.newPage();
    await page.goto(`${address}/workload?view=days&weeks=${WEEKS}`);
    const grid = page.getByRole('group', { name: 'Hours by person and day' });
    await grid.waitFor();
    const down = await framesWhile(page, { scroll: 'page' });
    const along = await framesWhile(page, { scroll: '[role=group][tabindex="0"]' });
    await page.evaluate(() => globalThis.scrollTo(0, 0));
    const place = await grid.boundingBox();
    const over = await framesWhile(page, { drag: { x: place.x + place.width / 2, y: place.y + 220 } });
    report(
      `load grid of ${PEOPLE} people × ${WEEKS} weeks, a frame while scrolling down, against a plain table`,
      ratioOf(down, floor.down, 'middle'),
      '≤ 1.2 ×',
    );
    report('  the slowest frame in twenty', ratioOf(down, floor.down, 'slow'), '≤ 2 ×');
    report('  a frame while scrolling along its days', ratioOf(along, floor.down, 'middle'), '≤ 1.2 ×');
    report('  the slowest frame in twenty', ratioOf(along, floor.down, 'slow'), '≤ 2 ×');
    report('  a frame while the pointer moves over the bars', ratioOf(over, floor.over, 'middle'), '≤ 1.2 ×');
    report('  the slowest frame in twenty', ratioOf(over, floor.over, 'slow'), '≤ 2 ×');
  } finally {
    await browser.close();
  }
}

async function framesOfTable(context) {
  const plain = await context.newPage();
  const cells = Array.from({ length: WEEKS * 7 }, (_, day) => `<td>${day}</td>`).join('');
  await plain.setContent(`<table>${Array.from({ length: PEOPLE }, () => `<tr style="height:56px">${cells}</tr>`).join('')}</table>`);
  const floor = { down: await framesWhile(plain, { scroll: 'page' }), over: await framesWhile(plain, { drag: { x: 600, y: 400 } }) };
  await plain.close();
  return floor;
}
