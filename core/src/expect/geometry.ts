import type { Solid } from '../course/index.ts';

/** The robot's outline, mm. */
export interface OutlineSize {
  lengthMm: number;
  widthMm: number;
  axleFromFrontMm: number;
  trackMm: number;
}

/** Distance from a point to a straight piece, both relative to the robot: ahead and to the right. */
function pieceApart(f: number, g: number, f1: number, g1: number, f2: number, g2: number): number {
  const [df, dg] = [f2 - f1, g2 - g1];
  const square = df * df + dg * dg;
  let t = square === 0 ? 0 : ((f - f1) * df + (g - g1) * dg) / square;
  t = t < 0 ? 0 : t > 1 ? 1 : t;
  const [pf, pg] = [f - f1 - t * df, g - g1 - t * dg];
  return Math.sqrt(pf * pf + pg * pg);
}

/** Whether a straight piece meets the rectangle |f| ≤ half, |g| ≤ side (clipping by Liang and Barsky 1984). */
function meets(f1: number, g1: number, f2: number, g2: number, half: number, side: number): boolean {
  let [from, to] = [0, 1];
  for (const [start, way, limit] of [
    [f1, f2 - f1, half],
    [g1, g2 - g1, side],
  ] as const) {
    if (way === 0) {
      if (Math.abs(start) > limit) return false;
      continue;
    }
    const [a, b] = [(-limit - start) / way, (limit - start) / way];
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
    if (from > to) return false;
  }
  return true;
}

/** Distance from a point to the rectangle; 0 inside. */
function outside(f: number, g: number, half: number, side: number): number {
  const [p, q] = [Math.max(0, Math.abs(f) - half), Math.max(0, Math.abs(g) - side)];
  return Math.sqrt(p * p + q * q);
}

/** Room in mm between a robot's outline at a pose (axle's middle, sine and cosine of its bearing) and solid things. */
export function outlineGap(
  solids: readonly Solid[],
  { lengthMm, widthMm, axleFromFrontMm }: OutlineSize,
  x: number,
  y: number,
  s: number,
  c: number,
): number {
  const [half, side] = [lengthMm / 2, widthMm / 2];
  const ahead = axleFromFrontMm - half;
  const [mx, my] = [x + ahead * s, y + ahead * c];
  const reach = Math.hypot(half, side);
  let least = Infinity;
  for (const { sides, round } of solids) {
    for (const [a, b] of sides) {
      const [ax, ay, bx, by] = [a.xMm - mx, a.yMm - my, b.xMm - mx, b.yMm - my];
      // Too far away to be the nearest, whichever way the robot stands.
      if (pieceApart(0, 0, ax, ay, bx, by) - reach >= least) continue;
      const [f1, g1] = [ax * s + ay * c, ax * c - ay * s];
      const [f2, g2] = [bx * s + by * c, bx * c - by * s];
      if (meets(f1, g1, f2, g2, half, side)) return 0;
      least = Math.min(
        least,
        outside(f1, g1, half, side),
        outside(f2, g2, half, side),
        pieceApart(half, side, f1, g1, f2, g2),
        pieceApart(half, -side, f1, g1, f2, g2),
        pieceApart(-half, side, f1, g1, f2, g2),
        pieceApart(-half, -side, f1, g1, f2, g2),
      );
    }
    if (round) {
      const [dx, dy] = [round.centre.xMm - mx, round.centre.yMm - my];
      const far = outside(dx * s + dy * c, dx * c - dy * s, half, side);
      least = Math.min(least, Math.max(0, far - round.radiusMm));
    }
  }
  return least;
}

/** Length in mm of a ray from (x, y) along (s, c) until it meets something solid; Infinity when it meets nothing. */
export function rayLength(solids: readonly Solid[], x: number, y: number, s: number, c: number): number {
  let best = Infinity;
  for (const { sides, round } of solids) {
    for (const [a, b] of sides) {
      const [ex, ey] = [a.xMm - x, a.yMm - y];
      const [wx, wy] = [b.xMm - a.xMm, b.yMm - a.yMm];
      const cross = s * wy - c * wx;
      if (cross === 0) continue;
      const t = (ex * wy - ey * wx) / cross;
      const u = (ex * c - ey * s) / cross;
      if (t >= 0 && u >= 0 && u <= 1) best = Math.min(best, t);
    }
    if (round) {
      const [ex, ey] = [round.centre.xMm - x, round.centre.yMm - y];
      const along = ex * s + ey * c;
      const off = Math.abs(ex * c - ey * s);
      if (along > 0 && off < round.radiusMm) {
        best = Math.min(best, Math.max(0, along - Math.sqrt(round.radiusMm ** 2 - off ** 2)));
      }
    }
  }
  return best;
}
