import type { Kit } from '../sensing/index.ts';

/** Delays between a surface passing under the sensor and the wheels standing still. Times in s. */
export interface Reaction {
  samplePeriodS: number;
  stepTimeS: number;
  commandDelayS: number;
  tauBrakeS: number;
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
});

/** Stopping distance in mm from `speed` in mm/s: for the earliest, middle and latest sample and step. */
export interface StoppingDistance {
  leastMm: number;
  meanMm: number;
  mostMm: number;
}

/**
 * v·(delay) + v·τ_brake, where the sample and the step may come at once or a whole period late
 * (uniform phase, so half a period on average); two steps pass from look to stop: the one that looks and
 * the stop itself. The tail of the braking lag is v·τ (integral of v·e^(−t/τ)).
 */
export function stoppingDistance(speed: number, r: Reaction): StoppingDistance {
  const always = r.stepTimeS + r.commandDelayS + r.tauBrakeS;
  return {
    leastMm: speed * always,
    meanMm: speed * (always + r.samplePeriodS / 2 + r.stepTimeS / 2),
    mostMm: speed * (always + r.samplePeriodS + r.stepTimeS),
  };
}

/**
 * Greatest speed in mm/s at which a line is surely seen: one sample must fall while the spot's centre is
 * over it (half covered), so v·T ≤ w.
 */
export function surelySeenSpeed(lineWidthMm: number, samplePeriodS: number): number {
  return lineWidthMm / samplePeriodS;
}
