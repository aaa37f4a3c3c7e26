import { radians, sin, cos } from '../quantity/index.ts';
import type { Box, Course, Point, Stay, Zone } from './course.ts';

/** How much infrared a thing sends back that does not say. */
export const USUAL_REFLECTANCE = 0.7;

/** Something solid, in mm: straight sides, or one round side, with what it belongs to. */
export interface Solid {
  /** Index of the box; −1 for walls and the rim. */
  box: number;
  sides: [Point, Point][];
  round: { centre: Point; radiusMm: number } | null;
  reflectance: number;
}

/** Where a box stands and how it is turned. */
export interface BoxPlace extends Point {
  turnDeg?: number | undefined;
}

const corner = (along: number, across: number, middle: BoxPlace): Point => {
  const b = radians(middle.turnDeg ?? 0);
  return {
    xMm: middle.xMm + across * cos(b) + along * sin(b),
    yMm: middle.yMm - across * sin(b) + along * cos(b),
  };
};

/** The four corners of a box at a place. */
export function cornersOf(box: Box): Point[];
export function cornersOf(box: Pick<Box, 'widthMm' | 'depthMm'>, middle: BoxPlace): Point[];
export function cornersOf(box: Pick<Box, 'widthMm' | 'depthMm'>, middle: BoxPlace = box as Box): Point[] {
  const [a, w] = [box.depthMm / 2, box.widthMm / 2];
  return [
    [-a, -w],
    [-a, w],
    [a, w],
    [a, -w],
  ].map(([along, across]) => corner(along!, across!, middle));
}

/** Where a box is at a time: on its way to and fro if it moves. */
export function boxPlace(box: Box, atS: number): BoxPlace {
  const { moves } = box;
  if (!moves || atS <= moves.fromS) return box;
  const [dx, dy] = [moves.to.xMm - box.xMm, moves.to.yMm - box.yMm];
  const far = Math.hypot(dx, dy);
  if (far === 0) return box;
  const gone = ((atS - moves.fromS) * moves.speedMmPerS) % (2 * far);
  const t = (gone <= far ? gone : 2 * far - gone) / far;
  return { xMm: box.xMm + t * dx, yMm: box.yMm + t * dy, turnDeg: box.turnDeg };
}

/** Whether something with these stays is there at a time. */
export const isThere = (stays: readonly Stay[] | undefined, atS: number): boolean =>
  !stays || stays.some(({ fromS, toS }) => atS >= fromS && (toS === null || atS < toS));

/**
 * Everything solid of a course as it stands at a time, s; boxes that are not there are left out. `pushed` says where light ones have
 * come to, by their index.
 */
export function solidsAt(course: Course, atS: number, pushed?: (box: number) => BoxPlace | null): Solid[] {
  const { widthMm: w, heightMm: h } = course;
  const solids: Solid[] = (course.walls ?? []).map(({ from, to, reflectance }) => ({
    box: -1,
    sides: [[from, to]],
    round: null,
    reflectance: reflectance ?? USUAL_REFLECTANCE,
  }));
  if (course.rim === 'wall') {
    const rim = [
      { xMm: 0, yMm: 0 },
      { xMm: w, yMm: 0 },
      { xMm: w, yMm: h },
      { xMm: 0, yMm: h },
    ];
    solids.push({
      box: -1,
      sides: rim.map((point, i) => [point, rim[(i + 1) % 4]!]),
      round: null,
      reflectance: USUAL_REFLECTANCE,
    });
  }
  (course.boxes ?? []).forEach((box, index) => {
    if (!isThere(box.stays, atS)) return;
    const middle = (box.light && pushed?.(index)) || boxPlace(box, atS);
    const corners = cornersOf(box, middle);
    solids.push({
      box: index,
      sides: box.round ? [] : corners.map((point, i) => [point, corners[(i + 1) % 4]!]),
      round: box.round ? { centre: middle, radiusMm: box.widthMm / 2 } : null,
      reflectance: box.reflectance ?? USUAL_REFLECTANCE,
    });
  });
  return solids;
}

/** How deep inside a zone a point lies, mm; negative outside. */
export function insideZone(zone: Zone, x: number, y: number): number {
  if (zone.kind === 'disc') return zone.radiusMm - Math.hypot(x - zone.centre.xMm, y - zone.centre.yMm);
  const { corner: c, widthMm, heightMm } = zone;
  return Math.min(x - c.xMm, c.xMm + widthMm - x, y - c.yMm, c.yMm + heightMm - y);
}
