import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  calibrate,
  errorNear,
  judgeCalibration,
  judgeTurns,
  scaleThroughOrigin,
  trueValue,
} from './index.ts';

const points = (x: number[], y: number[]) => x.map((truth, i) => ({ truth, reading: y[i]! }));
const line = (x: number[], y: number[], tolerance = 1) => {
  const found = calibrate(points(x, y), tolerance);
  if (!found.ok) throw new Error(found.says);
  return found.value;
};
const relative = (value: number, expected: number, digits: number) =>
  expect(value / expected).toBeCloseTo(1, digits);

/** NIST/ITL Statistical Reference Datasets, Linear Regression, Norris (calibration of ozone monitors). */
const norris = points(
  [
    0.2, 337.4, 118.2, 884.6, 10.1, 226.5, 666.3, 996.3, 448.6, 777, 558.2, 0.4, 0.6, 775.5, 666.9, 338,
    447.5, 11.6, 556, 228.1, 995.8, 887.6, 120.2, 0.3, 0.3, 556.8, 339.1, 887.2, 999, 779, 11.1, 118.3, 229.2,
    669.1, 448.9, 0.5,
  ],
  [
    0.1, 338.8, 118.1, 888, 9.2, 228.1, 668.5, 998.5, 449.1, 778.9, 559.2, 0.3, 0.1, 778.1, 668.8, 339.3,
    448.9, 10.8, 557.7, 228.3, 998, 888.8, 119.6, 0.3, 0.6, 557.6, 339.3, 888, 998.5, 778.9, 10.2, 117.6,
    228.9, 668.4, 449.2, 0.2,
  ],
);

/** Anscombe 1973, The American Statistician 27(1):17–21: one line, four very different sets. */
const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
const anscombe = {
  I: [x, [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.81, 5.68]],
  II: [x, [9.14, 8.14, 8.74, 8.77, 9.26, 8.1, 6.13, 3.1, 9.13, 7.26, 4.74]],
  III: [x, [7.46, 6.77, 12.74, 7.11, 7.81, 8.84, 6.08, 5.39, 8.15, 6.42, 5.73]],
  IV: [
    [8, 8, 8, 8, 8, 8, 8, 19, 8, 8, 8],
    [6.58, 5.76, 7.71, 8.84, 8.47, 7.04, 5.25, 12.5, 5.56, 7.91, 6.89],
  ],
} satisfies Record<string, [number[], number[]]>;

describe('the line of readings against the ruler', () => {
  it('has the certified coefficients of Norris', () => {
    const found = calibrate(norris, 1);
    if (!found.ok) throw new Error(found.says);
    relative(found.value.slope, 1.00211681802045, 11);
    relative(found.value.intercept, -0.262323073774029, 9);
    relative(found.value.seSlope!, 0.000429796848199937, 9);
    relative(found.value.seIntercept!, 0.232818234301152, 9);
    relative(found.value.residualSd!, 0.884796396144373, 9);
    relative(found.value.r2, 0.999993745883712, 12);
  });

  // Exact fractions: slope 421/420, intercept 573/280.
  it('calibrates a sensor that adds two centimetres, and reads the true distance back', () => {
    const found = line([5, 10, 15, 20, 25, 30, 35, 40], [7.1, 12, 17.2, 22.1, 26.9, 32.2, 37.1, 42.2]);
    expect(found.slope).toBeCloseTo(421 / 420, 10);
    expect(found.intercept).toBeCloseTo(573 / 280, 10);
    expect(found.residualSd).toBeCloseTo(0.111091268069411, 10);
    expect(trueValue(found, 30)).toBeCloseTo(27.8871733966746, 9);
    expect(judgeCalibration(found, 'cm').map(({ says }) => says)).toEqual([
      'It adds 2.05 cm to every reading.',
    ]);
    expect(found.usable).toEqual([5, 40]);
  });

  it('goes through the origin as NoInt1 does (NIST/ITL StRD, recalled)', () => {
    const turns = points(
      Array.from({ length: 11 }, (_, i) => 60 + i),
      Array.from({ length: 11 }, (_, i) => 130 + i),
    );
    const found = scaleThroughOrigin(turns);
    relative(found.ok ? found.value : NaN, 2.07438016528926, 12);
    expect(scaleThroughOrigin([])).toMatchObject({ ok: false });
  });

  it('says what a heading makes of known turns', () => {
    const turns = (scale: number) => points([90, -90, 180], [90 * scale, -90 * scale, 180 * scale]);
    const judged = (scale: number) => {
      const found = judgeTurns(turns(scale));
      return found.ok ? [found.value.right, found.value.says, found.value.mend] : [];
    };
    expect(judged(1.01)).toEqual([true, 'Its scale is right within what was measured.', '']);
    expect(judged(0.95)).toEqual([
      false,
      'It reads 5 % too little.',
      'For a true quarter turn wait for 85.5°.',
    ]);
    expect(judgeTurns([])).toMatchObject({ ok: false });
  });

  it('looks beyond the fit: Anscombe’s four sets have one line and four stories', () => {
    const stories = Object.values(anscombe).map(([xs, ys]) => line(xs, ys, 1.2));
    for (const { slope, r2 } of stories) {
      expect(slope).toBeCloseTo(0.5, 2);
      expect(r2).toBeCloseTo(0.667, 2);
    }
    expect(stories.map(({ warnings }) => warnings.join(' '))).toEqual([
      '',
      expect.stringMatching(/bend away/),
      expect.stringMatching(/at 13 stands off/),
      expect.stringMatching(/hangs on the one reading at 19/),
    ]);
  });

  it('refuses what makes no line, and leaves open what two points cannot tell', () => {
    expect(calibrate(points([10, 10, 10], [1, 2, 3]), 1)).toMatchObject({ ok: false });
    expect(calibrate(points([10], [1]), 1)).toMatchObject({ ok: false });
    expect(calibrate(points([NaN, 3], [1, 6]), 1)).toMatchObject({ ok: false });
    expect(line([1, 3], [2, 6])).toMatchObject({ slope: 2, intercept: 0, r2: 1, residualSd: null });
  });

  it('finds the usable stretch, and the error of single looks near a distance', () => {
    const xs = [5, 10, 20, 40, 80, 100];
    const found = line(xs, [9, 10, 20, 40, 80, 100], 1.5);
    expect(found.usable).toEqual([10, 100]);
    const read = xs.map((truth, i) => ({ truth, reading: truth, sd: 0.1 * (i + 1) }));
    const exact = line(xs, xs);
    expect(errorNear(exact, read, 42)).toBeCloseTo(3 * 0.4, 9);
    expect(errorNear(line([1, 3], [2, 6]), read, 2)).toBeNull();
  });

  it('turning all into another unit turns the line with it', () => {
    const set = fc.array(fc.tuple(fc.integer({ min: 1, max: 250 }), fc.integer({ min: 0, max: 250 })), {
      minLength: 3,
      maxLength: 20,
    });
    fc.assert(
      fc.property(set, (pairs) => {
        const cm = calibrate(
          pairs.map(([truth, reading]) => ({ truth, reading })),
          1,
        );
        const mm = calibrate(
          pairs.map(([t, r]) => ({ truth: 10 * t, reading: 10 * r })),
          10,
        );
        if (!cm.ok || !mm.ok) return cm.ok === mm.ok;
        return (
          Math.abs(cm.value.slope - mm.value.slope) < 1e-9 &&
          Math.abs(10 * cm.value.intercept - mm.value.intercept) < 1e-6
        );
      }),
    );
  });
});
