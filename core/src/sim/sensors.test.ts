import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Rgb } from '../sensing/index.ts';
import {
  echoScatter,
  headingAfter,
  nameColour,
  readBeacon,
  readEcho,
  readProximity,
  readRgb,
  surfaceColour,
} from './index.ts';

const cm = { min: 3, max: 200, step: 0.1 };
const percent = { min: 0, max: 100, step: 1 };

describe('distance by sound', () => {
  const quiet = { z: 0, scatter: 0 };

  it('is the distance, in steps of the sensor', () => {
    expect(readEcho(42.04, 0, cm, quiet)).toBeCloseTo(42, 9);
    expect(readEcho(42.06, 0, cm, quiet)).toBeCloseTo(42.1, 9);
  });

  // Common practice: out of range, too near or too far, is no reading and not “far”.
  it.each([
    ['nothing in front', null, 0],
    ['too near', 2, 0],
    ['too far', 201, 0],
    ['met too obliquely', 60, 40],
  ])('%s gives no reading', (_, distance, oblique) => {
    expect(readEcho(distance, oblique, cm, quiet)).toBeNull();
  });

  it('hears a wall that is met a little obliquely', () => {
    expect(readEcho(60, 20, cm, quiet)).toBeCloseTo(60, 9);
    expect(readEcho(60, 20, cm, { ...quiet, coneHalfDeg: 8 })).toBeNull();
  });

  it('scatters more the farther it looks', () => {
    expect(echoScatter(200, 0.2)).toBeGreaterThan(echoScatter(20, 0.2));
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 150, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (d, z) => {
          const heard = readEcho(d, 0, cm, { z, scatter: 0.2 });
          return heard === null || Math.abs(heard - d) <= 3 * echoScatter(d, 0.2) + cm.step;
        },
      ),
    );
  });
});

describe('infrared', () => {
  // Common practice: approximate, best on light surfaces, 0–100 and not centimetres.
  it('falls with distance and depends on what sends it back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 800, noNaN: true }),
        fc.double({ min: 5, max: 300, noNaN: true }),
        fc.double({ min: 0.05, max: 0.9, noNaN: true }),
        (d, more, reflectance) => {
          const [near, far] = [d, d + more].map((mm) => readProximity(mm, reflectance, percent, 0));
          const darker = readProximity(d, reflectance / 2, percent, 0);
          return near! >= far! && near! >= darker && near! <= 100 && far! >= 0;
        },
      ),
    );
    expect(readProximity(null, 0.9, percent, 0)).toBe(0);
    expect(readProximity(30, 0.9, percent, 0)).toBeGreaterThan(readProximity(30, 0.1, percent, 0) + 30);
  });

  it('finds a beacon only within its field', () => {
    const field = { min: -60, max: 60, step: 5 };
    expect([null, -61, 61].map((deg) => readBeacon(deg, field, 0))).toEqual([null, null, null]);
    expect([-60, 0, 32].map((deg) => readBeacon(deg, field, 0))).toEqual([-60, 0, 30]);
  });
});

describe('colour', () => {
  const names = ['black', 'white', 'red', 'green', 'blue', 'yellow', 'brown'];
  const called = (rgb: Rgb) => {
    const code = nameColour(rgb, 255, names);
    return code === null ? 'no colour' : names[code];
  };

  it('is named by the nearest colour of the sensor’s own list, or not at all', () => {
    expect(called([34, 33, 36])).toBe('black');
    expect(called([242, 240, 236])).toBe('white');
    expect(called([190, 45, 40])).toBe('red');
    expect(called([255, 0, 255])).toBe('no colour');
    expect(nameColour([190, 45, 40], 255, ['mauve', 'puce'])).toBeNull();
  });

  it('fades as the sensor is lifted, and never leaves its range', () => {
    const look: Rgb = [0.7, 0.4, 0.2];
    const [low, high] = [readRgb(look, 12, 255, [0, 0, 0]), readRgb(look, 40, 255, [0, 0, 0])];
    low.forEach((v, i) => expect(v).toBeGreaterThan(high[i]!));
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 80, noNaN: true }),
        fc.tuple(...([0, 1, 2] as const).map(() => fc.double({ min: -400, max: 400, noNaN: true }))),
        (height, noise) =>
          readRgb([1, 0.5, 0], height, 255, noise as unknown as Rgb).every(
            (v) => Number.isInteger(v) && v >= 0 && v <= 255,
          ),
      ),
    );
  });

  it('of a grey surface follows from how much light it sends back (sRGB, IEC 61966-2-1)', () => {
    const [r, g, b] = surfaceColour({ name: 'grey', reflectance: 0.2140411 });
    expect([r, g, b].every((v) => Math.abs(v - 0.5) < 1e-4)).toBe(true);
    expect(surfaceColour({ name: 'red', reflectance: 0.4, colour: [0.7, 0.1, 0.1] })).toEqual([
      0.7, 0.1, 0.1,
    ]);
  });
});

describe('heading', () => {
  it('counts turns to the right up and creeps with its drift', () => {
    const still = { driftPerS: 0, scale: 1 };
    expect(headingAfter(still, 90, 100)).toBe(90);
    expect(headingAfter({ driftPerS: 0.5, scale: 1 }, 0, 60)).toBe(30);
    expect(headingAfter({ driftPerS: 0, scale: 0.98 }, -360, 5)).toBeCloseTo(-352.8, 9);
  });
});
