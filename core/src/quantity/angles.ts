/** Wraps an angle in degrees into (−180, 180]; exactly half a turn stays positive. */
export function wrapDegrees(deg: number): number {
  const rest = deg % 360;
  if (rest > 180) return rest - 360;
  if (rest <= -180) return rest + 360;
  return rest === 0 ? 0 : rest;
}

/** The shortest turn in degrees from one bearing to another, clockwise positive. */
export function turnBetween(fromDeg: number, toDeg: number): number {
  return wrapDegrees(toDeg - fromDeg);
}

export const radians = (deg: number): number => (deg * Math.PI) / 180;
export const degrees = (rad: number): number => (rad * 180) / Math.PI;
