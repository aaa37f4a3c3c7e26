import { readFileSync } from 'node:fs';
import { expect, test } from './test.ts';

test('what a class has shown: each sign opens what it rests on, and the teacher may say otherwise with a reason', async ({
  page,
}) => {
  await page.goto('/classes/1');
  await page.getByRole('link', { name: 'What they have shown' }).click();
  await expect(
    page.getByRole('heading', { level: 1, name: '7 Kittiwake: what they have shown' }),
  ).toBeVisible();
  const cell = page.getByRole('button', { name: /^Fulmar, stops in time:/ });
  await expect(cell).toHaveAccessibleName('Fulmar, stops in time: not yet');
  await cell.click();
  const rests = page.getByRole('list', { name: 'What it rests on' });
  await expect(rests).toContainText('Tide line');
  await page.getByRole('button', { name: 'Say otherwise' }).click();
  await page.getByLabel('what they have shown').selectOption('seen once');
  await page.getByRole('button', { name: 'Say so' }).click();
  await expect(page.getByRole('alert')).toHaveText('Say why: whoever reads the record later must know.');
  await page.getByLabel('why; it stays to be read').fill('I saw it stop by hand, from start C.');
  await page.getByRole('button', { name: 'Say so' }).click();
  await expect(cell).toHaveAccessibleName('Fulmar, stops in time: seen once, as the teacher says');
  await expect(page.getByText('I saw it stop by hand, from start C.')).toBeVisible();
  await expect(page.getByText(/Computed: not yet/)).toBeVisible();
  await page.getByRole('button', { name: 'Take that back' }).click();
  await expect(cell).toHaveAccessibleName('Fulmar, stops in time: not yet');
  // The piece of evidence leads to the record of that hour.
  await rests.getByRole('link', { name: 'Tide line' }).first().click();
  await expect(page.getByRole('heading', { level: 1, name: 'Fulmar · Tide line' })).toBeVisible();
  await page.goto('/classes/1/skills');
  const waits = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV' }).click();
  const text = readFileSync(await (await waits).path(), 'utf8');
  expect(text).toMatch(/^team,skill,standing,last shown/);
  expect(text).toMatch(/Gannet,stops in time,shown in unkind conditions,\d{4}-\d\d-\d\d,no/);
  await page.getByRole('button', { name: 'Skills in order' }).click();
  await expect(page.getByRole('img', { name: /counts with re-arm, after loops and waits/ })).toBeVisible();
});

test('a team’s logbook tells its work in order, with pictures, ready to be printed', async ({ page }) => {
  await page.goto('/classes/1/skills');
  await page.getByRole('link', { name: 'Dunlin' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Logbook of Dunlin' })).toBeVisible();
  const tide = page.getByRole('article', { name: 'Tide line' });
  await expect(tide.getByRole('img', { name: /^The way that this script drives/ })).toBeVisible();
  await expect(tide.getByRole('img', { name: /^Threshold 38 %/ })).toBeVisible();
  await expect(tide.getByRole('img', { name: /^speed against past the line/ })).toBeVisible();
  await expect(tide.getByLabel('The script of Tide line')).toContainText('wait until floor < threshold');
  await expect(tide).toContainText('stops in time');
  const titles = await page.getByRole('heading', { level: 2 }).allTextContents();
  expect(titles).toEqual(['1. First watch', '2. Bump and turn in the boathouse', '3. Tide line']);
  // On paper there is no rail and no button.
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Main' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  await expect(tide).toBeVisible();
});
