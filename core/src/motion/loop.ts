import { atan } from '../quantity/index.ts';

/** Where a loop just keeps swinging: the critical gain (its unit is the loop's) and the period of that swing, s. */
export interface Critical {
  gain: number;
  periodS: number;
}

/** A robot that steers in proportion to how far its sensor is off an edge. */
export interface Follower {
  /** From a change at the sensor to the command at the motors, s, on average: half a look, half a round of the loop, and what else is late. */
  delayS: number;
  /** Time constant of the motors, s. */
  lagS: number;
  /** Over the floor, mm/s. */
  speedMmPerS: number;
  /** How far the sensor sits ahead of the axle, mm. */
  aheadMm: number;
}

/**
 * The turning rate per millimetre off the edge, rad/(s·mm), at which a follower of a straight edge just keeps swinging, and the period:
 * where the loop K·(v + L·s)·e^(−T·s)/(s²·(1 + τ·s)) has the gain 1 at a phase of −180° (Nyquist 1932). Null where no gain holds it: the
 * sensor looks less far ahead, in time, than the loop is late.
 */
export function criticalOfFollower({ delayS, lagS, speedMmPerS: v, aheadMm: L }: Follower): Critical | null {
  if (!(v > 0) || !(delayS + lagS > 0) || !(L / v > delayS + lagS)) return null;
  const lead = (w: number) => atan((w * L) / v) - w * delayS - atan(w * lagS);
  // It leads at slow swings and lags at quick ones, and turns once.
  let [low, high] = [1e-6, 1];
  while (lead(high) > 0) high *= 2;
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (lead(middle) > 0) low = middle;
    else high = middle;
  }
  const w = (low + high) / 2;
  const gain = (w * w * Math.sqrt(1 + (w * lagS) ** 2)) / Math.sqrt((w * L) ** 2 + v * v);
  return { gain, periodS: (2 * Math.PI) / w };
}

/**
 * How many points a light sensor’s reading changes per millimetre at an edge: contrast × 2/(π·r), the slope in the middle of the
 * circular segment. `contrast` in points between the two surfaces, `radiusMm` of the spot.
 */
export const pointsPerMm = (contrast: number, radiusMm: number): number =>
  (2 * contrast) / (Math.PI * radiusMm);

/** Turning rate, rad/s, per percent of steering at a speed: the outer wheel keeps it, the inner one loses 2 % of it for each percent. */
export const turnPerSteering = (speedMmPerS: number, trackMm: number): number =>
  (2 * speedMmPerS) / (100 * trackMm);
