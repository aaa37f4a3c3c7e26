import { readFileSync } from 'node:fs';
import { barriers } from './barriers.ts';
import { expect, test } from './test.ts';

const lesson = 'follow-the-channel';
const script = `sensor floor is light on K3
sensor seen is colour on K4
repeat until seen is red
  steer 0.3 * (floor - 46) at 50 %
end
stop
`;

test.describe('by touch', () => {
  test.use({ hasTouch: true, viewport: { width: 768, height: 1024 } });

  test('a team tunes Follow the channel from a lost line to a proved one, as it is advised', async ({
    page,
  }) => {
    await page.goto(`/teams/4/lessons/${lesson}/try`);
    // Their robot needs an eye for the red berth.
    const ask = async <T>(path: string) => (await (await page.request.get(path)).json()) as T;
    const { build: own, revision } = await ask<{ build: object; revision: number }>('/api/robots/4');
    const bench = await ask<{ lesson: { robot: { build: object } } }>(`/api/lessons/${lesson}/bench`);
    const put = (build: object, at: number) =>
      page.request.patch('/api/robots/4', { data: { revision: at, build } });
    expect((await put(bench.lesson.robot.build, revision)).status()).toBe(204);
    const answer = await page.request.post(`/api/teams/4/lessons/${lesson}/script-versions`, {
      data: { text: script, basedOn: 0 },
    });
    expect(answer.status()).toBe(201);
    await page.goto(`/teams/4/lessons/${lesson}/try`);
    await page.getByRole('button', { name: 'Tune the numbers' }).tap();
    await expect(page.getByText('breaks a sentence')).toBeVisible();
    await page.getByRole('button', { name: 'Take this run as the first trial' }).tap();
    const next = page.getByRole('article', { name: 'What next?' });
    await expect(next).toContainText('Set gain to 1.');
    await expect(next).toContainText('Find the speed first, with a gain of 1');
    // Told step by step until it holds the line; each step is a trial.
    const told = next.getByRole('button', { name: 'Try that' });
    for (let i = 0; i < 10 && (await told.isVisible()); i++) {
      const before = await next.textContent();
      await told.tap();
      await expect.poll(() => next.textContent()).not.toBe(before);
    }
    await expect(page.getByText('keeps to the lesson', { exact: true })).toBeVisible();
    await expect(next).toContainText('prove it');
    // One number at a time, by a finger: less, more, typed, and back to what the script says.
    const gain = page.getByRole('group', { name: 'gain', exact: true });
    const typed = gain.getByRole('textbox');
    const before = await typed.inputValue();
    await gain.getByRole('button', { name: /^gain more/ }).tap();
    await expect(typed).not.toHaveValue(before);
    await typed.fill('abc');
    await typed.press('Enter');
    await expect(typed).not.toHaveValue('abc');
    await typed.fill('1,2');
    await typed.press('Enter');
    await expect(typed).toHaveValue('1.2');
    // Any number of the script becomes a slider by a tap on it, and goes again.
    await page.getByRole('button', { name: /^floor target, 46/ }).tap();
    await expect(page.getByRole('slider', { name: 'floor target' })).toBeVisible();
    await page.getByRole('button', { name: /^floor target, 46/ }).tap();
    await expect(page.getByRole('slider', { name: 'floor target' })).toBeHidden();
    // The walk has every step, with what was changed.
    await page.getByRole('button', { name: 'table', exact: true }).tap();
    await expect(page.getByRole('row', { name: /gain 0.3 → 1/ })).toContainText('simulated');
    expect(await barriers(page, null)).toEqual([]);
    await page.getByRole('button', { name: 'Keep in the script' }).tap();
    await expect(page.getByText(/^Kept as version 2 of the script/)).toBeVisible();
    await expect(page.getByText('as in the script').first()).toBeVisible();
    const { script: kept } = (await (await page.request.get(`/api/teams/4/lessons/${lesson}`)).json()) as {
      script: { text: string };
    };
    expect(kept.text).toContain('steer 1.2 * (floor - 46) at');

    await page.goto(`/teams/4/lessons/${lesson}/prove`);
    await page.getByRole('button', { name: /^Prove with/ }).tap();
    await expect(page.getByText('proved', { exact: true })).toBeVisible({ timeout: 60_000 });
    const now = await ask<{ revision: number }>('/api/robots/4');
    expect((await put(own, now.revision)).status()).toBe(204);
  });
});

test('sliders by keys: the trail follows at once, and a trial is kept when they rest', async ({ page }) => {
  await page.goto('/teams/1/lessons/tide-line/try?view=tune');
  const slider = page.getByRole('slider', { name: 'speed' });
  await slider.focus();
  const walk = page.getByRole('img', { name: /^speed against past the line/ });
  const trials = async () =>
    Number(/over (\d+) trials/.exec((await walk.getAttribute('aria-label')) ?? '')?.[1]);
  const before = await trials();
  const outcome = page.getByRole('group', { name: 'What came out' });
  // From a key to the new way on the mat: the longest of ten.
  const slowest = await page.evaluate(async () => {
    const input = document.querySelector<HTMLInputElement>('input[type=range]')!;
    const told = document.querySelector('[aria-label="What came out"]')!;
    const value = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!;
    let worst = 0;
    for (let i = 1; i <= 10; i++) {
      const before = told.textContent;
      const from = performance.now();
      value.set!.call(input, String(30 + 6 * i));
      input.dispatchEvent(new Event('input', { bubbles: true }));
      while (told.textContent === before && performance.now() - from < 2000)
        await new Promise((resolve) => requestAnimationFrame(resolve));
      worst = Math.max(worst, performance.now() - from);
    }
    return worst;
  });
  console.log(`from a slider to the new way: ${slowest.toFixed(0)} ms at most`);
  await slider.fill('50');
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  await expect(outcome).toContainText('was');
  await expect(slider).toHaveAttribute('aria-valuetext', '55 %');
  // Twenty-five steps on the way are one trial.
  await expect.poll(trials).toBe(before + 1);
  // A trial that the server did not get is kept when its number is let go of once more.
  await page.context().setOffline(true);
  const typed = page.getByRole('textbox', { name: /^speed, typed/ });
  await typed.fill('44');
  await typed.press('Enter');
  await expect(page.getByText(/server does not answer/).first()).toBeVisible();
  await page.context().setOffline(false);
  await typed.fill('44');
  await typed.press('Enter');
  await expect.poll(trials).toBe(before + 2);
  await expect(page.getByRole('button', { name: 'Put back' })).toBeEnabled();
  await page.getByRole('button', { name: 'Put back' }).click();
  await expect(slider).toHaveAttribute('aria-valuetext', '30 %');
});

test('a teacher sweeps, cancels, sweeps again and takes the table away', async ({ page }) => {
  await page.goto(`/lessons/${lesson}/tuning`);
  await page.getByRole('button', { name: /^Sweep 441 points/ }).click();
  await page.getByRole('button', { name: /^Cancel at/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'cut off' })).toBeVisible();
  await page.getByLabel('to', { exact: true }).fill('0.2');
  await expect(page.getByRole('alert')).toHaveText('Each range goes from a smaller number to a larger one.');
  await expect(page.getByRole('button', { name: /^Sweep/ })).toBeDisabled();
  await page.getByLabel('to', { exact: true }).fill('2.4');
  await page.getByRole('button', { name: '11', exact: true }).click();
  await page.getByRole('button', { name: '5', exact: true }).click();
  await page.getByRole('button', { name: /^Sweep 121 points/ }).click();
  await expect(page.getByRole('status').filter({ hasText: /^121 of 121 points, \d+ runs, in/ })).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('img', { name: /of 121 points are safe/ })).toBeVisible();
  await expect(page.getByText(/^Who guesses both passes with \d/)).toBeVisible();
  await expect(page.getByText(/By hand: gain 1, speed up to/)).toBeVisible();
  const waits = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV' }).click();
  const text = readFileSync(await (await waits).path(), 'utf8');
  expect(text.split('\r\n').length).toBe(121 + 2);
  expect(text).toMatch(/^gain,"speed, %",runs,runs that pass/);
  await page.getByRole('button', { name: 'table', exact: true }).click();
  await expect(page.getByRole('row')).toHaveCount(122);
  expect(await barriers(page, null)).toEqual([]);

  // Every team’s walk, side by side.
  await page.goto('/lessons/tide-line/tuning?view=walks');
  await expect(page.getByRole('link', { name: 'Dunlin' })).toBeVisible();
  await expect(page.getByText('is there').first()).toBeVisible();
});

test('what if it were more: four followers on one channel, with the rules and the working', async ({
  page,
}) => {
  await page.goto('/workings/more');
  for (const name of ['Two states', 'In proportion (P)', 'With the rate (PD)', 'With rate and sum (PID)'])
    await expect(page.getByRole('article', { name })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText(/it just keeps swinging at/)).toBeVisible();
  const pid = page.getByRole('article', { name: 'With rate and sum (PID)' });
  await pid.getByText('its script and where its numbers come from').click();
  await expect(pid).toContainText('Ziegler and Nichols 1942');
  await expect(pid).toContainText('set sum to clamp(');
  await page.getByRole('button', { name: '10', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'How much gain is too much, at 10 %?' })).toBeVisible();
});
