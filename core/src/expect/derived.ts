import type { Course } from '../course/index.ts';
import { radians } from '../quantity/index.ts';
import { REST_MM_PER_S, type Run, type Trace } from '../sim/index.ts';

/** Name of the signal that tells how far the watching sensor is past a landmark, mm. */
export const pastSignal = (landmark: string): string => `past ${landmark}`;

/** Where the watching sensor sits on the robot, mm. */
export interface Watcher {
  aheadMm: number;
  rightMm: number;
}

/** Signed distance in mm of the watcher past each landmark of a course, along the landmark's bearing. */
export function withLandmarks(trace: Trace, course: Course, watcher: Watcher): Trace {
  const { x, y, bearing } = trace.signals;
  if (!x || !y || !bearing) return trace;
  const signals = { ...trace.signals };
  for (const landmark of course.landmarks) {
    const along = radians(landmark.bearingDeg);
    const [dx, dy] = [Math.sin(along), Math.cos(along)];
    const values = new Float32Array(trace.timesS.length);
    for (let i = 0; i < values.length; i++) {
      const b = radians(bearing.values[i]!);
      const px = x.values[i]! + watcher.aheadMm * Math.sin(b) + watcher.rightMm * Math.cos(b);
      const py = y.values[i]! + watcher.aheadMm * Math.cos(b) - watcher.rightMm * Math.sin(b);
      values[i] = (px - landmark.xMm) * dx + (py - landmark.yMm) * dy;
    }
    signals[pastSignal(landmark.id)] = { unit: 'mm', values };
  }
  return { ...trace, signals };
}

/** A run's trace with everything expectations may ask of it. */
export function evidenceOf(run: Run, course: Course, watcher: Watcher): Trace {
  return withLandmarks(run.trace, course, watcher);
}

/** When the robot came to its last rest, s; null when it was still moving at the end or its speed is unknown. */
export function restTime(trace: Trace): number | null {
  const speed = trace.signals.speed?.values;
  if (!speed || speed.length === 0) return null;
  let i = speed.length;
  while (i > 0 && Math.abs(speed[i - 1]!) <= REST_MM_PER_S) i--;
  return i === speed.length ? null : trace.timesS[i]!;
}

/** What a team measured on the floor, by ruler and stopwatch. */
export interface Measured {
  landmark: string;
  pastMm: number;
  rested: boolean;
  /** Seconds from start to rest, if a stopwatch ran. */
  tookS: number | null;
}

/**
 * Measurements as a trace of as many samples as are known: the same expectations judge it. A time that was
 * not taken leaves the clock out, so that what needs a clock cannot be told.
 */
export function evidenceOfMeasured(measured: Measured): Trace {
  const { landmark, pastMm, rested, tookS } = measured;
  const timesS = tookS === null ? [0] : [0, tookS];
  const last = rested ? 0 : 100;
  const row = (values: number[]) => Float32Array.from(values.slice(-timesS.length));
  return {
    timesS: Float32Array.from(timesS),
    signals: {
      [pastSignal(landmark)]: { unit: 'mm', values: row([pastMm, pastMm]) },
      speed: { unit: 'mm/s', values: row([100, last]) },
      ...(tookS === null ? {} : { clock: { unit: 's', values: row([0, tookS]) } }),
    },
  };
}
