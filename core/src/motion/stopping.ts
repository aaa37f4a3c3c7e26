import type { Kit } from '../sensing/index.ts';
import { lagWay } from './lag.ts';

/** Delays between a surface passing under the sensor and the wheels standing still. Times in s. */
export interface Reaction {
  samplePeriodS: number;
  stepTimeS: number;
  commandDelayS: number;
  tauBrakeS: number;
  /** Wheels lose no more speed than this, mm/s in a second; no limit when not said. */
  accelLimitMmPerS2?: number | undefined;
}

/** The delays of a kit for a sensor that looks every `samplePeriodMs`. */
export const reactionOf = (
  { drive, stepTimeMs }: Pick<Kit, 'drive' | 'stepTimeMs'>,
  samplePeriodMs: number,
): Reaction => ({
  samplePeriodS: samplePeriodMs / 1000,
  stepTimeS: stepTimeMs / 1000,
  commandDelayS: drive.commandDelayMs / 1000,
  tauBrakeS: drive.tauBrakeS,
  accelLimitMmPerS2: drive.accelLimitMmPerS2,
});

/** Stopping distance in mm from `speed` in mm/s: for the earliest, middle and latest sample and step. */
export interface StoppingDistance {
  leastMm: number;
  meanMm: number;
  mostMm: number;
}

/**
 * v·(delay) + the way of braking (`lagWay`), where the sample and the step may come at once or a whole period late
 * (uniform phase, so half a period on average); two steps pass from look to stop: the one that looks and
 * the stop itself.
 */
export function stoppingDistance(speed: number, r: Reaction): StoppingDistance {
  const leastMm = speed * (r.stepTimeS + r.commandDelayS) + lagWay(speed, r.tauBrakeS, r.accelLimitMmPerS2);
  return {
    leastMm,
    meanMm: leastMm + (speed * (r.samplePeriodS + r.stepTimeS)) / 2,
    mostMm: leastMm + speed * (r.samplePeriodS + r.stepTimeS),
  };
}

/**
 * Greatest speed in mm/s at which a line is surely seen: one sample must fall while the spot's centre is
 * over it (half covered), so v·T ≤ w.
 */
export function surelySeenSpeed(lineWidthMm: number, samplePeriodS: number): number {
  return lineWidthMm / samplePeriodS;
}
