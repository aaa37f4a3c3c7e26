import { expect, test, type Page } from './test.ts';
import { open, reads, stage } from './team.ts';

/** Moves a slider of the stand-in's hands and lets it go. */
async function slide(page: Page, label: string, value: number) {
  const slider = page.getByLabel(new RegExp(`^${label}`));
  await slider.fill(String(value));
  await slider.press('ArrowUp');
}

test('one slow sweep finds the surfaces and the split, and opens a method of threshold', async ({ page }) => {
  await open(page, 'Shag', 'decide');
  await expect(page.getByText('No sweep was recorded.')).toBeVisible();
  await page.getByRole('link', { name: 'Sweep' }).click();
  await expect(page.getByText('Nothing recorded yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Drag it for me' }).click();
  await expect(page.getByText(/Recording: \d+ looks/)).toBeVisible();
  await expect(page.getByText(/It splits at \d/)).toBeVisible();
  await expect(page.getByText(/\d+ looks, just now/)).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole('row', { name: /^7\d\.\d/ })).toContainText('2 times');
  await stage(page, 'Decide').click();
  await page.getByRole('radio', { name: /Split of a sweep/ }).check();
  await expect(page.getByText(/share of the variance/)).toBeVisible();
  // Whoever takes another than the recommended one is asked why; which that is depends on this very drag.
  const why = page.getByLabel(/^why not/);
  const asked = (await page.getByRole('row', { name: /Split of a sweep.*recommended/ }).count()) === 0;
  if (asked) await why.fill('we had no time to name the surfaces');
  await page.getByRole('button', { name: /^Use \d+ %/ }).click();
  await expect(page).toHaveURL(/\/script$/);
  await stage(page, 'Decide').click();
  if (asked) await expect(why).toHaveValue('we had no time to name the surfaces');
  await expect(page.getByRole('link', { name: /In use: on to Script/ })).toBeVisible();
});

test('the room light changes: five quick looks raise the alarm, and reading again settles it', async ({
  page,
}) => {
  await open(page, 'Dunlin', 'read');
  await page.getByRole('button', { name: 'Still true?' }).click();
  await page.getByRole('button', { name: 'over the tide line' }).click();
  await page.getByRole('radio', { name: /tide line/ }).check();
  await page.getByRole('button', { name: 'more hands' }).click();
  await slide(page, 'room light', 20);
  await reads(page, 18, 25);
  await page.getByRole('button', { name: /Take 5 quick looks/ }).click();
  await expect(page.getByRole('row', { name: /tide line/ })).toContainText('keep');
  await expect(page.getByText(/the readings still hold\./)).toBeVisible();

  await slide(page, 'room light', 95);
  await reads(page, 27, 45);
  await page.getByRole('button', { name: /Take 5 quick looks/ }).click();
  await expect(page.getByRole('row', { name: /tide line/ })).toContainText('read again');
  await expect(page.getByText(/of the margin is gone/)).toBeVisible();
  await page.goto('/class/1');
  await expect(page.getByRole('row', { name: /Dunlin/ })).toContainText('stale: the light has changed');

  await open(page, 'Dunlin', 'read');
  await page.getByRole('radio', { name: /tide line/ }).check();
  await page.getByRole('button', { name: /Take 20 readings/ }).click();
  await expect(page.getByText(/, n 20, just now/)).toHaveCount(1);
  await expect(page.getByRole('button', { name: 'Still true?', exact: true })).toBeVisible();
});

test('a file with faults: each told with its line, nothing half imported', async ({ page }) => {
  await page.goto('/robots/10/files');
  const input = page.locator('input[type=file]');
  await input.setInputFiles({ name: 'empty.csv', mimeType: 'text/csv', buffer: Buffer.from('') });
  await expect(page.getByRole('alert')).toHaveText('empty.csv: The file is empty.');

  const csv = [
    'place;measured;note',
    'slipway;41,5;lamps on',
    'slipway;42;lamps on',
    'slipway;soon;lamps on',
    'moss;63;lamps on',
    'moss;640;lamps on',
    'moss;64',
  ].join('\r\n');
  await input.setInputFiles({ name: 'morning.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  // “measured” is no name that can be guessed.
  await expect(page.getByText('6 rows of 6 cannot be taken.')).toBeVisible();
  await expect(page.getByText('No column holds the readings.').first()).toBeVisible();
  await page.getByLabel('reading', { exact: true }).selectOption({ label: 'measured, e.g. 41,5' });
  await page.getByLabel('socket for all lines').selectOption('S-b');
  await page.getByLabel('what all lines measure').selectOption('light');
  await expect(page.getByText('3 rows of 6 cannot be taken.')).toBeVisible();
  const faults = page.getByRole('list', { name: 'Faulty rows' });
  await expect(faults).toContainText('line 4value: “soon” is not a number.');
  await expect(faults).toContainText('line 6value: 640 % is outside what the sensor can read');
  await expect(faults).toContainText('line 72 fields instead of 3');
  const send = page.getByRole('button', { name: 'Import 2 sets' });
  await expect(send).toBeDisabled();
  await page.getByLabel('leave out 3 faulty rows').check();
  await send.click();
  await expect(page.getByText('2 sets of readings imported.')).toBeVisible();
  await page.getByRole('link', { name: 'Read', exact: true }).click();
  await page.getByRole('button', { name: 'S-b reflected light' }).click();
  await expect(page.getByText(/41\.8±0\.4, n 2/)).toBeVisible();
  await expect(page.getByText('lamps on').first()).toBeVisible();
});

test('a hundred thousand readings come in with progress, and the page stays awake', async ({ page }) => {
  // A socket that holds nothing: no other view of the robot shows these.
  await page.goto('/robots/9/files');
  const rows = ['surface,value,socket,kind'];
  for (let i = 0; i < 100_000; i++) rows.push(`slipway ${i % 20},${20 + ((i * 7) % 60)},K6,light`);
  const ticks = page.evaluate(async () => {
    let longest = 0;
    let last = performance.now();
    const until = last + 4000;
    while (last < until) {
      await new Promise((resolve) => setTimeout(resolve, 10));
      const now = performance.now();
      longest = Math.max(longest, now - last);
      last = now;
    }
    return longest;
  });
  await page.locator('input[type=file]').setInputFiles({
    name: 'term.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.join('\n')),
  });
  await expect(page.getByText('All 100000 rows can be taken.')).toBeVisible({ timeout: 30_000 });
  // Far above what is seen, far below what reading the file on the page's own thread would take.
  const longest = await ticks;
  console.log(`the page was never busy for longer than ${Math.round(longest)} ms`);
  expect(longest).toBeLessThan(3500);
  await page.getByRole('button', { name: 'Import 20 sets' }).click();
  await expect(page.getByText('20 sets of readings imported.')).toBeVisible({ timeout: 30_000 });
  const { sets } = (await (await page.request.get('/api/robots/9/readings')).json()) as {
    sets: { id: number; surface: string; values: number[]; of?: { n: number } }[];
  };
  expect(sets.filter((s) => s.surface.startsWith('slipway'))).toHaveLength(20);
  // Pages get a sample with the figures of the whole; the whole is there.
  const third = sets.find((s) => s.surface === 'slipway 3')!;
  expect(third.of!.n).toBe(5000);
  const whole = await page.request.get(`/api/sample-sets/${third.id}`);
  expect(((await whole.json()) as { values: number[] }).values).toHaveLength(5000);
});

test('a distance sensor against the ruler, and the threshold for a stop gap', async ({ page }) => {
  await page.goto('/robots/9/read?socket=K2');
  await expect(page.getByText('It reads 2.5 % too long.')).toBeVisible();
  await page.getByLabel('true distance, cm').fill('45');
  await page.getByRole('button', { name: 'Put a wall there' }).click();
  await reads(page, 44, 48);
  await page.getByRole('button', { name: /Take 10 readings/ }).click();
  await expect(page.getByRole('row', { name: /^45 4[56]\./ })).toBeVisible();
  await page.getByRole('button', { name: 'in', exact: true }).click();
  await expect(page.getByRole('row', { name: /^17\.7 18\./ })).toBeVisible();
  await page.getByRole('button', { name: 'cm', exact: true }).click();
  await page.getByRole('button', { name: 'Stop gap' }).click();
  const use = page.getByRole('button', { name: /^Use [\d.]+ cm on K2/ });
  const at = async () => Number(/[\d.]+/.exec(await use.innerText())![0]);
  const slow = await at();
  await page.getByLabel('speed, % of full').fill('90');
  expect(await at()).toBeGreaterThan(slow);
  await page.getByLabel('speed, % of full').fill('0');
  await expect(page.getByText('A speed above 0, at most 100 %.')).toBeVisible();
  await page.getByLabel('speed, % of full').fill('30');
  await use.click();
  await expect(page.getByText(`in use: ${slow} cm (stop gap)`)).toBeVisible();
});

test('presses are recorded, counted and timed', async ({ page }) => {
  await page.goto('/robots/8/read?socket=K1');
  // Last week's record is there; without it there is nothing.
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('Nothing recorded yet.')).toBeVisible();
  await page.getByRole('button', { name: /^Record/ }).click();
  for (let i = 0; i < 2; i++) {
    // What is read is waited for: the same words stand beside it as an explanation.
    const reads = (word: string) =>
      page.getByText(word, { exact: true }).and(page.locator('.font-mono')).first();
    await page.getByRole('button', { name: 'press the bumper' }).click();
    await expect(reads('pressed')).toBeVisible();
    await page.waitForTimeout(300);
    await page.getByRole('button', { name: 'let it go' }).click();
    await expect(reads('released')).toBeVisible();
    await page.waitForTimeout(300);
  }
  await page.getByRole('button', { name: /Stop and keep it/ }).click();
  await expect(page.getByText(/2 presses, 2 bumps, the longest held/)).toBeVisible();
});

test('a guided check: a heading that creeps at rest is found and noted', async ({ page }) => {
  await page.goto('/robots/4/check');
  await page.getByRole('button', { name: /K5 heading/ }).click();
  await expect(page.getByText(/Hold the robot still/)).toBeVisible();
  await expect(page.getByText(/The heading creeps/)).toBeVisible({ timeout: 15_000 });
  await page.getByRole('button', { name: 'turn right 90°' }).click();
  await expect(page.getByText(/It reacts: from/)).toBeVisible();
  await page.getByRole('button', { name: 'Note: it reacts' }).click();
  await expect(page.getByRole('button', { name: /K5 heading.*reacts, just now/ })).toContainText('creeps');
});

test('a real device on a cable takes over from its stand-in, and says so when it talks nonsense', async ({
  page,
}) => {
  // A serial port of this browser with a robot at its end that speaks the documented lines.
  await page.addInitScript(() => {
    const port = (talk: (send: (line: string) => void) => void) => {
      let closed = false;
      return {
        open: async () => undefined,
        close: async () => undefined,
        writable: new WritableStream<Uint8Array>(),
        readable: new ReadableStream<Uint8Array>({
          start(controller) {
            const send = (line: string) => {
              if (!closed) controller.enqueue(new TextEncoder().encode(line));
            };
            talk(send);
          },
          cancel() {
            closed = true;
          },
        }),
      };
    };
    let asked = 0;
    const serial = {
      requestPort: async () =>
        port((send) => {
          const good = asked++ > 0;
          let n = 0;
          setInterval(() => {
            n++;
            // Pieces that do not end with the line, as a cable gives them.
            send(good ? `r ${n * 60} K2 12` : 'boot v1 ');
            send(good ? `3.4\nr ${n * 60} K1 1\n` : 'ready\n');
          }, 60);
        }),
    };
    Object.defineProperty(navigator, 'serial', { value: serial, configurable: true });
  });
  await page.goto('/robots/7/bench');
  const distance = page.getByRole('article', { name: 'K2, distance' });
  await expect(distance).toContainText('no reading');
  await page.getByRole('button', { name: 'Connect by cable' }).click();
  await expect(
    page.getByText(/None of the lines is of the line protocol; the first is “boot v1 ready”/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Disconnect' }).click();
  await page.getByRole('button', { name: 'Connect by cable' }).click();
  await expect(distance).toContainText('123.4');
  await expect(page.getByRole('article', { name: 'K1, touch' })).toContainText('pressed');
  await expect(page.getByText(/itself, by its cable: \d+ readings so far/)).toBeVisible();
  await page.getByRole('button', { name: 'Disconnect' }).click();
  await expect(distance).toContainText('no reading', { timeout: 15_000 });
});
