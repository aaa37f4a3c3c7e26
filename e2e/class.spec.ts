import { expect, test } from './test.ts';
import { open, stage } from './team.ts';

test('the board follows what a team does elsewhere', async ({ page, browser }) => {
  await page.goto('/');
  const cell = (figure: string) => page.getByRole('link', { name: `Dunlin, Floor: ${figure}` });
  await expect(cell('works on a good day, 2 of 3')).toBeVisible();
  const tablet = await browser.newPage({ viewport: { width: 768, height: 1024 } });
  await open(tablet, 'Dunlin', 'floor');
  for (const past of ['12', '14']) {
    await tablet.getByLabel(/^from the near edge/).fill(past);
    await tablet.getByRole('radio', { name: 'past it' }).click();
    await tablet.getByRole('button', { name: /^Log trial/ }).click();
    await expect(tablet.getByLabel(/^from the near edge/)).toHaveValue('');
  }
  await expect(cell('works on a good day, 4 of 5')).toBeVisible();
  await tablet.close();
});

test('a sensor that sits too high: lower it, read again, and the old threshold is called out', async ({
  page,
}) => {
  await open(page, 'Petrel', 'wire');
  await expect(page.getByText('It sits 27 mm above the floor; 8–16 mm reads well.')).toBeVisible();
  await page.getByLabel('height by ruler, mm').fill('far');
  await expect(page.getByText('A height from 1 to 200 mm.')).toBeVisible();
  await page.getByLabel('height by ruler, mm').fill('12');
  await page.getByRole('button', { name: 'Save height' }).click();
  await expect(page.getByText('It sits 12 mm above the floor.')).toBeVisible();
  await expect(stage(page, 'Wire')).toContainText('done');

  await stage(page, 'Read').click();
  await expect(page.getByText(/Apart, but not by much|Too close/)).toBeVisible();
  for (const surface of ['tide line', 'quay boards']) {
    await page.getByRole('button', { name: `over the ${surface}` }).click();
    await page.getByRole('radio', { name: new RegExp(surface) }).check();
    await page.getByLabel('light in the room, for the record').fill('sun on the floor');
    await page.getByRole('button', { name: /Take 20 readings/ }).click();
    await expect(page.getByRole('listitem').filter({ hasText: surface })).toContainText('just now');
    await expect(page.getByRole('listitem').filter({ hasText: surface })).toContainText('sun on the floor');
  }
  await expect(page.getByText('Far apart: any value well between them works.')).toBeVisible();

  await stage(page, 'Decide').click();
  await page.getByRole('radio', { name: /Fewest misreads/ }).check();
  await expect(page.getByText('the two bell curves cross at')).toBeVisible();
  await page.getByRole('button', { name: /^Use \d+ %/ }).click();
  await expect(stage(page, 'Decide')).toContainText('done');
});

test('the theme is kept', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Night' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'nightwatch');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'nightwatch');
  await page.getByRole('button', { name: 'Day', exact: true }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'daywatch');
});

test('without a server the page says so and goes on by itself', async ({ page }) => {
  await page.route('**/api/events', (route) => route.abort());
  await open(page, 'Gannet', 'decide');
  const banner = page.getByText(
    'The server does not answer. What you write in a lesson is kept in this browser',
  );
  await expect(banner).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Where should the robot say “tide line”?' })).toBeVisible();
  await page.unroute('**/api/events');
  await expect(banner).toHaveCount(0, { timeout: 30_000 });
});

test('hands see the numbers, ears hear them: charts say what they show', async ({ page }) => {
  await open(page, 'Gannet', 'decide');
  await expect(
    page.getByRole('img', {
      name: /Threshold \d+ % between the tide line at [\d.]+ and the quay boards at [\d.]+/,
    }),
  ).toBeVisible();
  await stage(page, 'Read').click();
  await expect(
    page.getByRole('img', { name: /Readings by surface: tide line [\d.]+ %, quay boards [\d.]+ %/ }),
  ).toBeVisible();
  await stage(page, 'Floor').click();
  await expect(page.getByRole('img', { name: /20 predicted, \d+ measured/ })).toBeVisible();
  await stage(page, 'Wire').click();
  await expect(page.getByRole('img', { name: 'The robot from above with its sensors' })).toBeVisible();
});

test('a team that moves to another class says where it is, and comes back by Undo', async ({ page }) => {
  await page.goto('/classes/1');
  await page.getByLabel('move Shag to another class').selectOption({ label: '8 Razorbill' });
  await expect(page.getByText('Shag is in 8 Razorbill now.')).toBeVisible();
  await expect(page.getByLabel('name of team Shag')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('name of team Shag')).toBeVisible();
});
