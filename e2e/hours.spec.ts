import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { open, reads, tablet, teams } from './team.ts';
import { demoServer, expect, test } from './test.ts';

test('an hour is paused, ended, reopened, removed and brought back', async ({ page }) => {
  await page.goto('/');
  const head = page.getByRole('heading', { name: '7 Kittiwake · Tide line' });
  await expect(head).toBeVisible();
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByText(/^paused, \d+:\d\d left$/)).toBeVisible();
  await page.getByRole('button', { name: 'Resume' }).click();
  await page.getByRole('button', { name: '5 min more' }).click();
  await expect(page.getByText(/left of 55 min/)).toBeVisible();
  await page.getByRole('button', { name: 'End', exact: true }).click();
  await expect(page.getByText('No lesson is going on.')).toBeVisible();
  const before = page.locator('section').filter({ has: page.getByRole('heading', { name: 'Before' }) });
  await expect(before.getByRole('link', { name: /^Tide line/ })).toBeVisible();

  // Removed by mistake, one press brings it back; reopened, it goes on with its board.
  await before.getByRole('button', { name: /^Remove the hour of 7 Kittiwake, Tide line/ }).click();
  await expect(before.getByRole('link', { name: /^Tide line/ })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(before.getByRole('link', { name: /^Tide line/ })).toBeVisible();
  await before
    .getByRole('listitem')
    .filter({ hasText: 'Tide line' })
    .getByRole('button', { name: 'Reopen' })
    .click();
  await expect(head).toBeVisible();
  await expect(page.getByText(/left of 55 min/)).toBeVisible();
});

test('last week’s hour stands among the hours of the class, with its board and what was written down', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'all of 7 Kittiwake' }).click();
  await expect(page.getByRole('heading', { name: '7 Kittiwake', exact: true })).toBeVisible();
  await page.getByRole('link', { name: /Bump and turn/ }).click();
  await expect(
    page.getByRole('heading', { name: '7 Kittiwake · Bump and turn in the boathouse' }),
  ).toBeVisible();
  await expect(page.getByText('All seven stages done').first()).toBeVisible();
  // The same lesson begun anew later leaves what was done then, each team's record to be read.
  const { periods } = (await (await page.request.get('/api/today')).json()) as {
    periods: { class: { id: number } }[];
  };
  const anew = { classId: periods[0]!.class.id, lesson: 'bump-and-turn', minutes: 50, anew: true };
  expect((await page.request.post('/api/periods', { data: anew })).status()).toBe(201);
  await page.reload();
  await page.getByRole('link', { name: /^Gannet, Floor: done, 3 of 3/ }).click();
  await expect(page.getByRole('heading', { name: 'Gannet · Bump and turn in the boathouse' })).toBeVisible();
  await expect(page.getByLabel('The script as it was left')).toContainText('back');
  await expect(page.getByText(/^bumps \d; it was still at work/)).toHaveCount(3);
  await page.getByRole('link', { name: 'Back to the board of the hour' }).click();
  await page.getByRole('link', { name: 'Written down' }).click();
  await expect(page.getByText('Back off first: turned at the wall, its corner stays caught.')).toBeVisible();
});

test('an hour is planned, and begun with one press; a team’s own link opens it', async ({ page }) => {
  await page.goto('/start');
  await page.getByLabel('school').fill('Own School');
  await page.getByLabel(/^class/).fill('6 Knot');
  await page.getByLabel(/^teams, one nickname a line/).fill('Rail\nCrake\n');
  await page.getByRole('button', { name: 'Add the class' }).click();
  const row = page.getByRole('listitem').filter({ hasText: '6 Knot' });
  await row.getByLabel('lesson').selectOption({ label: 'Count the lanes' });
  await row.getByLabel('on another day (empty: now)').fill('2031-05-06T09:15');
  await row.getByRole('button', { name: 'Plan it' }).click();
  const planned = page
    .getByRole('listitem')
    .filter({ hasText: 'Count the lanes' })
    .filter({ hasText: '6 Knot' })
    .filter({ hasText: '6 May, 09:15' });
  await planned.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: '6 Knot · Count the lanes' })).toBeVisible();
  const link = await page.getByRole('link', { name: /^Rail, Wire/ }).getAttribute('href');
  const team = /teams\/(\d+)/.exec(link!)![1]!;
  await page.goto(`/teams/${team}`);
  await expect(page).toHaveURL(new RegExp(`/teams/${team}/lessons/count-the-lanes/`));
  // Ended again: it leads back to what the team left.
  await page.goto('/');
  await page
    .locator('section')
    .filter({ has: page.getByRole('heading', { name: '6 Knot · Count the lanes' }) })
    .getByRole('button', { name: 'End', exact: true })
    .click();
  await page.goto(`/teams/${team}`);
  await expect(page).toHaveURL(new RegExp(`/teams/${team}/lessons/count-the-lanes/`));
});

test('begun anew, readings from before are offered and taken over only after five looks', async ({
  page,
}) => {
  await page.goto('/start');
  const row = page.getByRole('listitem').filter({ hasText: '7 Kittiwake' });
  await row.getByLabel('lesson').selectOption({ label: 'Tide line' });
  await row.getByLabel(/begin with nothing/).check();
  await row.getByRole('button', { name: 'Start now' }).click();
  await expect(page.getByRole('link', { name: /^Gannet, Read/ }).last()).toBeVisible();
  await open(page, 'Gannet', 'read');
  await expect(page.getByText(/The quay boards read 7\d(\.\d)? % on .*, in Tide line\./)).toBeVisible();
  // Over the line they do not hold, over the boards they do.
  await page.getByRole('button', { name: 'over the tide line' }).click();
  await reads(page, 10, 35);
  await page.getByRole('button', { name: '5 looks at the quay boards' }).click();
  await expect(page.getByText(/Nothing was taken over\. The quay boards reads/)).toBeVisible();
  await page.getByRole('button', { name: 'over the quay boards' }).click();
  await reads(page, 65, 90);
  await page.getByRole('button', { name: '5 looks at the quay boards' }).click();
  await expect(page.getByRole('button', { name: '5 looks at the quay boards' })).toBeHidden();
  await expect(page.getByRole('button', { name: '5 looks at the tide line' })).toBeVisible();
});

test('homework is opened three days later by the team’s own link, and what is written stands with the hour', async ({
  page,
  browser,
}, { parallelIndex }) => {
  const folder = mkdtempSync(join(tmpdir(), 'vigilum-later-'));
  const later = demoServer(4517 + parallelIndex, join(folder, 'data'));
  try {
    await later.start();
    await later.kill();
    // The demo's own clock is left alone: three days have gone by.
    await later.start({ VIGILUM_DEMO: '', CLOCK_AHEAD_S: String(3 * 24 * 3600) });
    // Whoever can read the data folder is let in: the demo's teacher has no password.
    const { key } = JSON.parse(readFileSync(join(folder, 'data/lock'), 'utf8')) as { key: string };
    await page.setExtraHTTPHeaders({ 'x-vigilum-key': key });
    await page.goto(`${later.url}/`);
    await expect(page.getByText('No lesson is going on.')).toBeVisible();
    const { page: home } = await tablet(browser, page, later.url, teams.Gannet);
    await expect(home).toHaveURL(/\/teams\/1\/lessons\/tide-line\/homework/);
    const note = home.getByRole('textbox').first();
    await note.fill('done at home');
    await expect(home.getByText('saved', { exact: false }).first()).toBeVisible();
    await page.goto(`${later.url}/class/1/notes`);
    await expect(page.getByText('done at home')).toBeVisible();
    // Another team left before it was done: its link leads there.
    const { page: other } = await tablet(browser, page, later.url, teams.Fulmar);
    await expect(other).toHaveURL(/\/teams\/4\/lessons\/tide-line\/(?!homework)/);
  } finally {
    await later.kill();
    rmSync(folder, { recursive: true, force: true });
  }
});
