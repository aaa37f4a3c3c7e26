import type { Course, Surface } from './course.ts';

/** A family of courses: one dark line across the way, and three starts below it. Lengths in mm. */
export interface StopLineOptions {
  name: string;
  base: Surface;
  line: Surface;
  lineWidthMm: number;
  /** From the starts' front sensor region (start point) up to the line's near edge. */
  approachMm: number;
  widthMm?: number;
  /** Free way beyond the line. */
  beyondMm?: number;
}

/** Builds the course; the near edge of the line is its landmark `near-edge`, counted positive past it. */
export function stopLine(options: StopLineOptions): Course {
  const { widthMm = 400, beyondMm = 350, approachMm, lineWidthMm } = options;
  const startY = 150;
  const nearY = startY + approachMm;
  const start = (name: string, xMm: number, bearingDeg: number) => ({ name, xMm, yMm: startY, bearingDeg });
  return {
    name: options.name,
    widthMm,
    heightMm: nearY + lineWidthMm + beyondMm,
    base: options.base,
    marks: [
      {
        kind: 'stripe',
        surface: options.line,
        from: { xMm: 30, yMm: nearY + lineWidthMm / 2 },
        to: { xMm: widthMm - 30, yMm: nearY + lineWidthMm / 2 },
        widthMm: lineWidthMm,
      },
    ],
    starts: [start('A', widthMm / 2, 0), start('B', widthMm * 0.3, 4), start('C', widthMm * 0.7, -4)],
    landmarks: [
      {
        id: 'near-edge',
        name: `near edge of the ${options.line.name}`,
        xMm: widthMm / 2,
        yMm: nearY,
        bearingDeg: 0,
      },
    ],
  };
}
