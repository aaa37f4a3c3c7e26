import { expect, test, type Page } from './test.ts';
import { give, open } from './team.ts';

// A finger on a tablet, as teams have it.
test.use({ hasTouch: true, viewport: { width: 768, height: 1024 } });

/** Adds a step by touch from the list of all steps, below the row that is chosen. */
async function add(page: Page, code: string): Promise<void> {
  await page
    .getByRole('button', { name: /^Add a step/ })
    .first()
    .tap();
  const dialog = page.getByRole('dialog');
  await dialog.getByText(code, { exact: true }).tap();
  await expect(dialog).toBeHidden();
}

test('a team builds with its fingers: drives until, counts, notes readings, watches beside it, and changes a number', async ({
  page,
}) => {
  await give(page, 'Dunlin', 'sensor floor is light on K3\n');
  await open(page, 'Dunlin', 'script?view=steps');
  for (const code of [
    'drive 30 % until floor < threshold',
    'repeat 4 times as i … end',
    'add floor to readings',
    'log floor',
    'repeat while not found … end',
    'set found to yes',
    'whenever nose is pressed … end',
  ])
    await add(page, code);
  await page
    .getByRole('list', { name: 'Steps' })
    .getByRole('button', { name: /: repeat 4 times as i$/ })
    .tap();
  await page.getByLabel('number', { exact: true }).first().fill('6');
  await page.getByRole('group', { name: 'View' }).getByRole('button', { name: 'Text', exact: true }).tap();
  const text = page.locator('.cm-content');
  for (const line of [
    'drive 30 % until floor < threshold',
    'repeat 6 times as i',
    'add floor to readings',
    'log floor',
    'list readings',
    'let found = no',
    'set found to yes',
    'whenever nose is pressed',
  ])
    await expect(text).toContainText(line);
  await expect(page.getByText('is not a step')).toHaveCount(0);
});

test('a log is shown under the run and saved as CSV', async ({ page }) => {
  await give(
    page,
    'Dunlin',
    'sensor floor is light on K3\nlist readings\nrepeat 5 times as i\n  add floor to readings\n  log floor and average of readings and i\n  wait 0.1 s\nend\ndrive 30 % until floor < threshold\n',
  );
  await open(page, 'Dunlin', 'try');
  await page.getByRole('button', { name: /^Run from/ }).tap();
  const log = page.getByRole('region', { name: 'Log' });
  await expect(log).toContainText('Log: 5 rows');
  await expect(log.getByRole('columnheader')).toHaveText([
    'time (s)',
    'floor (%)',
    'average of readings (%)',
    'i',
  ]);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    log.getByRole('button', { name: 'Save as CSV' }).tap(),
  ]);
  const stream = await file.createReadStream();
  let saved = '';
  for await (const chunk of stream) saved += String(chunk);
  expect(saved.split('\r\n')[0]).toBe('time (s),floor (%),average of readings (%),i');
  expect(saved.trim().split('\r\n')).toHaveLength(6);
});

test('other words are understood as typed, and Tidy writes the script’s own', async ({ page }) => {
  await give(
    page,
    'Dunlin',
    'sensor floor is light on K3\nloop 2\n  go back 20 % for 5 centimetres\nend loop\nforward 30 % until floor is less than threshold\n',
  );
  await open(page, 'Dunlin', 'script?view=text');
  await page.getByRole('button', { name: 'Tidy' }).tap();
  const text = page.locator('.cm-content');
  await expect(text).toContainText('repeat 2 times');
  await expect(text).toContainText('drive -20 % for 5 cm');
  await expect(text).toContainText('drive 30 % until floor < threshold');
});

test('the review looks before it speaks, and says how often it was so', async ({ page }) => {
  await give(
    page,
    'Dunlin',
    'sensor floor is light on K3\ndrive 30 %\nif floor < threshold\n  stop\nend\nwait 3 s\nstop\n',
  );
  await open(page, 'Dunlin', 'script?view=text');
  await expect(page.getByText('This is asked once and never again.').first()).toBeVisible();
  await expect(page.getByText(/It was so in \d+ of \d+ quick runs\./).first()).toBeVisible();
});

test('two robots: one waits for the other’s word', async ({ page }) => {
  await give(page, 'Dunlin', 'wait until heard "go"\ndrive 30 % for 10 cm\nsend "there"\n');
  await open(page, 'Dunlin', 'try');
  const run = page.getByRole('button', { name: /^Run from/ });
  await run.tap();
  await expect(page.getByText(/The program was still going/)).toBeVisible();
  await page.getByLabel('second robot').selectOption('runs a script of its own');
  const script = page.getByLabel('Script of the second robot');
  await script.fill('wait 1 s\nsend go');
  await run.tap();
  await expect(page.getByText(/The other robot’s script cannot run: line 2/)).toBeVisible();
  await script.fill('wait 1 s\nsend "go"');
  await run.tap();
  await expect(page.getByText(/The program was still going/)).toHaveCount(0);
  await expect(page.getByText('second robot', { exact: true }).first()).toBeVisible();
});
