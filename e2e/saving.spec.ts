import { open, stage, teams, writeScript } from './team.ts';
import { expect, test, type BrowserContext, type Page } from './test.ts';

const editor = (page: Page) => page.getByRole('textbox', { name: 'Script, one step a line' });
const saved = (page: Page) =>
  expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 20_000 });
/** The whole text of the editor, of which the page draws only the lines in sight. */
const textIn = (page: Page): Promise<string> =>
  editor(page).evaluate((content) => {
    const { cmTile, cmView } = content as unknown as Record<
      string,
      { view: { state: { doc: { toString(): string } } } }
    >;
    return (cmTile ?? cmView)!.view.state.doc.toString();
  });
const scriptOf = async (page: Page, team: number) =>
  (await (await page.request.get(`/api/teams/${team}/lessons/tide-line/script`)).json()) as {
    text: string;
    saved: { version: number; text: string } | null;
  };

test('two tablets on one script see each other’s typing within a second, and undo takes back only one’s own', async ({
  page,
  browser,
  server,
}) => {
  await open(page, 'Fulmar', 'script');
  const other = await browser.newPage({ baseURL: server.url, serviceWorkers: 'block' });
  await open(other, 'Fulmar', 'script');
  await writeScript(page, 'drive 20 % for 5 cm\nstop');
  await expect(editor(other)).toContainText('drive 20 % for 5 cm');
  await editor(other).click();
  await other.keyboard.press('ControlOrMeta+End');
  await other.keyboard.press('Enter');
  await other.keyboard.type('beep 500 Hz for 1 s');
  const typed = Date.now();
  await expect(editor(page)).toContainText('beep 500 Hz for 1 s', { timeout: 1500 });
  console.log(`the other tablet shows it ${Date.now() - typed} ms after the last letter`);
  // The step list follows what the other one writes.
  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Steps' })).toContainText('beep');
  await page.getByRole('button', { name: 'Text', exact: true }).click();
  await editor(other).click();
  // On a slow machine what was typed is more than one step back; more steps than there are take nothing else.
  for (let i = 0; i < 25; i++) await other.keyboard.press('ControlOrMeta+z');
  await expect(editor(page)).not.toContainText('beep');
  await expect(editor(page)).toContainText('drive 20 % for 5 cm');
  await saved(page);
  await saved(other);
  await other.close();
});

test('a minute without the network: every step opens, nothing written is lost, and all is sent in order', async ({
  browser,
  server,
}) => {
  // The worker that keeps the pages needs a moment after the first visit.
  const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'allow' });
  const page = await context.newPage();
  await open(page, 'Curlew', 'brief');
  await page.waitForFunction(() => navigator.serviceWorker.ready.then(() => true));
  await page.waitForFunction(async () => {
    const [name] = (await caches.keys()).filter((key) => key.includes('precache'));
    return name !== undefined && (await (await caches.open(name)).keys()).length > 60;
  });
  await context.setOffline(true);
  await expect(page.getByText('The server does not answer.')).toBeVisible({ timeout: 20_000 });
  await stage(page, 'Reflect').click();
  const note = page.getByRole('textbox', { name: 'in our own words' });
  await note.fill('It rolled on, because we braked late.');
  await expect(page.getByText('kept on this tablet;')).toBeVisible();
  await stage(page, 'Floor').click();
  await page.getByLabel(/^from the near edge/).fill('12');
  await page.getByRole('radio', { name: 'past it' }).click();
  await page.getByRole('button', { name: /^Log trial/ }).click();
  await expect(page.getByText('is kept on this tablet and not sent yet.')).toBeVisible();
  await expect(page.getByText(/2 things not stored yet/)).toBeVisible();
  for (const [name, heading] of [
    ['Wire', 'Live check'],
    ['Decide', /Where should the robot say/],
    ['Try', /./],
  ] as const) {
    await stage(page, name).click();
    await expect(page.getByRole('heading', { name: heading }).first()).toBeVisible();
    await expect(page.getByRole('heading', { name: 'This page broke.' })).toHaveCount(0);
  }
  await stage(page, 'Reflect').click();
  await expect(note).toHaveValue('It rolled on, because we braked late.');
  // Away, and here again, with the network still gone: the note is still what was written.
  await context.setOffline(false);
  await expect(page.getByText('The server does not answer.')).toHaveCount(0, { timeout: 30_000 });
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 20_000 });
  const { notes, trials } = (await (
    await page.request.get(`/api/teams/${teams.Curlew}/lessons/tide-line`)
  ).json()) as { notes: Record<string, { text: string }>; trials: { pastMm: number }[] };
  expect(notes.reflect!.text).toBe('It rolled on, because we braked late.');
  expect(trials.filter(({ pastMm }) => pastMm === 12)).toHaveLength(1);
  await context.close();
});

test('what was written without the network survives a reload, and the server’s end in the middle', async ({
  page,
  server,
}) => {
  await open(page, 'Plover', 'script');
  await writeScript(page, 'drive 20 % for 5 cm');
  await saved(page);
  await server.kill();
  await page.keyboard.press('ControlOrMeta+End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('stop');
  await expect(page.getByText('kept here', { exact: true })).toBeVisible({ timeout: 20_000 });
  await server.start();
  await page.reload();
  await expect(editor(page)).toContainText('stop');
  await saved(page);
  await expect
    .poll(async () => (await scriptOf(page, teams.Plover)).text, { timeout: 20_000 })
    .toBe('drive 20 % for 5 cm\nstop');
});

test('a blank at the end is no fault, and leaving at once loses nothing', async ({ page }) => {
  await page.goto('/lessons/first-watch/build/steps');
  const title = page.getByLabel('title', { exact: true });
  const before = await title.inputValue();
  await title.fill('What it is about, at dawn ');
  await page.goto('/lessons');
  await expect(page.getByRole('heading', { level: 1, name: 'Lessons' })).toBeVisible();
  await expect(page.getByText(/not stored yet/)).toHaveCount(0);
  await page.goto('/lessons/first-watch/build/steps');
  await expect(title).toHaveValue('What it is about, at dawn');
  await saved(page);
  await title.fill(before);
  await saved(page);
});

test('the Tab key leaves the editor, and blanks or comments void nothing', async ({ page }) => {
  await open(page, 'Gannet', 'script');
  await editor(page).click();
  const before = await scriptOf(page, teams.Gannet);
  await page.keyboard.press('Tab');
  await expect(editor(page)).not.toBeFocused();
  expect((await scriptOf(page, teams.Gannet)).text).toBe(before.text);
  await editor(page).click();
  await page.keyboard.press('ControlOrMeta+Home');
  await page.keyboard.type('# our second try');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await scriptOf(page, teams.Gannet)).saved?.version, { timeout: 20_000 })
    .toBe(before.saved!.version + 1);
  await expect(stage(page, 'Try')).toHaveAccessibleName(/done/);
  await expect(stage(page, 'Prove')).toHaveAccessibleName(/done/);
});

test('two tablets on one note: what they wrote in different paragraphs is put together, in one paragraph one is asked', async ({
  page,
  browser,
  server,
}) => {
  const other = await browser.newPage({ baseURL: server.url, serviceWorkers: 'block' });
  const boxes = [];
  for (const one of [page, other]) {
    await open(one, 'Petrel', 'reflect');
    boxes.push(one.getByRole('textbox', { name: 'in our own words' }));
  }
  const [mine, theirs] = boxes;
  await mine!.fill('First.\n\nSecond.');
  await saved(page);
  await expect(theirs!).toHaveValue('First.\n\nSecond.');
  await page.route('**/api/**', (route) => route.abort());
  await mine!.fill('First, slowly.\n\nSecond.');
  await expect(page.getByText('kept on this tablet;')).toBeVisible();
  await theirs!.fill('First.\n\nSecond, too far.');
  await saved(other);
  await page.unroute('**/api/**');
  await expect(mine!).toHaveValue('First, slowly.\n\nSecond, too far.', { timeout: 20_000 });
  await expect(theirs!).toHaveValue('First, slowly.\n\nSecond, too far.');
  await page.route('**/api/**', (route) => route.abort());
  await mine!.fill('Mine.');
  await expect(page.getByText('kept on this tablet;')).toBeVisible();
  await theirs!.fill('Theirs.');
  await saved(other);
  await page.unroute('**/api/**');
  await expect(page.getByText('Somebody else changed this note meanwhile.')).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Take theirs' }).click();
  await expect(mine!).toHaveValue('Theirs.');
  await saved(page);
  await page.getByRole('button', { name: 'Versions' }).click();
  const dialog = page.getByRole('dialog', { name: 'Versions' });
  await expect(dialog.getByText('Mine.', { exact: true })).toBeVisible();
  await dialog
    .getByRole('listitem')
    .filter({ hasText: 'Mine.' })
    .getByRole('button', { name: 'Bring back' })
    .click();
  await expect(mine!).toHaveValue('Mine.');
  await saved(page);
  await other.close();
});

test('a kit that two change: both sides are shown, and the other one can be brought back', async ({
  page,
  browser,
  server,
}) => {
  const other = await browser.newPage({ baseURL: server.url, serviceWorkers: 'block' });
  for (const one of [page, other]) {
    await one.goto('/kits/skiff');
    await expect(one.getByRole('heading', { level: 1, name: 'Kit Skiff' })).toBeVisible();
  }
  await page.getByLabel('time of a program step, ms').fill('8');
  await page.route('**/api/events*', (route) => route.abort());
  await other.getByLabel('time of a program step, ms').fill('12 ');
  await other.getByRole('button', { name: 'Save the kit' }).click();
  await expect(other.getByText('Saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Save the kit' }).click();
  await expect(page.getByText(/Saved\.|Somebody else changed this kit meanwhile/).first()).toBeVisible();
  if (await page.getByText('Somebody else changed this kit meanwhile').isVisible()) {
    await expect(page.getByRole('row', { name: /time of a program step, ms/ })).toContainText('12');
    await page.getByRole('button', { name: 'Keep mine' }).click();
  }
  const stored = async () =>
    (
      (await (await page.request.get('/api/kits')).json()) as {
        kits: { kit: { slug: string; stepTimeMs: number } }[];
      }
    ).kits.find(({ kit }) => kit.slug === 'skiff')!.kit.stepTimeMs;
  await expect.poll(stored).toBe(8);
  await other.close();
});

test('eight teams and a board: one save costs at most two further requests, none on pages that do not show it', async ({
  browser,
  server,
}) => {
  test.setTimeout(150_000);
  // Every tablet is a browser of its own.
  const contexts: BrowserContext[] = [];
  const tablet = async () => {
    const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'block' });
    contexts.push(context);
    return context.newPage();
  };
  const pages: Page[] = [];
  for (const team of Object.keys(teams) as (keyof typeof teams)[]) {
    const one = await tablet();
    await open(one, team, 'brief');
    pages.push(one);
  }
  const board = await tablet();
  await board.goto('/');
  await expect(board.getByRole('heading', { name: '7 Kittiwake · Tide line' })).toBeVisible();
  const shag = pages.at(-1)!;
  await stage(shag, 'Read').click();
  await shag.getByRole('radio', { name: /quay boards/ }).check();
  await shag.waitForTimeout(2500);
  const asked: string[] = [];
  for (const context of contexts)
    context.on('request', (request) => {
      const { pathname, search } = new URL(request.url());
      // Streams stay open; a hand that moves the stand-in saves nothing.
      if (pathname.startsWith('/api/') && !/\/(events|live|hand)$/.test(pathname))
        asked.push(`${request.method()} ${pathname}${search}`);
    });
  await shag
    .getByRole('button', { name: /^(Take|Read) / })
    .first()
    .click();
  await expect.poll(() => asked.filter((one) => one.startsWith('POST')).length, { timeout: 20_000 }).toBe(1);
  await shag.waitForTimeout(3000);
  console.log(`one save asked: ${asked.join(', ')}`);
  expect(asked.filter((one) => one.startsWith('GET')).length).toBeLessThanOrEqual(2);
  expect(asked.every((one) => one.startsWith('POST') || one.includes('/board?teams='))).toBe(true);
  for (const context of contexts) await context.close();
});

/** Dice that fall the same every time. */
function dice(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 2 ** 32;
    return state / 2 ** 32;
  };
}

test('twenty random runs of typing, blanks, leaving, reloading, losing the network and the server: nothing on screen is lost', async ({
  browser,
  server,
}) => {
  test.setTimeout(240_000);
  const contexts: BrowserContext[] = [];
  const tablet = async () => {
    const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'block' });
    contexts.push(context);
    const page = await context.newPage();
    await open(page, 'Dunlin', 'script');
    await expect(editor(page)).toBeVisible();
    return { context, page, offline: false };
  };
  const tablets = [await tablet(), await tablet()];
  const words: string[] = [];
  let killed = 0;
  for (let run = 0; run < 20; run++) {
    const roll = dice(run * 7919 + 13);
    for (let i = 0; i < 4; i++) {
      const mine = tablets[Math.floor(roll() * 2)]!;
      const { page, context } = mine;
      const what = Math.floor(roll() * 9);
      if (what <= 3) {
        const word = `w${words.length}w${' '.repeat(Math.floor(roll() * 3))}`;
        words.push(word.trim());
        await editor(page).click();
        await page.keyboard.press(roll() < 0.5 ? 'ControlOrMeta+End' : 'ControlOrMeta+Home');
        await page.keyboard.insertText(`# ${word}\n`);
        if (roll() < 0.5) {
          await stage(page, 'Brief').click();
          await stage(page, 'Script').click();
          expect(await textIn(page)).toContain(word.trim());
        }
      } else if (what === 4 && !mine.offline) {
        await page.reload();
        await expect(editor(page)).toBeVisible({ timeout: 20_000 });
      } else if (what === 5 || what === 6) {
        mine.offline = !mine.offline;
        await context.setOffline(mine.offline);
      } else if (what === 7 && killed < 4) {
        killed++;
        await server.kill();
        await page.waitForTimeout(300);
        await server.start();
      } else await page.waitForTimeout(Math.floor(roll() * 600));
    }
  }
  for (const one of tablets) await one.context.setOffline(false);
  for (const { page } of tablets) await saved(page);
  const [first, second] = tablets;
  await expect
    .poll(async () => (await textIn(first!.page)) === (await textIn(second!.page)), { timeout: 20_000 })
    .toBe(true);
  const { text } = await scriptOf(first!.page, teams.Dunlin);
  expect(words.filter((word) => text.split(`# ${word}`).length !== 2)).toEqual([]);
  console.log(`${words.length} words typed on two tablets, server killed ${killed} times: all stored once`);
  for (const context of contexts) await context.close();
});
