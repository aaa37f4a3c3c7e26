import type { Course, Surface } from '@vigilum/core/course';

/** Puts a point of the course, mm, on the drawing. */
export type Place = (x: number, y: number) => [number, number];

/** How a course lies on the drawing: long ones lie on their side, so that they run from left to right. */
export function layOut({ widthMm, heightMm }: Pick<Course, 'widthMm' | 'heightMm'>) {
  const sideways = heightMm > widthMm;
  const [w, h] = sideways ? [heightMm, widthMm] : [widthMm, heightMm];
  const place: Place = sideways ? (x, y) => [y, x] : (x, y) => [x, heightMm - y];
  /** Degrees on the drawing, clockwise from its right, of a bearing on the course. */
  const angle = (bearingDeg: number) => (sideways ? bearingDeg : bearingDeg - 90);
  return { sideways, w, h, place, angle };
}

/** Surfaces are drawn in their colour, or as dark as they read. */
export function surfaceFill({ colour, reflectance }: Surface): string {
  if (colour) return `rgb(${colour.map((channel) => Math.round(255 * channel)).join(' ')})`;
  const dark = Math.round(100 * Math.min(1, Math.max(0, (0.95 - reflectance) / 0.75)));
  return `color-mix(in srgb, var(--mat-dark) ${dark}%, var(--mat))`;
}
