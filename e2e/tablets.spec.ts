import { press, tabTo } from './byKeys.ts';
import { OUTSIDE, tablet, teams } from './team.ts';
import { expect, test, type Browser, type BrowserContext, type Page } from './test.ts';

const names = Object.keys(teams) as (keyof typeof teams)[];

/** A tablet that comes in by the class code and its picture, by touch. */
async function comeIn(
  browser: Browser,
  url: string,
  code: string,
  name: string,
  picture: string,
): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({
    baseURL: url,
    serviceWorkers: 'block',
    hasTouch: true,
    isMobile: true,
    viewport: { width: 768, height: 1024 },
  });
  await context.addCookies([{ ...OUTSIDE, url }]);
  const page = await context.newPage();
  await page.goto('/');
  await page.getByRole('link', { name: /enter our class code/ }).tap();
  await page.getByLabel(/^class code/).fill(code);
  await page.getByRole('button', { name: 'On', exact: true }).tap();
  await page.getByRole('button', { name, exact: true }).tap();
  await page.getByRole('button', { name: picture, exact: true }).tap();
  return { context, page };
}

test('an hour from its start to its end: eight tablets by touch, the teacher by keys alone', async ({
  page,
  browser,
  server,
}) => {
  test.setTimeout(420_000);
  // Other hours may go on already.
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Run the hour' }).first()).toBeVisible();
  const running = await page.getByRole('link', { name: 'Run the hour' }).count();
  // The class begins its lesson anew.
  await page.goto('/start');
  const start = page.getByRole('listitem').filter({ hasText: '7 Kittiwake' }).first();
  await start.getByRole('combobox').first().selectOption({ label: 'Tide line' });
  await expect(start.getByLabel(/begin with nothing/)).toBeVisible();
  await tabTo(page, start.getByLabel(/begin with nothing/));
  await page.keyboard.press('Space');
  await press(page, start.getByRole('button', { name: 'Start now' }));
  // It is the latest one of those that go on by now.
  await expect(page.getByRole('link', { name: 'Run the hour' })).toHaveCount(running + 1);
  await press(page, page.getByRole('link', { name: 'Run the hour' }).last());
  await expect(page).toHaveURL(/\/hours\/\d+\/live$/);
  await expect(page.getByText(/of 8 teams/)).toBeVisible();

  // The doors: code and pictures, as the teacher reads them out.
  const hour = page.url();
  await press(page, page.getByRole('link', { name: 'Doors and cards' }));
  const code = await page.locator('p.text-figure').innerText();
  const rows = page.getByRole('region', { name: 'Cards' }).getByRole('article');
  await expect(rows).toHaveCount(8);
  const pictures = await rows.evaluateAll((cards) =>
    cards.map((card) => card.querySelectorAll('p')[1]!.textContent.trim()),
  );
  const tablets = await Promise.all(
    names.map((name, i) => comeIn(browser, server.url, code, name, pictures[i]!)),
  );
  for (const [i, { page: own }] of tablets.entries()) {
    await expect(own.getByRole('heading', { level: 1, name: `${names[i]} · Tide line` })).toBeVisible();
    await expect(own.getByRole('region', { name: 'Our hour' })).toContainText('left');
    await expect(own.getByRole('navigation', { name: 'Main' })).toBeHidden();
  }
  await page.goto(hour);
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) });
  for (const { page: own } of tablets) await own.getByRole('link', { name: /^On to Wire/ }).tap();
  await expect(row('Gannet')).toContainText('Wire');
  await expect(row('Shag')).toContainText('Wire');

  // Two are stuck: one chooses what Vigilum has found, one says it itself.
  const [gannet, plover, curlew, , , avocet] = tablets.map((one) => one.page) as [
    Page,
    Page,
    Page,
    Page,
    Page,
    Page,
  ];
  await avocet.getByRole('button', { name: 'We are stuck' }).tap();
  await avocet.getByRole('button', { name: /The reflected light sensor is on K4/ }).tap();
  const asked = Date.now();
  await expect(row('Avocet')).toContainText('calls you');
  console.log(`The teacher sees a call ${Date.now() - asked} ms after it was made.`);
  await curlew.getByRole('button', { name: 'We are stuck' }).tap();
  await curlew.getByLabel('in our own words').fill('The battery is loose');
  await curlew.getByRole('button', { name: 'Call the teacher' }).tap();
  await expect(page.getByText('“The battery is loose”').first()).toBeVisible();
  await curlew.getByRole('button', { name: 'Take it back' }).tap();
  await expect(page.getByText('“The battery is loose”')).toHaveCount(0);
  await press(page, page.getByRole('button', { name: 'I was there' }));
  await expect(row('Avocet')).not.toContainText('calls you');
  await expect(avocet.getByRole('button', { name: 'We are stuck' })).toBeVisible();

  // A note to one team, a hint, and what it does with them.
  await press(page, page.getByRole('button', { name: 'A note or a hint to Plover' }));
  await page.keyboard.type('Look at the plug first');
  await page.keyboard.press('Enter');
  await expect(plover.getByText('Look at the plug first')).toBeVisible();
  await expect(gannet.getByText('Look at the plug first')).toHaveCount(0);
  await plover.getByRole('button', { name: 'Seen' }).tap();
  await expect(plover.getByText('Look at the plug first')).toHaveCount(0);

  // Everybody stops, and goes on.
  await press(page, page.getByRole('button', { name: 'Stop everyone' }));
  await page.keyboard.press('Enter');
  for (const { page: own } of tablets)
    await expect(own.getByRole('dialog', { name: 'Everybody stops' })).toBeVisible();
  await press(page, page.getByRole('button', { name: 'Let them go on' }));
  for (const { page: own } of tablets)
    await expect(own.getByRole('dialog', { name: 'Everybody stops' })).toBeHidden();

  // The mats: a team is let in, minds its cautions, and makes room.
  await page.getByText('Mats and turns').focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('let another team wait').focus();
  await page.keyboard.type('Gan');
  await expect(gannet.getByText(/about \d\d:\d\d/)).toBeVisible();
  await press(page, page.getByRole('button', { name: 'Gannet next' }));
  await expect(gannet.getByText('You are on mat 1')).toBeVisible();
  await gannet.getByRole('button', { name: 'We start' }).tap();
  await expect(gannet).toHaveURL(/\/floor$/);
  await press(page, page.getByRole('button', { name: 'Done', exact: true }));
  await expect(gannet.getByText('You are on mat 1')).toBeHidden();

  // A tablet is closed and opened again where it was; a second one of the team works beside it.
  await plover.goto('/teams/2');
  await expect(plover).toHaveURL(/\/wire$/);
  const second = await tablet(browser, page, server.url, teams.Plover);
  await expect(second.page).toHaveURL(/\/wire$/);
  await second.context.close();
  // It is lost: signed out, it is at the door.
  await page.request.delete('/api/teams/2/tablets');
  await plover.goto('/teams/2');
  await expect(plover).toHaveURL(/\/sign-in/);

  // Longer, paused, resumed, ended: the tablets follow.
  await press(page, page.getByRole('button', { name: '5 min more' }));
  await expect(page.getByText(/left of 55 min/)).toBeVisible();
  await press(page, page.getByRole('button', { name: 'Pause' }));
  await expect(gannet.getByRole('region', { name: 'Our hour' })).toContainText('paused');
  await press(page, page.getByRole('button', { name: 'Resume' }));
  await expect(gannet.getByRole('region', { name: 'Our hour' })).toContainText('left');
  await press(page, page.getByRole('button', { name: 'End' }));
  await expect(page.getByText('ended', { exact: true })).toBeVisible();
  for (const { context } of tablets) await context.close();
});

test('a sign-out is kept, an invitation makes a guest who looks and changes nothing', async ({
  page,
  browser,
  server,
}) => {
  await page.goto('/account');
  await page.getByLabel('invite a colleague as').selectOption('guest');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByRole('status').locator('code').innerText();
  const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'block' });
  await context.addCookies([{ ...OUTSIDE, url: server.url }]);
  const guest = await context.newPage();
  await guest.goto(new URL(link).pathname);
  await guest.getByLabel(/^your name/).fill('Guest Colleague');
  await guest.getByLabel(/^a password/).fill('short');
  await guest.getByRole('button', { name: 'Make my account' }).click();
  await expect(guest.getByRole('alert')).toContainText('at least 10 characters');
  await guest.getByLabel(/^a password/).fill('a boat of plain oak');
  await guest.getByRole('button', { name: 'Make my account' }).click();
  await expect(guest.getByText('You look on as a guest colleague')).toBeVisible();
  await expect(guest.getByRole('button', { name: 'End', exact: true })).toHaveCount(0);
  await guest.goto('/lessons/tide-line/about');
  await expect(guest.getByRole('heading', { level: 1 })).toBeVisible();
  // Signed out, every page leads to the door, and back to where one wanted to go.
  await guest.goto('/account');
  await guest.getByRole('button', { name: 'Sign out', exact: true }).click();
  await expect(guest).toHaveURL(/\/sign-in/);
  await guest.goto('/courses');
  await expect(guest).toHaveURL(/\/sign-in\?to=%2Fcourses/);
  await guest.getByLabel(/^your name/).fill('guest colleague');
  await guest.getByLabel('password').fill('not this one');
  await guest.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(guest.getByRole('alert')).toContainText('do not go together');
  await guest.getByLabel('password').fill('a boat of plain oak');
  await guest.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(guest).toHaveURL(/\/courses$/);
  await context.close();
});
