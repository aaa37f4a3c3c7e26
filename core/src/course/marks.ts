import { degrees, radians, sin, cos, atan2 } from '../quantity/index.ts';
import type { Course, Mark, Point, Surface } from './course.ts';

/** Distance in mm from a point to a straight piece. */
export function segmentDistance(x: number, y: number, a: Point, b: Point): number {
  const [dx, dy] = [b.xMm - a.xMm, b.yMm - a.yMm];
  const length2 = dx * dx + dy * dy;
  const t = length2 === 0 ? 0 : Math.min(1, Math.max(0, ((x - a.xMm) * dx + (y - a.yMm) * dy) / length2));
  const [px, py] = [x - a.xMm - t * dx, y - a.yMm - t * dy];
  return Math.sqrt(px * px + py * py);
}

/** Signed distance in mm from a point to a box with half sizes `hx`, `hy`; negative inside. */
function boxDistance(x: number, y: number, hx: number, hy: number): number {
  const [qx, qy] = [Math.abs(x) - hx, Math.abs(y) - hy];
  return Math.hypot(Math.max(qx, 0), Math.max(qy, 0)) + Math.min(Math.max(qx, qy), 0);
}

/** Signed distance in mm from a point to the rim of a mark; negative inside. Stripes have square ends, paths round ones. */
export function markDistance(mark: Mark, x: number, y: number): number {
  switch (mark.kind) {
    case 'stripe': {
      const [dx, dy] = [mark.to.xMm - mark.from.xMm, mark.to.yMm - mark.from.yMm];
      const length = Math.hypot(dx, dy) || 1;
      const [ux, uy] = [dx / length, dy / length];
      const [px, py] = [x - (mark.from.xMm + mark.to.xMm) / 2, y - (mark.from.yMm + mark.to.yMm) / 2];
      return boxDistance(px * ux + py * uy, py * ux - px * uy, length / 2, mark.widthMm / 2);
    }
    case 'path': {
      let best = Infinity;
      for (let i = 1; i < mark.points.length; i++) {
        best = Math.min(best, segmentDistance(x, y, mark.points[i - 1]!, mark.points[i]!));
      }
      return best - mark.widthMm / 2;
    }
    case 'rectangle': {
      const [hx, hy] = [mark.widthMm / 2, mark.heightMm / 2];
      return boxDistance(x - mark.corner.xMm - hx, y - mark.corner.yMm - hy, hx, hy);
    }
    case 'disc':
      return Math.hypot(x - mark.centre.xMm, y - mark.centre.yMm) - mark.radiusMm;
    case 'arc': {
      const [dx, dy] = [x - mark.centre.xMm, y - mark.centre.yMm];
      const bearing = degrees(atan2(dx, dy));
      const past = (((bearing - mark.fromDeg) % 360) + 360) % 360;
      const inside = past <= mark.toDeg - mark.fromDeg;
      const off = inside
        ? Math.abs(Math.hypot(dx, dy) - mark.radiusMm)
        : Math.min(
            ...[mark.fromDeg, mark.toDeg].map((deg) => {
              const end = onArc(mark, deg);
              return Math.hypot(x - end.xMm, y - end.yMm);
            }),
          );
      return off - mark.widthMm / 2;
    }
  }
}

/** The point of an arc's middle line at a bearing from its centre. */
export function onArc(
  { centre, radiusMm }: Pick<Extract<Mark, { kind: 'arc' }>, 'centre' | 'radiusMm'>,
  deg: number,
): Point {
  const b = radians(deg);
  return { xMm: centre.xMm + radiusMm * sin(b), yMm: centre.yMm + radiusMm * cos(b) };
}

/** The middle line of a stripe, path or arc as points; null for marks that have none. */
export function middleLine(mark: Mark): Point[] | null {
  switch (mark.kind) {
    case 'stripe':
      return [mark.from, mark.to];
    case 'path':
      return mark.points;
    case 'arc': {
      const steps = Math.max(2, Math.ceil((mark.toDeg - mark.fromDeg) / 4));
      return Array.from({ length: steps + 1 }, (_, i) =>
        onArc(mark, mark.fromDeg + ((mark.toDeg - mark.fromDeg) * i) / steps),
      );
    }
    default:
      return null;
  }
}

/** How far a point lies to the right of a line of points, mm, seen along it; negative to the left. */
export function rightOf(points: readonly Point[], x: number, y: number): number {
  let best = Infinity;
  let side = 1;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const far = segmentDistance(x, y, a, b);
    if (far >= best - 1e-9) continue;
    best = far;
    side = (b.xMm - a.xMm) * (y - a.yMm) - (b.yMm - a.yMm) * (x - a.xMm) > 0 ? -1 : 1;
  }
  return side * best;
}

/** Pieces of a line that may be the nearest are looked for anew when a point has gone so far, mm. */
const HERE_MM = 40;

/**
 * `rightOf` for points that follow each other closely, such as those of a trail: the same numbers, to the bit. Pieces of the line are left
 * out that cannot be the nearest within a stretch round the point where they were last looked through.
 */
export function rightAlong(points: readonly Point[]): (x: number, y: number) => number {
  const n = Math.max(0, points.length - 1);
  /** The pieces as plain numbers: where each begins, and how far it goes, mm. */
  const pieces = new Float64Array(4 * n);
  for (let i = 0; i < n; i++) {
    const [a, b] = [points[i]!, points[i + 1]!];
    pieces.set([a.xMm, a.yMm, b.xMm - a.xMm, b.yMm - a.yMm], 4 * i);
  }
  const near = new Int32Array(n);
  let [count, aroundX, aroundY] = [0, NaN, NaN];
  const lookThrough = (x: number, y: number): void => {
    const far = new Float64Array(n);
    let best = Infinity;
    for (let i = 0; i < n; i++) {
      far[i] = segmentDistance(x, y, points[i]!, points[i + 1]!);
      best = Math.min(best, far[i]!);
    }
    [count, aroundX, aroundY] = [0, x, y];
    // Both the nearest and another may come nearer, or go away, by so much.
    for (let i = 0; i < n; i++) if (far[i]! <= best + 2 * HERE_MM + 1e-3) near[count++] = 4 * i;
  };
  return (x, y) => {
    const gx = x - aroundX;
    const gy = y - aroundY;
    if (!(gx * gx + gy * gy <= HERE_MM * HERE_MM)) lookThrough(x, y);
    let best = Infinity;
    let side = 1;
    for (let k = 0; k < count; k++) {
      const piece = near[k]!;
      const ex = x - pieces[piece]!;
      const ey = y - pieces[piece + 1]!;
      const dx = pieces[piece + 2]!;
      const dy = pieces[piece + 3]!;
      const length2 = dx * dx + dy * dy;
      const t = length2 === 0 ? 0 : Math.min(1, Math.max(0, (ex * dx + ey * dy) / length2));
      const px = ex - t * dx;
      const py = ey - t * dy;
      const square = px * px + py * py;
      if (square >= best * best) continue;
      const far = Math.sqrt(square);
      if (far >= best - 1e-9) continue;
      best = far;
      side = dx * ey - dy * ex > 0 ? -1 : 1;
    }
    return side * best;
  };
}

/** The surface under a point: the last mark that covers it, else the base. */
export function surfaceAt(course: Course, x: number, y: number): Surface {
  for (let i = course.marks.length - 1; i >= 0; i--) {
    const mark = course.marks[i]!;
    if (markDistance(mark, x, y) <= 0) return mark.surface;
  }
  return course.base;
}

/** The rectangle that holds a mark: [left, bottom, right, top] in mm. */
export function markBounds(mark: Mark): [number, number, number, number] {
  const around = (points: Point[], r: number): [number, number, number, number] => {
    const xs = points.map((p) => p.xMm);
    const ys = points.map((p) => p.yMm);
    return [Math.min(...xs) - r, Math.min(...ys) - r, Math.max(...xs) + r, Math.max(...ys) + r];
  };
  switch (mark.kind) {
    case 'stripe':
      return around([mark.from, mark.to], mark.widthMm / 2);
    case 'path':
      return around(mark.points, mark.widthMm / 2);
    case 'rectangle':
      return [
        mark.corner.xMm,
        mark.corner.yMm,
        mark.corner.xMm + mark.widthMm,
        mark.corner.yMm + mark.heightMm,
      ];
    case 'disc':
      return around([mark.centre], mark.radiusMm);
    case 'arc':
      return around([mark.centre], mark.radiusMm + mark.widthMm / 2);
  }
}
