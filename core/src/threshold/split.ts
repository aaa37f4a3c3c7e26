import { mean, sampleStandardDeviation } from 'simple-statistics';
import { formatNumber, found, refused, type Outcome } from '../quantity/index.ts';
import { scatterOf, type Reading } from '../sensing/index.ts';
import { levelMethod } from './method.ts';
import { liesBetween } from './surfaces.ts';

/** Otsu's split of one record into a lower and an upper class. */
export interface Split {
  /** Midway between the highest reading of the lower class and the lowest of the upper class. */
  exact: number;
  lower: { n: number; mean: number; values: number[] };
  upper: { n: number; mean: number; values: number[] };
  /** Between-class variance ÷ total variance, 0–1: how cleanly the record falls in two. */
  eta: number;
  /** What to doubt about it; empty when nothing. */
  doubt: string;
}

/**
 * Splits readings where the variance between the two classes is greatest (Otsu 1979, IEEE Trans. SMC
 * 9(1):62–66, eq. 17–20), over every level that occurs. Refuses a record with a single level.
 */
export function otsuSplit(values: readonly Reading[]): Outcome<Split> {
  const sorted = values
    .filter((value): value is number => value !== null && Number.isFinite(value))
    .sort((a, b) => a - b);
  const n = sorted.length;
  if (n === 0) return refused('The record holds no reading.', 'Drag the sensor over the surfaces again.');
  if (sorted[0] === sorted[n - 1])
    return refused(
      `Every reading of the record is ${formatNumber(sorted[0])}.`,
      'Drag the sensor over both surfaces, slowly.',
    );
  const total = sorted.reduce((a, b) => a + b, 0);
  const all = total / n;
  let best = { cut: 0, between: -1 };
  let sum = 0;
  for (let i = 1; i < n; i++) {
    sum += sorted[i - 1]!;
    if (sorted[i] === sorted[i - 1]) continue;
    const [w0, w1] = [i / n, 1 - i / n];
    const between = w0 * w1 * (sum / i - (total - sum) / (n - i)) ** 2;
    // Sums in another order differ in the last digits: only a real gain moves the cut.
    if (between > best.between * (1 + 1e-12)) best = { cut: i, between };
  }
  const variance = sorted.reduce((a, b) => a + (b - all) ** 2, 0) / n;
  const part = (from: number, to: number) => {
    const own = sorted.slice(from, to);
    return { n: own.length, mean: mean(own), values: own };
  };
  const [lower, upper] = [part(0, best.cut), part(best.cut, n)];
  const eta = best.between / variance;
  const small = Math.min(lower.n, upper.n);
  return found({
    exact: (sorted[best.cut - 1]! + sorted[best.cut]!) / 2,
    lower,
    upper,
    eta,
    doubt:
      small < Math.max(3, 0.03 * n)
        ? `Only ${small} of ${n} readings lie on one side: stay longer on each surface.`
        : eta < 0.75
          ? 'The record does not fall clearly in two: surfaces in between, or too quick a drag.'
          : '',
  });
}

/** A stretch of a record where the reading stayed level: a surface that the sensor dwelt on. */
export interface Plateau {
  /** First and last sample. */
  from: number;
  to: number;
  n: number;
  mean: number;
  sd: number;
}

/**
 * The level stretches of a sweep. A stretch goes on while readings stay within four scatters (estimated
 * from look to look) or two steps of its running mean, and counts from `least` samples on.
 */
export function plateaus(values: readonly Reading[], step: number, least = 6): Plateau[] {
  const band = Math.max(4 * scatterOf(values), 2 * step);
  const stretches: Plateau[] = [];
  let [from, last, sum, n, astray] = [-1, -1, 0, 0, 0];
  const close = () => {
    if (n >= least) {
      const own = values
        .slice(from, last + 1)
        .filter((v): v is number => v !== null && Math.abs(v - sum / n) <= band);
      stretches.push({
        from,
        to: last,
        n: own.length,
        mean: mean(own),
        sd: own.length > 1 ? sampleStandardDeviation(own) : 0,
      });
    }
    [from, last, sum, n, astray] = [-1, -1, 0, 0, 0];
  };
  values.forEach((value, i) => {
    if (value === null) return;
    if (n > 0 && Math.abs(value - sum / n) <= band) {
      [sum, n, last, astray] = [sum + value, n + 1, i, 0];
      return;
    }
    // A single wild reading does not end a stretch that has settled.
    if (n >= least && astray < 1) {
      astray++;
      return;
    }
    close();
    [from, last, sum, n] = [i, i, value, 1];
  });
  close();
  return stretches;
}

/** One surface met in a sweep: every plateau at about the same level. */
export interface SweepLevel {
  mean: number;
  n: number;
  times: number;
}

/** The different levels of a sweep's plateaus, darkest first; plateaus nearer than `apart` are one surface. */
export function sweepLevels(stretches: readonly Plateau[], apart: number): SweepLevel[] {
  const levels: SweepLevel[] = [];
  for (const { mean: level, n } of [...stretches].sort((a, b) => a.mean - b.mean)) {
    const last = levels.at(-1);
    if (last && level - last.mean < apart) {
      last.mean = (last.mean * last.n + level * n) / (last.n + n);
      last.n += n;
      last.times++;
    } else levels.push({ mean: level, n, times: 1 });
  }
  return levels;
}

const AGAIN = 'Drag the sensor slowly over both surfaces (Read, Sweep).';

export const splitMethod = levelMethod(
  'split of a sweep',
  'Needs no naming of surfaces. Apt for a first look at a new mat.',
  ({ pair, sweep = [] }) => {
    if (sweep.length === 0) return refused('No sweep was recorded.', AGAIN);
    const split = otsuSplit(sweep);
    if (!split.ok) return refused(split.says, AGAIN);
    const { exact, lower, upper, eta, doubt } = split.value;
    const cut = `${formatNumber(exact)} ${pair.unit}`;
    if (!liesBetween(exact, pair))
      return refused(`The sweep splits at ${cut}, which is not between the two surfaces.`, AGAIN);
    return found({
      exact,
      working: [
        { label: 'readings in the drag', line: `${lower.n} darker, ${upper.n} lighter` },
        { label: 'their means', line: `${formatNumber(lower.mean)} and ${formatNumber(upper.mean)}` },
        { label: 'share of the variance it explains', line: `${formatNumber(100 * eta, 0)} %` },
        { label: 'cut in the gap', line: `${formatNumber(exact, 2)} ${pair.unit}` },
      ],
      note: doubt,
    });
  },
);
