/**
 * A course: everything that lies on the floor, in mm, with x to the right and y up the mat from its lower
 * left corner. Marks are painted in order, later over earlier.
 */
export interface Course {
  name: string;
  widthMm: number;
  heightMm: number;
  base: Surface;
  marks: Mark[];
  starts: Start[];
  landmarks: Landmark[];
}

/** What a spot of the floor is called and how much light it sends back, 0–1. */
export interface Surface {
  name: string;
  reflectance: number;
  /** Its look, sRGB with channels 0–1; grey by its reflectance when not said. */
  colour?: readonly [number, number, number];
}

export interface Point {
  xMm: number;
  yMm: number;
}

export type Mark =
  | { kind: 'stripe'; surface: Surface; from: Point; to: Point; widthMm: number }
  | { kind: 'path'; surface: Surface; points: Point[]; widthMm: number }
  | { kind: 'rectangle'; surface: Surface; corner: Point; widthMm: number; heightMm: number }
  | { kind: 'disc'; surface: Surface; centre: Point; radiusMm: number };

/** A named place to start from; the pose is that of the axle's middle. */
export interface Start extends Point {
  name: string;
  bearingDeg: number;
}

/** A directed line: how far past it something is counts positive along `bearingDeg`. */
export interface Landmark extends Point {
  id: string;
  name: string;
  bearingDeg: number;
}
