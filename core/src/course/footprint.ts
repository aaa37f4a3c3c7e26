/**
 * Fraction of a round spot of radius r that lies beyond a straight edge, when its centre is `x` past the
 * edge (same unit): the circular-segment area r²·acos(d/r) − d·√(r² − d²) over πr² (any handbook, for
 * example Bronstein and Semendjajew).
 */
export function fractionPastEdge(x: number, r: number): number {
  if (r <= 0) return x > 0 ? 1 : x < 0 ? 0 : 0.5;
  const d = Math.min(1, Math.max(-1, -x / r));
  return (Math.acos(d) - d * Math.sqrt(1 - d * d)) / Math.PI;
}

/** Fraction of the spot on a line of width w when its centre is `x` from the line's middle. */
export function fractionOnLine(x: number, w: number, r: number): number {
  return fractionPastEdge(x + w / 2, r) - fractionPastEdge(x - w / 2, r);
}
