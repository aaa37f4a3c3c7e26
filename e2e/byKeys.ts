import { expect, type Locator, type Page } from './test.ts';

/** How many times Tab leads to something from where the focus is, if the browser goes by the order of the page. */
const tabsTo = (what: Locator): Promise<number> =>
  what.evaluate((el) => {
    const within = [...document.querySelectorAll('dialog[open]')].at(-1) ?? document;
    const stops = [
      ...within.querySelectorAll<HTMLElement>(
        'a[href], button, input, select, textarea, summary, [tabindex="0"]',
      ),
    ].filter((one) => one.tabIndex >= 0 && !one.matches(':disabled') && one.checkVisibility());
    // Where the focus is may be no stop of these, such as a list that scrolls: the order of the page tells.
    const here = document.activeElement ?? document.body;
    const after = (one: Element, other: Element) =>
      Boolean(one.compareDocumentPosition(other) & Node.DOCUMENT_POSITION_FOLLOWING);
    const to = stops.indexOf(el as HTMLElement) + 1;
    const passed = stops.filter((one) => one === here || after(one, here)).length;
    return to > passed ? to - passed : stops.length - passed + to;
  });

/** Goes to something by the Tab key alone. */
export async function tabTo(page: Page, what: Locator): Promise<void> {
  const isThere = () => what.evaluate((el) => el === document.activeElement);
  // A page that is drawn anew meanwhile has its stops elsewhere: then from there on.
  for (let again = 0; again < 5; again++) {
    for (let n = (await tabsTo(what)) - 4; n > 0; n--) await page.keyboard.press('Tab');
    for (let more = 0; more < 60; more++) {
      if (await isThere()) return;
      await page.keyboard.press('Tab');
    }
  }
  throw new Error('It was not reached by the Tab key.');
}
/** Presses something by keys alone. */
export async function press(page: Page, what: Locator): Promise<void> {
  await expect(what).toBeVisible();
  await tabTo(page, what);
  await page.keyboard.press('Enter');
}
