import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  convert,
  formatFixed,
  formatNumber,
  fromBase,
  toBase,
  turnBetween,
  units,
  wrapDegrees,
  type Unit,
  typedNumber,
} from './index.ts';

describe('units', () => {
  // International yard and pound agreement 1959: the inch is 25.4 mm exactly.
  it('turns inches, centimetres and millimetres into each other', () => {
    expect(convert(1, 'in', 'mm')).toBe(25.4);
    expect(convert(10, 'in', 'cm')).toBeCloseTo(25.4, 12);
    expect(convert(100, 'cm', 'in')).toBeCloseTo(39.3700787401575, 10);
  });

  it('refuses to turn a length into an angle', () => {
    expect(() => convert(1, 'cm', 'deg')).toThrow(RangeError);
  });

  it('comes back from base units unchanged', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(units) as Unit[])),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        (unit, value) =>
          Math.abs(fromBase(toBase(value, unit), unit) - value) <= 1e-9 * Math.max(1, Math.abs(value)),
      ),
    );
  });
});

describe('angles', () => {
  it('wraps into (−180, 180], half a turn staying positive', () => {
    expect([0, 180, -180, 190, -190, 360, 540, -540, 725, -1].map(wrapDegrees)).toEqual([
      0, 180, 180, -170, 170, 0, 180, 180, 5, -1,
    ]);
  });

  it('finds the shortest turn, clockwise positive', () => {
    const cases = [
      [350, 10],
      [10, 350],
      [90, 270],
      [0, 181],
      [-170, 170],
      [720, -90],
    ] as const;
    expect(cases.map(([from, to]) => turnBetween(from, to))).toEqual([20, -20, 180, -179, -20, -90]);
  });
});

describe('numbers for people', () => {
  it('never shows a NaN, an infinity or a negative zero', () => {
    expect([NaN, Infinity, null, undefined].map((v) => formatNumber(v))).toEqual(['–', '–', '–', '–']);
    expect(formatNumber(-0.01)).toBe('0');
    expect(formatFixed(-0.001, 1)).toBe('0.0');
    expect(formatNumber(-12.34)).toBe('−12.3');
  });

  it('rounds as numbers are written out, on either side of a half too', () => {
    const plainly = (value: number, digits: number) => {
      const rounded = Number(value.toFixed(digits));
      return String(rounded === 0 ? 0 : rounded).replace('-', '−');
    };
    const halves = fc
      .tuple(fc.integer({ min: -99_999, max: 99_999 }), fc.integer({ min: 0, max: 5 }))
      .map(([n, digits]) => (n + 0.5) / 10 ** digits);
    fc.assert(
      fc.property(
        fc.oneof(fc.double({ noNaN: true, min: -1e12, max: 1e12 }), fc.float({ noNaN: true }), halves),
        fc.integer({ min: 0, max: 6 }),
        (value, digits) => {
          if (!Number.isFinite(value)) return;
          const written = plainly(value, digits);
          expect(formatNumber(value, digits)).toBe(written);
        },
      ),
      { numRuns: 20_000 },
    );
  });
});

describe('a number as people type it', () => {
  it('may have a decimal comma and a true minus; anything else is none', () => {
    expect([' 12,5 ', '−3', '1e2', '', ' ', 'ten', '1,2,3'].map(typedNumber)).toEqual([
      12.5,
      -3,
      100,
      NaN,
      NaN,
      NaN,
      NaN,
    ]);
  });
});
