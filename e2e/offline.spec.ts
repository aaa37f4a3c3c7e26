import { stage, tablet, teams } from './team.ts';
import { expect, test, type BrowserContext, type Page } from './test.ts';

/** Without the network each of two tablets of one team writes so often, and is loaded anew so often. OFFLINE_MS makes the time between long. */
const EDITS = 50;
const RELOADS = 3;
const PAUSE_MS = Number(process.env.OFFLINE_MS ?? 0) / RELOADS;
/** A lesson is on the screen this soon after a reload, ms. */
const SOON_MS = 3000;

/** Waits until the worker that keeps the pages has all of them. */
async function pagesKept(page: Page): Promise<void> {
  await page.waitForFunction(() => navigator.serviceWorker.ready.then(() => true));
  await page.waitForFunction(async () => {
    const [name] = (await caches.keys()).filter((key) => key.includes('precache'));
    return name !== undefined && (await (await caches.open(name)).keys()).length > 60;
  });
}
/** Waits until what the team is shown lies in the browser's own database. */
const shownKept = (page: Page) =>
  page.waitForFunction(
    () =>
      new Promise<boolean>((done) => {
        const open = indexedDB.open('vigilum-shown');
        open.onsuccess = () => {
          const asked = open.result.transaction('queries').objectStore('queries').get('team');
          asked.onsuccess = () =>
            done(['workspace', '[\\"script\\"'].every((part) => String(asked.result).includes(part)));
          asked.onerror = () => done(false);
        };
        open.onerror = () => done(false);
      }),
  );
const note = (page: Page) => page.getByRole('textbox', { name: 'in our own words' });

/** Adds words at the end of a note, one edit each, from one number to another. */
async function write(page: Page, mark: string, from: number, to: number): Promise<void> {
  await note(page).click();
  await page.keyboard.press('ControlOrMeta+End');
  for (let i = from; i < to; i++) await page.keyboard.type(` ${mark}${i}`);
}
const marks = (text: string, mark: string) =>
  text.split(/\s+/).filter((word) => new RegExp(`^${mark}\\d+$`).test(word));

test('two tablets of one team without the network: the lesson is there after every reload, and no edit is lost or doubled', async ({
  browser,
  page,
  server,
}) => {
  test.setTimeout(180_000 + 3 * PAUSE_MS * RELOADS);
  await page.goto('/');
  const team = teams.Curlew;
  const tablets: { context: BrowserContext; own: Page; mark: string }[] = [];
  for (const mark of ['a', 'b']) {
    const { context, page: own } = await tablet(browser, page, server.url, team, { serviceWorkers: 'allow' });
    await own.goto(`/teams/${team}/lessons/tide-line/reflect`);
    await expect(note(own)).toBeVisible();
    await pagesKept(own);
    await shownKept(own);
    tablets.push({ context, own, mark });
  }
  for (const { context } of tablets) await context.setOffline(true);
  const slowest: number[] = [];
  for (let round = 0; round < RELOADS; round++) {
    for (const { own, mark } of tablets) {
      const [from, to] = [round, round + 1].map((part) => Math.round((part * EDITS) / RELOADS));
      await write(own, mark, from!, to!);
      await expect(own.getByText('kept on this tablet;')).toBeVisible();
      if (PAUSE_MS > 0) await own.waitForTimeout(PAUSE_MS / tablets.length);
      const began = Date.now();
      await own.reload();
      await expect(own.getByRole('heading', { level: 1, name: 'Curlew · Tide line' })).toBeVisible();
      slowest.push(Date.now() - began);
      await expect.poll(async () => marks(await note(own).inputValue(), mark).length).toBe(to);
    }
  }
  console.log(`after a reload without the network the lesson was there within ${Math.max(...slowest)} ms`);
  expect(Math.max(...slowest)).toBeLessThan(SOON_MS);
  // Other steps of the lesson open too.
  const first = tablets[0]!.own;
  for (const name of ['Decide', 'Script']) {
    await stage(first, name).click();
    await expect(first.getByRole('heading', { level: 1, name: 'Curlew · Tide line' })).toBeVisible();
    await expect(first.getByText('This did not load.')).toHaveCount(0);
  }
  await expect(first.getByRole('textbox', { name: 'Script, one step a line' })).toBeVisible();
  // One was signed out from elsewhere meanwhile, and comes in again by its card.
  const { tablets: signedIn } = (
    (await (await page.request.get('/api/classes/1/doors')).json()) as {
      teams: { id: number; card: string; tablets: { id: number }[] }[];
    }
  ).teams.find(({ id }) => id === team)!;
  expect(signedIn.length).toBeGreaterThanOrEqual(2);
  await page.request.delete(`/api/teams/${team}/tablets/${signedIn[0]!.id}`);
  for (const { context } of tablets) await context.setOffline(false);
  const card = (
    (await (await page.request.get('/api/classes/1/doors')).json()) as {
      teams: { id: number; card: string }[];
    }
  ).teams.find(({ id }) => id === team)!.card;
  for (const { own } of tablets) {
    await own.goto(`/card/${card}`);
    await expect(own).toHaveURL(new RegExp(`/teams/${team}/`));
    await own.goto(`/teams/${team}/lessons/tide-line/reflect`);
    await expect(note(own)).toBeVisible();
  }
  const stored = async () =>
    (
      (await (await page.request.get(`/api/teams/${team}/lessons/tide-line`)).json()) as {
        notes: Record<string, { text: string }>;
      }
    ).notes.reflect?.text ?? '';
  // Both wrote the same note: each keeps its side until somebody chooses, and nothing of either is gone.
  const everywhere = async () =>
    [
      await stored(),
      ...(await Promise.all(tablets.map(({ own }) => own.locator('body').innerText()))),
      ...(await Promise.all(tablets.map(({ own }) => note(own).inputValue()))),
    ].join(' ');
  for (const { mark } of tablets)
    await expect
      .poll(async () => new Set(marks(await everywhere(), mark)).size, { timeout: 30_000 })
      .toBe(EDITS);
  const text = await stored();
  for (const { mark } of tablets) expect(marks(text, mark).length).toBe(new Set(marks(text, mark)).size);
  for (const { context } of tablets) await context.close();
});

test('a tablet that is signed out keeps nothing of its lesson', async ({ browser, page, server }) => {
  await page.goto('/');
  const { context, page: own } = await tablet(browser, page, server.url, teams.Gannet);
  await own.goto(`/teams/${teams.Gannet}/lessons/tide-line/reflect`);
  await shownKept(own);
  await own.evaluate(() => fetch('/api/sessions/mine', { method: 'DELETE' }));
  await own.goto('/');
  await expect(own.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await expect
    .poll(() =>
      own.evaluate(
        () =>
          new Promise<number>((done) => {
            const open = indexedDB.open('vigilum-shown');
            open.onsuccess = () => {
              const count = open.result.transaction('queries').objectStore('queries').count();
              count.onsuccess = () => done(count.result);
            };
          }),
      ),
    )
    .toBe(0);
  await context.close();
});
