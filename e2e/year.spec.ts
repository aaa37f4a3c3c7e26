import { readFileSync } from 'node:fs';
import { tablet, teams } from './team.ts';
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
  expect(titles).toEqual(['1. Hold a bearing', '2. Bump and turn in the boathouse', '3. Tide line']);
  // On paper there is no rail and no button.
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Main' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  await expect(tide).toBeVisible();
});

test('homework is handed in on a tablet, answered by the teacher with a sentence, and seen there', async ({
  page,
  browser,
  server,
}) => {
  await page.goto('/classes/1');
  const { context, page: own } = await tablet(browser, page, server.url, teams.Plover);
  await own.goto('/teams/2/lessons/tide-line/homework');
  await expect(own.getByRole('button', { name: 'Hand it in' })).toBeDisabled();
  await own.getByLabel('our answer').fill('Halfway is 51; it may get darker by 29 points.');
  await expect(own.getByText('saved', { exact: true })).toBeVisible();
  await own.getByRole('button', { name: 'Hand it in' }).click();
  await expect(own.getByText('It is handed in as it stands above.')).toBeVisible();

  await page.goto('/classes/1');
  await page.getByRole('link', { name: 'Homework' }).click();
  await expect(page.getByText('1 piece not seen yet')).toBeVisible();
  await page.getByLabel('a sentence to Plover on Tide line').fill('Which of the two gets darker?');
  await page.getByRole('button', { name: 'Give it back' }).click();
  await expect(page.getByText('△ Once more. Which of the two gets darker?')).toBeVisible();
  await own.reload();
  await expect(own.getByText(/Once more:/)).toBeVisible();
  await expect(own.getByText('Which of the two gets darker?')).toBeVisible();
  await own.getByRole('button', { name: 'Hand it in again' }).click();
  await expect(own.getByText(/not seen yet/)).toBeVisible();
  await context.close();
});

test('a report of a class is compared with another year, and leaves as files; a team says who is in it, and can be forgotten', async ({
  page,
}) => {
  await page.goto('/classes/1');
  await page.getByRole('link', { name: 'Report' }).click();
  await page.getByLabel('time').selectOption({ label: 'Second term' });
  await expect(page.getByRole('heading', { level: 1, name: '7 Kittiwake: Second term' })).toBeVisible();
  await page.getByLabel('compare with').selectOption({ label: '9 Turnstone, put away' });
  const bearing = page.getByRole('row', { name: /^Hold a bearing/ });
  await expect(bearing).toContainText('2 of 3');
  await expect(page.getByRole('row', { name: /^Tide line/ })).toContainText('has not had it');
  for (const [name, says] of [
    ['JSON', '"format": "vigilum-report"'],
    ['CSV', '7 Kittiwake,Gannet,Hold a bearing'],
    ['xAPI', 'http://adlnet.gov/expapi/verbs/passed'],
  ] as const) {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name, exact: true }).click();
    expect(readFileSync(await (await download).path(), 'utf8')).toContain(says);
  }

  await page.goto('/teams/8/logbook');
  await page.getByLabel('a nickname, no real name').fill('Auk');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Auk has left the team' }).click();
  await expect(page.getByText(/before: Auk/)).toBeVisible();
  await page.getByRole('button', { name: 'Forget this team' }).click();
  const dialog = page.getByRole('dialog', { name: 'Forget Shag for good' });
  await expect(dialog).toContainText('nicknames');
  const all = dialog.getByRole('button', { name: 'Delete it all' });
  await dialog.getByRole('textbox').fill('Sha');
  await expect(all).toBeDisabled();
  await dialog.getByRole('textbox').fill('shag');
  await all.click();
  await expect(page.getByText(/^Shag is forgotten: \d+ rows deleted/)).toBeVisible();
  await expect(page.getByRole('heading', { level: 1, name: '7 Kittiwake' })).toBeVisible();
  await expect(page.getByLabel('name of team Shag')).toHaveCount(0);
});

test('a year is rolled over: the class is put away, its teams carried over, its plan copied to new days, a series handed on', async ({
  page,
}) => {
  await page.goto('/classes/2');
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.getByRole('dialog').getByLabel('class').fill('9 Razorbill');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: '9 Razorbill' })).toBeVisible();
  await expect(page.getByLabel('name of team Eider')).toBeVisible();
  await page.goto('/plan');
  await page.getByText('The same again on other days').click();
  await page.getByLabel('name of the new term').fill('Next year');
  await page.getByLabel('its first day').fill('2031-09-01');
  await page.getByLabel('the plan of 7 Kittiwake goes to').selectOption({ label: 'nobody' });
  await page.getByLabel('the plan of 8 Razorbill goes to').selectOption({ label: '9 Razorbill' });
  await page.getByRole('button', { name: 'Copy the plan' }).click();
  await expect(page.getByText(/^Next year: 9 meetings, 6 lessons/)).toBeVisible();
  await page.goto('/classes/2');
  await page.getByRole('button', { name: 'Put away' }).click();
  await page.goto('/plan/series');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand First steps on as a file' }).click();
  const file = await (await download).path();
  await page.getByLabel('A series as a file').setInputFiles(file);
  const incoming = page.getByRole('region', { name: 'A series from a file' });
  await expect(incoming).toContainText('First steps, from Ternmouth Harbour School');
  await expect(incoming).toContainText('here already');
  await incoming.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('heading', { name: 'First steps' })).toHaveCount(2);
});
