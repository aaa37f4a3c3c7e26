import { describe, expect, it } from '@jest/globals';
import {
  alongArc,
  lagStep,
  pointOnRobot,
  stoppingDistance,
  surelySeenSpeed,
  travelMm,
  type Pose,
} from './index.ts';

/** From the textbooks' frame (x ahead, heading anticlockwise) into bearings: 0 up the mat, clockwise. */
const arc = (left: number, right: number, track: number) => {
  const end = alongArc({ xMm: 0, yMm: 0, bearingDeg: 0 }, left, right, track);
  return { x: end.yMm, y: -end.xMm, heading: -end.bearingDeg };
};

describe('exact arcs', () => {
  // Siegwart and Nourbakhsh 2004, section 3.2; Lynch and Park 2017, section 13.3.
  it.each([
    ['quarter circle to the left, radius 150', 157.07963267949, 314.159265358979, 100, 150, 150, 90],
    ['quarter circle to the right, radius 150', 314.159265358979, 157.07963267949, 100, 150, -150, -90],
    ['more than one turn about the left wheel', 0, 942.477796076938, 120, 60, 60, 450],
    ['straight ahead', 250, 250, 100, 250, 0, 0],
  ])('%s', (_, left, right, track, x, y, heading) => {
    const end = arc(left, right, track);
    expect(end.x).toBeCloseTo(x, 8);
    expect(end.y).toBeCloseTo(y, 8);
    expect(end.heading).toBeCloseTo(heading, 8);
  });

  it('turning right counts up', () => {
    expect(alongArc({ xMm: 0, yMm: 0, bearingDeg: 0 }, 10, -10, 100).bearingDeg).toBeGreaterThan(0);
  });

  it('puts a point ahead and to the right where it belongs', () => {
    const east: Pose = { xMm: 100, yMm: 50, bearingDeg: 90 };
    const spot = pointOnRobot(east, 80, 10);
    expect(spot.xMm).toBeCloseTo(180, 9);
    expect(spot.yMm).toBeCloseTo(40, 9);
  });
});

describe('motor lag', () => {
  it('follows the closed form from rest to 300 mm/s with τ = 0.12 s, whatever the step', () => {
    let [v, x] = [0, 0];
    for (let k = 0; k < 12; k++) {
      const step = lagStep(v, 300, 0.12, 0.01);
      [v, x] = [step.v, x + step.d];
    }
    expect(v).toBeCloseTo(189.636167648567, 9);
    expect(x).toBeCloseTo(13.2436598821719, 9);
    const once = lagStep(0, 300, 0.12, 0.12);
    expect(once.d).toBeCloseTo(x, 9);
  });

  it('coasts v·τ in the end', () => {
    expect(lagStep(300, 0, 0.12, 10).d).toBeCloseTo(36, 9);
  });
});

describe('workings', () => {
  it('a wheel turn is π times the diameter', () => {
    expect(travelMm(360, 56)).toBeCloseTo(175.929188601028, 9);
  });

  it('a line is surely seen while v·T stays within its width', () => {
    expect(surelySeenSpeed(20, 0.02)).toBe(1000);
  });

  // v·(delay) + v·τ: with T = 0.1 s, delay 0.05 s and no lag the travel is 15, 30 or 45 mm at 300 mm/s.
  it('stopping distance lies between the earliest and the latest sample', () => {
    const r = { samplePeriodS: 0.1, stepTimeS: 0, commandDelayS: 0.05, tauBrakeS: 0 };
    const s = stoppingDistance(300, r);
    expect(s.leastMm).toBeCloseTo(15, 9);
    expect(s.meanMm).toBeCloseTo(30, 9);
    expect(s.mostMm).toBeCloseTo(45, 9);
  });
});
