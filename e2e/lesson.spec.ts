import { expect, test } from './test.ts';
import { open, reads, stage, tablet, teams, writeScript } from './team.ts';

test('a team walks from a wrong plug to a proved program on the floor', async ({
  page: teacher,
  browser,
  server,
}) => {
  // Today shows who needs help first.
  await teacher.goto('/');
  await expect(teacher.getByRole('heading', { name: '7 Kittiwake · Tide line' })).toBeVisible();
  const first = teacher.getByRole('listitem').filter({ hasText: 'Move the plug from K4 to K3' });
  await expect(first).toContainText('Avocet');
  // The team works at its own tablet, which may do what it needs and no more.
  const { context, page } = await tablet(browser, teacher, server.url, teams.Avocet, {
    viewport: { width: 1280, height: 800 },
  });
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });

  // Wire
  await expect(page.getByRole('heading', { name: 'Before any program' })).toBeVisible();
  await expect(page.getByText('The reflected light sensor is on K4. The lesson reads K3.')).toBeVisible();
  await page.getByRole('button', { name: 'We moved it to K3' }).click();
  await expect(page.getByText('The reflected light sensor is on K3.')).toBeVisible();
  await page.getByRole('button', { name: 'paper to and fro' }).click();
  await expect(page.getByText(/It reacts: from \d+ to \d+ %/)).toBeVisible();
  await page.getByRole('button', { name: 'Note: it reacts' }).click();
  await page.getByRole('link', { name: 'On to Read' }).click();

  // Read
  await page.getByRole('button', { name: 'over the tide line' }).click();
  await reads(page, 5, 35);
  await page.getByRole('radio', { name: /tide line/ }).check();
  await page.getByRole('button', { name: /Take 20 readings/ }).click();
  await expect(page.getByText(/, n 20, just now/)).toHaveCount(1);
  await page.getByRole('button', { name: 'over the quay boards' }).click();
  await reads(page, 60, 90);
  await page.getByRole('radio', { name: /quay boards/ }).check();
  await page.getByRole('button', { name: /Take 20 readings/ }).click();
  await expect(page.getByText('Far apart: any value well between them works.')).toBeVisible();
  await page.getByRole('link', { name: 'On to Decide' }).click();

  // Decide
  await page.getByRole('radio', { name: /Halfway/ }).check();
  await expect(page.getByText('halve it')).toBeVisible();
  await page.getByRole('button', { name: /^Use \d+ %/ }).click();

  // Script: forget the stop, see it found, mend it with one tap.
  await writeScript(page, 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold');
  await expect(page.getByText('No step says stop.')).toBeVisible();
  await page.getByRole('button', { name: 'Add “stop” after line 3' }).click();
  await expect(page.getByText('Nothing speaks against running it.')).toBeVisible();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  // The lesson asks for a number before the first run.
  await page.getByRole('link', { name: 'On to Predict' }).click();
  await expect(page.getByRole('heading', { name: /^Say it first/ })).toBeVisible();
  await page.getByRole('link', { name: 'On to Try' }).click();

  // Try
  await page.getByRole('button', { name: /^Run from A/ }).click();
  await expect(page.getByText(/mm past the edge, \d+ mm to spare/)).toBeVisible();
  await expect(stage(page, 'Try')).toContainText(/\d+ mm/);
  await page.getByRole('link', { name: 'On to Prove' }).click();

  // Prove
  await page.getByRole('button', { name: /Prove with 20 runs/ }).click();
  await expect(page.getByText('20/20').first()).toBeVisible();
  await expect(page.getByText('proved', { exact: true })).toBeVisible();
  await expect(stage(page, 'Prove')).toContainText('20/20');
  await page.getByRole('link', { name: 'On to Floor' }).click();

  // Floor
  await page.getByLabel(/^from the near edge/).fill('13');
  await page.getByRole('radio', { name: 'past it' }).click();
  await page.getByRole('radio', { name: 'yes' }).click();
  await page.getByLabel(/^time until it stood/).fill('2,8');
  await expect(page.getByText(/^13 mm past the edge, 11 mm to spare\./)).toBeVisible();
  await page.getByRole('button', { name: 'Log trial 1' }).click();
  await expect(page.getByRole('row', { name: /13 mm past/ })).toContainText('kept');
  await expect(stage(page, 'Floor')).toContainText('1 of 1');

  // The board knows it all.
  await expect(teacher.getByRole('link', { name: 'Avocet, Prove: done, 20/20' })).toBeVisible();
  await expect(teacher.getByRole('listitem').filter({ hasText: 'Move the plug from K4 to K3' })).toHaveCount(
    0,
  );
  await context.close();
  expect(problems).toEqual([]);
});

test('run, trace and script follow one time', async ({ page }) => {
  await open(page, 'Gannet', 'try');
  await page.getByRole('button', { name: /^Run from A/ }).click();
  await page.getByRole('button', { name: 'Pause' }).click();
  const time = page.getByRole('slider', { name: 'Time in the run' });
  await time.fill('1');
  await expect(page.getByText('1.00 s')).toBeVisible();
  const current = page.getByRole('listitem').and(page.locator('[aria-current=step]'));
  await expect(current).toContainText('wait until floor < threshold');
  await page.getByRole('button', { name: 'step', exact: true }).last().click();
  await page.getByRole('button', { name: 'step', exact: true }).last().click();
  await expect(current).toContainText(/stop|nothing left to do/);
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(current).toContainText('wait until');
});

test('a shaky proof shows its worst run, the same as it was judged', async ({ page }) => {
  await open(page, 'Curlew', 'prove');
  await expect(page.getByText('shaky', { exact: true })).toBeVisible();
  const worst = await page.getByText(/^worst: \d+ mm short of the edge/).innerText();
  // Why, in one look: the sentence, the run, the moment, and the mat as it was then.
  await expect(page.getByRole('heading', { name: 'Why it is not proved' })).toBeVisible();
  await expect(page.getByText(/^run \d+ of 20, the worst for this sentence$/)).toBeVisible();
  await expect(page.getByText(/^Broken in \d+ of 20 runs; /)).toBeVisible();
  await expect(page.getByLabel(/where the sentence was broken/)).toContainText('mm short');
  await page.getByRole('button', { name: 'Replay the worst run' }).click();
  const millimetres = /(\d+) mm/.exec(worst)![1]!;
  await expect(page.getByText(`${millimetres} mm short of the edge.`)).toBeVisible();
  await page.getByRole('button', { name: 'All runs' }).click();
  await expect(page.getByRole('button', { name: /^Run 1: / })).toBeVisible();
});

test('too fast: the review, the run and the proof all say so', async ({ page }) => {
  await open(page, 'Shag', 'script');
  await expect(page.getByText('100 % can miss the line.')).toBeVisible();
  await expect(
    page.getByText(/Between two looks the robot moves 27 mm, and the line is 24 mm wide/),
  ).toBeVisible();
  await stage(page, 'Prove').click();
  await expect(page.getByText('0/20').first()).toBeVisible();
  await expect(page.getByText('fails', { exact: true })).toBeVisible();
});

test('lessons and robots show what is on this server', async ({ page }) => {
  await page.goto('/lessons');
  // Looked for by word and sensor; what was looked for stays in the address.
  await page.getByRole('searchbox', { name: 'words of title, aim or skill' }).fill('stop');
  await page.getByLabel('sensor').selectOption({ label: 'distance' });
  await expect(page.getByRole('link', { name: /Stop short/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /Tide line/ })).toBeHidden();
  await page.getByRole('searchbox').fill('no such thing');
  await page.getByRole('button', { name: 'Show all lessons' }).click();
  await expect(page).toHaveURL(/\/lessons$/);
  await page.getByRole('link', { name: /Tide line/ }).click();
  await expect(page.getByText('Stops within 24 mm past the near edge of the tide line')).toBeVisible();
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Robots' }).click();
  await expect(page.getByRole('row', { name: /Cobble 1.*Gannet/ })).toContainText(
    'K3 reflected light at 12 mm',
  );
});

test('a teacher sets up a class of their own and starts a lesson', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'start or plan an hour' }).click();
  await page.getByRole('button', { name: 'Add the class' }).click();
  await expect(page.getByText('At least one team, one name a line.')).toBeVisible();
  await page.getByLabel('school').fill('Own School');
  await page.getByLabel(/^class/).fill('8 Heron');
  const teams = page.getByLabel(/^teams, one nickname a line/);
  await teams.fill('Wren\nLark\nwren');
  await page.getByRole('button', { name: 'Add the class' }).click();
  await expect(page.getByText('“wren” stands twice.')).toBeVisible();
  await teams.fill('Wren\nLark\n');
  await page.getByLabel(/^robots/).selectOption({ label: 'Cobble: new ones' });
  await page.getByRole('button', { name: 'Add the class' }).click();
  const row = page.getByRole('listitem').filter({ hasText: '8 Heron' });
  await expect(row).toContainText('2 teams');
  await row.getByLabel('lesson').selectOption({ label: 'Tide line' });
  await row.getByRole('button', { name: 'Start now' }).click();
  await expect(page.getByRole('heading', { name: '8 Heron · Tide line' })).toBeVisible();
  await page.getByRole('link', { name: /^Wren, Wire: working on it/ }).click();
  await expect(page.getByText('The reflected light sensor is on K3.')).toBeVisible();
});
