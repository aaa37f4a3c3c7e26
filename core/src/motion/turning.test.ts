import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { kit } from '../test/index.ts';
import {
  lagStep,
  lagWay,
  overshoot,
  reactionOf,
  spotTurnRate,
  spotTurnTravelMm,
  steeringMap,
  stoppingDistance,
  surelyMetSweepRate,
  thresholdForGap,
  travelMm,
  wheelDegrees,
} from './index.ts';

const positive = (max: number) => fc.double({ min: 0.5, max, noNaN: true });
const reaction = { samplePeriodS: 0.06, stepTimeS: 0.005, commandDelayS: 0.008, tauBrakeS: 0.045 };

describe('turning on the spot', () => {
  // Derived: wheel degrees = A·W/d (π cancels).
  it.each([
    [90, 120, 56, 192.857142857143],
    [360, 120, 60, 720],
  ])(
    'by %d° with track %d and wheels of %d needs the right wheel degrees',
    (angle, track, diameter, degrees) => {
      expect(wheelDegrees(spotTurnTravelMm(angle, track), diameter)).toBeCloseTo(degrees, 9);
    },
  );

  it('at 2v/W', () => {
    expect(spotTurnRate(100, 100)).toBeCloseTo((2 * 180) / Math.PI, 9);
    // In one second each wheel goes v, which is the travel for that angle.
    fc.assert(
      fc.property(
        positive(800),
        positive(300),
        (v, w) => Math.abs(spotTurnTravelMm(spotTurnRate(v, w), w) - v) < 1e-6,
      ),
    );
  });

  it('wheel degrees and distance are each other’s inverse', () => {
    fc.assert(
      fc.property(
        positive(5000),
        positive(200),
        (mm, d) => Math.abs(travelMm(wheelDegrees(mm, d), d) - mm) < 1e-6,
      ),
    );
  });
});

describe('a hot turn', () => {
  it('ends as much later as it is faster, and the threshold that cancels it lands on the mark', () => {
    const [slow, fast] = [100, 200].map((rate) => overshoot(90, rate, reaction, 120).overshootDeg);
    expect(fast! / slow!).toBeCloseTo(2, 9);
    fc.assert(
      fc.property(positive(720), positive(900), (wanted, rate) => {
        const found = overshoot(wanted, rate, reaction, 120);
        if (found.setDeg === null) return found.overshootDeg >= wanted - 1e-9;
        return Math.abs(overshoot(found.setDeg, rate, reaction, 120).endsAtDeg - wanted) < 1e-6;
      }),
    );
  });
});

describe('wheels that cannot change their speed as fast as τ asks', () => {
  const LIMIT = 4000;
  it('ramp straight on until the lag asks for no more, and go the way that follows from it', () => {
    fc.assert(
      fc.property(
        positive(1500),
        fc.double({ min: 0.01, max: 0.3, noNaN: true }),
        fc.double({ min: 100, max: 9000, noNaN: true }),
        (speed, tau, limit) => {
          // The same, added up by small steps (Euler).
          let [v, way] = [speed, 0];
          const dt = Math.min(tau / 50, (tau + speed / limit) / 4000);
          for (let i = 0; i < 200_000 && v > speed * 1e-4; i++) {
            way += v * dt;
            v -= Math.min(v / tau, limit) * dt;
          }
          return Math.abs(lagWay(speed, tau, limit) / way - 1) < 0.015;
        },
      ),
      { numRuns: 60 },
    );
  });

  it('one long step is many short ones, wherever the ramp ends within them', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -900, max: 900, noNaN: true }),
        fc.double({ min: -900, max: 900, noNaN: true }),
        fc.integer({ min: 1, max: 300 }),
        (from, to, ms) => {
          let [v, d] = [from, 0];
          for (let i = 0; i < ms; i++) {
            const step = lagStep(v, to, 0.05, 0.001, LIMIT);
            [v, d] = [step.v, d + step.d];
          }
          const once = lagStep(from, to, 0.05, ms / 1000, LIMIT);
          return Math.abs(once.v - v) < 1e-6 && Math.abs(once.d - d) < 1e-6;
        },
      ),
    );
  });

  it('brake a fast robot by v² ÷ 2a and a slow one by v·τ', () => {
    // Published: stopping at a constant deceleration takes v²/2a (Halliday and Resnick, Fundamentals of Physics, eq. 2-16; recalled).
    expect(lagWay(1000, 1e-9, 2000)).toBeCloseTo(250, 3);
    expect(lagWay(100, 0.05, 4000)).toBeCloseTo(5, 12);
    const stop = (speed: number, accelLimitMmPerS2?: number) =>
      stoppingDistance(speed, { ...reaction, accelLimitMmPerS2 }).meanMm;
    expect(stop(60, LIMIT)).toBe(stop(60));
    expect(stop(500, LIMIT) - stop(500)).toBeCloseTo(
      (500 - LIMIT * reaction.tauBrakeS) ** 2 / (2 * LIMIT),
      9,
    );
    // A turn is limited by the same wheels.
    const [rate, track] = [spotTurnRate(500, 120), 120];
    const over = (limit?: number) =>
      overshoot(90, rate, { ...reaction, accelLimitMmPerS2: limit }, track).overshootDeg;
    expect(over(LIMIT) - over()).toBeCloseTo(spotTurnRate(stop(500, LIMIT) - stop(500), track), 9);
  });
});

describe('a search sweep', () => {
  it('meets a target whose angle holds the looks wanted', () => {
    // 120 mm at 600 mm is 11.42°; two looks of 60 ms: 95°/s.
    const rate = surelyMetSweepRate(120, 600, 0.06, { looks: 2 });
    expect(rate).toBeCloseTo((2 * Math.atan(0.1) * 180) / Math.PI / 0.12, 9);
    expect(surelyMetSweepRate(120, 600, 0.06, { looks: 1 })).toBeCloseTo(2 * rate, 9);
    expect(surelyMetSweepRate(120, 600, 0.06, { looks: 2, coneDeg: 14 })).toBeGreaterThan(rate);
    expect(surelyMetSweepRate(120, 1200, 0.06)).toBeLessThan(surelyMetSweepRate(120, 600, 0.06));
  });
});

describe('the threshold for a stop gap', () => {
  it('keeps the wanted gap at the latest look, and is never less than it', () => {
    fc.assert(
      fc.property(
        positive(1000),
        positive(1500),
        positive(50),
        positive(20),
        (gap, speed, errorMm, stepMm) => {
          const found = thresholdForGap(gap, speed, reaction, { errorMm, stepMm });
          return (
            Math.abs(found.leastGapMm - gap) < 1e-6 &&
            found.mostGapMm >= gap &&
            found.thresholdMm > gap &&
            thresholdForGap(gap, speed / 2, reaction, { errorMm, stepMm }).thresholdMm < found.thresholdMm
          );
        },
      ),
    );
  });

  it('takes the delays from the kit and the sensor', () => {
    const own = reactionOf(kit, 60);
    expect(own).toEqual({ samplePeriodS: 0.06, stepTimeS: 0.005, commandDelayS: 0.008, tauBrakeS: 0.045 });
    // Half the speed halves the way (common practice).
    expect(stoppingDistance(200, own).mostMm).toBeCloseTo(2 * stoppingDistance(100, own).mostMm, 9);
  });
});

describe('a steering map', () => {
  it('goes through both points', () => {
    const value = fc.integer({ min: -100, max: 100 });
    fc.assert(
      fc.property(value, value, value, value, (x1, y1, x2, y2) => {
        const map = steeringMap(x1, y1, x2, y2);
        if (!map) return x1 === x2;
        const at = (x: number) => map.slope * x + map.intercept;
        return (
          Math.abs(at(x1) - y1) < 1e-6 &&
          Math.abs(at(x2) - y2) < 1e-6 &&
          (map.zeroAt === null ? map.slope === 0 : Math.abs(at(map.zeroAt)) < 1e-6)
        );
      }),
    );
  });
});
