/** Distance in mm for a wheel angle in degrees: π × diameter × turns. */
export function travelMm(wheelDeg: number, diameterMm: number): number {
  return (wheelDeg / 360) * Math.PI * diameterMm;
}

/** Top speed over the floor in mm/s, from the wheel's top speed in degrees per second. */
export function topSpeedMmPerS(topDegPerS: number, diameterMm: number): number {
  return travelMm(topDegPerS, diameterMm);
}
