/** A heading sensor: integral of the turn rate plus a drift that is large when it was moved at power-up. */
export interface HeadingModel {
  /** Creep at rest, degrees per second. */
  driftPerS: number;
  /** Degrees read per degree turned. */
  scale: number;
}

/** What it reads after `seconds` when the robot has truly turned by `turnedDeg` since power-up. Clockwise counts up. */
export const headingAfter = (model: HeadingModel, turnedDeg: number, seconds: number): number =>
  model.scale * turnedDeg + model.driftPerS * seconds;
