import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import type { Pair } from './surfaces.ts';

/** From so many expected misreads in a thousand looks on a threshold is called poor (house choice). */
export const MISREADS_POOR = 10;

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
 * Misreads, margins and the light shift survived, for readings taken as normal with the measured
 * means and sds. A low reading at or above the threshold, or a high one below it, is a misread.
 */
export function judgeThreshold(threshold: number, { low, high }: Pair): Safety {
  const marginLow = threshold - low.mean;
  const marginHigh = high.mean - threshold;
  const spare = Math.min(marginLow - ONE_IN_A_HUNDRED * low.sd, marginHigh - ONE_IN_A_HUNDRED * high.sd);
  return {
    threshold,
    misreadsLow: 1000 * upperTail(marginLow / low.sd),
    misreadsHigh: 1000 * upperTail(marginHigh / high.sd),
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
