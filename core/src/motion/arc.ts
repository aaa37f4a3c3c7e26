import { degrees, radians, sin, cos } from '../quantity/index.ts';

/** Position of the axle's middle in mm, bearing in degrees: 0 = up the mat, clockwise positive. */
export interface Pose {
  xMm: number;
  yMm: number;
  bearingDeg: number;
}

/**
 * Moves a pose along the exact arc that two wheel travels describe, in mm, for a track in mm
 * (Siegwart and Nourbakhsh 2004, section 3.2; the chord form avoids dividing by the turn).
 */
export function alongArc(pose: Pose, leftMm: number, rightMm: number, trackMm: number): Pose {
  const turn = (leftMm - rightMm) / trackMm;
  const half = turn / 2;
  const chord = ((leftMm + rightMm) / 2) * (Math.abs(half) < 1e-9 ? 1 : sin(half) / half);
  const along = radians(pose.bearingDeg) + half;
  return {
    xMm: pose.xMm + chord * sin(along),
    yMm: pose.yMm + chord * cos(along),
    bearingDeg: pose.bearingDeg + degrees(turn),
  };
}

/** Where a point of the robot is on the mat: `aheadMm` of the axle, `rightMm` to the right. */
export function pointOnRobot(pose: Pose, aheadMm: number, rightMm: number): { xMm: number; yMm: number } {
  const b = radians(pose.bearingDeg);
  return {
    xMm: pose.xMm + aheadMm * sin(b) + rightMm * cos(b),
    yMm: pose.yMm + aheadMm * cos(b) - rightMm * sin(b),
  };
}
