import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import type { Pair, Wanted } from './surfaces.ts';

/**
 * From so many expected misreads in a thousand looks on a threshold is called poor (house choice): a robot that looks twenty times a
 * second over a surface for three seconds is then wrong in every fourth run.
 */
export const MISREADS_POOR = 5;

export type Separation = 'sound' | 'usable' | 'poor';

/** How safe a threshold is between two surfaces. Readings in the sensor's unit. */
export interface Safety {
  threshold: number;
  /** Expected misreads in a thousand looks over each surface. */
  misreadsLow: number;
  misreadsHigh: number;
  /** Distance from each surface's mean, in reading points and in that surface's sds. */
  marginLow: number;
  marginHigh: number;
  marginLowSds: number;
  marginHighSds: number;
  /**
   * The shift of room light (all readings up or down together, in points) that it survives before
   * one look in a hundred is misread on either side; 0 when it is already worse.
   */
  lightShift: number;
}

/** The 1 % point of the normal distribution (Abramowitz and Stegun 1964, table 26.5). */
const ONE_IN_A_HUNDRED = 2.3263478740408408;

/** Upper tail of the standard normal, computed as Φ(−z) so that small tails keep their digits. */
export const upperTail = (z: number): number => normalCdf(-z, 0, 1);

/**
 * Where the sensed value must lie for a rounded reading to be on the other side of a threshold: half a step before the first step
 * that counts as over it. “Less than 48” is left at a reading of 48, which is anything from 47.5; “more than 48” is reached at 49.
 */
export function cutOf(threshold: number, step: number, wanted: Wanted = 'low'): number {
  const steps = threshold / step;
  // Thresholds are kept to six decimals: what is a step but for that is the step.
  return (wanted === 'low' ? Math.ceil(steps - 1e-4) - 0.5 : Math.floor(steps + 1e-4) + 0.5) * step;
}

/**
 * The scatter of what was sensed, from that of readings rounded to steps: rounding adds step²/12 to the variance (Sheppard 1898;
 * JCGM 100:2008, F.2.2.1). Never less than step/√12, which rounding hides.
 */
export const sensedSd = (sd: number, step: number): number =>
  Math.sqrt(Math.max(sd * sd - (step * step) / 12, (step * step) / 12));

/**
 * Misreads, margins and the light shift survived, for sensed values taken as normal with the measured means and sds and rounded to
 * the sensor's step. Where the darker surface is wanted, it is told by less than the threshold; the lighter one by more.
 */
export function judgeThreshold(threshold: number, { low, high, step }: Pair, wanted: Wanted = 'low'): Safety {
  const cut = cutOf(threshold, step, wanted);
  const [lowSd, highSd] = [sensedSd(low.sd, step), sensedSd(high.sd, step)];
  const marginLow = threshold - low.mean;
  const marginHigh = high.mean - threshold;
  const spare = Math.min(
    cut - low.mean - ONE_IN_A_HUNDRED * lowSd,
    high.mean - cut - ONE_IN_A_HUNDRED * highSd,
  );
  return {
    threshold,
    misreadsLow: 1000 * upperTail((cut - low.mean) / lowSd),
    misreadsHigh: 1000 * upperTail((high.mean - cut) / highSd),
    marginLow,
    marginHigh,
    marginLowSds: marginLow / low.sd,
    marginHighSds: marginHigh / high.sd,
    lightShift: Math.max(0, spare),
  };
}

/** d′ = (b − a) / √((s_a² + s_b²)/2) (Green and Swets 1966). */
export function separation({ low, high }: Pair): number {
  return (high.mean - low.mean) / Math.sqrt((low.sd ** 2 + high.sd ** 2) / 2);
}

/** House grades of d′: sound from 6, usable from 3. */
export function gradeSeparation(dPrime: number): Separation {
  if (dPrime >= 6) return 'sound';
  return dPrime >= 3 ? 'usable' : 'poor';
}
