import { expect, test } from './test.ts';
import { open, stage, writeScript } from './team.ts';

test('faults of a script stand in their place, all at once, each with what to do', async ({ page }) => {
  await open(page, 'Petrel', 'script');
  await writeScript(page, 'sensor floor is light on K3\ndrvie 30 %\nwait until floor < 15 cm\nrepeat');
  await expect(page.getByText('“drvie” is not a step.')).toBeVisible();
  await expect(page.getByText(/“floor” is a percentage, “15 cm” is a length/)).toBeVisible();
  await expect(page.getByText('This “repeat” has no “end”.')).toBeVisible();
  await expect(page.locator('.cm-lintRange-error')).toHaveCount(3);
  await expect(page.getByText('Mend the faults to try it.')).toBeVisible();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await stage(page, 'Try').click();
  await expect(page.getByText(/Line 2: “drvie” is not a step/)).toBeVisible();
});

test('removed readings and trials come back with Undo', async ({ page }) => {
  await open(page, 'Curlew', 'read');
  await page.getByRole('button', { name: 'Remove the readings of the tide line' }).click();
  await expect(page.getByRole('button', { name: 'Remove the readings of the tide line' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Remove the readings of the tide line' })).toBeVisible();

  await open(page, 'Gannet', 'floor');
  await page.getByRole('button', { name: 'Remove trial 2' }).click();
  await expect(page.getByRole('row', { name: /17 mm past/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('row', { name: /17 mm past/ })).toBeVisible();
});

test('a trial without a measurement is not logged, and says why', async ({ page }) => {
  await open(page, 'Dunlin', 'floor');
  await page.getByRole('button', { name: /^Log trial/ }).click();
  await expect(page.getByText('Measure or tick at least one of these.')).toBeVisible();
  await page.getByLabel(/^from the near edge/).fill('45');
  await expect(page.getByText('Say which: past it or short of it.')).toBeVisible();
  await page.getByRole('radio', { name: 'past it' }).click();
  await expect(page.getByText('45 mm past the edge, 21 mm too far.')).toBeVisible();
  await page.getByLabel(/^time until it stood/).fill('soon');
  await page.getByRole('button', { name: /^Log trial/ }).click();
  await expect(page.getByText('Seconds by stopwatch, 0 to 600.')).toBeVisible();
});

test('unknown places lead back', async ({ page }) => {
  await page.goto('/teams/999/lessons/tide-line/wire');
  await expect(page.getByText(/There is no such team here/)).toBeVisible();
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'There is no such page.' })).toBeVisible();
  await page.getByRole('link', { name: 'Go to Today' }).click();
  await expect(page.getByRole('heading', { name: '7 Kittiwake · Tide line' })).toBeVisible();
});
