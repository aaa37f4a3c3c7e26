import type { Course, Mark, Point, Surface } from './course.ts';

function segmentDistance(x: number, y: number, a: Point, b: Point): number {
  const [dx, dy] = [b.xMm - a.xMm, b.yMm - a.yMm];
  const length2 = dx * dx + dy * dy;
  const t = length2 === 0 ? 0 : Math.min(1, Math.max(0, ((x - a.xMm) * dx + (y - a.yMm) * dy) / length2));
  return Math.hypot(x - a.xMm - t * dx, y - a.yMm - t * dy);
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
  }
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
  }
}
