import type { Course } from '../course/index.ts';
import { cos, radians, sin } from '../quantity/index.ts';
import type { RunEvent, Signal, Trace } from '../sim/index.ts';
import type { OutlineSize } from './geometry.ts';

/** Where the watching sensor sits on the robot, mm. */
export interface Watcher {
  aheadMm: number;
  rightMm: number;
}

/** What signals are worked out from beside the trace. */
export interface Scene {
  course: Course;
  watcher: Watcher;
  outline: OutlineSize;
  events: readonly RunEvent[];
  /** Boxes come later by this, s. */
  laterS: number;
  programOverS: number | null;
  /** Sockets of the robot's forward bumpers. */
  bumpers: readonly string[];
}

export type Derive = (trace: Trace, scene: Scene) => Signal | null;

export function column(trace: Trace, unit: string, of: (i: number) => number): Signal {
  const values = new Float32Array(trace.timesS.length);
  for (let i = 0; i < values.length; i++) values[i] = of(i);
  return { unit, values };
}
export const level = (trace: Trace, unit: string, value: number): Signal => column(trace, unit, () => value);

/** Positions and directions of a trace as plain columns; null when the trace does not hold them. */
export interface Poses {
  x: Float32Array;
  y: Float32Array;
  /** Sine and cosine of the bearing. */
  s: Float64Array;
  c: Float64Array;
}

const directions = new WeakMap<Float32Array, Pick<Poses, 's' | 'c'>>();

export function poses(trace: Trace): Poses | null {
  const { x, y, bearing } = trace.signals;
  if (!x || !y || !bearing) return null;
  let found = directions.get(bearing.values);
  if (!found) {
    const n = bearing.values.length;
    found = { s: new Float64Array(n), c: new Float64Array(n) };
    for (let i = 0; i < n; i++) {
      // Straight ahead and at rest the bearing stays.
      if (i > 0 && bearing.values[i] === bearing.values[i - 1]) {
        found.s[i] = found.s[i - 1]!;
        found.c[i] = found.c[i - 1]!;
        continue;
      }
      const b = radians(bearing.values[i]!);
      found.s[i] = sin(b);
      found.c[i] = cos(b);
    }
    directions.set(bearing.values, found);
  }
  return { x: x.values, y: y.values, ...found };
}

/** Where a point of the robot is at a sample, mm. */
export const pointX = (p: Poses, i: number, ahead: number, right: number): number =>
  p.x[i]! + ahead * p.s[i]! + right * p.c[i]!;
export const pointY = (p: Poses, i: number, ahead: number, right: number): number =>
  p.y[i]! + ahead * p.c[i]! - right * p.s[i]!;
