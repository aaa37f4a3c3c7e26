import { convert, formatNumber, type Unit } from '../quantity/index.ts';
import {
  calibrate,
  errorNear,
  facingOf,
  rulerPoints,
  type Calibration,
  type Facing,
  type FittedSensor,
  type Fitting,
  type Kit,
  type Reading,
  type RobotBuild,
} from '../sensing/index.ts';
import { reactionOf, stoppingDistance, type Reaction } from './stopping.ts';
import { topSpeedMmPerS } from './wheels.ts';

/** Where to set a distance threshold so that the robot stops with a wanted gap; all in mm. */
export interface GapThreshold {
  /**
   * Distance from the sensor's face to stop at: the wanted gap, how far the face stands behind the robot's front, the longest
   * stopping distance, the sensor's error and half its step.
   */
  thresholdMm: number;
  /** Gap left with the latest and with the earliest look. */
  leastGapMm: number;
  mostGapMm: number;
  stopping: { leastMm: number; meanMm: number; mostMm: number };
}

/**
 * Threshold = gap + recess + longest stopping distance + sensor error + half a step of the reading, so that the gap is kept even
 * when the look comes as late as it can. `speed` in mm/s. The gap is left before the robot's front, the reading begins at the
 * sensor's face: the recess lies between them, below 0 when the face stands out.
 */
export function thresholdForGap(
  gapMm: number,
  speed: number,
  reaction: Reaction,
  { errorMm = 0, stepMm = 0, recessMm = 0 }: { errorMm?: number; stepMm?: number; recessMm?: number } = {},
): GapThreshold {
  const stopping = stoppingDistance(speed, reaction);
  const thresholdMm = gapMm + recessMm + stopping.mostMm + errorMm + stepMm / 2;
  return {
    thresholdMm,
    stopping,
    leastGapMm: gapMm,
    mostGapMm: thresholdMm - recessMm - stopping.leastMm + errorMm + stepMm / 2,
  };
}

/** How far a sensor's face stands behind the edge of the robot to which it looks, mm; null when it looks neither ahead nor back. */
export function recessOf(
  { lengthMm, axleFromFrontMm }: Pick<RobotBuild, 'lengthMm' | 'axleFromFrontMm'>,
  { aheadMm }: Pick<Fitting, 'aheadMm'>,
  facing: Facing,
): number | null {
  if (facing === 'ahead') return axleFromFrontMm - aheadMm;
  return facing === 'back' ? lengthMm - axleFromFrontMm + aheadMm : null;
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
  recessMm: number;
  /**
   * What to type in, in the sensor's own unit: what it reads where the ruler says the threshold, up to its next step; null when it
   * cannot tell distances apart.
   */
  value: number | null;
  /** What makes it useless for this gap, and what to do. */
  fault: { says: string; mend: string } | null;
  /** The threshold lies outside the distances that were read against the ruler. */
  beyond: boolean;
}

/** Farther off the line than this a ruler reading is called astray, mm. */
const ASTRAY_MM = 10;

/**
 * The scatter that looks rounded to steps may have, where half a step is counted besides: rounding adds step/√12 to it and hides
 * what is less (JCGM 100:2008, 4.3.7 and F.2.2.1).
 */
const unroundedSd = (sd: number, step: number): number =>
  Math.max(sd, Math.hypot(sd, step / Math.sqrt(12)) - step / 6);

/** The least that a reading grows for each millimetre by ruler before it is called a distance. */
const LEAST_SLOPE = 0.2;

/** What is wrong with a sensor's line, or with where it looks; null when nothing is. */
function faultOf(
  line: Calibration | null,
  recessMm: number | null,
  facing: Facing,
): { says: string; mend: string } | null {
  if (recessMm === null) {
    const way = facing === 'up' || facing === 'down' ? facing : `to the ${facing}`;
    return {
      says: `This sensor looks ${way}: it does not see what the robot drives at.`,
      mend: 'Choose one that looks ahead or back, or turn this one.',
    };
  }
  if (!line) return null;
  const surely = line.slope - 3 * (line.seSlope ?? 0);
  return line.slope < LEAST_SLOPE || surely <= 0
    ? {
        says: 'What it reads does not grow with the distance by ruler.',
        mend: 'Check its plug, its mode and what stands before it, then read against the ruler again.',
      }
    : null;
}

/**
 * Where a robot must see a wall to stop with a gap (mm) at a share of its full speed (%): its own stopping
 * distance, where its sensor sits, and that sensor's error and scale from the sets read against the ruler.
 */
export function planStopGap(
  robot: { kit: Kit; build: RobotBuild; sensor: FittedSensor; fitting: Fitting },
  sets: readonly { truth: number | null; values: readonly Reading[] }[],
  gapMm: number,
  percent: number,
): StopGapPlan {
  const { kit, build, sensor, fitting } = robot;
  const own = sensor.unit as Unit;
  const stepMm = convert(sensor.step, own, 'mm');
  const points = rulerPoints(sets, own, 'mm').map((point) => ({
    ...point,
    sd: unroundedSd(point.sd, stepMm),
  }));
  const found = calibrate(points, ASTRAY_MM);
  const line = found.ok && found.value.residualSd !== null ? found.value : null;
  const speedMmPerS = (topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm) * percent) / 100;
  const reaction = reactionOf(kit, sensor.samplePeriodMs);
  const facing = facingOf(kit, fitting);
  const recess = recessOf(build, fitting, facing);
  const recessMm = recess ?? 0;
  const fault = faultOf(line, recess, facing);
  // The error counts where the sensor decides, which is farther off than the gap.
  const decidesMm = gapMm + recessMm + stoppingDistance(speedMmPerS, reaction).mostMm;
  const errorMm = line && errorNear(line, points, decidesMm);
  const gap = thresholdForGap(gapMm, speedMmPerS, reaction, { errorMm: errorMm ?? 0, stepMm, recessMm });
  const exactMm = line ? line.slope * gap.thresholdMm + line.intercept : gap.thresholdMm;
  const steps = Math.ceil(convert(exactMm, 'mm', own) / sensor.step - 1e-9);
  const value = Number((steps * sensor.step).toFixed(4));
  const inRange = value >= sensor.min && value <= sensor.max;
  const range = {
    says: `The sensor reads from ${formatNumber(sensor.min)} to ${formatNumber(sensor.max)} ${own} only.`,
    mend: 'Choose another gap, or drive more slowly.',
  };
  // A value that is rounded up stops it that much earlier.
  const earlyMm = (convert(value, own, 'mm') - exactMm) / (line && !fault ? line.slope : 1);
  return {
    ...gap,
    mostGapMm: gap.mostGapMm + earlyMm,
    speedMmPerS,
    reaction,
    distances: points.length,
    line,
    errorMm,
    stepMm,
    recessMm,
    value: fault ? null : value,
    fault: fault ?? (inRange ? null : range),
    beyond:
      line !== null &&
      (gap.thresholdMm < Math.min(...points.map(({ truth }) => truth)) ||
        gap.thresholdMm > Math.max(...points.map(({ truth }) => truth))),
  };
}
