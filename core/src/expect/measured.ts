import type { Signal, Trace } from '../sim/index.ts';
import { pastSignal } from './signalNames.ts';

/** What a team measured on the floor, by ruler, protractor, stopwatch or count. What was not measured is left out. */
export interface Measured {
  /** How far the watching sensor stands past a landmark, mm. */
  pastMm?: number;
  landmark?: string;
  /** From the front to the wall, mm. */
  gapMm?: number;
  turnedDeg?: number;
  /** A count, as shown or as counted. */
  count?: number;
  /** Whether it came to rest by itself. */
  rested: boolean;
  /** Seconds from start to rest, if a stopwatch ran. */
  tookS: number | null;
}

/**
 * Measurements as a trace of as many samples as are known: the same expectations judge it. A time that was
 * not taken leaves the clock out, so that what needs a clock cannot be told.
 */
export function evidenceOfMeasured(measured: Measured): Trace {
  const { landmark, pastMm, gapMm, turnedDeg, count, rested, tookS } = measured;
  const timesS = tookS === null ? [0] : [0, tookS];
  const last = rested ? 0 : 100;
  const row = (values: number[]) => Float32Array.from(values.slice(-timesS.length));
  const both = (unit: string, value: number): Signal => ({ unit, values: row([value, value]) });
  return {
    timesS: Float32Array.from(timesS),
    ...(rested ? { lasts: true } : {}),
    signals: {
      ...(landmark !== undefined && pastMm !== undefined
        ? { [pastSignal(landmark)]: both('mm', pastMm) }
        : {}),
      ...(gapMm === undefined ? {} : { 'gap ahead': both('mm', gapMm) }),
      ...(turnedDeg === undefined ? {} : { turned: both('deg', turnedDeg) }),
      ...(count === undefined ? {} : { 'number shown': both('', count) }),
      speed: { unit: 'mm/s', values: row([100, last]) },
      ...(tookS === null ? {} : { clock: { unit: 's', values: row([0, tookS]) } }),
    },
  };
}
