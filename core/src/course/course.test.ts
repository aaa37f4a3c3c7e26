import { describe, expect, it } from '@jest/globals';
import {
  fractionOnLine,
  fractionPastEdge,
  lightAt,
  lightField,
  markBounds,
  markDistance,
  stopLine,
  surfaceAt,
  surfacesUnder,
  type Mark,
} from './index.ts';

const paper = { name: 'paper', reflectance: 1 };
const tape = { name: 'tape', reflectance: 0 };

describe('a round spot over an edge', () => {
  // Circular-segment area (any handbook, for example Bronstein and Semendjajew).
  it.each([
    [-1, 0],
    [-0.5, 0.195501109477885],
    [0, 0.5],
    [0.25, 0.657481178762854],
    [0.5, 0.804498890522115],
    [1, 1],
  ])('with its centre %d radii past it covers %d', (x, fraction) => {
    expect(fractionPastEdge(x * 4, 4)).toBeCloseTo(fraction, 12);
  });

  it('never reads full black on a line narrower than itself', () => {
    expect(fractionOnLine(0, 6, 4)).toBeCloseTo(0.855706387185613, 12);
    expect(fractionOnLine(0, 20, 4)).toBe(1);
    expect(fractionOnLine(10, 20, 4)).toBeCloseTo(0.5, 12);
  });
});

describe('the surfaces under a spot', () => {
  const course = stopLine({ name: 'test', base: paper, line: tape, lineWidthMm: 18, approachMm: 200 });
  const nearEdge = course.landmarks[0]!.yMm;

  it('are shared as the segment formula says, to a few hundredths, and add up to one', () => {
    for (let d = -8; d <= 26; d += 0.9) {
      const shares = surfacesUnder(course, course.widthMm / 2, nearEdge + d, 4);
      const onTape = shares.find(({ surface }) => surface.name === 'tape')?.share ?? 0;
      expect(Math.abs(onTape - fractionOnLine(d - 9, 18, 4))).toBeLessThan(0.06);
      expect(shares.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
    }
  });

  it('are one when the spot is a point', () => {
    expect(surfacesUnder(course, course.widthMm / 2, nearEdge + 9, 0)).toEqual([
      { surface: expect.objectContaining({ name: 'tape' }), share: 1 },
    ]);
  });
});

describe('the light field', () => {
  const course = stopLine({ name: 'test', base: paper, line: tape, lineWidthMm: 18, approachMm: 200 });
  const nearEdge = course.landmarks[0]!.yMm;

  it('agrees with the segment formula everywhere across the line', () => {
    const radius = 4;
    const field = lightField(course, radius);
    for (let d = -12; d <= 30; d += 0.37) {
      const exact = 1 - fractionOnLine(d - 9, 18, radius);
      expect(Math.abs(lightAt(field, course.widthMm / 2, nearEdge + d) - exact)).toBeLessThan(0.02);
    }
  });

  it('is the base beyond the mat and is built once', () => {
    expect(lightAt(lightField(course, 3), -500, 9999)).toBe(1);
    expect(lightField(course, 3)).toBe(lightField(course, 3));
  });
});

describe('marks', () => {
  const marks: Mark[] = [
    { kind: 'stripe', surface: tape, from: { xMm: 0, yMm: 0 }, to: { xMm: 100, yMm: 0 }, widthMm: 20 },
    {
      kind: 'path',
      surface: tape,
      points: [
        { xMm: 0, yMm: 0 },
        { xMm: 50, yMm: 50 },
      ],
      widthMm: 10,
    },
    { kind: 'rectangle', surface: tape, corner: { xMm: 10, yMm: 10 }, widthMm: 30, heightMm: 20 },
    { kind: 'disc', surface: tape, centre: { xMm: 5, yMm: 5 }, radiusMm: 7 },
  ];

  it('measure the distance to their rim, negative inside', () => {
    expect(markDistance(marks[0]!, 50, 0)).toBe(-10);
    expect(markDistance(marks[0]!, 50, 15)).toBe(5);
    expect(markDistance(marks[2]!, 25, 20)).toBe(-10);
    expect(markDistance(marks[3]!, 5, 15)).toBe(3);
    expect(markDistance(marks[1]!, 25, 25)).toBe(-5);
  });

  it('never reach out of their bounds', () => {
    for (const mark of marks) {
      const [left, bottom, right, top] = markBounds(mark);
      for (let x = left - 30; x <= right + 30; x += 3) {
        for (let y = bottom - 30; y <= top + 30; y += 3) {
          if (markDistance(mark, x, y) <= 0)
            expect(x >= left && x <= right && y >= bottom && y <= top).toBe(true);
        }
      }
    }
  });

  it('cover earlier ones', () => {
    const over: Mark = {
      kind: 'disc',
      surface: { name: 'dot', reflectance: 0.5 },
      centre: { xMm: 50, yMm: 0 },
      radiusMm: 5,
    };
    const course = {
      ...stopLine({ name: 't', base: paper, line: tape, lineWidthMm: 18, approachMm: 100 }),
      marks: [marks[0]!, over],
    };
    expect([
      surfaceAt(course, 50, 0).name,
      surfaceAt(course, 20, 0).name,
      surfaceAt(course, 20, 90).name,
    ]).toEqual(['dot', 'tape', 'paper']);
  });
});
