import { convert, type Unit } from '../quantity/index.ts';
import {
  calibrate,
  errorNear,
  rulerPoints,
  type Calibration,
  type FittedSensor,
  type Kit,
  type Reading,
  type RobotBuild,
} from '../sensing/index.ts';
import { reactionOf, stoppingDistance, type Reaction } from './stopping.ts';
import { topSpeedMmPerS } from './wheels.ts';

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

/** A stop gap worked out for one robot. Lengths in mm but for `value`. */
export interface StopGapPlan extends GapThreshold {
  speedMmPerS: number;
  reaction: Reaction;
  /** Distances at which the sensor was read against the ruler. */
  distances: number;
  /** Its line; null under three distances: then its error counts as nothing and its scale as true. */
  line: Calibration | null;
  errorMm: number | null;
  stepMm: number;
  /** What to type in, in the sensor's own unit: what it reads where the ruler says the threshold, up to its next step. */
  value: number;
  /** Whether the sensor can read that value. */
  inRange: boolean;
}

/** Farther off the line than this a ruler reading is called astray, mm. */
const ASTRAY_MM = 10;

/**
 * Where a robot must see a wall to stop with a gap (mm) at a share of its full speed (%): its own stopping
 * distance, and its own sensor's error and scale from the sets read against the ruler.
 */
export function planStopGap(
  robot: { kit: Kit; build: RobotBuild; sensor: FittedSensor },
  sets: readonly { truth: number | null; values: readonly Reading[] }[],
  gapMm: number,
  percent: number,
): StopGapPlan {
  const { kit, build, sensor } = robot;
  const own = sensor.unit as Unit;
  const points = rulerPoints(sets, own, 'mm');
  const found = calibrate(points, ASTRAY_MM);
  const line = found.ok && found.value.residualSd !== null ? found.value : null;
  const errorMm = line && errorNear(line, points, gapMm);
  const speedMmPerS = (topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm) * percent) / 100;
  const reaction = reactionOf(kit, sensor.samplePeriodMs);
  const stepMm = convert(sensor.step, own, 'mm');
  const gap = thresholdForGap(gapMm, speedMmPerS, reaction, { errorMm: errorMm ?? 0, stepMm });
  const exactMm = line ? line.slope * gap.thresholdMm + line.intercept : gap.thresholdMm;
  const steps = Math.ceil(convert(exactMm, 'mm', own) / sensor.step - 1e-9);
  const value = Number((steps * sensor.step).toFixed(4));
  return {
    ...gap,
    speedMmPerS,
    reaction,
    distances: points.length,
    line,
    errorMm,
    stepMm,
    value,
    inRange: value >= sensor.min && value <= sensor.max,
  };
}
