import { readFileSync } from 'node:fs';
import { press, tabTo } from './byKeys.ts';
import { expect, test, type Page } from './test.ts';

/** A day so many weeks from the Monday of this one, as ISO 8601 writes it. */
const monday = (weeks: number): string => {
  const now = new Date();
  const at = Date.UTC(now.getUTCFullYear(), now.getUTCMonth(), now.getUTCDate());
  return new Date(at - ((now.getUTCDay() + 6) % 7) * 86_400_000 + weeks * 7 * 86_400_000)
    .toISOString()
    .slice(0, 10);
};

/** Types a day into a field of days by keys alone, as the browser's own field wants it: by its parts. */
async function typeDay(page: Page, label: string, day: string): Promise<void> {
  const field = page.locator('form').filter({ hasText: 'name of the term' }).getByLabel(label);
  await tabTo(page, field);
  const [year, month, date] = day.split('-') as [string, string, string];
  await page.keyboard.type(`${month}${date}${year}`);
  await expect(field).toHaveValue(day);
}

test('a lesson is dragged to another meeting and the rest follows; on paper the term is a list', async ({
  page,
}) => {
  await page.goto('/plan');
  await page.getByRole('button', { name: 'Term', exact: true }).click();
  const calendar = page.locator('.plan-calendar');
  const from = calendar.getByText('Follow the channel').first();
  const to = calendar.getByText('Count the lanes').last();
  await to.scrollIntoViewIfNeeded();
  const [a, b] = [(await from.boundingBox())!, (await to.boundingBox())!];
  await page.mouse.move(a.x + 20, a.y + 10);
  await page.mouse.down();
  await page.mouse.move(a.x + 30, a.y + 30, { steps: 4 });
  await page.mouse.move(b.x + 20, b.y + 10, { steps: 10 });
  await page.mouse.up();
  await expect(page.getByText(/what lies between has followed/)).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  const lines = page.getByRole('row').filter({ hasText: '7 Kittiwake' });
  await expect(lines.filter({ hasText: 'Follow the channel' })).toBeVisible();
  const order = async () =>
    (await lines.allInnerTexts()).flatMap((line) => /Count the lanes|Follow the channel/.exec(line) ?? []);
  await expect.poll(order).toEqual(['Count the lanes', 'Follow the channel']);
  await expect(lines.filter({ hasText: 'does not take place: Storm, school closed' })).toBeVisible();
  await page.emulateMedia({ media: null });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Put back.')).toBeVisible();
});

test('a term is planned by keys alone: its days, its meetings, a series, a lesson moved, an hour lost and undone', async ({
  page,
}) => {
  await page.goto('/plan');
  await press(page, page.getByText('Another term', { exact: true }));
  await tabTo(page, page.getByLabel('name of the term'));
  await page.keyboard.type('Third term');
  await typeDay(page, 'first day', monday(12));
  await typeDay(page, 'last day', monday(22));
  await press(page, page.getByRole('button', { name: 'Add the term' }));
  await expect(page.getByText('Third term is there.')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Third term' })).toBeVisible();

  const klass = page.locator('form').getByRole('combobox', { name: 'class', exact: true });
  await tabTo(page, klass);
  await page.keyboard.type('8 Razorbill');
  await expect(klass.locator('option:checked')).toHaveText('8 Razorbill');
  await press(page, page.getByRole('button', { name: 'Wed', exact: true }));
  await press(page, page.getByRole('button', { name: 'Lay out the meetings' }));
  await expect(page.getByText('10 meetings laid out.')).toBeVisible();

  // What it had already is not planned again.
  const fill = page.locator('details').filter({ hasText: 'Fill it with a series' });
  await expect(fill).toHaveAttribute('open');
  await tabTo(page, fill.getByRole('combobox', { name: 'series' }));
  await page.keyboard.type('Lines');
  await expect(fill).toContainText('3 lessons for 10 free meetings of Third term');
  await press(page, page.getByRole('button', { name: 'Fill the term' }));
  await expect(page.getByText('Lines and edges is planned.')).toBeVisible();

  await press(page, page.getByRole('button', { name: 'Term', exact: true }));
  const chip = (name: string) => page.getByText(name, { exact: true }).first();
  await expect(chip('Follow the channel')).toBeVisible();
  const order = async () =>
    (await page.locator('.plan-calendar').innerText())
      .split('\n')
      .filter((line) => ['Follow the channel', 'Pier’s edge', 'Round the buoy'].includes(line.trim()));
  expect(await order()).toEqual(['Follow the channel', 'Pier’s edge', 'Round the buoy']);
  // An event of the calendar is a stop of the Tab key.
  const first = page
    .locator('.plan-calendar a, .plan-calendar [tabindex="0"]')
    .filter({ hasText: 'Follow the channel' })
    .first();
  await first.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Follow the channel' })).toBeVisible();
  await press(page, page.getByRole('button', { name: 'Later' }));
  await expect(page.getByText(/what lies between has followed/)).toBeVisible();
  await expect.poll(order).toEqual(['Pier’s edge', 'Follow the channel', 'Round the buoy']);
  const reason = page.getByLabel('the hour is lost, because');
  await tabTo(page, reason);
  await page.keyboard.press('Control+A');
  await page.keyboard.type('Sports day');
  await press(page, page.getByRole('button', { name: 'Lose it' }));
  await expect(page.getByText(/its lesson and the rest have moved on/)).toBeVisible();
  await expect(chip('Sports day')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().press('Enter');
  await expect(chip('Sports day')).toBeHidden();
  expect(await order()).toEqual(['Pier’s edge', 'Follow the channel', 'Round the buoy']);

  const download = page.waitForEvent('download');
  await press(page, page.getByRole('link', { name: 'iCalendar' }));
  const file = readFileSync(await (await download).path(), 'utf8');
  expect(file).toContain('SUMMARY:8 Razorbill: Round the buoy');
});

test('what the server refuses or never hears of is said, and the page stays as it was', async ({
  page,
  context,
}) => {
  await page.goto('/plan');
  await page.getByRole('button', { name: 'Term', exact: true }).click();
  await page.locator('.plan-calendar').getByText('Count the lanes').last().click();
  const panel = page
    .locator('section')
    .filter({ has: page.getByRole('heading', { name: 'Count the lanes' }) });
  await expect(panel).toBeVisible();
  await context.setOffline(true);
  for (const name of ['Take the lesson off', 'Lose it', 'Earlier']) {
    await panel.getByRole('button', { name }).click();
    await expect(page.getByText(/does not answer. What you typed stays/).first()).toBeVisible();
    await expect(panel.getByRole('button', { name })).toBeEnabled();
  }
  await context.setOffline(false);
  await panel.getByRole('button', { name: 'Take the lesson off' }).click();
  await expect(page.getByText('Count the lanes is off the plan.')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'No lesson yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Put back.')).toBeVisible();
});

test('a clash between two classes is found, told with its reason, and solved', async ({ page }) => {
  await page.goto('/plan');
  await expect(page.getByRole('heading', { name: '1 clash' })).toBeVisible();
  await expect(
    page.getByText(/Cobble robots: 7 Kittiwake and 8 Razorbill together want 13, 9 are there/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Ways out' }).click();
  const ways = page.getByRole('button', { name: 'Do', exact: true });
  await expect(ways.first()).toBeVisible();
  await ways.first().click();
  await page.getByRole('button', { name: 'Untangle all' }).click();
  await expect(page.getByText('Nothing clashes:')).toBeVisible();
  // A robot that breaks is short at once, and the plan says so everywhere.
  await page.goto('/plan/cupboard');
  await page.getByRole('button', { name: 'Which Cobble robots are here' }).click();
  await page.getByRole('group', { name: 'Cobble 3 is' }).getByRole('button', { name: 'broken' }).click();
  await page.getByRole('group', { name: 'Cobble 4 is' }).getByRole('button', { name: 'out' }).click();
  await expect(page.getByRole('row', { name: /^Cobble robots/ })).toContainText('7');
  await page.getByRole('link', { name: 'Calendar' }).click();
  await expect(page.getByText(/7 are there \(1 broken, 1 out\)/).first()).toBeVisible();
});

test('a series is proposed from aims with its reasons, kept, changed, and a skill of one’s own is added', async ({
  page,
}) => {
  await page.goto('/plan/series');
  for (const name of ['7 Kittiwake']) await page.getByRole('checkbox', { name: new RegExp(name) }).uncheck();
  await page.getByLabel('meetings, 1 to 80').fill('5');
  for (const name of ['follows an edge', 'orders rules']) await page.getByRole('checkbox', { name }).check();
  await page.getByRole('button', { name: 'Propose' }).click();
  const proposed = page.getByRole('region', { name: 'Proposed for a new class' });
  await expect(proposed).toContainText('2 of 2 aims');
  await expect(proposed).toContainText('on the way: ');
  await proposed.getByRole('button', { name: 'Keep as a series' }).click();
  const kept = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: /^To follows an edge/ }) });
  await expect(kept).toBeVisible();
  await kept.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('name', { exact: true }).fill('Edges for the fair');
  await page.getByRole('button', { name: 'Save the series' }).click();
  await expect(page.getByRole('heading', { name: 'Edges for the fair' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove Edges for the fair' }).click();
  await expect(page.getByRole('heading', { name: 'Edges for the fair' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: 'Edges for the fair' })).toBeVisible();

  await page.goto('/plan/skills');
  await page.getByRole('button', { name: 'Add a skill' }).click();
  await page.getByLabel('name: what a team can do').fill('tidies up');
  await page.getByLabel('what shows it').fill('the shelf is as it was');
  await page.getByText('is shown by a proof in').click();
  await page.getByRole('checkbox', { name: 'Hold a bearing' }).check();
  await page.getByRole('button', { name: 'Save the skill' }).click();
  await expect(page.getByRole('img', { name: /tidies up/ })).toBeVisible();
  await page.goto('/classes/2/skills');
  await expect(page.getByRole('row', { name: /^tidies up/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Eider, tidies up: shown' })).toBeVisible();
});

test('holidays come in from a file: seen first, taken by a press, and their lessons move on', async ({
  page,
}) => {
  await page.goto('/plan');
  await page.getByText('Days off', { exact: true }).click();
  const day = monday(12).replaceAll('-', '');
  await page.getByLabel('Holidays as an iCalendar file').setInputFiles({
    name: 'holidays.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from(
      [
        'BEGIN:VCALENDAR',
        'VERSION:2.0',
        'BEGIN:VEVENT',
        'SUMMARY:Harvest day',
        `DTSTART;VALUE=DATE:${day}`,
        'END:VEVENT',
        'BEGIN:VEVENT',
        'SUMMARY:Staff tea',
        `DTSTART:${day}T150000Z`,
        `DTEND:${day}T160000Z`,
        'END:VEVENT',
        'END:VCALENDAR',
      ].join('\r\n'),
    ),
  });
  await expect(page.getByText('1 day off found')).toBeVisible();
  await expect(page.getByText('1 event left out')).toBeVisible();
  await page.getByRole('button', { name: 'Take them' }).click();
  await expect(page.getByText('1 day off kept.')).toBeVisible();
  await page.getByLabel('Holidays as an iCalendar file').setInputFiles({
    name: 'x.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from('hello'),
  });
  await expect(page.getByText(/this is no iCalendar file/)).toBeVisible();
});

test('after an hour it is said who goes on, who needs the same again, and what all should hear', async ({
  page,
}) => {
  await page.goto('/hours/2');
  await page.getByRole('link', { name: 'What next' }).click();
  await expect(
    page.getByRole('heading', { level: 1, name: 'What next, after Bump and turn in the boathouse' }),
  ).toBeVisible();
  await expect(page.getByText('● Finish this lesson first: 2 teams')).toBeVisible();
  await expect(page.getByText('shown before, not in this lesson: loops and waits').first()).toBeVisible();
  await expect(page.getByText(/of 8 teams have not come to “explains what happened”/)).toBeVisible();
  await page.getByText('What that rests on').first().click();
  await page.getByRole('link', { name: 'Curlew' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Logbook of Curlew' })).toBeVisible();
});
