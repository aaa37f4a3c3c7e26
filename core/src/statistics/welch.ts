import { studentHalf } from './student.ts';

/** Mean, sample standard deviation and number of some values. */
export interface Moments {
  n: number;
  mean: number;
  /** Null for fewer than two. */
  sd: number | null;
}

/** Throws a RangeError for no values. */
export function momentsOf(values: readonly number[]): Moments {
  const n = values.length;
  if (n === 0) throw new RangeError('No values, no mean.');
  const mean = values.reduce((sum, value) => sum + value, 0) / n;
  const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return { n, mean, sd: n < 2 ? null : Math.sqrt(squares / (n - 1)) };
}

/** How much larger the mean of `b` is than that of `a`, with its 95 % interval, in the values' unit. */
export interface Difference {
  value: number;
  low: number;
  high: number;
  /** Degrees of freedom, rounded down. */
  degrees: number;
}

/**
 * Interval of the difference of two means whose scatters need not be alike (Welch 1947, with the degrees of freedom of Satterthwaite 1946).
 * They are rounded down, so that the interval is never too narrow. `leastSd` is the scatter that a reading has anyway: measured to
 * whole millimetres, two equal values have not scattered by nothing. Null with fewer than two values on either side.
 */
export function welch(a: readonly number[], b: readonly number[], leastSd = 0): Difference | null {
  if (a.length < 2 || b.length < 2) return null;
  const [p, q] = [momentsOf(a), momentsOf(b)];
  const [u, v] = [Math.max(p.sd!, leastSd) ** 2 / p.n, Math.max(q.sd!, leastSd) ** 2 / q.n];
  const value = q.mean - p.mean;
  if (u + v === 0) return { value, low: value, high: value, degrees: p.n + q.n - 2 };
  const degrees = Math.floor((u + v) ** 2 / (u ** 2 / (p.n - 1) + v ** 2 / (q.n - 1)) + 1e-9);
  const half = studentHalf(Math.max(1, degrees)) * Math.sqrt(u + v);
  return { value, low: value - half, high: value + half, degrees };
}

/** The 97.5 % and the 80 % point of the standard normal. */
const Z_BOTH = 1.959963984540054;
const Z_POWER = 0.8416212335729143;

/**
 * Trials of each of two values so that a true difference is told from their scatter in 8 of 10 cases, at 95 %:
 * n = 2·((z₀.₉₇₅ + z₀.₈)·sd/difference)² + z₀.₉₇₅²/4, the normal formula with Guenther's correction for Student's t
 * (Guenther 1981). At least two. Throws a RangeError unless sd ≥ 0 and difference > 0.
 */
export function trialsToTell(difference: number, sd: number): number {
  if (!(difference > 0) || !(sd >= 0))
    throw new RangeError(`No trials tell ${difference} with scatter ${sd}.`);
  const needed = 2 * (((Z_BOTH + Z_POWER) * sd) / difference) ** 2 + Z_BOTH ** 2 / 4;
  return Math.max(2, Math.ceil(needed - 1e-9));
}
