import { formatNumber } from '../quantity/index.ts';
import { summarise, summaryOf, type ReadSet, type Reading } from './sampleSet.ts';

/** What is known about the surface that is looked at again. Readings in the sensor's unit. */
export interface StaleInput {
  surface: string;
  /** The set that the threshold rests on. */
  stored: ReadSet;
  /** A few quick samples over the same surface, usually five. */
  fresh: readonly Reading[];
  /** The threshold in use; null when none is decided. */
  threshold: number | null;
  /** Mean of the surface on the other side; null when not read. */
  otherMean: number | null;
  step: number;
  unit: string;
}

export interface StaleVerdict {
  verdict: 'keep' | 'read again' | 'cannot tell';
  /** Fresh mean less stored mean. */
  shift: number | null;
  /** Shift in standard errors of the difference. */
  standardErrors: number | null;
  /** Share of the margin that the shift eats, 0–1 and more. */
  eaten: number | null;
  says: string;
  mend: string;
}

/** The fewest fresh samples that a verdict is given on. */
export const QUICK_LOOKS = 5;

/** Chance alarms about scatter: one in a thousand checks in which nothing has changed. */
const CHANCE = 0.001;

/**
 * The chance that an F ratio is at least `ratio` where nothing has changed, for an even count of degrees of freedom above
 * (Abramowitz & Stegun 1964, 26.6.4).
 */
function chanceOfRatio(ratio: number, above: number, below: number): number {
  const x = below / (below + above * ratio);
  let [term, sum] = [1, 1];
  for (let i = 1; i < above / 2; i++) {
    term *= ((below + 2 * (i - 1)) / (2 * i)) * (1 - x);
    sum += term;
  }
  return x ** (below / 2) * sum;
}

/**
 * Whether fresh looks scatter more than chance allows: an F test of both variances, since the old scatter is an estimate as well.
 * Five looks have four degrees of freedom; of an even count of looks one degree is left out, which asks for more.
 */
function scattersMore(fresh: Spread, stored: Spread): boolean {
  if (fresh.n < 3) return false;
  const above = fresh.n - 1 - ((fresh.n - 1) % 2);
  return chanceOfRatio((fresh.sd / stored.sd) ** 2, above, Math.max(1, stored.n - 1)) < CHANCE;
}

interface Spread {
  sd: number;
  n: number;
}

/**
 * Whether stored readings still hold: they are stale when the mean has moved by more than three standard
 * errors (Shewhart 1931) and the move eats more than a quarter of the margin. A move away from the
 * threshold is held against the other surface's margin, because a change of light moves both. They are stale as well when the
 * fresh looks scatter more than chance allows, so much that three of their sds eat more than a quarter of the margin.
 */
export function staleCheck(input: StaleInput): StaleVerdict {
  const { surface, threshold, otherMean, step, unit } = input;
  const [old, now] = [summaryOf(input.stored), summarise(input.fresh)];
  const unknown = (says: string, mend: string): StaleVerdict => ({
    verdict: 'cannot tell',
    shift: null,
    standardErrors: null,
    eaten: null,
    says,
    mend,
  });
  if (old.mean === null) return unknown(`The ${surface} was never read.`, `Read the ${surface}.`);
  if (now.mean === null || now.n < QUICK_LOOKS)
    return unknown(
      `Only ${now.n} of ${QUICK_LOOKS} looks gave a reading.`,
      'Check the plug, then look again.',
    );
  const shift = now.mean - old.mean;
  const floor = step / Math.sqrt(12);
  const sd = Math.max(floor, old.sd ?? now.sd ?? floor);
  const standardErrors = Math.abs(shift) / (sd * Math.sqrt(1 / now.n + 1 / Math.max(1, old.n)));
  const cut = threshold ?? (otherMean === null ? null : (old.mean + otherMean) / 2);
  const towards = cut !== null && Math.sign(shift) === Math.sign(cut - old.mean);
  const margin =
    cut === null
      ? null
      : towards || otherMean === null
        ? Math.abs(cut - old.mean)
        : Math.abs(otherMean - cut);
  const eaten = margin === null ? null : margin === 0 ? Infinity : Math.abs(shift) / margin;
  const moved = `The ${surface} reads ${formatNumber(now.mean)} ${unit} now; it was ${formatNumber(old.mean)} ${unit}`;
  const part =
    eaten === null || !Number.isFinite(eaten)
      ? ''
      : ` ${formatNumber(100 * eaten, 0)} % of the margin is gone.`;
  if (standardErrors > 3 && (eaten === null || eaten > 0.25)) {
    return {
      verdict: 'read again',
      shift,
      standardErrors,
      eaten,
      says: `${moved}.${part}`,
      mend: 'Read all surfaces again and decide anew.',
    };
  }
  const scatter = now.sd ?? 0;
  const wide = margin === null || 3 * scatter > 0.25 * margin;
  if (wide && scattersMore({ sd: scatter, n: now.n }, { sd, n: old.n })) {
    return {
      verdict: 'read again',
      shift,
      standardErrors,
      eaten,
      says: `The ${surface} scatters by ${formatNumber(scatter)} ${unit} now; it was ${formatNumber(old.sd ?? 0)} ${unit}.`,
      mend: 'Look for a loose plug, a shadow or a changed height, then read all surfaces again.',
    };
  }
  return {
    verdict: 'keep',
    shift,
    standardErrors,
    eaten,
    says: `${moved}: the readings still hold.`,
    mend: '',
  };
}
