import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type Axe from 'axe-core';
import type { Page } from './test.ts';

const AXE = readFileSync(join(import.meta.dirname, '../node_modules/axe-core/axe.min.js'), 'utf8');

/** Serious barriers of the page as it stands; by all rules, or by some. */
export async function barriers(page: Page, rules: string[] | null): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  return page.evaluate(async (only) => {
    const { axe } = window as unknown as { axe: typeof Axe };
    const { violations } = await axe.run(document, {
      resultTypes: ['violations'],
      // Style sheets need not be fetched a second time for what is asked here.
      preload: false,
      ...(only ? { runOnly: { type: 'rule' as const, values: only } } : {}),
    });
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map((v) => `${v.id}: ${v.nodes[0]!.target.join(' ')} ${v.nodes[0]!.failureSummary ?? ''}`);
  }, rules);
}
