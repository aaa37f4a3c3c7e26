import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { lightAt, lightField, type Course, type Mark } from '../course/index.ts';
import { fitLight, heightFactor, quantise, scatterAt } from './index.ts';
import { plainLight } from './test/referenceStepper.ts';

const readings = fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 30 });
const mean = (values: number[]) => values.reduce((a, b) => a + b) / values.length;

describe('laws of the light sensor', () => {
  it('a fitted model gives back the means it was fitted from, and scatters between the two measured sds', () => {
    fc.assert(
      fc.property(readings, readings, (dark, light) => {
        if (mean(dark) === mean(light)) return true;
        const model = fitLight({ values: dark, reflectance: 0.2 }, { values: light, reflectance: 0.8 }, 12);
        const at = (reflectance: number) => 100 * model.gain * reflectance + model.leak;
        const [low, high] = [Math.min(model.lowSd, model.highSd), Math.max(model.lowSd, model.highSd)];
        const between = [0, 25, 50, 75, 100].every(
          (r) => scatterAt(model, r) >= low - 1e-9 && scatterAt(model, r) <= high + 1e-9,
        );
        return Math.abs(at(0.2) - mean(dark)) < 1e-9 && Math.abs(at(0.8) - mean(light)) < 1e-9 && between;
      }),
    );
  });

  it('never gives more light back than at the best height, and none at the floor', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 300, noNaN: true }),
        (h) => heightFactor(h) >= 0 && heightFactor(h) <= 1,
      ),
    );
    expect(heightFactor(0)).toBe(0);
  });

  it('reports only steps of its scale', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.constantFrom(1, 0.5, 2),
        (value, step) => {
          const reported = quantise(value, { min: 0, max: 100, step });
          return reported >= 0 && reported <= 100 && Number.isInteger(reported / step);
        },
      ),
    );
  });
});

describe('the light field on any course', () => {
  const tone = fc.integer({ min: 0, max: 10 }).map((n) => ({ name: 'tone', reflectance: n / 10 }));
  const at = fc.record({ xMm: fc.integer({ min: 20, max: 180 }), yMm: fc.integer({ min: 20, max: 180 }) });
  const mark: fc.Arbitrary<Mark> = fc.oneof(
    fc.record({
      kind: fc.constant('disc' as const),
      surface: tone,
      centre: at,
      radiusMm: fc.integer({ min: 8, max: 40 }),
    }),
    fc.record({
      kind: fc.constant('rectangle' as const),
      surface: tone,
      corner: at,
      widthMm: fc.integer({ min: 10, max: 60 }),
      heightMm: fc.integer({ min: 10, max: 60 }),
    }),
    fc.record({
      kind: fc.constant('path' as const),
      surface: tone,
      points: fc.array(at, { minLength: 2, maxLength: 4 }),
      widthMm: fc.integer({ min: 8, max: 30 }),
    }),
  );
  const course: fc.Arbitrary<Course> = fc.record({
    name: fc.constant('any'),
    widthMm: fc.constant(200),
    heightMm: fc.constant(200),
    base: tone,
    marks: fc.array(mark, { maxLength: 4 }),
    starts: fc.constant([]),
    landmarks: fc.constant([]),
  });

  it('agrees with plain sampling of the spot, and never leaves the tones of the course', () => {
    fc.assert(
      fc.property(course, fc.array(at, { minLength: 8, maxLength: 8 }), (any, spots) => {
        const field = lightField(any, 4);
        const tones = [any.base, ...any.marks.map((m) => m.surface)].map((s) => s.reflectance);
        return spots.every(({ xMm, yMm }) => {
          const seen = lightAt(field, xMm, yMm);
          const inRange = seen >= Math.min(...tones) - 1e-6 && seen <= Math.max(...tones) + 1e-6;
          return inRange && Math.abs(seen - plainLight(any, xMm, yMm, 4)) < 0.06;
        });
      }),
      { numRuns: 25 },
    );
  });
});
