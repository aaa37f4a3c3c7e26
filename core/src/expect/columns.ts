import type { Course } from '../course/index.ts';
import { cos, radians, sin } from '../quantity/index.ts';
import type { RunEvent, Signal, Trace } from '../sim/index.ts';
import type { Asked } from './asked.ts';
import type { OutlineSize } from './geometry.ts';
import { Standing } from './looked.ts';

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

/** A signal each of whose samples stands for itself: where only the end is asked for, that alone is worked out. */
export const sampled = (trace: Trace, unit: string, asked: Asked, of: (i: number) => number): Signal =>
  asked === 'end'
    ? new Standing(unit, of(trace.timesS.length - 1), trace.timesS.length)
    : column(trace, unit, of);

/** Sine and cosine of the bearings of a trace, each worked out when it is first looked at. */
class Directions {
  readonly s: Float64Array;
  readonly c: Float64Array;
  constructor(private readonly bearing: Float32Array) {
    const n = bearing.length;
    const memory = new ArrayBuffer(2 * n * Float64Array.BYTES_PER_ELEMENT);
    this.s = new Float64Array(memory, 0, n);
    this.c = new Float64Array(memory, n * Float64Array.BYTES_PER_ELEMENT, n);
  }

  /** Has the direction at a sample worked out. */
  look(i: number): void {
    const { s, c, bearing } = this;
    // No direction has both of them at zero.
    if (s[i] !== 0 || c[i] !== 0) return;
    // Straight ahead and at rest the bearing stays.
    if (i > 0 && bearing[i] === bearing[i - 1] && (s[i - 1] !== 0 || c[i - 1] !== 0)) {
      s[i] = s[i - 1]!;
      c[i] = c[i - 1]!;
      return;
    }
    const b = radians(bearing[i]!);
    s[i] = sin(b);
    c[i] = cos(b);
  }
}
const directions = new WeakMap<Float32Array, Directions>();

/** Positions and directions of a trace as plain columns. A direction stands there once `to` has looked at its sample. */
export interface Poses {
  x: Float32Array;
  y: Float32Array;
  bearing: Float32Array;
  to: Directions;
}

/** Null when the trace does not hold them. */
export function poses(trace: Trace): Poses | null {
  const { x, y, bearing } = trace.signals;
  if (!x || !y || !bearing) return null;
  let to = directions.get(bearing.values);
  if (!to) directions.set(bearing.values, (to = new Directions(bearing.values)));
  return { x: x.values, y: y.values, bearing: bearing.values, to };
}

/** Whether the robot stands at a sample as it stood at the one before. */
export const stays = ({ x, y, bearing }: Poses, i: number): boolean =>
  x[i] === x[i - 1] && y[i] === y[i - 1] && bearing[i] === bearing[i - 1];

/** Where a point of the robot is at a sample whose direction was looked at, mm. */
export const pointX = ({ x, to }: Poses, i: number, ahead: number, right: number): number =>
  x[i]! + ahead * to.s[i]! + right * to.c[i]!;
export const pointY = ({ y, to }: Poses, i: number, ahead: number, right: number): number =>
  y[i]! + ahead * to.c[i]! - right * to.s[i]!;

/** Length of a way, mm. Math.hypot guards against numbers that no mat holds, at ten times the price. */
export const wayBetween = (dx: number, dy: number): number => Math.sqrt(dx * dx + dy * dy);
