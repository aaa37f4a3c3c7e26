import { expect, test } from './test.ts';
import { give, open } from './team.ts';

const file = (name: string, text: string, mimeType: string) => ({
  name,
  mimeType,
  buffer: Buffer.from(text),
});

test('a team measures a gap and a turn with the tools of that lesson', async ({ page }) => {
  await page.goto('/teams/2/lessons/stop-short/floor');
  await expect(
    page.getByRole('heading', { level: 1, name: 'Plover · Stop short of the quay' }),
  ).toBeVisible();
  await expect(page.getByText(/^Answer what you can, by ruler, /)).toBeVisible();
  await page.getByRole('button', { name: 'Log trial 1' }).click();
  await expect(page.getByText('Measure or tick at least one of these.')).toBeVisible();
  for (const [value, gap] of [
    ['30', '29.2'],
    ['20', '18.4'],
    ['15', '14.1'],
  ]) {
    await page.getByLabel('gap to what is ahead, cm').fill(gap!);
    await page.getByLabel('changed before it').selectOption('something else');
    await page.getByLabel('what was changed').fill(`threshold ${value}`);
    await page.getByRole('button', { name: /^Log trial/ }).click();
    await expect(page.getByLabel('gap to what is ahead, cm')).toHaveValue('');
  }
  await expect(page.getByRole('row', { name: /14.1 cm/ })).toContainText('kept');
  await expect(page.getByRole('row', { name: /29.2 cm/ })).toContainText('broken');
  // The walk 30, 20, 15 is drawn, though there is no script yet: what was said is a number by its name.
  await expect(
    page.getByRole('img', {
      name: 'threshold against gap ahead over 3 trials; best so far trial 3: 14.1 cm.',
    }),
  ).toBeVisible();

  await page.goto('/teams/2/lessons/hold-a-bearing/floor');
  await page.getByLabel('turned by, degrees').fill('96');
  await page.getByRole('radio', { name: 'right' }).click();
  await expect(page.getByText(/turned 96° to the right/)).toBeVisible();
  await page.getByRole('radio', { name: 'left' }).click();
  await expect(page.getByText(/turned 96° to the left/)).toBeVisible();
});

test('trials tell how a robot stops, and the prediction follows them', async ({ page }) => {
  await open(page, 'Gannet', 'floor');
  const differs = page.getByText('the floor differs by');
  await expect(differs).toBeVisible();
  await expect(
    page.getByText(/From 3 trials: it stands still \d+ ms after the edge has passed/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Let the simulation use it' }).click();
  await expect(page.getByText(/^in use: \d+ ms$/)).toBeVisible();
  await page.getByRole('button', { name: 'Back to the kit’s' }).click();
  await expect(page.getByText(/^in use:/)).toHaveCount(0);
});

test.describe('torn files', () => {
  test.use({ keepsPolicy: false });

  test('files that are no courses are refused in one sentence, and nothing is kept', async ({ page }) => {
    await page.goto('/courses');
    const choose = page.getByLabel('Course file');
    for (const [name, text, says] of [
      ['torn.json', '{"name":', /is no JSON and no SVG/],
      ['odd.svg', '<svg', /not well-formed/],
      [
        'small.svg',
        '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"/>',
        /width and height in mm/,
      ],
      [
        'scaled.svg',
        '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 400 400"/>',
        /One unit of the SVG must be 1 mm/,
      ],
    ] as const) {
      await choose.setInputFiles(file(name, text, 'text/plain'));
      await expect(page.getByText(says).first()).toBeVisible();
    }
    await expect(page).toHaveURL(/\/courses$/);
    await page.goto('/courses/99999');
    await expect(page.getByRole('heading', { name: 'There is no such course.' })).toBeVisible();
    await page.goto('/lessons/nowhere/try');
    await expect(page.getByText('There is no such lesson').first()).toBeVisible();
  });
});

test('a team’s own script and robot are judged on the lesson’s page', async ({ page }) => {
  await page.goto('/lessons/tide-line/prove?script=team-8');
  await page.getByRole('button', { name: /Prove with 20 runs/ }).click();
  await expect(page.getByText('fails', { exact: true })).toBeVisible({ timeout: 20_000 });
  await page
    .getByRole('navigation', { name: 'Views of the lesson' })
    .getByRole('link', { name: 'Stuck' })
    .click();
  await expect(page.getByRole('combobox', { name: 'script' })).toHaveValue('team-8');
  await page.getByRole('button', { name: /Find it/ }).click();
  await expect(page.getByText('In line 2 write “drive 30 %” instead of “drive 100 %”')).toBeVisible({
    timeout: 30_000,
  });
  // A team without a script is told so instead of running nothing.
  await give(page, 'Plover', '');
  await page.reload();
  await page.getByRole('combobox', { name: 'script' }).selectOption({ label: 'team Plover' });
  await expect(page.getByText('There is no script to run.')).toBeVisible();
});

test('a whole class is checked at once: results stream in, and it can be stopped', async ({ page }) => {
  await page.goto('/lessons/tide-line/class');
  await page.getByRole('button', { name: /^Check \d teams/ }).click();
  await expect(page.getByRole('button', { name: /^Cancel at/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^Shag/ })).toContainText('0/50', { timeout: 30_000 });
  await expect(page.getByRole('row', { name: /^Shag/ })).toContainText('fails');
  await expect(page.getByRole('row', { name: /^Gannet/ })).toContainText('proved', { timeout: 30_000 });
  await page.goto('/lessons/first-watch/class');
  await expect(page.getByText('No class has this lesson today.')).toBeVisible();
});
