import type { Solid } from '../course/index.ts';
import type { OutlineSize } from './derived.ts';

/** Distance between two straight pieces, mm; 0 when they cross. All as x₁ y₁ x₂ y₂. */
function piecesApart(a: readonly number[], b: readonly number[]): number {
  const [ax, ay, bx, by] = a as [number, number, number, number];
  const [cx, cy, dx, dy] = b as [number, number, number, number];
  const turn = (px: number, py: number, qx: number, qy: number, rx: number, ry: number) =>
    (qx - px) * (ry - py) - (qy - py) * (rx - px);
  const crosses =
    turn(ax, ay, bx, by, cx, cy) * turn(ax, ay, bx, by, dx, dy) < 0 &&
    turn(cx, cy, dx, dy, ax, ay) * turn(cx, cy, dx, dy, bx, by) < 0;
  if (crosses) return 0;
  const near = (px: number, py: number, qx: number, qy: number, x: number, y: number) => {
    const [ux, uy] = [qx - px, qy - py];
    const square = ux * ux + uy * uy;
    const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((x - px) * ux + (y - py) * uy) / square));
    return Math.hypot(x - px - t * ux, y - py - t * uy);
  };
  return Math.min(
    near(ax, ay, bx, by, cx, cy),
    near(ax, ay, bx, by, dx, dy),
    near(cx, cy, dx, dy, ax, ay),
    near(cx, cy, dx, dy, bx, by),
  );
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
  const [front, back, half] = [axleFromFrontMm, axleFromFrontMm - lengthMm, widthMm / 2];
  const corner = (ahead: number, right: number) => [x + ahead * s + right * c, y + ahead * c - right * s];
  const corners = [corner(front, -half), corner(front, half), corner(back, half), corner(back, -half)];
  const edges = corners.map((from, i) => [...from, ...corners[(i + 1) % 4]!]);
  let least = Infinity;
  for (const { sides, round } of solids) {
    for (const [a, b] of sides) {
      const piece = [a.xMm, a.yMm, b.xMm, b.yMm];
      for (const edge of edges) least = Math.min(least, piecesApart(edge, piece));
    }
    if (round) {
      const { xMm, yMm } = round.centre;
      for (const edge of edges)
        least = Math.min(least, Math.max(0, piecesApart(edge, [xMm, yMm, xMm, yMm]) - round.radiusMm));
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
