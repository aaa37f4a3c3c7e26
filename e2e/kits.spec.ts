import { expect, test } from './test.ts';
import { readFileSync } from 'node:fs';

test('a kit is copied, changed, saved as JSON, and comes back from the file', async ({ page }) => {
  await page.goto('/robots');
  await page.getByRole('link', { name: 'Kits, and what they can do' }).click();
  await expect(page.getByText('lookout stands in, by proximity').first()).toBeVisible();
  await page.getByRole('link', { name: 'Copy' }).first().click();
  await expect(page.getByRole('heading', { name: 'New kit' })).toBeVisible();
  await page.getByLabel('short name, for files').fill('Raft 1');
  await page.getByLabel('name', { exact: true }).fill('Raft');
  await page.getByRole('button', { name: 'Add the kit' }).click();
  await expect(page.getByText('Lower-case letters, digits and dashes.')).toBeVisible();
  await page.getByLabel('short name, for files').fill('raft-1');
  await page.getByLabel('Label of socket 1').fill('the red plug');
  await page.getByLabel('Name of socket 2').fill('K1');
  await expect(page.getByRole('alert')).toContainText('two sockets are called K1');
  await page.getByLabel('Name of socket 2').fill('K2');
  await page.getByRole('button', { name: 'Add the kit' }).click();
  await expect(page.getByRole('heading', { name: 'Kit Raft' })).toBeVisible();

  await page.goto('/kits');
  const card = page
    .getByRole('listitem')
    .filter({ hasText: 'Raft', has: page.getByRole('link', { name: 'Copy' }) });
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    card.getByRole('button', { name: 'Save as JSON' }).click(),
  ]);
  const text = readFileSync(await download.path(), 'utf8');
  expect(JSON.parse(text)).toMatchObject({
    slug: 'raft-1',
    sockets: [{ name: 'K1', label: 'the red plug' }, {}, {}, {}, {}, {}, {}, {}, {}],
  });
  await card.getByRole('button', { name: 'Remove' }).click();
  await expect(card).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(card).toBeVisible();
  const file = page.getByLabel('Kit file');
  await file.setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{no') });
  await expect(page.getByText('Nothing was added: x.json is no JSON file.')).toBeVisible();
  await file.setInputFiles({
    name: 'float.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text.replace('"raft-1"', '"float"').replace('"Raft"', '"Float"')),
  });
  await expect(page.getByRole('heading', { name: 'Kit Float' })).toBeVisible();
});

test('a robot is built: wiring that cannot be is told, measures are saved', async ({ page }) => {
  await page.goto('/robots/9/build');
  await page.getByLabel('Socket of sensor 2').selectOption('K1');
  await expect(page.getByRole('alert')).toContainText('two parts are plugged into K1');
  await page.getByLabel('Socket of sensor 2').selectOption('K4');
  await page.getByLabel('wheel diameter, mm').fill('4');
  await page.getByRole('button', { name: 'Save the build' }).click();
  await expect(page.getByText('From 5 to 500.')).toBeVisible();
  await page.getByLabel('wheel diameter, mm').fill('56');
  await page.getByRole('button', { name: 'Save the build' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.goto('/robots');
  await expect(page.getByRole('row', { name: /Cobble 9/ })).toContainText('K4 distance');
  await page.goto('/robots/9/build');
  await page.getByLabel('Socket of sensor 2').selectOption('K2');
  await page.getByLabel('wheel diameter, mm').fill('68');
  await page.getByRole('button', { name: 'Save the build' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
});

test('a robot is measured by tape: what cannot be told is said, what can is taken over', async ({ page }) => {
  await page.goto('/robots/10/measure');
  const row = (name: string) => page.getByRole('row', { name: new RegExp(name) });
  await expect(row('Speed at 100 %')).toContainText('No timed way has been logged.');
  for (const way of ['990', '1002', '1011']) {
    await page.getByLabel('way by tape, mm').fill(way);
    await page.getByRole('button', { name: 'Log the timed way' }).click();
    await expect(
      page.getByRole('button', { name: `Remove the timed way, 100 % for 2 s: ${way} mm` }),
    ).toBeVisible();
  }
  await expect(row('Speed at 100 %')).toContainText('3 trials');
  await expect(row('Stands still after it sees')).toContainText('No stop has been logged.');
  await row('Speed at 100 %').getByRole('button', { name: 'Use it' }).click();
  await expect(row('Speed at 100 %')).toContainText('this robot’s own');
  // Without a number nothing is logged, and the field says why.
  await page.getByRole('button', { name: 'Log the timed way' }).click();
  await expect(page.getByText('A number from 1 to 20000.')).toBeVisible();
  await page.getByRole('button', { name: 'least speed' }).click();
  await page.getByLabel('at speed, %').fill('3');
  await page.getByRole('button', { name: 'Log: it stood' }).click();
  await expect(row('Least speed that moves it')).toContainText('It never moved.');
  await page.getByRole('button', { name: /Remove the timed way, 100 % for 2 s: 1002 mm/ }).click();
  await expect(row('Speed at 100 %')).toContainText('Two timed ways cannot tell');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row('Speed at 100 %')).toContainText('3 trials');
  await row('Speed at 100 %').getByRole('button', { name: 'Back to the kit’s' }).click();
  await expect(row('Speed at 100 %')).not.toContainText('this robot’s own');
});

test('the class’s thresholds side by side, saved as CSV', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Class' }).click();
  await page.goto('/class/1');
  await expect(page.getByRole('row', { name: /Curlew/ })).toContainText('misreads in 1000');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  const [head, gannet] = readFileSync(await download.path(), 'utf8').split('\r\n');
  expect(head).toMatch(/^team,robot,"tide line, %","quay boards, %","threshold, %"/);
  expect(gannet).toMatch(/^Gannet,Cobble 1,2[\d.]+,7[\d.]+,\d+,/);
});

test('workings take a robot’s own numbers, any unit of length, and refuse nonsense', async ({ page }) => {
  await page.goto('/workings');
  await page.getByRole('link', { name: 'Turn on the spot' }).click();
  // The calculation before it asks for a robot as well, until this one is there.
  await expect(page.getByRole('heading', { name: 'Turn on the spot' })).toBeVisible();
  await page.getByLabel('numbers of the robot').selectOption('Skiff 1');
  await expect(page.getByLabel('wheel diameter', { exact: true })).toHaveValue('52');
  await expect(page.getByText('90 × 104 ÷ 52 = 180°')).toBeVisible();
  await page.getByLabel('unit of wheel diameter').selectOption('in');
  await expect(page.getByLabel('wheel diameter', { exact: true })).toHaveValue('2.047');
  await page.getByLabel('angle of the robot').fill('a lot');
  await expect(page.getByText('angle of the robot: type a number.')).toBeVisible();
  // The next calculation goes on with the same robot.
  await page.getByRole('link', { name: 'Distance, turns, degrees, time' }).click();
  await expect(page.getByRole('heading', { name: 'Distance, turns, degrees, time' })).toBeVisible();
  await expect(page.getByLabel('numbers of the robot')).toHaveValue('Skiff 1');
  await expect(page.getByLabel('wheel diameter', { exact: true })).toHaveValue('52');
  await page.getByRole('link', { name: 'Steering map' }).click();
  await expect(page.getByText('m = (−30 − 30) ÷ (100 − 0) = −0.6')).toBeVisible();
  await page.getByRole('link', { name: 'Two floor sensors' }).click();
  await page.getByLabel('right reads, %').fill('20');
  await expect(page.getByText(/1 × 2 \+ 1 = 3/)).toBeVisible();
});
