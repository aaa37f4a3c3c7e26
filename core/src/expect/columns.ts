import type { Course } from '../course/index.ts';
import { cos, radians, sin } from '../quantity/index.ts';
import type { RunEvent, Signal, Trace } from '../sim/index.ts';
import type { Asked } from './asked.ts';
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

/** Works a signal out as far as it is asked for; samples that are not asked for hold nothing that would change what is. */
export type Derive = (trace: Trace, scene: Scene, asked: Asked) => Signal | null;

export function column(trace: Trace, unit: string, of: (i: number) => number): Signal {
  const values = new Float32Array(trace.timesS.length);
  for (let i = 0; i < values.length; i++) values[i] = of(i);
  return { unit, values };
}
export const level = (trace: Trace, unit: string, value: number): Signal => ({
  unit,
  values: new Float32Array(trace.timesS.length).fill(value),
});

/** A signal each of whose samples stands for itself: where only the end is asked for, that is worked out and stands in all of them. */
export const sampled = (trace: Trace, unit: string, asked: Asked, of: (i: number) => number): Signal =>
  asked === 'end' ? level(trace, unit, of(trace.timesS.length - 1)) : column(trace, unit, of);

/** Positions and directions of a trace as plain columns; null when the trace does not hold them. */
export interface Poses {
  x: Float32Array;
  y: Float32Array;
  /** Sine and cosine of the bearing. */
  s: Float64Array;
  c: Float64Array;
}

type Directions = Pick<Poses, 's' | 'c'>;
const directions = new WeakMap<Float32Array, Directions>();

/** Sine and cosine of bearings in degrees, from one of them on. */
function directionsOf(bearing: Float32Array, from: number): Directions {
  const n = bearing.length;
  const [s, c] = [new Float64Array(n), new Float64Array(n)];
  for (let i = from; i < n; i++) {
    // Straight ahead and at rest the bearing stays.
    if (i > from && bearing[i] === bearing[i - 1]) {
      s[i] = s[i - 1]!;
      c[i] = c[i - 1]!;
      continue;
    }
    const b = radians(bearing[i]!);
    s[i] = sin(b);
    c[i] = cos(b);
  }
  return { s, c };
}

/** Where only the end is asked for, the last direction alone is told. */
export function poses(trace: Trace, asked: Asked): Poses | null {
  const { x, y, bearing } = trace.signals;
  if (!x || !y || !bearing) return null;
  let found = directions.get(bearing.values);
  if (!found && asked === 'end') found = directionsOf(bearing.values, bearing.values.length - 1);
  else if (!found) {
    found = directionsOf(bearing.values, 0);
    directions.set(bearing.values, found);
  }
  return { x: x.values, y: y.values, ...found };
}

/** Where a point of the robot is at a sample, mm. */
export const pointX = (p: Poses, i: number, ahead: number, right: number): number =>
  p.x[i]! + ahead * p.s[i]! + right * p.c[i]!;
export const pointY = (p: Poses, i: number, ahead: number, right: number): number =>
  p.y[i]! + ahead * p.c[i]! - right * p.s[i]!;

/** Length of a way, mm. Math.hypot guards against numbers that no mat holds, at ten times the price. */
export const wayBetween = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);
