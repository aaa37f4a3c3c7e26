import { middleLine, type Course, type Zone } from '@vigilum/core/course';
import type { Expectation } from '@vigilum/core/expect';
import { radians } from '@vigilum/core/quantity';

/** Where on the course an expectation speaks of: places to be shown, as zones and as bands along a line. */
export interface Meaning {
  zones: Zone[];
  /** Points of a line, and how wide the band along it is, mm. */
  bands: { points: { xMm: number; yMm: number }[]; widthMm: number }[];
}

/** What an expectation means on the course, as far as it speaks of places. */
export function meaningOf(expectation: Expectation, course: Course): Meaning {
  const none: Meaning = { zones: [], bands: [] };
  const zone = (id: string) => (course.zones ?? []).filter((z) => z.id === id);
  switch (expectation.kind) {
    case 'stops past': {
      const landmark = course.landmarks.find(({ id }) => id === expectation.landmark);
      if (!landmark) return none;
      const b = radians(landmark.bearingDeg);
      const [s, c] = [Math.sin(b), Math.cos(b)];
      const middle = expectation.withinMm / 2;
      const at = (aside: number) => ({
        xMm: landmark.xMm + middle * s + aside * c,
        yMm: landmark.yMm + middle * c - aside * s,
      });
      return { zones: [], bands: [{ points: [at(-170), at(170)], widthMm: expectation.withinMm }] };
    }
    case 'stays on track': {
      const track = course.tracks?.find(({ id }) => id === expectation.track);
      const mark = track && course.marks[track.mark];
      const points = mark && middleLine(mark);
      if (!points || !('widthMm' in mark)) return none;
      const aside = ((track.side === 'right' ? 1 : -1) * mark.widthMm) / 2;
      // The edge lies beside the middle line, square to it.
      const edge = points.map((p, i) => {
        const [a, b] = [points[Math.max(0, i - 1)]!, points[Math.min(points.length - 1, i + 1)]!];
        const [dx, dy] = [b.xMm - a.xMm, b.yMm - a.yMm];
        const length = Math.hypot(dx, dy) || 1;
        return { xMm: p.xMm + (aside * dy) / length, yMm: p.yMm - (aside * dx) / length };
      });
      return { zones: [], bands: [{ points: edge, widthMm: 2 * expectation.withinMm }] };
    }
    case 'ends in':
    case 'pushes out':
      return { ...none, zones: zone(expectation.zone) };
    case 'visits':
      return { ...none, zones: expectation.zones.flatMap(zone) };
    default:
      return none;
  }
}
