import { describe, expect, it } from '@jest/globals';
import { boards, type Course } from '../course/index.ts';
import { simulate } from './index.ts';
import { referenceRun } from './test/referenceStepper.ts';
import { setup } from './test/setup.ts';

/** A line up the mat to follow by its left edge, which lies at x = 185 mm. */
const line: Course = {
  name: 'line',
  widthMm: 400,
  heightMm: 1800,
  base: boards,
  marks: [
    {
      kind: 'stripe',
      surface: { name: 'line', reflectance: 0.2 },
      from: { xMm: 200, yMm: 0 },
      to: { xMm: 200, yMm: 1800 },
      widthMm: 30,
    },
  ],
  starts: [],
  landmarks: [],
};
const EDGE_MM = 185;

/** Root mean square distance in mm of a sensor 80 mm ahead from the edge, over poses 10 ms apart. */
function rms(poses: readonly { xMm: number; bearingDeg: number }[]): number {
  const off = poses.map(({ xMm, bearingDeg }) => xMm + 80 * Math.sin((bearingDeg * Math.PI) / 180) - EDGE_MM);
  return Math.sqrt(off.reduce((sum, d) => sum + d * d, 0) / off.length);
}

describe('the size of the time step', () => {
  // The step of 1 ms with exact lag and exact arcs, against a plain stepper ten times finer: less than 2 % of either figure.
  it('does not change the stop beyond a line', () => {
    for (const percent of [30, 60]) {
      const given = setup(`drive ${percent} %\nwait until floor < threshold\nstop`);
      const fine = referenceRun(given, 0.1).end.yMm + 80 - 450;
      const own = simulate(given).trace.signals.y!.values.at(-1)! + 80 - 450;
      expect(Math.abs(own - fine) / fine).toBeLessThan(0.02);
    }
  });

  it('does not change how far a line follower strays', () => {
    const given = setup('repeat for 6 s\n  steer 0.8 * (floor - threshold) at 25 %\nend\nstop', {
      course: line,
      timeLimitMs: 6000,
      circumstances: { start: { xMm: 176, yMm: 100, bearingDeg: 4 } },
    });
    const [coarse, fine] = [1, 0.1].map((dt) => rms(referenceRun(given, dt).poses)) as [number, number];
    const { x, bearing } = simulate(given).trace.signals;
    const own = rms(Array.from(x!.values, (xMm, i) => ({ xMm, bearingDeg: bearing!.values[i]! })));
    expect(fine).toBeGreaterThan(0.5);
    expect(Math.abs(coarse - fine) / fine).toBeLessThan(0.02);
    // The kernel's light comes from a raster of a millimetre, the plain stepper's from sampling the spot: a little more.
    expect(Math.abs(own - fine) / fine).toBeLessThan(0.05);
  });
});
