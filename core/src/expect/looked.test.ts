import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Looked } from './looked.ts';
import { Comparison, Reading } from './robustness/parts.ts';
import { columns } from './robustness/recorded.ts';

/** A distance that changes by all of the way, now more and now less, and jumps where a stretch begins. */
const drives = fc
  .array(
    fc.tuple(fc.double({ min: -9, max: 9, noNaN: true }), fc.constantFrom(0, 0, 0, 0, 0, 0, 0, 90, -70)),
    {
      minLength: 1,
      maxLength: 150,
    },
  )
  .map((steps) => {
    const way = new Float64Array(steps.length);
    const distances = new Float32Array(steps.length);
    const starts = [0];
    let exact = 200;
    steps.forEach(([mm, jump], i) => {
      if (jump !== 0 && i > 0) starts.push(i);
      way[i] = (way[i - 1] ?? 0) + (i > 0 ? Math.abs(mm) : 0);
      exact += (i > 0 ? mm : 0) + jump;
      distances[i] = exact;
    });
    return { way, distances, starts };
  });

describe('a distance that is worked out where it is looked at', () => {
  it('is what it would be at every sample, in any order, and is told how large it may be at most', () => {
    fc.assert(
      fc.property(drives, fc.array(fc.nat(1000), { maxLength: 40 }), ({ way, distances, starts }, order) => {
        const looks: number[] = [];
        const looked = new Looked(way, starts, (i, atMost, stretch) => {
          looks.push(i);
          expect(distances[i]!).toBeLessThanOrEqual(atMost);
          expect(starts[stretch]! <= i && !(starts[stretch + 1]! <= i)).toBe(true);
          return distances[i]!;
        });
        for (const any of order) {
          const i = any % way.length;
          expect(Math.abs(distances[i]! - looked.lastMm) <= looked.reach(i) || looks.length === 0).toBe(true);
          expect(looked.at(i)).toBe(distances[i]!);
        }
        expect(new Set(looks).size).toBe(looks.length);
        expect(looked.values).toEqual(distances);
      }),
      { numRuns: 400 },
    );
  });

  it('is compared without a look where the way decides, and never wrongly', () => {
    let [samples, looks] = [0, 0];
    fc.assert(
      fc.property(
        drives,
        fc.constantFrom(1 as const, -1 as const),
        fc.integer({ min: 150, max: 250 }),
        fc.array(fc.integer({ min: -40, max: 40 }), { minLength: 2, maxLength: 2 }),
        ({ way, distances, starts }, sign, value, bounds) => {
          const n = way.length;
          columns.begin(n);
          const looked = new Looked(way, starts, (i) => {
            looks++;
            return distances[i]!;
          });
          const trace = { timesS: new Float32Array(n), signals: {} };
          const record = { trace, times: new Float64Array(n), end: 0, lasts: false, goesOn: false };
          const margins = new Comparison(new Reading(record), 'surely', sign, value, looked);
          const [floor, ceiling] = [Math.min(...bounds) - 1, Math.max(...bounds) + 1];
          for (let i = 0; i < n; i++) {
            const told = margins.over(i, i + 1, floor, ceiling)[i]!;
            const exact = sign * (distances[i]! - value);
            if (exact <= floor) expect(told >= exact && told <= floor).toBe(true);
            else if (exact >= ceiling) expect(told <= exact && told >= ceiling).toBe(true);
            else expect(told).toBe(exact);
          }
          samples += n;
        },
      ),
      { numRuns: 1000 },
    );
    expect(looks).toBeLessThan(0.8 * samples);
  });
});
