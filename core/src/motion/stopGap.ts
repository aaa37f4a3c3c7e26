import type { Reaction } from './stopping.ts';
import { stoppingDistance } from './stopping.ts';

/** Where to set a distance threshold so that the robot stops with a wanted gap; all in mm. */
export interface GapThreshold {
  /** Reading to stop at: the wanted gap, the longest stopping distance, the sensor's error and half its step. */
  thresholdMm: number;
  /** Gap left with the latest and with the earliest look. */
  leastGapMm: number;
  mostGapMm: number;
  stopping: { leastMm: number; meanMm: number; mostMm: number };
}

/**
 * Threshold = gap + longest stopping distance + sensor error + half a step of the reading, so that the gap
 * is kept even when the look comes as late as it can. `speed` in mm/s.
 */
export function thresholdForGap(
  gapMm: number,
  speed: number,
  reaction: Reaction,
  { errorMm = 0, stepMm = 0 }: { errorMm?: number; stepMm?: number } = {},
): GapThreshold {
  const stopping = stoppingDistance(speed, reaction);
  const thresholdMm = gapMm + stopping.mostMm + errorMm + stepMm / 2;
  return {
    thresholdMm,
    stopping,
    leastGapMm: thresholdMm - stopping.mostMm - errorMm - stepMm / 2,
    mostGapMm: thresholdMm - stopping.leastMm + errorMm + stepMm / 2,
  };
}
