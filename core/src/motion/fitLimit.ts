import { found, refused, type Outcome } from '../quantity/index.ts';
import { studentHalf } from '../statistics/index.ts';
import { throughOrigin, type Estimate } from './interval.ts';
import { lagWay } from './lag.ts';

/** A stop as the fit needs it: how far a robot of that speed ended past what it saw. */
export interface StopAt {
  speedMmPerS: number;
  pastMm: number;
}

/** What the limit of the wheels adds to a stop, mm, against the first-order lag alone: (v − aτ)²/2a above v = aτ, nothing below. */
export const beyondLag = (speed: number, tauS: number, accelLimit: number): number =>
  lagWay(speed, tauS, accelLimit) - speed * tauS;

/** Limits that a robot on wheels may have, mm/s²; a stop tells none above, for they add nothing to it. */
const LEAST = 300;
const MOST = 50_000;
/** Limits that are tried, evenly in their logarithm: a hundredth apart. */
const TRIED = 520;

/**
 * The limit at which stops of several speeds lie best on s·v + (v − aτ)²/2a, s being free, and the limits that fit hardly worse
 * (profile of the sum of squares against Student's t, 95 %). Refused where a straight line explains them as well.
 */
export function accelLimitOf(stops: readonly StopAt[], tauS: number, leastSd: number): Outcome<Estimate> {
  const degrees = stops.length - 2;
  if (degrees < 1 || new Set(stops.map(({ speedMmPerS }) => speedMmPerS)).size < 2)
    return refused(
      'Stops at one speed cannot tell how hard it brakes at most.',
      'Log stops at a slow speed and at full speed.',
    );
  const squares = (limit: number): number => {
    const points = stops.map(
      ({ speedMmPerS: v, pastMm }) => [v, pastMm - beyondLag(v, tauS, limit)] as const,
    );
    const slope = throughOrigin(points).value;
    return points.reduce((sum, [v, y]) => sum + (y - slope * v) ** 2, 0);
  };
  const tried = Array.from({ length: TRIED }, (_, i) => {
    const limit = LEAST * (MOST / LEAST) ** (i / (TRIED - 1));
    return { limit, rest: squares(limit) };
  });
  const best = tried.reduce((a, b) => (b.rest < a.rest ? b : a));
  const variance = Math.max(leastSd ** 2, best.rest / degrees);
  const allowed = best.rest + variance * studentHalf(degrees) ** 2;
  if (squares(Infinity) <= allowed)
    return refused(
      'At these speeds its wheels follow its braking: the most that they could do does not show.',
      'Log stops at full speed as well.',
    );
  const near = tried.filter(({ rest }) => rest <= allowed);
  return found({
    value: best.limit,
    low: near[0]!.limit,
    high: near.at(-1)!.limit,
    trials: stops.length,
  });
}
