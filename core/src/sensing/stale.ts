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

/**
 * The greatest scatter of n looks that comes by chance, as a multiple of the scatter that is known: the upper limit of an s chart
 * (Shewhart 1931; B6 of the tables, 1.964 for n = 5), with c4 = (4n − 4)/(4n − 3).
 */
function scatterLimit(n: number): number {
  const c4 = (4 * n - 4) / (4 * n - 3);
  return c4 + 3 * Math.sqrt(1 - c4 * c4);
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
  if (scatter > scatterLimit(now.n) * sd && wide) {
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
