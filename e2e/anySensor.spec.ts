import { expect, test } from './test.ts';
import { reads, stage, teams, writeScript } from './team.ts';

test('a distance is read against the ruler, becomes a threshold, and stops the robot', async ({ page }) => {
  await page.goto(`/teams/${teams.Curlew}/lessons/stop-short/read`);
  await expect(page.getByText('Read it against the ruler · done when:')).toBeVisible();
  const asked = page.getByRole('group', { name: 'The lesson asks for' });
  for (const cm of ['10', '15', '20', '30', '50']) {
    await asked.getByRole('button', { name: cm, exact: true }).click();
    await expect(page.getByLabel('true distance, cm')).toHaveValue(cm);
    await page.getByRole('button', { name: 'Put a wall there' }).click();
    // The stand-in’s wall is there with the next look.
    await expect(page.getByText(/^live from K2|by the line truly/)).toBeVisible();
    await reads(page, 0.9 * Number(cm), 1.1 * Number(cm));
    await page.getByRole('button', { name: /^Take 10 readings/ }).click();
    await expect(asked.getByRole('button', { name: `${cm} read` })).toBeVisible();
  }
  await expect(stage(page, 'Read')).toContainText('5 of 5');

  await page.getByRole('link', { name: 'On to Decide' }).click();
  await expect(page.getByLabel('wanted gap to the wall, cm')).toHaveValue('15');
  await page.getByLabel('speed, % of full').fill('40');
  await page.getByRole('button', { name: /^Use (19|20)/ }).click();
  await expect(stage(page, 'Decide')).toContainText(/(19|20)(\.\d)? cm/);

  await page.getByRole('link', { name: 'On to Script' }).click();
  await writeScript(page, 'sensor front is distance on K2\ndrive 40 %\nwait until front < threshold\nstop');
  await expect(stage(page, 'Script')).toContainText('3 steps');
  await stage(page, 'Prove').click();
  await page.getByRole('button', { name: /^Prove/ }).click();
  await expect(stage(page, 'Prove')).toContainText(/\d+\/50/, { timeout: 30_000 });
});

test('a button is read by pressing it', async ({ page }) => {
  await page.goto(`/teams/${teams.Curlew}/lessons/first-watch/read`);
  const press = page.getByRole('button', { name: 'press the bumper' });
  const release = page.getByRole('button', { name: 'let it go' });
  await expect(page.getByText('live from K1')).toBeVisible();
  await page.getByRole('button', { name: /^Record/ }).click();
  for (let i = 0; i < 3; i++) {
    await press.click();
    await page.waitForTimeout(250);
    await release.click();
    await page.waitForTimeout(250);
  }
  await page.getByRole('button', { name: /^Stop/ }).click();
  await expect(stage(page, 'Read')).toContainText('3 bumps');
  await expect(page.getByRole('link', { name: 'On to Script' })).toBeVisible();
});

test('what a team predicts, its teacher reads beside the others', async ({ page }) => {
  await page.goto(`/teams/${teams.Curlew}/lessons/tide-line/predict`);
  await page.getByLabel(/we say, before the first run/).fill('12 mm, because stopping takes time');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.goto('/class');
  await page.getByRole('link', { name: 'Written down' }).click();
  await expect(page.getByRole('row', { name: /^Curlew/ })).toContainText(
    '12 mm, because stopping takes time',
  );
  await expect(page.getByRole('columnheader', { name: /^Say it first/ })).toContainText(
    'How many millimetres past',
  );
});
