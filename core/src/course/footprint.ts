import { sin, cos, acos } from '../quantity/index.ts';
import type { Course, Surface } from './course.ts';
import { surfaceAt } from './marks.ts';

/**
 * Fraction of a round spot of radius r that lies beyond a straight edge, when its centre is `x` past the
 * edge (same unit): the circular-segment area r²·acos(d/r) − d·√(r² − d²) over πr² (any handbook, for
 * example Bronstein and Semendjajew).
 */
export function fractionPastEdge(x: number, r: number): number {
  if (r <= 0) return x > 0 ? 1 : x < 0 ? 0 : 0.5;
  const d = Math.min(1, Math.max(-1, -x / r));
  return (acos(d) - d * Math.sqrt(1 - d * d)) / Math.PI;
}

/** Fraction of the spot on a line of width w when its centre is `x` from the line's middle. */
export function fractionOnLine(x: number, w: number, r: number): number {
  return fractionPastEdge(x + w / 2, r) - fractionPastEdge(x - w / 2, r);
}

/**
 * The surfaces under a round spot with their shares, by sampling it at points of equal area on rings (61 of
 * them). For single looks; the simulator reads a raster made once.
 */
export function surfacesUnder(
  course: Course,
  x: number,
  y: number,
  r: number,
): { surface: Surface; share: number }[] {
  const shares = new Map<Surface, number>();
  const rings = 4;
  let points = 0;
  for (let ring = 0; ring <= rings; ring++) {
    const count = ring === 0 ? 1 : 6 * ring;
    const radius = (r * ring) / (rings + 0.5);
    for (let k = 0; k < count; k++) {
      const angle = (2 * Math.PI * k) / count;
      const surface = surfaceAt(course, x + radius * cos(angle), y + radius * sin(angle));
      shares.set(surface, (shares.get(surface) ?? 0) + 1);
      points++;
    }
  }
  return [...shares].map(([surface, n]) => ({ surface, share: n / points }));
}
