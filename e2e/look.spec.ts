import { barriers } from './barriers.ts';
import { OUTSIDE, tablet } from './team.ts';
import { expect, test, type Page } from './test.ts';

const stages = ['wire', 'read', 'decide', 'script', 'try', 'prove', 'floor'];
const pages = [
  '/',
  '/start',
  '/first-day',
  '/data',
  '/hours/1/teams/1',
  '/teams/1/lessons/bump-and-turn/floor',
  '/hours/2',
  '/classes/1',
  '/classes/1/skills',
  '/plan',
  '/plan/series',
  '/plan/cupboard',
  '/plan/skills',
  '/hours/2/next',
  '/classes/1/report?with=2',
  '/classes/1/homework',
  '/teams/5/logbook',
  '/lessons',
  '/robots',
  '/robots/9/bench',
  '/robots/9/check',
  '/robots/9/read?socket=K1',
  '/robots/9/read?socket=K2',
  '/robots/9/read?socket=K2&view=stop+gap',
  '/robots/9/read?socket=K3',
  '/robots/9/read?socket=K5',
  '/robots/10/read?socket=S-b',
  '/robots/9/files',
  '/robots/9/measure',
  '/robots/9/build',
  '/kits',
  '/kits/cobble',
  '/kits/cobble/phrasebook',
  '/class/1',
  '/class/1/notes',
  '/workings/gap',
  '/workings/units',
  '/workings/two-sensors',
  '/workings/simulator',
  '/workings/more',
  '/workings/gain',
  '/lessons/tide-line/tuning?view=walks',
  '/teams/5/lessons/tide-line/try?view=tune',
  '/courses',
  '/courses/new/channel',
  '/courses/lesson/piers-edge',
  ...['about', 'try', 'prove', 'expect', 'strength', 'fairness', 'stuck', 'tuning'].map(
    (view) => `/lessons/harbour-rules/${view}`,
  ),
  '/lessons/new',
  ...['steps', 'plan', 'answer', 'checks', 'twist', 'twist?of=run', 'versions', 'share'].map(
    (view) => `/lessons/stop-short/build/${view}`,
  ),
  ...['handout', 'teacher', 'poster'].map((sheet) => `/lessons/tide-line/print/${sheet}`),
  '/teams/1/lessons/tide-line/brief',
  '/teams/3/lessons/tide-line/prove',
  '/teams/1/lessons/stop-short/read',
  '/teams/1/lessons/stop-short/decide',
  '/teams/1/lessons/hold-a-bearing/read',
  '/teams/1/lessons/first-watch/read',
  '/lessons/tide-line/class',
  '/teams/1/lessons/tide-line/floor?view=log',
  '/teams/1/lessons/tide-line/read?view=sweep',
  '/teams/1/lessons/tide-line/read?view=check',
  '/teams/5/lessons/tide-line/script?view=steps',
  '/hours/1/live',
  '/account',
  '/schools',
  '/classes/1/doors',
  '/sign-in',
  '/door',
  '/teams/5/lessons/tide-line/script?view=flow',
  '/teams/5/lessons/tide-line/script?view=versions',
  ...stages.map((stage) => `/teams/1/lessons/tide-line/${stage}`),
];

// Every page is opened once, and all that is looked at is looked at then; the workers share the pages.
test.describe.configure({ mode: 'parallel' });
const PARTS = 6;

/** Looks at a page by day and night at three sizes. */
async function lookAt(page: Page, path: string): Promise<void> {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(path);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible({ timeout: 30_000 });
  if (!path.includes('/print/')) await expect(page).toHaveTitle(/.+ · Vigilum$/);
  // A colour that is still fading in is no colour to judge.
  // Adopted, not written into the page: its policy takes no styles from elsewhere.
  await page.evaluate(() => {
    const still = new CSSStyleSheet();
    still.replaceSync('*, ::before, ::after { transition: none !important; }');
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, still];
  });
  expect([path, await barriers(page, null)]).toEqual([path, []]);
  await page.evaluate(() => (document.documentElement.dataset.theme = 'nightwatch'));
  expect([path, 'night', await barriers(page, ['color-contrast'])]).toEqual([path, 'night', []]);
  for (const [width, height] of [
    [1280, 800],
    [768, 1024],
    [390, 844],
  ] as const) {
    await page.setViewportSize({ width, height });
    // A resized page is laid out anew on the next frames.
    await page.evaluate(
      () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))),
    );
    const wide = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect([path, width, wide]).toEqual([path, width, 0]);
    const small = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('button:not([tabindex="-1"]), a[href], summary')]
        .filter(
          (el) =>
            el.offsetParent !== null &&
            el.getBoundingClientRect().height > 1 &&
            el.closest('[data-sonner-toaster]') === null,
        )
        .filter((el) => el.getBoundingClientRect().height < 43.5)
        .map((el) => `${el.tagName} “${el.innerText.slice(0, 30)}”`),
    );
    expect([path, width, small]).toEqual([path, width, []]);
  }
}

for (let part = 0; part < PARTS; part++) {
  test(`pages ${part + 1} of ${PARTS} have a title, no serious barrier by day or night, fit desk, tablet and phone, and ask no other host`, async ({
    page,
  }) => {
    test.setTimeout(600_000);
    const foreign: string[] = [];
    page.on('request', (request) => {
      const { hostname, protocol } = new URL(request.url());
      if (hostname !== '127.0.0.1' && protocol.startsWith('http')) foreign.push(request.url());
    });
    await page.addInitScript(() => localStorage.setItem('theme', 'daywatch'));
    for (const path of pages.filter((_, i) => i % PARTS === part)) await lookAt(page, path);
    expect(foreign).toEqual([]);
  });
}

test('what teams and projectors are shown is as free of barriers, and a tablet has no rail', async ({
  page,
  browser,
  server,
}) => {
  test.setTimeout(300_000);
  await page.goto('/classes/1/doors');
  for (const [team, paths] of [
    [5, ['/teams/5/lessons/tide-line/floor', '/teams/5/lessons/tide-line/reflect']],
    [6, ['/teams/6/lessons/tide-line/wire']],
  ] as const) {
    const { context, page: own } = await tablet(browser, page, server.url, team);
    for (const path of paths) await lookAt(own, path);
    await expect(own.getByRole('navigation', { name: 'Main' })).toBeHidden();
    // A team that types another address is led back to its own lesson.
    await own.goto('/lessons');
    await expect(own).toHaveURL(new RegExp(`/teams/${team}/`));
    await context.close();
  }
  const link = await page.locator('a[href*="/board/"]').getAttribute('href');
  const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'block' });
  await context.addCookies([{ ...OUTSIDE, url: server.url }]);
  const board = await context.newPage();
  await board.goto(new URL(link!).pathname);
  await expect(board).toHaveURL(/\/board$/);
  await lookAt(board, '/board');
  await context.close();
});

test('a barrier that is put on a page is found', async ({ page }) => {
  await page.goto('/kits');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.evaluate(() => {
    document
      .querySelector('main')!
      .insertAdjacentHTML('beforeend', '<img src="x.png"><p id="faint">faint</p>');
    const { style } = document.getElementById('faint')!;
    style.color = '#bbb';
    style.background = '#ccc';
  });
  const found = (await barriers(page, null)).map((says) => says.split(':')[0]);
  expect(found.sort()).toEqual(['color-contrast', 'image-alt']);
  expect(await barriers(page, ['color-contrast'])).toHaveLength(1);
});
