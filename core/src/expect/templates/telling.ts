import { formatNumber } from '../../quantity/index.ts';
import type { Trace } from '../../sim/index.ts';
import { above, all, below, type Formula } from '../formula.ts';
import { lastOf } from '../looked.ts';

export const mm = (value: number): string =>
  Math.abs(value) >= 100 && value % 10 === 0
    ? `${formatNumber(value / 10)} cm`
    : `${formatNumber(value, 0)} mm`;
export const last = (trace: Trace, signal: string): number => lastOf(trace.signals[signal]);
/** The least of the readings that there are. */
export function least(trace: Trace, signal: string): number {
  const values = trace.signals[signal]?.values;
  if (!values) return NaN;
  let best = Infinity;
  for (let i = 0; i < values.length; i++) if (values[i]! < best) best = values[i]!;
  return best;
}
export const nameOf = (list: readonly { id: string; name: string }[] | undefined, id: string): string =>
  list?.find((item) => item.id === id)?.name ?? id;
export const ordinal = (n: number): string =>
  ['first', 'second', 'third', 'fourth', 'fifth'][n - 1] ?? `${n}th`;
export const spare = (margin: number, unit: string, digits = 0): string =>
  `${formatNumber(Math.abs(margin), digits)} ${unit} ${margin >= 0 ? 'to spare' : 'too much'}`;
export const turnedBy = (deg: number): string =>
  `${formatNumber(Math.abs(deg), 0)}° ${deg < 0 ? 'to the left' : 'to the right'}`;
/** When a signal first falls below a value, s; null when it never does. */
export function firstBelow(trace: Trace, signal: string, value: number): number | null {
  const values = trace.signals[signal]?.values ?? [];
  for (let i = 0; i < values.length; i++) if (values[i]! < value) return trace.timesS[i]!;
  return null;
}

/** A signal within a tolerance of a value. */
export const about = (signal: string, value: number, tolerance: number): Formula =>
  all(above(signal, value - tolerance), below(signal, value + tolerance));
