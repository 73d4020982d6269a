import { choose, expect, openPlace, openTemplate, test } from './fixtures.ts';

test('a lead starts a gallery from its template, edits the plan, and sees the load follow', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await expect(page.getByRole('heading', { name: 'Engagements' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Keepers’ Quarters gallery' })).toBeVisible();

  await page.getByRole('link', { name: 'Start an engagement' }).click();
  await page.getByRole('button', { name: /^Start engagement/ }).click();
  await expect(page.getByText('Choose the client.')).toBeVisible();
  await choose(page, 'Client', 'Pellworth Tram Museum');
  await choose(page, 'Template', /Permanent gallery/);
  await page.getByLabel('Name').fill('Control tower room');
  await page.getByLabel('First day').fill('2027-01-11');
  await expect(page.getByLabel('Result')).toContainText('64 tasks in 9 phases');
  await expect(page.getByText(/\d+ engagements? with them/).first()).toBeVisible();

  // Leaves out the enquiry, and one task of the proposal.
  await page.getByText('Enquiry', { exact: true }).click();
  await expect(page.getByLabel('Result')).toContainText('61 tasks in 8 phases');
  await page.getByRole('button', { name: '4 tasks' }).click();
  await page.getByText('Price the work', { exact: true }).click();
  await expect(page.getByLabel('Result')).toContainText('60 tasks in 8 phases');
  await page.getByRole('button', { name: 'Start engagement (60 tasks)' }).click();

  await expect(page.getByRole('heading', { name: 'Control tower room' })).toBeVisible();
  await expect(page.getByRole('row', { name: /Scope on one page/ })).toContainText('11 Jan');
  await expect(page.getByRole('row', { name: /Price the work/ })).toHaveCount(0);

  // A longer task: what would move is shown first, then let move, then taken back.
  const concept = page.getByRole('row', { name: 'Concept boards' });
  const followed = page.getByRole('row', { name: 'Client picks a direction' });
  const before = await followed.getByRole('button', { name: /^When/ }).innerText();
  await concept.getByRole('button', { name: 'When is Concept boards' }).click();
  await page.getByLabel('Working days').fill('9');
  await expect(page.getByLabel('What this would do')).toContainText('other tasks move');
  await expect(followed.getByRole('button', { name: /^When/ })).toHaveText(before);
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('tasks moved');
  await expect(followed.getByRole('button', { name: /^When/ })).not.toHaveText(before);
  await page.getByRole('status', { name: 'Messages' }).getByRole('button', { name: 'Undo' }).click();
  await expect(followed.getByRole('button', { name: /^When/ })).toHaveText(before);

  // Effort, person and status in the sheet beside the list.
  await concept.getByText('Concept boards').click();
  const sheet = page.getByRole('complementary', { name: 'Task' });
  await expect(sheet.getByLabel('Title')).toHaveValue('Concept boards');
  await sheet.getByRole('button', { name: '0 of 18 h' }).click();
  await page.getByLabel('Hours', { exact: true }).fill('30');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(sheet.getByRole('button', { name: '0 of 30 h' })).toBeVisible();
  await sheet.getByRole('button', { name: /^Who/ }).click();
  await page.getByRole('option', { name: /Tavi Lindqvist/ }).click();
  await page.keyboard.press('Escape');
  await expect(sheet.getByRole('button', { name: /^Who/ })).toContainText('Tavi Lindqvist');
  await page.getByRole('row', { name: 'Scope on one page' }).getByRole('button', { name: 'Change the status' }).click();
  await page.getByRole('menuitem', { name: 'Done' }).click();
  await expect(page.getByText(/1 of 3 done/)).toBeVisible();

  await openPlace(page, 'Workload');
  await expect(page.getByRole('heading', { name: 'Workload' })).toBeVisible();
  await page.goto(`${world.url}/workload?from=2027-01-18`);
  await expect(page.getByText('18 Jan – 7 Feb 2027')).toBeVisible();
  await page.getByRole('button', { name: 'A week later' }).click();
  await expect(page.getByText('25 Jan – 14 Feb 2027')).toBeVisible();
  await page.getByRole('button', { name: 'Mirela Stoyan: see the tasks behind' }).click();
  await expect(page.getByRole('complementary', { name: 'Mirela Stoyan' })).toContainText('Control tower room');
});

test('a double click on Start makes one engagement', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/engagements/start`);
  await choose(page, 'Client', 'Pellworth Tram Museum');
  await choose(page, 'Template', /Audio trail/);
  await page.getByLabel('Name').fill('Depot walk');
  await page.getByLabel('First day').fill('2027-01-11');
  await page.getByRole('button', { name: /^Start engagement/ }).dblclick();
  await expect(page.getByRole('heading', { name: 'Depot walk' })).toBeVisible();
  await openPlace(page, 'Engagements');
  await expect(page.getByRole('link', { name: 'Depot walk' })).toHaveCount(1);
});

test('a template is read with its dry run, from a start and back from a promise', async ({ page, world }) => {
  await world.enterAs(page, 'Bastien Okoro');
  await openTemplate(page, 'Permanent gallery');
  const run = page.getByRole('region', { name: 'Dry run' });
  await page.getByLabel('Start', { exact: true }).fill('2027-01-11');
  await expect(run).toContainText('finishes Mon 7 Jun 2027');
  await page.getByRole('radio', { name: 'Back from promised date' }).click();
  await expect(run).toContainText('start by Mon 11 Jan 2027');
});

test('a phase of another template and a task of a past engagement are added in the review', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/engagements/start`);
  await choose(page, 'Client', 'Pellworth Tram Museum');
  await page.getByRole('button', { name: 'New contact…' }).click();
  const contact = page.getByRole('dialog', { name: 'New contact' });
  await contact.getByLabel('Name').fill('Ada Reed');
  await contact.getByLabel('Mail address').fill('ada@pellworth.example');
  await contact.getByRole('button', { name: 'Add contact' }).click();
  await expect(page.getByRole('button', { name: /^Ada Reed Contact/ })).toBeVisible();
  await choose(page, 'Template', /Audio trail/);
  await page.getByLabel('Name').fill('Tram voices');
  await page.getByLabel('First day').fill('2027-01-11');
  const sum = page.getByLabel('Result');
  await expect(sum).toContainText('in 5 phases');

  await page.getByRole('button', { name: 'Add phases from a template…' }).click();
  await choose(page, 'From', /Press and opening/);
  await choose(page, 'Where', 'After Script');
  await page.getByRole('button', { name: 'Add 1 phase here' }).click();
  await expect(sum).toContainText('in 6 phases');
  // It stands where it was put, before what comes after Script.
  const review = await page.getByRole('main').innerText();
  expect(review.indexOf('· added')).toBeGreaterThan(review.indexOf('Script'));
  expect(review.indexOf('· added')).toBeLessThan(review.indexOf('On site'));

  await page.getByRole('button', { name: 'Add a task from an engagement…' }).click();
  await choose(page, 'Of', /Keepers’ Quarters gallery/);
  await choose(page, 'The task', /Lighting mood tests/);
  await choose(page, 'Add to', 'Press and opening');
  await page.getByRole('button', { name: 'Add here' }).click();
  const added = page.getByRole('listitem').filter({ hasText: 'Lighting mood tests · added' }).last();
  await expect(added).toContainText('2027');
  const tasks = Number(/(\d+) tasks/.exec(await sum.innerText())?.[1]);

  await page.getByRole('button', { name: `Start engagement (${tasks} tasks)` }).click();
  await expect(page.getByRole('heading', { name: 'Tram voices' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Press and opening' })).toBeVisible();
  await expect(page.getByRole('row', { name: /Lighting mood tests/ })).toHaveCount(1);
});

test('each role has a view of the engagements that wait for it', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  const all = page
    .getByRole('main')
    .getByRole('listitem')
    .filter({ has: page.getByRole('link') });
  await expect(page.getByRole('link', { name: 'Keepers’ Quarters gallery' })).toBeVisible();
  const open = await all.count();
  await choose(page, 'Whose turn', /^Exhibit designer/);
  await expect(page).toHaveURL(/role=/);
  await expect.poll(() => all.count()).toBeLessThan(open);
});

test('a lead previews another promise, reassigns the lead, and closes an engagement without finishing it', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: 'Loom floor interpretation' }).click();
  await page.getByRole('button', { name: /^promised / }).click();
  const about = page.getByRole('complementary', { name: 'Engagement details' });
  await about.getByLabel('Promised date').fill('2027-06-11');
  await expect(about.getByLabel('What this would do')).toContainText(/promised 11 Jun 2027|to spare/);
  await about.getByRole('button', { name: 'Set promised date to 11 Jun 2027' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('Promised date is now 11 Jun 2027.');
  await expect(page.getByRole('button', { name: 'promised 11 Jun 2027' })).toBeVisible();

  await about.getByRole('button', { name: /Lead/ }).click();
  await page.getByRole('option', { name: 'Bastien Okoro' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('Bastien Okoro is now the lead.');
  await about.getByRole('textbox', { name: 'Name of the engagement' }).fill('Loom floor and dye house');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Loom floor and dye house' })).toBeVisible();

  await page.getByRole('button', { name: 'Mark as declined…' }).click();
  const closing = page.getByRole('complementary', { name: 'Close without finishing' });
  await closing.getByRole('textbox', { name: 'Why' }).fill('No money this year');
  await closing.getByRole('button', { name: 'Close engagement' }).click();
  await expect(page.getByText(/^Closed .* · No money this year/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Add task' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Reopen' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('is open again.');
  await expect(page.getByText('No money this year')).toHaveCount(0);
  await expect(page.getByText(/^Waiting for an answer/).first()).toBeVisible();
});
