import { linearRegression } from 'simple-statistics';
import { found, refused, type Outcome } from '../quantity/index.ts';
import { throughOrigin } from './interval.ts';
import { lagWay } from './lag.ts';
import type { Reaction } from './stopping.ts';

/** How far a robot went on after what it should stop at, at a speed. */
export interface StopPoint {
  speedMmPerS: number;
  stopMm: number;
}

/** What trials say about a robot's stopping. */
export interface BrakingFit {
  /** Stopping distance = slope × speed, as long as the wheels can follow τ: seconds from the thing passing to standing still. */
  slopeS: number;
  trials: number;
  speeds: number;
  /** Root mean square of what the trials lie off the line, mm. */
  scatterMm: number;
  /** Time constant of braking that makes the simulation stop as the trials did, s. */
  tauBrakeS: number;
  commandDelayMs: number;
}

/** Time constants that a motor may have, s. */
const LEAST_TAU_S = 0.005;
const MOST_TAU_S = 2;
/** Rounds until τ and what the limit of the wheels adds to a stop agree. */
const ROUNDS = 200;

/**
 * Delay and braking from trials: stop distance against speed is a line through the origin whose slope is the mean delay
 * (half a sample, a step and a half, the command's delay) and τ of braking; what the kit does not know of is put to τ.
 * Trials at one speed give the slope as a mean ratio, at several by least squares through the origin (as NIST StRD NoInt1).
 * Refuses fewer than two trials, and slopes that no motor has.
 */
export function fitBraking(points: readonly StopPoint[], reaction: Reaction): Outcome<BrakingFit> {
  const good = points.filter(({ speedMmPerS, stopMm }) => speedMmPerS > 0 && Number.isFinite(stopMm));
  if (good.length < 2)
    return refused('There are too few trials to fit.', 'Log at least two trials with a ruler.');
  const always = reaction.samplePeriodS / 2 + 1.5 * reaction.stepTimeS + reaction.commandDelayS;
  // Above the limit of the wheels a stop is longer than its time constant says; that part depends on τ again.
  let [slopeS, tauBrakeS] = [0, reaction.tauBrakeS];
  const beyond = (v: number) => lagWay(v, tauBrakeS, reaction.accelLimitMmPerS2) - v * tauBrakeS;
  for (let round = 0; round < ROUNDS; round++) {
    slopeS = throughOrigin(good.map(({ speedMmPerS: v, stopMm }) => [v, stopMm - beyond(v)] as const)).value;
    tauBrakeS = Math.min(MOST_TAU_S + 1, Math.max(0, slopeS - always));
  }
  if (tauBrakeS < LEAST_TAU_S || tauBrakeS > MOST_TAU_S)
    return refused(
      'The trials do not fit any motor: it stops sooner or later than it can.',
      'Check what was measured from where, and the speed in the script.',
    );
  const off = good.map(({ speedMmPerS: v, stopMm }) => stopMm - slopeS * v - beyond(v));
  return found({
    slopeS,
    trials: good.length,
    speeds: new Set(good.map(({ speedMmPerS }) => speedMmPerS)).size,
    scatterMm: Math.sqrt(off.reduce((sum, d) => sum + d * d, 0) / good.length),
    tauBrakeS,
    commandDelayMs: 1000 * reaction.commandDelayS,
  });
}

/** Whether trials at several speeds lie on a line that does not go through the origin: then something else is wrong. */
export function interceptOf(points: readonly StopPoint[]): number | null {
  const speeds = new Set(points.map(({ speedMmPerS }) => speedMmPerS));
  if (speeds.size < 2) return null;
  return linearRegression(points.map(({ speedMmPerS, stopMm }) => [speedMmPerS, stopMm])).b;
}
