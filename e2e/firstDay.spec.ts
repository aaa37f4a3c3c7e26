import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoServer, expect, test, type DemoServer, type Locator } from './test.ts';

/** Of the account that the first test makes. */
const SECRET = 'three quiet harbours';

/** Most things that a teacher may have to do until eight teams begin, each a press, a choice or a field filled. */
const MOST_ACTIONS = 15;

test.describe('on an empty Vigilum', () => {
  let empty: DemoServer;
  const folder = mkdtempSync(join(tmpdir(), 'vigilum-empty-'));
  test.beforeAll(async ({}, { parallelIndex }) => {
    empty = demoServer(4497 + parallelIndex, join(folder, 'data'), false);
    await empty.start();
  });
  test.afterAll(async () => {
    await empty.kill();
    rmSync(folder, { recursive: true, force: true });
  });

  test('a kit of one’s own with six sensors, eight robots and eight teams are at their first lesson in fifteen actions', async ({
    page,
  }) => {
    // The first start asks for an account: code, name, password, press. The first day begins after that.
    await page.goto(`${empty.url}/`);
    await expect(page).toHaveURL(/\/first-account$/);
    await page.getByLabel(/^your name/).fill('Ida Brook');
    await page.getByLabel(/^a password/).fill(SECRET);
    await page.getByLabel(/^the code for the first account/).fill('guessed it');
    await page.getByRole('button', { name: 'Make my account' }).click();
    await expect(page.getByText('this isn’t the code for the first account')).toBeVisible();
    const code = /first-account#(\S+)/.exec(empty.printed())![1]!;
    await page.getByLabel(/^the code for the first account/).fill(code);
    await page.getByRole('button', { name: 'Make my account' }).click();
    await expect(page.getByText('No lesson yet.')).toBeVisible();
    let actions = 0;
    const press = async (what: Locator) => {
      actions++;
      await what.click();
    };
    const fill = async (what: Locator, text: string) => {
      actions++;
      await what.fill(text);
    };
    const button = (name: string | RegExp) => page.getByRole('button', { name });
    await press(page.getByRole('link', { name: 'Set up the first day' }));
    await fill(page.getByLabel('name of the school'), 'Own School');
    await press(button('Save the name'));
    await expect(page.getByText('1 of 5 done')).toBeVisible();
    await press(button(/^The same as one of these, but/));
    await fill(page.getByLabel('name of your kit'), 'Heron');
    await press(page.getByRole('checkbox', { name: /^infrared sensor/ }));
    await press(page.getByRole('checkbox', { name: /^beacon seeker/ }));
    await press(button('Add this kit'));
    await expect(page.getByText('Heron, 6 sensors')).toBeVisible();
    // Eight robots are what it proposes; Enter adds them.
    await press(button('Add 8 Heron robots'));
    await fill(page.getByLabel('class', { exact: true }), '5 Rock');
    await fill(
      page.getByLabel(/^teams, one nickname a line/),
      'Team;Seats\nAra;3\nBex;2\nCod;3\nDor;2\nEel;3\nFin;2\nGar;3\nHoy;2',
    );
    await expect(page.getByText('8 teams: Ara, Bex, Cod, Dor, Eel, Fin, Gar, Hoy')).toBeVisible();
    await expect(page.getByLabel(/^robots/)).toHaveValue('there heron ');
    await press(button('Add the class'));
    actions++;
    await page.getByLabel('lesson for 5 Rock').selectOption({ label: 'Tide line' });
    await press(button(/Start it now/));
    await expect(page.getByRole('heading', { name: '5 Rock · Tide line' })).toBeVisible();
    expect(actions).toBeLessThanOrEqual(MOST_ACTIONS);
    console.log(`The first day took ${actions} actions.`);

    // Nobody is in trouble, and the first team is where it should be.
    await expect(page.getByText('Nobody is stuck')).toBeVisible();
    await page.getByRole('link', { name: /^Ara, Wire/ }).click();
    await expect(page.getByText(/The reflected light sensor is on K2/)).toBeVisible();

    // Afterwards the page says that all is done, and each step can be done again.
    await page.goto(`${empty.url}/first-day`);
    await expect(page.getByText('Everything is set up.')).toBeVisible();
    await page
      .getByRole('listitem')
      .filter({ hasText: 'Robots' })
      .getByRole('button', { name: 'Do it again' })
      .click();
    await expect(page.getByRole('button', { name: 'Go on with the 8 that are there' })).toBeVisible();
  });

  test('a kit that contradicts itself is told at once, and nothing is stored', async ({ page }) => {
    await page.request.post(`${empty.url}/api/sessions`, { data: { name: 'Ida Brook', password: SECRET } });
    await page.request.put(`${empty.url}/api/school`, { data: { name: 'Own School' } });
    await page.goto(`${empty.url}/first-day`);
    const kit = page
      .getByRole('listitem')
      .filter({ has: page.getByRole('heading', { name: 'Kit', exact: true }) });
    const another = kit.getByRole('button', { name: /^The same as one of these/ });
    const again = kit.getByRole('button', { name: 'Do it again' });
    await expect(another.or(again)).toBeVisible();
    if (await again.isVisible()) await again.click();
    await another.click();
    await page.getByRole('button', { name: 'Add this kit' }).click();
    await expect(page.getByRole('alert')).toContainText('A kit needs a name.');
    await page.getByLabel('name of your kit').fill('Numbers');
    await page.getByLabel('but its sockets for sensors are called').fill('1 2 3');
    await expect(page.getByRole('alert')).toContainText('cannot write the socket “1”');
    await page.getByLabel('but its sockets for sensors are called').fill('P1 P2 P3 P4');
    await page.getByRole('button', { name: 'Add this kit' }).click();
    await expect(page.getByText('Numbers, 4 sensors')).toBeVisible();
  });

  test('what cannot be undone asks for the password again, at a laptop that was left open', async ({
    page,
  }) => {
    await page.goto(`${empty.url}/sign-in`);
    await page.getByLabel(/^your name/).fill('Ida Brook');
    await page.getByLabel('password', { exact: true }).fill(SECRET);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('link', { name: 'You', exact: true })).toBeVisible();
    // A quarter of an hour later.
    await empty.kill();
    await empty.start({ CLOCK_AHEAD_S: '900' });
    await page.goto(`${empty.url}/account`);
    await page.getByLabel('invite a colleague as').selectOption({ label: 'guest colleague' });
    await page
      .getByRole('group', { name: 'classes that they will see' })
      .getByRole('checkbox')
      .first()
      .check();
    await page.getByRole('button', { name: 'Make a link' }).click();
    const dialog = page.getByRole('dialog', { name: 'Type your password' });
    await dialog.getByLabel('your password').fill('not that one');
    await dialog.getByRole('button', { name: 'Go on' }).click();
    await expect(dialog.getByText('This is not your password.')).toBeVisible();
    await expect(page.getByText('Give this link to one person.')).toHaveCount(0);
    await dialog.getByLabel('your password').fill(SECRET);
    await page.keyboard.press('Enter');
    await expect(page.getByText('Give this link to one person.')).toBeVisible();
    await expect(dialog).toHaveCount(0);
    // For ten minutes it is not asked again.
    await page.getByRole('button', { name: 'Make a link' }).click();
    await expect(page.getByRole('list', { name: 'Open invitations' }).getByRole('listitem')).toHaveCount(2);
  });
});

test('a class is renamed, its teams are given other names and robots, and it is removed and brought back', async ({
  page,
}) => {
  await page.goto('/start');
  await page.getByLabel('school').fill('Own School');
  await page.getByLabel(/^class/).fill('3 Sand');
  await page.getByLabel(/^teams, one nickname a line/).fill('Crab\nClam');
  await page.getByLabel(/^robots/).selectOption({ label: 'Cobble: new ones' });
  await page.getByRole('button', { name: 'Add the class' }).click();
  await page.getByRole('link', { name: '3 Sand' }).click();
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByRole('dialog').getByLabel('class').fill('3 Shingle');
  await page.getByRole('dialog').getByRole('button', { name: 'Rename' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('heading', { name: '3 Shingle', exact: true })).toBeVisible();
  const name = page.getByLabel('name of team Crab');
  await name.fill('Clam');
  await name.press('Enter');
  await expect(page.getByText('3 Shingle has a team Clam already')).toBeVisible();
  await expect(name).toHaveValue('Crab');
  await name.fill('Cockle ');
  await name.press('Enter');
  await expect(page.getByLabel('name of team Cockle')).toHaveValue('Cockle');
  await page.getByRole('button', { name: 'Remove team Clam' }).click();
  await expect(page.getByLabel('name of team Clam')).toBeHidden();
  await page
    .locator('[data-sonner-toast]')
    .filter({ hasText: 'Clam removed' })
    .getByRole('button', { name: 'Undo' })
    .click();
  await expect(page.getByLabel('name of team Clam')).toBeVisible();
  await page.getByRole('button', { name: 'Put away' }).click();
  await expect(page.getByRole('button', { name: 'Bring back' })).toBeVisible();
  await page.getByRole('link', { name: 'Back to all classes' }).click();
  await page.getByText('Put away: 2 classes').click();
  await page
    .getByRole('listitem')
    .filter({ hasText: '3 Shingle' })
    .getByRole('button', { name: 'Bring back' })
    .click();
  await page.getByRole('link', { name: '3 Shingle' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  // Other messages may offer an Undo of their own.
  await page
    .locator('[data-sonner-toast]')
    .filter({ hasText: '3 Shingle removed' })
    .getByRole('button', { name: 'Undo' })
    .click();
  await expect(page.getByRole('heading', { name: 'Start a lesson hour' })).toBeVisible();
  await expect(page.getByRole('link', { name: '3 Shingle' })).toBeVisible();
});

test('a backup is made by a press, stands in the list, and is saved on the machine of whoever asks', async ({
  page,
}) => {
  await page.goto('/start');
  await page.getByRole('link', { name: 'Data and backups' }).click();
  await expect(page.getByText('This Vigilum answers its own machine alone.')).toBeVisible();
  await page.getByRole('button', { name: 'Back up now' }).click();
  await expect(page.getByText(/\.vigilum is made and read back\./)).toBeVisible();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save on this machine' }).first().click();
  expect((await saved).suggestedFilename()).toMatch(/^\d{4}-\d\d-\d\dT.*\.vigilum$/);
});
