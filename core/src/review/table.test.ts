import { describe, expect, it } from '@jest/globals';
import { parseScript } from '../script/index.ts';
import { review } from './index.ts';
import { reviewTable, type TableCase } from './table.ts';
import { base, pairs, script } from './test/pairs.ts';
import { grounds, realistic } from './test/realistic.ts';

/** Without anybody looking: what the review says from the text alone. */
const cases: TableCase[] = [
  ...realistic.map(([wanted, what, steps, ground = 'none']) => ({
    what,
    wanted,
    found: review(parseScript(script(steps.replaceAll('|', '\n'))), grounds[ground]),
  })),
  ...pairs.flatMap(([name, rule, caught, near, context = base]) => [
    { what: name, wanted: rule.split(': ')[1]!, found: review(parseScript(script(caught)), context) },
    { what: `near ${name}`, wanted: null, found: review(parseScript(script(near)), context) },
  ]),
];

describe('the review on labelled scripts', () => {
  it('every script can be read', () => {
    for (const [, what, steps] of realistic)
      expect([what, parseScript(script(steps.replaceAll('|', '\n'))).findings]).toEqual([what, []]);
    expect(cases.length).toBeGreaterThanOrEqual(250);
  });

  it('finds nine faults of ten, and says nothing of right scripts, never that they will not work', () => {
    const { hits, faulty, right, alarmed, falseFaults, missed, alarms } = reviewTable(cases);
    console.log(`${hits} of ${faulty} found, ${alarmed} false alarms on ${right}`, { missed, alarms });
    expect(hits / faulty).toBeGreaterThanOrEqual(0.9);
    expect(alarmed / right).toBeLessThanOrEqual(0.05);
    expect(falseFaults).toBe(0);
  });
});
