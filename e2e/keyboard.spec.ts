import { expect, test } from './test.ts';
import { open, stage } from './team.ts';

test('from readings to a decided threshold without a mouse', async ({ page }) => {
  await page.goto('/');
  // To Plover’s Decide by Tab and Enter.
  const cell = page.getByRole('link', { name: /^Plover, Decide:/ });
  await expect(cell).toBeVisible();
  await cell.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Where should the robot say “tide line”?' })).toBeVisible();

  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('radio', { name: 'Own choice' })).toBeChecked();
  const use = page.getByRole('button', { name: /^Use/ });
  const raised = Number(/\d+/.exec(await use.innerText())![0]);
  await page.keyboard.press('ArrowDown');
  await expect(use).toContainText(`Use ${raised - 1} %`);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/script$/);
  await expect(stage(page, 'Decide')).toContainText(`${raised - 1} %`);
});

test('number keys go to the stages, and the keys are listed', async ({ page }) => {
  await open(page, 'Gannet', 'wire');
  for (const [key, name] of [
    ['3', 'decide'],
    ['6', 'prove'],
    ['1', 'wire'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page).toHaveURL(new RegExp(`/${name}$`));
  }
  await page.keyboard.press('?');
  const dialog = page.getByRole('dialog', { name: 'Keys' });
  await expect(dialog).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
});

test('shortcuts keep quiet while somebody types', async ({ page }) => {
  await open(page, 'Gannet', 'floor');
  await page.getByLabel('note').fill('');
  await page.getByLabel('note').pressSequentially('start 2 ?');
  await expect(page.getByLabel('note')).toHaveValue('start 2 ?');
  await expect(page).toHaveURL(/\/floor$/);
});

test('a run by keys: R runs, Space pauses, P proves', async ({ page }) => {
  await open(page, 'Dunlin', 'try');
  await expect(page.getByText('Say first what it will do')).toBeVisible();
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.keyboard.press('6');
  await expect(page.getByRole('button', { name: /Prove with 20 runs/ })).toBeVisible();
  await page.keyboard.press('p');
  await expect(page.getByText('20/20').first()).toBeVisible();
});
