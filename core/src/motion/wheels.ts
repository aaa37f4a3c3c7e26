/** Distance in mm for a wheel angle in degrees: π × diameter × turns. */
export function travelMm(wheelDeg: number, diameterMm: number): number {
  return (wheelDeg / 360) * Math.PI * diameterMm;
}

/** Top speed over the floor in mm/s, from the wheel's top speed in degrees per second. */
export function topSpeedMmPerS(topDegPerS: number, diameterMm: number): number {
  return travelMm(topDegPerS, diameterMm);
}

/** Wheel angle in degrees for a distance in mm. */
export function wheelDegrees(distanceMm: number, diameterMm: number): number {
  return (distanceMm / (Math.PI * diameterMm)) * 360;
}

/** How far each wheel travels, mm, when the robot turns by `deg` on the spot: W·A·π/360. */
export function spotTurnTravelMm(deg: number, trackMm: number): number {
  return (Math.PI * trackMm * deg) / 360;
}
