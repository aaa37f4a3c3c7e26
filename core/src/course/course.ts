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
  /** What is at the rim of the mat: floor that goes on (when not said), a wall, or a drop. */
  rim?: Rim;
  walls?: Wall[];
  boxes?: Box[];
  zones?: Zone[];
  tracks?: Track[];
  /** Another robot. */
  opponent?: Opponent;
  /** A lamp that sends infrared to be found. */
  beacon?: Point;
  /** When a finger presses the robot's button, s from the start. */
  presses?: Stay[];
}

export type Rim = 'open' | 'wall' | 'drop';

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
  /** Part of a circle, clockwise from one bearing to a later one. */
  | {
      kind: 'arc';
      surface: Surface;
      centre: Point;
      radiusMm: number;
      fromDeg: number;
      toDeg: number;
      widthMm: number;
    }
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

/** A thin straight wall. */
export interface Wall {
  from: Point;
  to: Point;
  /** How much infrared it sends back, 0–1; light when not said. */
  reflectance?: number;
}

/** A stretch of time, s from the start; null: to the end. */
export interface Stay {
  fromS: number;
  toS: number | null;
}

/** A thing that stands on the course: a box, or a round post of its width. Its point is its middle. */
export interface Box extends Point {
  id: string;
  name: string;
  widthMm: number;
  depthMm: number;
  /** Turned clockwise by so much. */
  turnDeg?: number;
  round?: boolean;
  reflectance?: number;
  /** So light that the robot pushes it along; what does not say stands fast. */
  light?: boolean;
  /** When it is there; always when not said. */
  stays?: Stay[];
  /** Goes to another place and back, over and over, from a moment on. */
  moves?: { to: Point; fromS: number; speedMmPerS: number };
}

/** A named place that can be visited. */
export type Zone = { id: string; name: string } & (
  | { kind: 'disc'; centre: Point; radiusMm: number }
  | { kind: 'rectangle'; corner: Point; widthMm: number; heightMm: number }
);

/** The edge of a long mark, to be followed: seen along the mark, its left or its right one. */
export interface Track {
  id: string;
  name: string;
  /** Index of a stripe, path or arc among the marks. */
  mark: number;
  side: 'left' | 'right';
}

/** Another robot: a round one, that stands, drives in a circle, or comes for ours. */
export interface Opponent extends Start {
  radiusMm: number;
  does: 'stands' | 'circles' | 'charges';
  speedMmPerS: number;
  /** Share of a push that it takes: 0 cannot be moved, 1 gives way at once. */
  gives: number;
}
