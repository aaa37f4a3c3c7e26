import { readFileSync } from 'node:fs';
import { tablet } from './team.ts';
import { expect, test, type Page } from './test.ts';

const steps = (page: Page) => page.getByRole('list', { name: 'Steps of the lesson' });
const saved = (page: Page) => expect(page.getByText('saved', { exact: true })).toBeVisible();
const part = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Parts of the builder' }).getByRole('link', { name, exact: true });

/** Makes a lesson from an aim and ends on its steps. */
async function fromAim(page: Page, aim: string) {
  await page.goto('/lessons/new');
  await page.getByRole('button', { name: new RegExp(`^${aim}`) }).click();
  await page.getByRole('button', { name: 'Take this lesson and go on' }).click();
  await expect(steps(page)).toBeVisible();
}

test('from an aim to a printed handout in one go', async ({ page }) => {
  await page.goto('/lessons');
  await page.getByRole('link', { name: 'New lesson' }).click();
  await page.getByRole('button', { name: /^stop on a line/ }).click();
  await expect(page.getByText('45 of 50 min are planned, 5 are left over.')).toBeVisible();
  await page.getByRole('button', { name: 'Take this lesson and go on' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Stop on the line' })).toBeVisible();
  await expect(page.getByText('Nothing is missing: the lesson is ready to be taught.')).toBeVisible();
  await part(page, 'Answer').click();
  await expect(page.getByText('Proved.')).toBeVisible();
  await expect(page.getByText('50 of 50 runs pass')).toBeVisible();
  await page.getByRole('link', { name: 'Print' }).click();
  const sheet = page.getByRole('article', { name: 'Handout' });
  await expect(sheet.getByRole('heading', { name: 'Stop on the line' })).toBeVisible();
  await expect(sheet.getByRole('table')).toHaveCount(3);
  await expect(sheet).toContainText('Stops within 40 mm past the near edge of the dark line');
  await page.evaluate(() => (window.print = () => document.body.setAttribute('data-printed', 'yes')));
  await page.getByRole('button', { name: 'Print this sheet' }).click();
  await expect(page.locator('body')).toHaveAttribute('data-printed', 'yes');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Print this sheet' })).toBeHidden();
  await expect(sheet).toBeVisible();
});

test('a kit that cannot is told so, with what it would take', async ({ page }) => {
  await page.goto('/lessons/new');
  await page.getByRole('button', { name: 'Skiff', exact: true }).click();
  await page.getByRole('button', { name: /^choose a side/ }).click();
  await expect(page.getByText('The Skiff cannot “choose a side”: it takes distance')).toBeVisible();
  await page.getByRole('button', { name: /^count/ }).click();
  await expect(page.getByText(/· touch on S-a$/)).toBeVisible();
});

test('steps are moved by keys, and what is missing says where', async ({ page }) => {
  await fromAim(page, 'turn to a heading');
  const rows = steps(page).getByRole('button');
  await rows.nth(2).focus();
  const moved = await rows.nth(2).innerText();
  await page.keyboard.press('Alt+ArrowDown');
  await expect(rows.nth(3)).toBeFocused();
  expect((await rows.nth(3).innerText()).split('\n').slice(1, 2)).toEqual(moved.split('\n').slice(1, 2));
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(rows.nth(1)).toBeFocused();

  // A script that comes last has nothing to try before it.
  await rows.filter({ hasText: 'Script' }).focus();
  for (let i = 0; i < 7; i++) await page.keyboard.press('Alt+ArrowDown');
  await page.getByRole('button', { name: 'Try it comes before any script was written.' }).click();
  await expect(page.getByRole('heading', { name: /Try/ }).first()).toBeVisible();
  await expect(page.getByText(/\d things missing/)).toBeVisible();
  for (let i = 0; i < 7; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Nothing is missing: the lesson is ready to be taught.')).toBeVisible();
  await saved(page);
});

test('a step is dragged to another place, and put back by undo', async ({ page }) => {
  await fromAim(page, 'stop on a line');
  await expect(page.getByText('Nothing is missing: the lesson is ready to be taught.')).toBeVisible();
  const names = async () =>
    (await steps(page).getByRole('listitem').allInnerTexts()).map((row) => row.split('\n')[1]);
  const before = await names();
  const grip = (n: number) => steps(page).getByRole('listitem').nth(n).getByTitle('Drag to another place');
  const middle = async (n: number) => {
    const box = (await grip(n).boundingBox())!;
    return [box.x + box.width / 2, box.y + box.height / 2] as const;
  };
  const [from, to] = [await middle(1), await middle(3)];
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move(from[0], from[1] + 20, { steps: 4 });
  await page.mouse.move(...to, { steps: 8 });
  await page.mouse.up();
  await expect.poll(names).toEqual([before[0], before[2], before[3], before[1], ...before.slice(4)]);
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(names).toEqual(before);
});

test('typed numbers follow undo', async ({ page }) => {
  await fromAim(page, 'stop on a line');
  const minutes = page.getByLabel('minutes', { exact: true });
  await expect(minutes).toHaveValue('3');
  await minutes.fill('many');
  await expect(minutes).toHaveAttribute('aria-invalid', 'true');
  await minutes.fill('7');
  await expect(page.getByText('49 of 50 min are planned, 1 is left over.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(minutes).toHaveValue('3');
});

test('a text is typed, seen as the team sees it, kept, and compared with what it was', async ({ page }) => {
  await fromAim(page, 'react to colour');
  await page
    .getByLabel(/^what the team reads/)
    .fill('Look at the **green** card.\n\n<img src=x onerror=alert(1)>');
  const preview = page.getByRole('group', { name: 'As a team sees it' });
  await expect(preview.locator('strong', { hasText: 'green' })).toBeVisible();
  await expect(preview.locator('img')).toHaveCount(0);
  await saved(page);
  await page.reload();
  await expect(page.getByLabel(/^what the team reads/)).toHaveValue(/Look at the \*\*green\*\* card/);
  await part(page, 'Versions').click();
  await page.getByRole('button', { name: /as it was/ }).click();
  await expect(page.getByRole('heading', { name: 'step What it is about: text changed' })).toBeVisible();
  await page.getByRole('button', { name: /^Bring version 1 back/ }).click();
  await expect(page.getByText('Nothing differs from the lesson as it is now.')).toBeVisible();
  await saved(page);
});

test('two screens on one lesson: each sees the other’s, and where both changed one thing one is asked', async ({
  page,
  context,
}) => {
  await fromAim(page, 'count');
  const title = page.getByLabel('title', { exact: true });
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel('title', { exact: true }).fill('Theirs');
  await saved(other);
  // The first screen follows by itself while nothing is typed on it.
  await expect(title).toHaveValue('Theirs');
  for (const [choice, mine, theirs] of [
    ['Take theirs', 'Mine at first', 'Theirs at first'],
    ['Keep mine', 'Mine again', 'Theirs again'],
  ] as const) {
    const shown = choice === 'Keep mine' ? mine : theirs;
    await page.route('**/api/**', (route) => route.abort());
    await title.fill(mine);
    await expect(page.getByText('kept here', { exact: true })).toBeVisible();
    await other.getByLabel('title', { exact: true }).fill(theirs);
    await saved(other);
    await page.unroute('**/api/**');
    const asked = page.getByText('Somebody else changed this lesson meanwhile.');
    await expect(asked).toBeVisible({ timeout: 20_000 });
    await page.getByRole('button', { name: choice }).click();
    await expect(title).toHaveValue(shown);
    await saved(page);
    // “Saved” is true: it is what the server has, and what the other screen shows.
    await expect(other.getByLabel('title', { exact: true })).toHaveValue(shown);
    const slug = /lessons\/([^/]+)\//.exec(page.url())![1]!;
    // The first step's title.
    const titleIn = (answer: unknown) =>
      (answer as { lesson: { steps: { title: string }[] } }).lesson.steps[0]!.title;
    const draft = await page.request.get(`/api/lessons/${slug}/draft`);
    expect(titleIn(await draft.json())).toBe(shown);
    // Whatever was chosen, the other one is among the versions.
    const { versions } = (await (await page.request.get(`/api/lessons/${slug}/versions`)).json()) as {
      versions: { version: number }[];
    };
    const titles: string[] = [];
    for (const { version } of versions) {
      const answer = await page.request.get(`/api/lessons/${slug}/versions/${version}`);
      titles.push(titleIn(await answer.json()));
    }
    expect(titles).toEqual(expect.arrayContaining([mine, theirs]));
  }
  await other.close();
});

test('a twist gives teams different numbers, each with a proved answer, and the team’s page follows', async ({
  page,
  browser,
  server,
}) => {
  await page.goto('/lessons/stop-short/build/twist');
  await page.getByRole('button', { name: 'Prove and hand out' }).click();
  const gannet = page.getByRole('row', { name: /^Gannet/ });
  const plover = page.getByRole('row', { name: /^Plover/ });
  await expect(gannet).toContainText('proved 50/50', { timeout: 30_000 });
  await expect(plover).toContainText('proved 50/50');
  const values = async (row: typeof gannet) => (await row.getByRole('cell').first().innerText()).trim();
  const own = await values(gannet);
  expect(own).not.toBe(await values(plover));
  const gap = /gap to the quay (\d+) cm/.exec(own)![1];
  await page.goto('/teams/1/lessons/stop-short/brief');
  await expect(page.getByText(`stops ${gap} cm short of it`)).toBeVisible();
  // The team comes back where it left; its teacher's visits do not move it. Its class has begun the lesson.
  const hour = await page.request.post('/api/periods', {
    data: { classId: 1, lesson: 'stop-short', minutes: 50 },
  });
  expect(hour.status()).toBe(201);
  const { context, page: theirs } = await tablet(browser, page, server.url, 1);
  await theirs.goto('/teams/1/lessons/stop-short/reflect');
  await expect(theirs.getByRole('heading', { name: /^What did you find out/ })).toBeVisible();
  await theirs.getByLabel('in our own words').fill('Braking takes 3 cm.');
  await expect(theirs.getByText('saved', { exact: true })).toBeVisible();
  await page.goto('/teams/1/lessons/stop-short/try');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await theirs.goto('/teams/1/lessons/stop-short');
  await expect(theirs).toHaveURL(/\/reflect$/);
  await expect(theirs.getByLabel('in our own words')).toHaveValue('Braking takes 3 cm.');
  await context.close();
  await page.goto('/lessons/stop-short/build/twist');
  await page.getByRole('button', { name: 'Take all back' }).click();
  await expect(gannet).toContainText('as the lesson usually is');
});

test('what varies from run to run is shown as drawn tasks, and a made answer is kept as right', async ({
  page,
}) => {
  await page.goto('/lessons/count-the-lanes/build/twist?of=run');
  const tasks = page.getByRole('group', { name: 'The tasks that a proof draws' }).getByRole('listitem');
  await expect(tasks).toHaveCount(10);
  await expect(tasks.first()).toContainText(/dark lanes \d · coloured lanes \d/);
  const seven = tasks.filter({ hasText: 'dark lanes 7' });
  expect(await seven.count()).toBeGreaterThan(0);
  await page.getByLabel('to', { exact: true }).first().fill('5');
  await expect(seven).toHaveCount(0);
  await expect(tasks).toHaveCount(10);
  await page.getByRole('button', { name: 'Undo' }).click();

  await page.goto('/lessons/tide-line/fairness');
  await page.getByRole('button', { name: /Judge them all/ }).click();
  const keep = page.getByRole('link', { name: 'It is right: keep it in the lesson' }).first();
  await keep.waitFor({ timeout: 60_000 });
  const row = page.getByRole('row').filter({ has: keep });
  const name = (await row.getByRole('cell').nth(1).innerText()).split('\n')[0]!.trim();
  await keep.click();
  await expect(page).toHaveURL(/build\/checks$/);
  const answers = page.getByLabel(/^answer \d+$/);
  await expect(answers.last()).toHaveValue(name);
  const count = await answers.count();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  // Coming back adds nothing.
  await page.reload();
  await expect(answers).toHaveCount(count);
  await page.getByRole('button', { name: `Take answer ${count} out` }).click();
  await expect(answers).toHaveCount(count - 1);
});

test('a twist is made from nothing: a number, what follows it, and eight proved variants', async ({
  page,
}) => {
  await fromAim(page, 'stop before something');
  await part(page, 'Twist').click();
  await page.getByRole('button', { name: 'Add a number' }).click();
  await page.getByLabel('name', { exact: true }).fill('gap');
  await page.getByLabel('what it is').fill('gap to the wall');
  await expect(page.getByText(/^“15 cm” still stands in the aim, What it is about/)).toBeVisible();
  await page.getByRole('button', { name: 'Write {gap} there' }).click();
  await expect(page.getByText(/still stands in/)).toBeHidden();
  await page.getByRole('button', { name: 'Let a number follow' }).click();
  // Proposed so that the lesson stays as it is while the gap is usual.
  await expect(page.getByLabel('becomes').last()).toHaveValue('10 * gap');
  await page.getByRole('button', { name: 'Let a number follow' }).click();
  const second = page.getByLabel('the number').last();
  const threshold = second.locator('option', { hasText: 'threshold of the model answer on K2' });
  await second.selectOption(await threshold.getAttribute('value'));
  await expect(page.getByLabel('becomes').last()).toHaveValue('gap + 2');
  await saved(page);
  await page.getByRole('button', { name: 'Prove and hand out' }).click();
  const rows = page.getByRole('row').filter({ hasText: 'gap to the wall' });
  await expect(rows).toHaveCount(8, { timeout: 40_000 });
  for (const row of await rows.all()) await expect(row).toContainText('proved 50/50');
  const gaps = await rows.getByRole('cell').filter({ hasText: 'gap to the wall' }).allInnerTexts();
  expect(new Set(gaps).size).toBe(8);
  const slug = /lessons\/([^/]+)\/build/.exec(page.url())![1]!;
  await page.goto(`/teams/2/lessons/${slug}/brief`);
  const plover = /(\d+) cm/.exec(gaps[1]!)![1]!;
  await expect(
    page.getByText(`The robot drives up to the wall and stops ${plover} cm short of it.`),
  ).toBeVisible();
});

test('the course of a lesson is changed by hand and put back into it', async ({ page }) => {
  await fromAim(page, 'stop on a line');
  await part(page, 'Answer').click();
  await page.getByRole('link', { name: 'Change this course by hand' }).click();
  const put = page.getByRole('button', { name: 'Put into the lesson' });
  await expect(put).toBeDisabled();
  await page.getByLabel('Name of the course').fill('Our own floor');
  await put.click();
  await expect(page.getByText('now: Our own floor')).toBeAttached();
  await expect(page.getByText('Proved.')).toBeVisible({ timeout: 20_000 });
});

test('exported, taken off the list, imported: the same lesson', async ({ page }) => {
  await fromAim(page, 'follow an edge');
  await part(page, 'Plan').click();
  await expect(page.getByRole('heading', { name: 'Aim and time' })).toBeVisible();
  await page.getByLabel('title', { exact: true }).fill('Along the edge');
  await saved(page);
  await part(page, 'Share').click();
  const download = async (name: string) => {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name, exact: true }).click(),
    ]);
    return { name: file.suggestedFilename(), text: readFileSync(await file.path(), 'utf8') };
  };
  const json = await download('JSON');
  const markdown = await download('Markdown');
  await page.getByRole('button', { name: 'Take the lesson off the list' }).click();
  await expect(page).toHaveURL(/\/lessons$/);
  await expect(page.getByRole('heading', { name: 'Along the edge' })).toHaveCount(0);
  for (const { name, text } of [json, markdown]) {
    await page.goto('/lessons');
    await page
      .getByLabel('Lesson file')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    const dialog = page.getByRole('dialog', { name: `Import ${name}` });
    await expect(dialog.getByRole('heading', { name: 'Along the edge' })).toBeVisible();
    await dialog.getByRole('button', { name: 'Add this lesson' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'Along the edge' })).toBeVisible();
    await part(page, 'Share').click();
    const again = await download('JSON');
    const lessonIn = (file: string) => ({ ...(JSON.parse(file) as { lesson: object }).lesson, slug: '' });
    expect(lessonIn(again.text)).toEqual(lessonIn(json.text));
  }
});

test('files that are no lessons are told what is wrong, and nothing is changed', async ({ page }) => {
  await page.goto('/lessons');
  await expect(page.getByRole('heading', { name: 'Tide line' })).toBeVisible();
  const count = await page.getByRole('heading', { level: 2 }).count();
  const give = async (name: string, text: string) => {
    await page
      .getByLabel('Lesson file')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    return page.getByRole('dialog').getByRole('alert');
  };
  await expect(await give('broken.json', '{"format": ')).toContainText('The file is not whole JSON');
  await page.getByRole('button', { name: 'Close' }).click();
  const wrong = '{"format":"vigilum-lesson","version":1,"lesson":{"title":5}}';
  const alert = await give('wrong.json', wrong);
  await expect(alert).toContainText('parts of the lesson cannot be taken. Nothing was changed.');
  expect(await alert.getByRole('listitem').count()).toBeGreaterThan(5);
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(await give('huge.md', 'x'.repeat(10_000_000))).toContainText('a lesson has at most 2 MB');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('heading', { level: 2 })).toHaveCount(count);
});

test('a lesson of forty steps stays fluid while typing', async ({ page }) => {
  test.setTimeout(180_000);
  await fromAim(page, 'stop before something');
  for (let i = 0; i < 28; i++)
    await page.getByRole('button', { name: 'A second step like this one' }).click();
  await expect(steps(page).getByRole('listitem')).toHaveCount(40);
  await page.evaluate(() => {
    const kept: number[] = [];
    Object.assign(window, { kept });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) if (entry.name === 'keydown') kept.push(entry.duration);
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
  });
  const text = page.getByLabel(/^what the team reads/);
  await text.click();
  await page.keyboard.press('ControlOrMeta+End');
  await page.keyboard.type(' The tug waits for the tide.', { delay: 60 });
  await expect(page.getByRole('group', { name: 'As a team sees it' })).toContainText(
    'The tug waits for the tide.',
  );
  const slow = await page.evaluate(() =>
    (window as unknown as { kept: number[] }).kept.sort((a, b) => b - a),
  );
  // Times are told, not judged: a busy machine is slower. They are held to in the note of measurements.
  console.log(`keydown to paint, slowest of ${slow.length} over 16 ms: ${slow.slice(0, 5).join(', ')} ms`);
});
