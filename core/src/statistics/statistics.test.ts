import { describe, expect, it } from '@jest/globals';
import { momentsOf, runsToReach, runsToReachWith, trialsToTell, welch, wilson } from './index.ts';

/** Standard normal draws (Box and Muller 1958) from a congruential generator (Park and Miller 1988). */
function normals(seed: number): () => number {
  let state = seed;
  const uniform = () => (state = (state * 48271) % 2147483647) / 2147483647;
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}

describe('the interval of a difference', () => {
  // Welch 1947 by way of the worked data of R's t.test documentation (datasets sleep, Cushny and Peebles 1905, as in Student 1908):
  // t = −1.8608 on 17.776 degrees, 95 % interval −3.3654832 to 0.2054832 for group 1 less group 2 (from memory).
  it('is that of the sleep data', () => {
    const one = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2];
    const two = [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4];
    const found = welch(two, one)!;
    expect(found.value).toBeCloseTo(-1.58, 10);
    expect(found.degrees).toBe(17);
    // Degrees are rounded down: the interval is a little wider, never narrower.
    expect(found.low).toBeLessThan(-3.3654832);
    expect(found.low).toBeGreaterThan(-3.38);
    expect(found.high).toBeGreaterThan(0.2054832);
    expect(found.high).toBeLessThan(0.22);
  });

  it('is none for one value, and is no narrower than the ruler', () => {
    expect(welch([1], [1, 2])).toBeNull();
    expect(welch([3, 3, 3], [5, 5, 5])).toMatchObject({ value: 2, low: 2, high: 2 });
    const ruled = welch([3, 3, 3], [4, 4, 4], 0.5)!;
    expect(ruled.low).toBeLessThan(0);
    expect(() => momentsOf([])).toThrow(RangeError);
    expect(momentsOf([4])).toEqual({ n: 1, mean: 4, sd: null });
  });

  it.each([
    [3, 3, 1, 1],
    [3, 6, 1, 3],
    [5, 5, 2, 0.5],
    [3, 10, 4, 1],
  ])(
    'of %d and %d trials with scatters %d and %d covers the true difference as often as it says',
    (n, m, s, t) => {
      const normal = normals(n * 100 + m);
      const draw = (count: number, mean: number, sd: number) =>
        Array.from({ length: count }, () => mean + sd * normal());
      let covered = 0;
      const repeats = 4000;
      for (let i = 0; i < repeats; i++) {
        const { low, high } = welch(draw(n, 10, s), draw(m, 13, t))!;
        if (low <= 3 && high >= 3) covered++;
      }
      console.log(`${n} and ${m} trials: ${((100 * covered) / repeats).toFixed(1)} % of intervals cover`);
      // Rounding the degrees down makes it too wide with few trials rather than too narrow.
      expect(covered / repeats).toBeGreaterThan(0.94);
      expect(covered / repeats).toBeLessThan(0.995);
    },
  );
});

describe('how many runs', () => {
  // Guenther 1981 by way of Cohen 1988, table 2.4.1: two-sided 5 %, power 0.8: d = 0.5 takes 64 of each, 0.8 takes 26, 1 takes 17 (from memory).
  it.each([
    [0.5, 64],
    [0.8, 26],
    [1, 17],
  ])('tell a difference of %d scatters: %d of each', (d, n) => expect(trialsToTell(d, 1)).toBe(n));

  it('are never fewer than two, and none for no difference', () => {
    expect(trialsToTell(100, 1)).toBe(2);
    expect(trialsToTell(5, 0)).toBe(2);
    expect(() => trialsToTell(0, 1)).toThrow(RangeError);
  });

  it('a bar takes with some failures, against counting up', () => {
    for (const bar of [0.5, 0.8, 0.85, 0.95])
      for (const failed of [0, 1, 2, 5]) {
        let n = failed + 1;
        while (!(wilson(n - failed, n).low > bar)) n++;
        expect([bar, failed, runsToReachWith(bar, failed)]).toEqual([bar, failed, n]);
      }
    expect(runsToReachWith(0.85, 0)).toBe(runsToReach(0.85));
    expect(() => runsToReachWith(1, 0)).toThrow(RangeError);
    expect(() => runsToReachWith(0.5, -1)).toThrow(RangeError);
  });
});
