import type { Solid } from '../course/index.ts';

/** The robot's outline, mm. */
export interface OutlineSize {
  lengthMm: number;
  widthMm: number;
  axleFromFrontMm: number;
  trackMm: number;
}

/** How far the robot's farthest point, or a wheel, is from its axle's middle, mm. */
export const swingOf = ({ lengthMm, widthMm, axleFromFrontMm, trackMm }: OutlineSize): number =>
  Math.max(trackMm / 2, Math.hypot(Math.max(axleFromFrontMm, lengthMm - axleFromFrontMm), widthMm / 2));

/** Solid things as plain numbers, mm: straight pieces as (x1, y1, x2, y2), round ones as (x, y, radius). */
export interface Shapes {
  pieces: Float64Array;
  rounds: Float64Array;
}

export function shapesOf(solids: readonly Solid[]): Shapes {
  return {
    pieces: Float64Array.from(
      solids.flatMap(({ sides }) => sides.flatMap(([a, b]) => [a.xMm, a.yMm, b.xMm, b.yMm])),
    ),
    rounds: Float64Array.from(
      solids.flatMap(({ round }) => (round ? [round.centre.xMm, round.centre.yMm, round.radiusMm] : [])),
    ),
  };
}

/** Square of the distance from a point to a straight piece, both relative to the robot: ahead and to the right. */
function squareApart(f: number, g: number, f1: number, g1: number, f2: number, g2: number): number {
  const df = f2 - f1;
  const dg = g2 - g1;
  const square = df * df + dg * dg;
  let t = square === 0 ? 0 : ((f - f1) * df + (g - g1) * dg) / square;
  t = t < 0 ? 0 : t > 1 ? 1 : t;
  const pf = f - f1 - t * df;
  const pg = g - g1 - t * dg;
  return pf * pf + pg * pg;
}

/** Whether a straight piece meets the rectangle |f| ≤ half, |g| ≤ side (clipping by Liang and Barsky 1984). */
function meets(f1: number, g1: number, f2: number, g2: number, half: number, side: number): boolean {
  let from = 0;
  let to = 1;
  const alongF = f2 - f1;
  if (alongF === 0) {
    if (Math.abs(f1) > half) return false;
  } else {
    const a = (-half - f1) / alongF;
    const b = (half - f1) / alongF;
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
    if (from > to) return false;
  }
  const alongG = g2 - g1;
  if (alongG === 0) return Math.abs(g1) <= side;
  const a = (-side - g1) / alongG;
  const b = (side - g1) / alongG;
  return Math.max(from, Math.min(a, b)) <= Math.min(to, Math.max(a, b));
}

/** Square of the distance from a point to the rectangle; 0 inside. */
function squareOutside(f: number, g: number, half: number, side: number): number {
  const p = Math.max(0, Math.abs(f) - half);
  const q = Math.max(0, Math.abs(g) - side);
  return p * p + q * q;
}

/**
 * Room in mm between a robot's outline at a pose (axle's middle, sine and cosine of its bearing) and solid things. What is
 * known to be farther than `atMost` need not be looked at: the room is not larger than that.
 */
export function outlineGap(
  { pieces, rounds }: Shapes,
  { lengthMm, widthMm, axleFromFrontMm }: OutlineSize,
  x: number,
  y: number,
  s: number,
  c: number,
  atMost = Infinity,
): number {
  const half = lengthMm / 2;
  const side = widthMm / 2;
  const ahead = axleFromFrontMm - half;
  const mx = x + ahead * s;
  const my = y + ahead * c;
  const reach = Math.hypot(half, side);
  let least = atMost * atMost;
  let within = (atMost + reach) * (atMost + reach);
  for (let i = 0; i < pieces.length; i += 4) {
    const ax = pieces[i]! - mx;
    const ay = pieces[i + 1]! - my;
    const bx = pieces[i + 2]! - mx;
    const by = pieces[i + 3]! - my;
    // Too far away to be the nearest, whichever way the robot stands.
    if (squareApart(0, 0, ax, ay, bx, by) > within) continue;
    const f1 = ax * s + ay * c;
    const g1 = ax * c - ay * s;
    const f2 = bx * s + by * c;
    const g2 = bx * c - by * s;
    if (meets(f1, g1, f2, g2, half, side)) return 0;
    const now = Math.min(
      squareOutside(f1, g1, half, side),
      squareOutside(f2, g2, half, side),
      squareApart(half, side, f1, g1, f2, g2),
      squareApart(half, -side, f1, g1, f2, g2),
      squareApart(-half, side, f1, g1, f2, g2),
      squareApart(-half, -side, f1, g1, f2, g2),
    );
    if (now >= least) continue;
    least = now;
    within = (Math.sqrt(least) + reach) ** 2;
  }
  let room = Math.sqrt(least);
  for (let i = 0; i < rounds.length; i += 3) {
    const dx = rounds[i]! - mx;
    const dy = rounds[i + 1]! - my;
    const far = Math.sqrt(squareOutside(dx * s + dy * c, dx * c - dy * s, half, side));
    room = Math.min(room, Math.max(0, far - rounds[i + 2]!));
  }
  return room;
}

/** Room in mm between a point and solid things. */
export function pointGap({ pieces, rounds }: Shapes, x: number, y: number): number {
  let least = Infinity;
  for (let i = 0; i < pieces.length; i += 4) {
    const square = squareApart(x, y, pieces[i]!, pieces[i + 1]!, pieces[i + 2]!, pieces[i + 3]!);
    if (square < least) least = square;
  }
  let room = Math.sqrt(least);
  for (let i = 0; i < rounds.length; i += 3) {
    const dx = x - rounds[i]!;
    const dy = y - rounds[i + 1]!;
    room = Math.min(room, Math.max(0, Math.sqrt(dx * dx + dy * dy) - rounds[i + 2]!));
  }
  return room;
}

/** Length in mm of a ray from (x, y) along (s, c) until it meets something solid; Infinity when it meets nothing. */
export function rayLength({ pieces, rounds }: Shapes, x: number, y: number, s: number, c: number): number {
  let best = Infinity;
  for (let i = 0; i < pieces.length; i += 4) {
    const ex = pieces[i]! - x;
    const ey = pieces[i + 1]! - y;
    const wx = pieces[i + 2]! - pieces[i]!;
    const wy = pieces[i + 3]! - pieces[i + 1]!;
    const cross = s * wy - c * wx;
    if (cross === 0) continue;
    const t = (ex * wy - ey * wx) / cross;
    if (t < 0 || t >= best) continue;
    const u = (ex * c - ey * s) / cross;
    if (u >= 0 && u <= 1) best = t;
  }
  for (let i = 0; i < rounds.length; i += 3) {
    const ex = rounds[i]! - x;
    const ey = rounds[i + 1]! - y;
    const radius = rounds[i + 2]!;
    const along = ex * s + ey * c;
    const off = Math.abs(ex * c - ey * s);
    if (along > 0 && off < radius)
      best = Math.min(best, Math.max(0, along - Math.sqrt(radius ** 2 - off ** 2)));
  }
  return best;
}
