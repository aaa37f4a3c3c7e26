// npm run screenshots: one current picture of each main view, from the demo data, into docs/screenshots.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { ensureBuilt, ensureInstalled, root } from './lib.mjs';

ensureInstalled();
ensureBuilt();
const port = 4488;
const server = spawn(process.execPath, ['server/dist/main.js'], {
  cwd: root,
  env: {
    ...process.env,
    VIGILUM_DEMO: '1',
    PORT: String(port),
    DATA_DIR: join(mkdtempSync(join(tmpdir(), 'vigilum-')), 'data'),
  },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise((resolve) => server.stdout.once('data', resolve));
const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });
const browser = await chromium.launch({
  executablePath:
    process.env.CHROMIUM ??
    ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find(existsSync) ??
    '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});

const stage = (team, name) => `/teams/${team}/lessons/tide-line/${name}`;
const views = [
  { name: 'today', path: '/' },
  { name: 'live', path: '/hours/1/live' },
  {
    name: 'tablet',
    door: ({ teams }) => `/card/${teams[4].card}`,
    size: [768, 1024],
    path: stage(5, 'floor'),
  },
  { name: 'board', door: ({ board }) => `/board/${board}`, path: '/board' },
  {
    name: 'read',
    path: stage(2, 'read'),
    act: (page) => page.getByRole('button', { name: 'over the tide line' }).click(),
  },
  { name: 'decide', path: stage(2, 'decide') },
  { name: 'script', path: stage(4, 'script') },
  {
    name: 'try',
    path: stage(4, 'try'),
    act: async (page) => (await page.keyboard.press('r'), await page.waitForTimeout(4500)),
  },
  {
    name: 'prove-worst-run-night',
    path: stage(3, 'prove'),
    theme: 'nightwatch',
    act: async (page) => (
      await page.getByRole('button', { name: 'Replay the worst run' }).click(),
      await page.waitForTimeout(2500)
    ),
  },
  { name: 'floor', path: stage(5, 'floor') },
  {
    name: 'tune',
    path: `${stage(5, 'try')}?view=tune`,
    act: async (page) => {
      for (const to of ['45', '38']) {
        await page.getByRole('textbox', { name: /^speed, typed/ }).fill(to);
        await page.getByRole('textbox', { name: /^speed, typed/ }).press('Enter');
        await page.waitForTimeout(1200);
      }
    },
  },
  {
    name: 'tuning',
    path: '/lessons/follow-the-channel/tuning',
    act: async (page) => (
      await page.keyboard.press('g'),
      await page.getByText(/, in [\d.]+ s/).waitFor({ timeout: 120_000 })
    ),
  },
  {
    name: 'course',
    path: '/courses/lesson/through-the-basin',
    act: (page) => page.getByRole('button', { name: 'wall 3', exact: true }).focus(),
  },
  {
    name: 'plan-calendar',
    path: '/plan',
    act: async (page) => (
      await page.getByRole('button', { name: 'Term', exact: true }).click(),
      await page.getByRole('button', { name: 'Ways out' }).click(),
      await page.waitForTimeout(1500)
    ),
  },
  { name: 'plan-cupboard', path: '/plan/cupboard' },
  {
    name: 'report',
    path: '/classes/1/report?with=2',
    act: (page) => page.waitForTimeout(2500),
  },
  { name: 'logbook', path: '/teams/5/logbook', act: (page) => page.waitForTimeout(2500) },
  { name: 'builder', path: '/lessons/stop-short/build/steps?step=script' },
  { name: 'handout', path: '/lessons/tide-line/print/handout', size: [1000, 1400] },
];

const base = `http://127.0.0.1:${port}`;
const doors = await (await fetch(`${base}/api/classes/1/doors`)).json();
for (const { name, path, door, theme = 'daywatch', size = [1280, 800], act } of views) {
  const page = await browser.newPage({ viewport: { width: size[0], height: size[1] } });
  if (door) {
    // As a team or a projector sees it: in by its own door.
    await page.context().addCookies([{ name: 'vigilum', value: 'out', url: base }]);
    await page.goto(base + door(doors));
    await page.waitForURL((url) => !/(card|board)\/./.test(url.pathname));
  }
  await page.addInitScript((wanted) => localStorage.setItem('theme', wanted), theme);
  await page.goto(base + path);
  await page.waitForTimeout(1500);
  await act?.(page);
  await page.waitForTimeout(700);
  await page.screenshot({ path: join(out, `${name}.png`) });
  await page.close();
}
await browser.close();
server.kill();
