import { atan } from '../quantity/index.ts';
import { lagWay } from './lag.ts';
import type { Reaction } from './stopping.ts';

/** What a turn "until the heading is above A" really ends at. Degrees. */
export interface Overshoot {
  overshootDeg: number;
  endsAtDeg: number;
  /** Threshold that would make it end at the wanted angle; null when the turn is hotter than the angle. */
  setDeg: number | null;
}

/**
 * A hot turn goes on after the look that ends it: rate × (half a sample on average + step + command delay), and the way of its
 * braking, rate × τ up to the limit of the wheels, which the track turns into one of the turn. `rate` in deg/s, `trackMm` in mm.
 */
export function overshoot(
  wantedDeg: number,
  rate: number,
  { samplePeriodS, stepTimeS, commandDelayS, tauBrakeS, accelLimitMmPerS2: limit }: Reaction,
  trackMm: number,
): Overshoot {
  const braking = lagWay(rate, tauBrakeS, limit && spotTurnRate(limit, trackMm));
  const overshootDeg = rate * (samplePeriodS / 2 + stepTimeS + commandDelayS) + braking;
  const set = wantedDeg - overshootDeg;
  return { overshootDeg, endsAtDeg: wantedDeg + overshootDeg, setDeg: set > 0 ? set : null };
}

/** Rate of a turn on the spot in deg/s, from the wheels' speed in mm/s: 2v/W. */
export const spotTurnRate = (wheelMmPerS: number, trackMm: number): number =>
  ((2 * wheelMmPerS) / trackMm) * (180 / Math.PI);

/**
 * Greatest sweep rate in deg/s at which a target of a given width at a given range is surely met by `looks`
 * looks: its angle 2·atan(w / 2r), plus the cone if any, over the time of those looks.
 */
export function surelyMetSweepRate(
  widthMm: number,
  rangeMm: number,
  samplePeriodS: number,
  { coneDeg = 0, looks = 1 }: { coneDeg?: number; looks?: number } = {},
): number {
  const angle = (2 * atan(widthMm / (2 * rangeMm)) * 180) / Math.PI + coneDeg;
  return angle / (looks * samplePeriodS);
}

/** A steering map y = m·x + b through two points. */
export interface SteeringMap {
  slope: number;
  intercept: number;
  /** The reading at which it steers straight on; null for a level line. */
  zeroAt: number | null;
}

/** The line through (x₁, y₁) and (x₂, y₂); null when both readings are (as good as) the same. */
export function steeringMap(x1: number, y1: number, x2: number, y2: number): SteeringMap | null {
  const slope = (y2 - y1) / (x2 - x1);
  if (!Number.isFinite(slope)) return null;
  const intercept = y1 - slope * x1;
  return { slope, intercept, zeroAt: slope === 0 ? null : -intercept / slope };
}
