import { expect, test, type Page } from './test.ts';
import { give, open, writeScript } from './team.ts';

const text = (page: Page) => page.getByRole('textbox', { name: 'Script, one step a line' });
const view = (page: Page, name: string) =>
  page.getByRole('group', { name: 'View' }).getByRole('button', { name, exact: true });
const row = (page: Page, name: string | RegExp) =>
  page.getByRole('list', { name: 'Steps' }).getByRole('button', { name });
const review = (page: Page) =>
  page.locator('section', { has: page.getByRole('heading', { name: 'Review' }) });

test.describe('on a tablet, by touch', () => {
  test.use({ hasTouch: true, viewport: { width: 768, height: 1024 } });

  test('count the lanes is put together step by step; the missing re-arm is found and mended', async ({
    page,
  }) => {
    await give(page, 'Plover', '');
    await open(page, 'Plover', 'script?view=steps');
    const add = async (where: RegExp, code: string) => {
      await page.getByRole('button', { name: where }).tap();
      const dialog = page.getByRole('dialog');
      await dialog.getByText(code, { exact: true }).tap();
      await expect(dialog).toBeHidden();
    };
    await add(/^Add a step/, 'drive 30 %');
    await add(/^Add a step below/, 'repeat for 10 s … end');
    await add(/^Add a step below/, 'wait until floor < threshold');
    await add(/^Add a step below/, 'set count to count + 1');
    await row(page, /: end$/).tap();
    await add(/^Add a step below/, 'stop');
    await add(/^Add a step below/, 'show "count: " and count');

    const finding = review(page).getByText('“count” is raised again and again for one.');
    await expect(finding).toBeVisible();
    await expect(row(page, /set count to count \+ 1$/).locator('..')).toContainText('fault');
    await review(page).getByRole('button', { name: 'Add “wait until floor >= threshold”' }).tap();
    await expect(finding).toBeHidden();

    // The number of a step is changed in its place, and its unit with it.
    await row(page, /: drive 30 %$/).tap();
    await page.getByLabel('number in %').fill('25');
    await view(page, 'Text').tap();
    await expect(text(page)).toContainText('drive 25 %');
    expect(await text(page).innerText()).toMatch(
      /repeat for 10 s\n\s+wait until floor < threshold\n\s+set count to count \+ 1\n\s+wait until floor >= threshold\nend\nstop\nshow "count: " and count/,
    );
    await expect(page.getByText('saved', { exact: true })).toBeVisible();
  });
});

test('a step is moved by keys alone, in and out of blocks, and undo works across both views', async ({
  page,
}) => {
  await give(
    page,
    'Curlew',
    'sensor floor is light on K3\nbeep\ndrive 30 %\nrepeat 2 times\n  clear\nend\nstop\n',
  );
  await open(page, 'Curlew', 'script?view=steps');
  const now = async () => {
    const list = await page.getByRole('list', { name: 'Steps' }).getByRole('listitem').allInnerTexts();
    return list.map((line) =>
      line
        .replace(/\s+/g, ' ')
        .replace(/^\d+ /, '')
        .replace(/ (Add below|fault|risk|note).*$/, ''),
    );
  };
  await row(page, 'Line 2: beep').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(async () => (await now()).slice(1, 3)).toEqual(['drive 30 %', 'beep']);
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Alt+ArrowDown');
  // It is in the repeat now, after the step that was there.
  await expect
    .poll(async () => (await now()).slice(2, 6))
    .toEqual(['repeat 2 times', 'clear', 'beep', 'end']);
  await page.keyboard.press('Alt+ArrowLeft');
  await expect.poll(async () => (await now()).slice(3, 6)).toEqual(['clear', 'end', 'beep']);
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await now()).slice(2, 5)).toEqual(['repeat 2 times', 'end', 'beep']);

  // The text view shows the same text and takes the same steps back.
  await view(page, 'Text').press('Enter');
  await expect(text(page)).not.toContainText('clear');
  await page.getByRole('button', { name: 'Undo' }).press('Enter');
  await expect(text(page)).toContainText('clear');
  await view(page, 'Steps').press('Enter');
  await expect(row(page, 'Line 4: clear')).toBeVisible();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await now()).slice(1, 3)).toEqual(['beep', 'drive 30 %']);
  await page.keyboard.press('Control+y');
  await expect.poll(async () => (await now()).slice(1, 3)).toEqual(['drive 30 %', 'beep']);
});

test('a step is dragged to another place, a block with all it holds', async ({ page }) => {
  await give(page, 'Curlew', 'repeat 2 times\n  beep\nend\ndrive 30 % for 5 cm\nstop\n');
  await open(page, 'Curlew', 'script?view=steps');
  const handle = page.getByRole('button', { name: 'Drag line 1', includeHidden: true });
  const goal = (await row(page, 'Line 4: drive 30 % for 5 cm').boundingBox())!;
  await handle.hover();
  await page.mouse.down();
  await page.mouse.move(goal.x, goal.y - 20, { steps: 8 });
  await page.mouse.move(goal.x, goal.y + goal.height + 4, { steps: 8 });
  await page.mouse.up();
  await expect(row(page, 'Line 1: drive 30 % for 5 cm')).toBeVisible();
  await expect(row(page, 'Line 3: beep')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, 'Line 1: repeat 2 times')).toBeVisible();
});

test('an older version is compared and brought back, with who saved it', async ({ page }) => {
  await open(page, 'Dunlin', 'script?view=versions');
  const versions = page.getByRole('list', { name: 'Versions' });
  await expect(versions.getByRole('button', { name: /^Version 2 .* Tomo · 3 steps/ })).toBeVisible();
  await versions.getByRole('button', { name: /^Version 1 / }).click();
  const changed = page.getByRole('region', { name: 'What changed' });
  await expect(changed).toContainText('went: wait until floor < 40');
  await expect(changed).toContainText('came: wait until floor < threshold');
  await page.getByLabel('Who writes').fill('Ines');
  await page.getByRole('button', { name: 'Bring back version 1' }).click();
  await expect(
    versions.getByRole('button', { name: /^Version 4 .* Ines · 2 steps · brought back 1/ }),
  ).toBeVisible();
  await view(page, 'Text').click();
  await expect(text(page)).toContainText('wait until floor < 40');
  // It can be undone like any other change, and that is saved as well.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(text(page)).toContainText('wait until floor < threshold');
  await view(page, 'Versions').click();
  await expect(versions.getByRole('button', { name: /^Version 5 / })).toBeVisible();
});

test('the editor completes with this robot’s sockets, explains words and folds blocks', async ({ page }) => {
  await give(page, 'Curlew', 'sensor floor is light on K3\nrepeat 2 times\n  beep\nend\n');
  await open(page, 'Curlew', 'script?view=text');
  await page.locator('[title="Fold line"]:visible').click();
  await expect(text(page)).not.toContainText('beep');
  await page.locator('[title="Unfold line"]:visible').click();
  await text(page).click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('sensor nose is touch on K');
  const options = page.locator('.cm-tooltip-autocomplete li');
  await expect(options.first()).toHaveText(/K1\s*bumper/);
  // A list that has only just opened takes no Enter, lest it pick what nobody saw.
  await page.waitForTimeout(200);
  await page.keyboard.press('Enter');
  await expect(text(page)).toContainText('sensor nose is touch on K1');
  await text(page)
    .getByText('floor', { exact: false })
    .first()
    .hover({ position: { x: 90, y: 8 } });
  await expect(page.locator('.cm-explanation')).toContainText('reflected light, declared on K3, in %.');
});

test('a program in the kit’s own words is carried over; what is not known is listed, and undo takes it back', async ({
  page,
}) => {
  await give(page, 'Curlew', 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\nstop\n');
  await open(page, 'Curlew', 'script?view=text');
  await page.getByRole('button', { name: 'Paste' }).click();
  await page
    .getByLabel(/^Program, Python-like/)
    .fill('move(ahead, 25)\nwhile ground() > 40:\n    hum(3)\n    pause(0.1)\nhalt()\n');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('4 of 5 statements carried over, 1 line left behind.');
  await expect(dialog).toContainText('The phrasebook does not know “hum”.');
  await dialog.getByRole('button', { name: 'Use these steps instead of the script' }).click();
  await expect(text(page)).toContainText('??? hum(3)');
  await expect(text(page)).toContainText('repeat while floor > 40');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(text(page)).toContainText('wait until floor < threshold');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
});

test('a teacher teaches a kit’s words, and a phrase that is none is named', async ({ page }) => {
  await page.goto('/kits/cobble/phrasebook');
  await page.getByRole('button', { name: 'Add a phrase' }).click();
  await page.getByLabel('Pattern 21').fill('hum($time');
  await page.getByLabel('Says 21').fill('beep for $time s');
  await expect(page.getByText('“hum($time” is no call or expression in this syntax.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save the phrasebook' })).toBeDisabled();
  await page.getByLabel('Pattern 21').fill('hum($time)');
  await page.getByLabel('a program in these words').fill('hum(2)');
  await expect(page.getByLabel('The steps')).toContainText('beep for 2 s');
  await page.getByRole('button', { name: 'Save the phrasebook' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Pattern 21')).toHaveValue('hum($time)');
  await page.getByRole('button', { name: 'Remove phrase 21' }).click();
  await page.getByRole('button', { name: 'Save the phrasebook' }).click();
  await expect(page.getByText('20 of at most 200')).toBeVisible();
});

test('the script is told as a diagram and as sentences, both as files', async ({ page }) => {
  await give(page, 'Curlew', 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\nstop\n');
  await open(page, 'Curlew', 'script?view=flow');
  const told = page.getByRole('img', { name: 'Flow diagram of the script' });
  await expect(told.getByText('wait until floor < threshold')).toBeVisible();
  const [mermaid] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Mermaid text' }).click(),
  ]);
  expect(mermaid.suggestedFilename()).toBe('curlew-tide-line.mmd');
  await page.getByRole('button', { name: 'Read aloud' }).click();
  await expect(page.getByRole('region', { name: 'Script told' })).toContainText(
    'Wait until floor is less than the threshold of floor.',
  );
});

test('a typed script is kept when the page is left at once', async ({ page }) => {
  await open(page, 'Curlew', 'script?view=text');
  await writeScript(page, 'drive 21 % for 3 cm');
  await page.goto('/lessons');
  await open(page, 'Curlew', 'script?view=text');
  await expect(text(page)).toContainText('drive 21 % for 3 cm');
});

test('a finding leads to its line from every view, and Esc leads back to the row', async ({ page }) => {
  await give(page, 'Curlew', 'repeat 5 times\nif timer > 2\nend\nend\nstop\n');
  for (const from of ['told', 'versions', 'text']) {
    await open(page, 'Curlew', `script?view=${from}`);
    await page.getByRole('button', { name: 'Go to line 2' }).click();
    await expect(text(page)).toBeFocused();
  }
  await open(page, 'Curlew', 'script?view=steps');
  await page.getByRole('button', { name: 'Go to line 2' }).click();
  const second = page.getByRole('list', { name: 'Steps' }).getByRole('listitem').nth(1);
  await expect(second).toBeFocused();
  await page.keyboard.press('t');
  await expect(page.getByLabel('Step as text')).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(second).toBeFocused();
});
