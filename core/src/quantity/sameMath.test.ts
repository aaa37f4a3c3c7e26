import { describe, expect, it } from '@jest/globals';
import * as same from './sameMath.ts';

/** Seeded numbers from 0 to 1. */
function numbers(n: number): number[] {
  let s = 12345;
  return Array.from({ length: n }, () => (s = (Math.imul(s, 1664525) + 1013904223) >>> 0) / 2 ** 32);
}
const r = numbers(40_000);
const spread = (far: number) => r.map((v) => (v - 0.5) * 2 * far);

const cases: [string, (x: number) => number, (x: number) => number, number[]][] = [
  ['sin', same.sin, Math.sin, [...spread(20), ...spread(5000), 0, -0, 1e-12, Math.PI, 1e5, 123456.7]],
  ['cos', same.cos, Math.cos, [...spread(20), ...spread(5000), 0, 1e-12, Math.PI / 2, 1e5]],
  ['tan', same.tan, Math.tan, spread(1.5)],
  ['asin', same.asin, Math.asin, [...spread(1), 1, -1, 0]],
  ['acos', same.acos, Math.acos, [...spread(1), 1, -1, 0]],
  ['atan', same.atan, Math.atan, [...spread(10), ...spread(1e6), 0, 1e-12, 1e20]],
  ['exp', same.exp, Math.exp, [...spread(20), ...spread(700), 0, 1, -1e-10, 709.75]],
  [
    'log',
    same.log,
    Math.log,
    [...r.map((v) => v * 100), ...r.map((v) => v * 1e-300), 1, Math.E, 1e300, 5e-320],
  ],
];

describe('functions that are the same in every engine', () => {
  // The engine's own are within an ulp of the truth, so are these: no more than two or three apart.
  it.each(cases)('%s', (_, mine, engines, xs) => {
    let worst = 0;
    for (const x of xs) {
      const wanted = engines(x);
      const off = Math.abs(mine(x) - wanted) / Math.max(Math.abs(wanted), 1e-300);
      // Near a zero of the function what counts is the error itself.
      if (Math.abs(mine(x) - wanted) > 1e-15) worst = Math.max(worst, off);
    }
    expect(worst).toBeLessThan(8e-16);
  });

  it('atan2 in every quarter and on the axes', () => {
    for (const y of [-3, -0.5, -0, 0, 0.5, 3, Infinity])
      for (const x of [-3, -0.5, -0, 0, 0.5, 3, -Infinity])
        expect([x, y, same.atan2(y, x)]).toEqual([x, y, expect.closeTo(Math.atan2(y, x), 14)]);
  });

  it('powers as the colour curves take them', () => {
    for (const v of r.slice(0, 2000))
      for (const e of [2.4, 1 / 2.4, 1 / 2.2, 0.5, -1.5])
        expect(Math.abs(same.power(v, e) / v ** e - 1)).toBeLessThan(2e-14);
    expect([same.power(0, 2), same.power(0, 0), same.power(0, -1), same.power(1, 99)]).toEqual([
      0,
      1,
      Infinity,
      1,
    ]);
  });

  it('what is no number stays none', () => {
    for (const one of [same.sin, same.cos, same.tan, same.atan, same.exp, same.log])
      expect(one(NaN)).toBeNaN();
    expect(same.sin(Infinity)).toBeNaN();
    expect([same.exp(-Infinity), same.exp(1000), same.log(0), same.log(Infinity)]).toEqual([
      0,
      Infinity,
      -Infinity,
      Infinity,
    ]);
    expect(same.log(-1)).toBeNaN();
    expect(same.asin(2)).toBeNaN();
  });

  // Bits that every engine must give: a change of them changes every stored run.
  it('gives these very numbers', () => {
    expect([same.sin(1), same.cos(1), same.exp(1), same.log(10), same.atan2(1, 2)]).toEqual([
      0.8414709848078965, 0.5403023058681398, 2.7182818284590455, 2.302585092994046, 0.4636476090008061,
    ]);
  });
});
