import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { summarise, summaryOf, thinned, warnAboutSet } from './index.ts';

describe('an even sample of a long list', () => {
  it('keeps the first and the last and the order, and no more than asked for', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer(), { minLength: 1, maxLength: 400 }),
        fc.integer({ min: 2, max: 80 }),
        (all, most) => {
          const numbered = all.map((value, i) => ({ value, i }));
          const kept = thinned(numbered, most);
          expect(kept).toHaveLength(Math.min(all.length, most));
          expect([kept[0], kept.at(-1)]).toEqual([numbered[0], numbered.at(-1)]);
          const places = kept.map(({ i }) => i);
          expect(places).toEqual([...new Set(places)].sort((a, b) => a - b));
        },
      ),
    );
  });
});

describe('the figures of a set', () => {
  const whole = Array.from({ length: 5000 }, (_, i) => (i % 50 === 0 ? null : 70 + (i % 9)));
  it('are those of the whole where only a sample is here', () => {
    const set = { values: thinned(whole, 60), of: summarise(whole) };
    expect(summaryOf(set)).toEqual(summarise(whole));
    expect(summaryOf({ values: set.values }).n).toBeLessThan(61);
  });
  it('are what doubts are told from: gaps of the whole, not of the sample', () => {
    const [gaps] = warnAboutSet({ values: thinned(whole, 60), of: summarise(whole) }, { min: 0, max: 100 });
    expect(gaps!.says).toBe('100 of 5000 looks gave no reading.');
  });
});
