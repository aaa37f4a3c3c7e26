import { expect, test, type Page } from './test.ts';
import { open } from './team.ts';

/** A log as a robot might write it: drives up to the line and stops `past` mm beyond its near edge. */
function logOf(past: number): string {
  const rows = ['time_ms,x_mm,y_mm,bearing,speed,K3'];
  const end = 570 + past - 80;
  for (let t = 0; t <= 4000; t += 20) {
    const y = Math.min(end, 150 + 0.16 * t);
    rows.push(`${t},200,${y.toFixed(1)},0,${y < end ? 160 : 0},${y + 80 > 575 ? 22 : 75}`);
  }
  return rows.join('\n');
}

const file = (name: string, text: string, mimeType = 'text/csv') => ({
  name,
  mimeType,
  buffer: Buffer.from(text),
});
const noErrors = (page: Page): string[] => {
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => void (message.type() === 'error' && problems.push(message.text())));
  return problems;
};

test('predict, run, scrub, and lay the run before under it', async ({ page }) => {
  const problems = noErrors(page);
  await page.goto('/lessons/harbour-rules/try');
  await page.getByRole('button', { name: /^Run from A/ }).click();
  const time = page.getByRole('slider', { name: 'Time in the run' });
  await expect(time).toBeVisible();
  // At nine seconds it waits for the ferry; the step, the trace and the mat are at the same moment.
  await time.fill('9');
  await expect(time).toHaveAttribute('aria-valuetext', '9.00 seconds');
  await expect(page.getByRole('img', { name: /robot at 9\.0 seconds/ })).toBeVisible();
  await page.getByLabel('over time').selectOption({ label: 'front (K2)' });
  await expect(page.getByRole('img', { name: /front \(K2\) over/ })).toBeVisible();
  await time.fill('45');
  await expect(page.getByText('Waits while the ferry is there')).toBeVisible();
  await page.getByRole('radio', { name: 'B' }).click();
  await page.getByRole('button', { name: /^Run from B/ }).click();
  await page.getByLabel('compare with').selectOption('before');
  await expect(page.getByRole('img', { name: /the other run is dashed/ })).toBeVisible();

  await open(page, 'Gannet', 'try');
  await page.getByLabel(/how far past the edge/).fill('20');
  await page.getByRole('button', { name: /^Run from A/ }).click();
  await expect(page.getByText(/You said 20 mm, it was \d+(\.\d)? mm/)).toBeVisible({ timeout: 15_000 });
  expect(problems).toEqual([]);
});

test('a typed expectation shows what it means, judges model answer and faults, and is kept until taken back', async ({
  page,
}) => {
  await page.goto('/lessons/round-the-buoy/expect');
  await page.getByLabel('Add: the robot').selectOption({ label: 'keeps … clear of walls and boxes' });
  await page.getByLabel('room, mm').fill('160');
  const says = page.getByRole('listitem').filter({ hasText: 'model answer' });
  await expect(says).toContainText('never nearer than');
  await expect(page.getByText('always "room" > 160').or(page.getByText('always room > 160'))).toBeVisible();
  // A formula that cannot be read says why, and is not kept.
  await page.getByLabel('Add: the robot').selectOption({ label: 'a formula of your own' });
  await page.getByLabel('the formula').fill('always speed <');
  await expect(page.getByText(/a number is missing/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save for this lesson' })).toBeDisabled();
  await page.getByLabel('the formula').fill('always speed < 300');
  await page.getByRole('button', { name: 'Save for this lesson' }).click();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(
    page.getByRole('button', { name: 'Keeps 16 cm clear of walls and boxes', exact: true }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'As shipped' }).click();
  await expect(page.getByRole('button', { name: 'As shipped' })).toHaveCount(0);
});

test('proves in the page, replays the worst run, and tries harder conditions', async ({ page }) => {
  await page.goto('/lessons/count-the-lanes/prove?script=fault-0');
  await page.getByRole('button', { name: /Prove with 50 runs/ }).click();
  await expect(page.getByText('0/50').first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('fails', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Replay the worst run' }).click();
  await expect(page.getByRole('heading', { name: /^Run \d+$/ })).toBeVisible();
  await expect(page.getByText(/^shows \d+\.$/)).toBeVisible();
  await page.getByRole('button', { name: 'All runs', exact: true }).click();
  await page.getByRole('combobox', { name: 'script' }).selectOption({ label: 'model answer' });
  await page.getByText('What varies from run to run').click();
  await page.getByLabel('room light, from').fill('-40');
  await expect(page.getByText('(your own)')).toBeVisible();
  await page.getByRole('button', { name: /Prove with 50 runs/ }).click();
  await expect(page.getByText(/^(\d|[1-4]\d)\/50$/).first()).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Back to the lesson’s own' }).click();
  await expect(page.getByText('(your own)')).toHaveCount(0);
});

test('the checks’ strength is told fault by fault; a stuck team’s smallest change is found', async ({
  page,
}) => {
  await page.goto('/lessons/tide-line/strength');
  await page.getByRole('button', { name: /Break it and look/ }).click();
  await expect(page.getByText('8 of 8 faults looked at')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('row', { name: /caught 4 a stop is left out/ })).toContainText(
    'Stops within 24 mm',
  );
  await expect(page.getByText('8 caught, 0 missed')).toBeVisible();

  await page.goto('/lessons/tide-line/stuck?script=fault-0');
  await page.getByRole('button', { name: /Find it/ }).click();
  await expect(page.getByText('After line 3 add “stop”')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('Then 20 of 20 runs keep everything.')).toBeVisible();
});

test('a real robot’s log is mapped, judged by the lesson’s sentences, kept and taken away', async ({
  page,
}) => {
  await open(page, 'Curlew', 'floor');
  await page.getByRole('button', { name: 'A log of the robot' }).click();
  const choose = page.getByLabel('Log file');
  await choose.setInputFiles(file('empty.csv', 't,x\n'));
  await expect(page.getByText(/The file holds no rows/)).toBeVisible();
  await choose.setInputFiles(file('run.csv', logOf(12)));
  await expect(page.getByText('12 mm past the edge, 12 mm to spare')).toBeVisible();
  // Without the time nothing can be said, and the page says which column is missing.
  await page.getByLabel('What time_ms is').selectOption('');
  await expect(page.getByText('No column is the time.')).toBeVisible();
  await page.getByLabel('What time_ms is').selectOption('time ms');
  await page.getByRole('button', { name: 'Keep this log' }).click();
  await expect(page.getByRole('button', { name: /^run\.csv/ })).toBeVisible();
  await page.getByRole('button', { name: 'Remove the log run.csv' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /^run\.csv/ })).toBeVisible();
});

test('a mat is made from a family, changed by hand and keys, kept, printed at true size and read back', async ({
  page,
}) => {
  await page.goto('/courses/new/stop-line');
  await page.getByRole('slider', { name: /way up to the line/ }).fill('600');
  await expect(page.getByText(/76\.8|111\.8/)).toBeVisible();
  await page.getByRole('button', { name: 'By hand' }).click();
  await page.getByRole('button', { name: '+ box' }).click();
  const up = page.getByLabel('up the mat');
  const before = Number(await up.inputValue());
  await page.getByRole('button', { name: 'box 1', exact: true }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ControlOrMeta+z');
  await page.keyboard.press('ControlOrMeta+Shift+z');
  await page.getByRole('button', { name: 'box 1', exact: true }).focus();
  await expect(page.getByLabel('up the mat')).toHaveValue(String(before + 10));
  await page.getByLabel('Name of the course').fill('Our quay');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/· saved$/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'SVG in mm' }).click();
  const svg = await (await (await download).createReadStream()).toArray();
  await page.getByRole('link', { name: 'Print' }).click();
  await expect(page.getByRole('button', { name: /^Print \d+ sheets$/ })).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  const sheet = page.getByRole('img', { name: 'Sheet in row 1, column 1' });
  // 210 mm at 96 dots an inch (CSS Values and Units 3: 1in = 96px = 25.4mm).
  expect((await sheet.boundingBox())!.width).toBeCloseTo((210 / 25.4) * 96, 0);
  await page.emulateMedia({ media: 'screen' });
  await page.goto('/courses');
  await page
    .getByLabel('Course file')
    .setInputFiles(file('again.svg', Buffer.concat(svg as Buffer[]).toString(), 'image/svg+xml'));
  await expect(page.getByLabel('Name of the course')).toHaveValue('Our quay');
  await page.goto('/courses');
  await page.getByLabel('Course file').setInputFiles(file('bad.json', '{"name":"x"}', 'application/json'));
  await expect(page.getByText(/Nothing was saved/)).toBeVisible();
});

test('everything on a course can be met by a finger, 24 pixels wide at least', async ({ page }) => {
  for (const [path, width, height] of [
    ['/courses/new/stop-line', 1280, 800],
    ['/courses/lesson/piers-edge', 768, 1024],
    ['/courses/new/channel', 768, 1024],
  ] as const) {
    await page.setViewportSize({ width, height });
    await page.goto(path);
    const things = page.getByRole('group', { name: 'Things on the course' });
    await expect(things.getByRole('button').first()).toBeAttached();
    const narrow = await things.evaluate((group) =>
      [...group.querySelectorAll<SVGGElement>('g[role=button]')].flatMap((thing) => {
        const shapes = [...thing.children] as SVGGeometryElement[];
        const [first] = shapes;
        const { a: pxPerMm } = first!.getScreenCTM()!;
        const at = (n: number) => first!.getPointAtLength(n * first!.getTotalLength());
        const box = first!.getBBox();
        const [centre, on] =
          first instanceof SVGPolylineElement
            ? [at(0.5), at(0.501)]
            : [new DOMPoint(box.x + box.width / 2, box.y + box.height / 2), at(0)];
        // Twelve pixels to either side, across a line, along both axes of an area.
        const turn = Math.atan2(on.y - centre.y, on.x - centre.x) + Math.PI / 2;
        const across =
          first instanceof SVGPolylineElement
            ? [turn, turn + Math.PI]
            : [0, 1, 2, 3].map((k) => (k * Math.PI) / 2);
        const met = across.every((angle) => {
          const p = new DOMPoint(
            centre.x + (12 / pxPerMm) * Math.cos(angle),
            centre.y + (12 / pxPerMm) * Math.sin(angle),
          );
          return shapes.some((shape) => shape.isPointInFill(p) || shape.isPointInStroke(p));
        });
        return met ? [] : [thing.getAttribute('aria-label')];
      }),
    );
    expect([path, narrow]).toEqual([path, []]);
  }
});
