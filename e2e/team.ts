import {
  expect,
  type Browser,
  type BrowserContext,
  type BrowserContextOptions,
  type Locator,
  type Page,
} from './test.ts';

/** Teams of the demo by their place in the room. */
export const teams = {
  Gannet: 1,
  Plover: 2,
  Curlew: 3,
  Fulmar: 4,
  Dunlin: 5,
  Avocet: 6,
  Petrel: 7,
  Shag: 8,
} as const;

/** Opens a stage of a team's lesson and waits for its heading. */
export async function open(page: Page, team: keyof typeof teams, stage: string): Promise<void> {
  await page.goto(`/teams/${teams[team]}/lessons/tide-line/${stage}`);
  await expect(page.getByRole('heading', { level: 1, name: `${team} · Tide line` })).toBeVisible();
}

/** A stage on the watch strip. */
export const stage = (page: Page, name: string): Locator =>
  page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: new RegExp(`^${name}`) });

/** Waits until the robot says a number in this range: a hand has put it where it should be. */
export async function reads(page: Page, low: number, high: number): Promise<void> {
  await expect(async () => {
    const figure = Number(await page.locator('.text-figure').first().textContent());
    expect(figure).toBeGreaterThanOrEqual(low);
    expect(figure).toBeLessThanOrEqual(high);
  }).toPass({ timeout: 15_000, intervals: [50] });
}

/** Replaces the whole script in the editor by typing. */
export async function writeScript(page: Page, text: string): Promise<void> {
  const editor = page.getByRole('textbox', { name: 'Script, one step a line' });
  await editor.click();
  await page.keyboard.press('ControlOrMeta+A');
  await page.keyboard.press('Delete');
  for (const [i, line] of text.split('\n').entries()) {
    if (i > 0) {
      // Escape closes a list of completions, so that Enter starts a line and picks no word.
      await page.keyboard.press('Escape');
      await page.keyboard.press('Enter');
    }
    await page.keyboard.type(line);
  }
  await page.keyboard.press('Escape');
}

/** Gives a team a script to begin with, as its newest version. */
export async function give(page: Page, team: keyof typeof teams, text: string): Promise<void> {
  const lesson = `/api/teams/${teams[team]}/lessons/tide-line`;
  const { script } = (await (await page.request.get(lesson)).json()) as {
    script: { version: number; text: string } | null;
  };
  if (script?.text === text) return;
  const basedOn = script?.version ?? 0;
  const answer = await page.request.post(`${lesson}/script-versions`, { data: { text, basedOn } });
  expect(answer.status()).toBe(201);
}

/** What a page of the demo's own machine is not: nobody, so that the doors are shown. */
export const OUTSIDE = { name: 'vigilum', value: 'out' };

/** A browser of its own in which a team has come in by its card. `page` is the teacher's, at some page of the same server. */
export async function tablet(
  browser: Browser,
  page: Page,
  url: string,
  team: number,
  options: BrowserContextOptions = {},
): Promise<{ context: BrowserContext; page: Page }> {
  const doors = await page.evaluate(
    async () =>
      (await (await fetch('/api/classes/1/doors')).json()) as { teams: { id: number; card: string }[] },
  );
  const { card } = doors.teams.find(({ id }) => id === team)!;
  const context = await browser.newContext({ baseURL: url, serviceWorkers: 'block', ...options });
  await context.addCookies([{ ...OUTSIDE, url }]);
  const own = await context.newPage();
  await own.goto(`${url}/card/${card}`);
  await expect(own).toHaveURL(new RegExp(`/teams/${team}/`));
  return { context, page: own };
}
