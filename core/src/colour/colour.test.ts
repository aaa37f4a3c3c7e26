import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Rgb } from '../sensing/index.ts';
import { deltaE00, labOf, nearestColour, studyColours, studyNames } from './index.ts';

describe('the difference of two colours', () => {
  // Sharma, Wu and Dalal 2005, Color Research and Application 30(1):21–30, Table 1 (the pairs that differ in kind).
  it.each([
    [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
    [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
    [50, 0, 0, 50, -1, 2, 2.3669],
    [50, 2.5, 0, 73, 25, -18, 27.1492],
    [50, 2.5, 0, 56, -27, -3, 31.903],
    [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
    [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373],
    [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
  ])('CIEDE2000 of (%d %d %d) and (%d %d %d) is %d', (l1, a1, b1, l2, a2, b2, expected) => {
    expect(deltaE00([l1, a1, b1], [l2, a2, b2])).toBeCloseTo(expected, 4);
    expect(deltaE00([l2, a2, b2], [l1, a1, b1])).toBeCloseTo(expected, 4);
  });

  // IEC 61966-2-1 and CIE 15, white D65.
  it.each([
    ['red', [255, 0, 0], [53.2408, 80.0925, 67.2032]],
    ['blue', [0, 0, 255], [32.297, 79.1875, -107.8602]],
    ['grey', [128, 128, 128], [53.585, 0, 0]],
    ['orange', [255, 165, 0], [74.9357, 23.9332, 78.9498]],
  ] as [string, Rgb, number[]][])('sRGB %s stands in the right place of Lab', (_, rgb, lab) => {
    labOf(rgb, 255).forEach((v, i) => expect(Math.abs(v - lab[i]!)).toBeLessThan(0.02));
  });
});

describe('the nearest of six reference colours', () => {
  const palette: Record<string, Rgb> = {
    white: [255, 255, 255],
    black: [0, 0, 0],
    red: [255, 0, 0],
    green: [0, 255, 0],
    blue: [0, 0, 255],
    yellow: [255, 255, 0],
  };
  const references = Object.entries(palette).map(([name, rgb]) => ({ name, lab: labOf(rgb, 255) }));
  it.each([
    [[200, 30, 40], 'red', 12.93, 'black'],
    [[30, 60, 40], 'black', 21.83, 'blue'],
    [[230, 220, 90], 'yellow', 9.75, 'green'],
    [[20, 30, 120], 'blue', 16.97, 'black'],
  ] as [Rgb, string, number, string][])('to %j is %s', (rgb, name, deltaE, second) => {
    const found = nearestColour(rgb, 255, references)!;
    expect([found.name, found.second!.name]).toEqual([name, second]);
    expect(Math.abs(found.deltaE - deltaE)).toBeLessThan(0.05);
  });

  it('may be too far to be called by its name', () => {
    const limited = references.map((r) => ({ ...r, limit: 5 }));
    expect(nearestColour([200, 30, 40], 255, limited)!.within).toBe(false);
    expect(nearestColour([0, 0, 0], 255, [])).toBeNull();
  });
});

describe('a study of colours', () => {
  const around = (rgb: Rgb, n = 8): Rgb[] =>
    Array.from({ length: n }, (_, i) => rgb.map((c, k) => c + ((i * (k + 3)) % 5) - 2) as unknown as Rgb);

  it('names the nearest rival and half way to it as the limit', () => {
    const { colours, confusion } = studyColours(
      [
        { name: 'red', samples: around([180, 40, 40]) },
        { name: 'orange', samples: around([224, 120, 40]) },
        { name: 'blue', samples: around([30, 70, 150]) },
      ],
      255,
    );
    expect(colours[0]!.rival!.name).toBe('orange');
    expect(colours[0]!.limit).toBeCloseTo(colours[0]!.rival!.deltaE / 2, 9);
    expect([confusion.right, confusion.mixed]).toEqual([24, []]);
  });

  it('does not depend on the order of colours or of looks', () => {
    const channel = fc.integer({ min: 0, max: 255 });
    const looks = fc.array(fc.tuple(channel, channel, channel), { minLength: 2, maxLength: 6 });
    fc.assert(
      fc.property(looks, looks, (a, b) => {
        const one = studyColours(
          [
            { name: 'a', samples: a },
            { name: 'b', samples: b },
          ],
          255,
        );
        const two = studyColours(
          [
            { name: 'b', samples: [...b].reverse() },
            { name: 'a', samples: a },
          ],
          255,
        );
        return (
          one.confusion.total === two.confusion.total &&
          Math.abs(one.colours[0]!.rival!.deltaE - two.colours[0]!.rival!.deltaE) < 1e-6
        );
      }),
      { numRuns: 40 },
    );
  });

  it('bears a lone look and none at all', () => {
    expect(studyColours([{ name: 'a', samples: [[1, 2, 3]] }], 255).colours[0]).toMatchObject({
      rival: null,
      limit: null,
    });
    expect(studyColours([{ name: 'a', samples: [] }], 255).colours).toEqual([]);
  });
});

describe('a sensor that names colours', () => {
  const colours = ['black', 'white', 'red'];
  it('is told how often each name came, and which two surfaces it calls the same', () => {
    const study = studyNames(
      [
        { surface: 'buoy', values: [2, 2, null, 2] },
        { surface: 'quay', values: [1, 1] },
        { surface: 'flag', values: [2] },
        { surface: 'unread', values: [] },
      ],
      colours,
    );
    expect(study.surfaces[0]).toEqual({
      surface: 'buoy',
      samples: 4,
      names: [
        { name: 'red', times: 3 },
        { name: 'no colour', times: 1 },
      ],
    });
    expect(study.surfaces).toHaveLength(3);
    expect(study.alike).toEqual({ one: 'buoy', other: 'flag', name: 'red' });
    expect(studyNames([{ surface: 'odd', values: [9] }], colours)).toMatchObject({
      alike: null,
      surfaces: [{ names: [{ name: '9', times: 1 }] }],
    });
  });
});
