import { expect, test } from './test.ts';
import { open, stage, writeScript } from './team.ts';

test('seven methods side by side: the recommended one keeps clear of the rival, another is chosen with a reason', async ({
  page,
}) => {
  await open(page, 'Plover', 'decide');
  await expect(page.getByText('7 methods; △ takes another surface for it')).toBeVisible();
  const rows = page.getByRole('row').filter({ has: page.getByRole('radio') });
  await page.getByRole('radio', { name: 'Halfway' }).check();
  await expect(rows).toHaveCount(7);
  await expect(rows.filter({ hasText: 'recommended' })).toContainText('Past nearest rival');
  await expect(page.getByText('It takes the red card for the tide line.')).toBeVisible();
  await page.getByRole('radio', { name: 'Two levels' }).check();
  await expect(page.getByText(/it is on the tide line, until above/)).toBeVisible();
  await expect(page.getByText(/ended only close to the quay boards/)).toBeVisible();
  await page.getByLabel(/^why not past nearest rival/).fill('we count lanes next week');
  await page.getByRole('button', { name: /^Use \d+ \| \d+ %/ }).click();
  await expect(page).toHaveURL(/\/script$/);
  await expect(stage(page, 'Decide')).toContainText(/\d+ \| \d+ %/);

  // The lower level is what the script’s word stands for.
  await writeScript(page, 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\nstop');
  await expect(page.getByText('Nothing speaks against running it.')).toBeVisible();
});

test('looking for the lighter surface turns every method round', async ({ page }) => {
  await open(page, 'Gannet', 'decide');
  await page
    .getByRole('group', { name: 'The robot looks for' })
    .getByRole('button', { name: 'quay boards' })
    .click();
  await expect(
    page.getByRole('heading', { name: 'Where should the robot say “quay boards”?' }),
  ).toBeVisible();
  await page.getByRole('radio', { name: 'Change by' }).check();
  await expect(page.getByText(/A rise of \d+ % from the tide line is the quay boards/i)).toBeVisible();
  await page.getByRole('radio', { name: 'Halfway' }).check();
  await expect(page.getByText(/more than 49 % is the quay boards/i)).toBeVisible();
});

test('an own choice outside the surfaces cannot be used, and says why', async ({ page }) => {
  await open(page, 'Curlew', 'decide');
  await expect(page.getByRole('radio', { name: 'Own choice' })).toBeChecked();
  for (let i = 0; i < 8; i++) await page.getByRole('button', { name: 'One more' }).click();
  await expect(page.getByText('Both surfaces lie on the same side of this value.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Use/ })).toBeDisabled();
});

test('a stage leads to the calculation behind it, with this robot’s own numbers', async ({ page }) => {
  await open(page, 'Gannet', 'decide');
  await page.getByRole('link', { name: 'How fast over the line' }).click();
  await expect(page.getByRole('heading', { name: 'Greatest speed for a line' })).toBeVisible();
  await expect(page.getByLabel('width of the line', { exact: true })).toHaveValue('24');
  await expect(page.getByLabel('time between two looks')).toHaveValue('50');
  await expect(page.getByText(/÷ 0\.05 s = 480 mm\/s/)).toBeVisible();
});

test('a second sensor in the script is checked at Wire too', async ({ page }) => {
  await open(page, 'Fulmar', 'script');
  await writeScript(
    page,
    'sensor nose is touch on K2\nsensor floor is light on K3\ndrive 30 %\nwait until nose is pressed\nstop',
  );
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await stage(page, 'Wire').click();
  await page.getByRole('button', { name: '✕ K2 touch' }).click();
  await expect(
    page.getByText('The touch sensor is on K1. The lesson reads K2, where a sounder is plugged in.'),
  ).toBeVisible();
});

test('any number of surfaces: the window of one among its rivals, and what is mixed up', async ({ page }) => {
  await page.goto('/robots/11/read?socket=S-b');
  await page.getByLabel(/^Tell from all others/).selectOption('red card');
  await expect(page.getByText(/It is the red card between \d[\d.]* % and \d[\d.]* %\./)).toBeVisible();
  await expect(page.getByText('No two of these surfaces are mixed up.')).toBeVisible();
  // A surface that reads the same as another cannot be told apart.
  await page.getByLabel('another surface that it could be taken for').fill('red mat');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'more hands' }).click();
  await page.getByLabel('over another surface').selectOption('red card');
  await page.waitForTimeout(500);
  await page.getByRole('button', { name: /Take 20 readings/ }).click();
  await expect(page.getByText(/is taken for the .* in \d+ of 20 looks/)).toBeVisible();
});

test('the edge is read and opens its method', async ({ page }) => {
  await open(page, 'Fulmar', 'decide');
  await page.getByRole('link', { name: 'Read it' }).click();
  await expect(page.getByRole('radio', { name: /across the edge/ })).toBeChecked();
  await page.getByRole('button', { name: 'One slow sweep' }).click();
  const mat = page.getByRole('application', { name: /stand-in robot on the mat/ });
  await mat.focus();
  // From the start the spot is 340 mm short of the line; a finger takes it to the edge.
  for (let i = 0; i < 34; i++) await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Surface by surface' }).click();
  await page.getByRole('button', { name: 'The edge, or another surface' }).click();
  await page.getByRole('radio', { name: /across the edge/ }).check();
  await page.waitForTimeout(600);
  await page.getByRole('button', { name: /Take 20 readings/ }).click();
  await expect(page.getByText(/n 20, just now/)).toBeVisible();
  await stage(page, 'Decide').click();
  await expect(page.getByRole('radio', { name: 'Across the edge' })).toBeVisible();
});

test('without a server a burst loses nothing that was read, and the page says so', async ({ page }) => {
  await open(page, 'Shag', 'read');
  await expect(page.getByText('live from K3')).toBeVisible();
  await page.route('**/sample-sets', (route) => route.abort());
  const before = await page.getByText(/n 20/).allInnerTexts();
  await page.getByRole('button', { name: /Take 20 readings/ }).click();
  await expect(page.getByText(/server does not answer/).first()).toBeVisible();
  expect(await page.getByText(/n 20/).allInnerTexts()).toEqual(before);
  await page.unroute('**/sample-sets');
  await page.getByRole('button', { name: 'The last burst is not saved: save again' }).click();
  await expect(page.getByText(/n 20, just now/)).toBeVisible();
});

test('a robot is read without a mouse', async ({ page }) => {
  await page.goto('/robots');
  const robot = page.getByRole('link', { name: 'Skiff 1' });
  await robot.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'S-b, reflected light' })).toContainText('%');
  await page.getByRole('link', { name: 'Read', exact: true }).focus();
  await page.keyboard.press('Enter');
  const light = page.getByRole('button', { name: 'S-b reflected light' });
  await light.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('radio', { name: /quay boards/ }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('live from S-b')).toBeVisible();
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Space');
  await expect(page.getByText(/n 20, just now/)).toBeVisible();
});
