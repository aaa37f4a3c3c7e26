import { formatNumber, found, refused, type Outcome } from '../quantity/index.ts';
import type { Reading } from '../sensing/index.ts';
import { judgeThreshold, MISREADS_POOR, type Safety } from './judgeThreshold.ts';
import {
  liesBetween,
  type Pair,
  type SurfaceFigures,
  type SurfaceReadings,
  type Wanted,
} from './surfaces.ts';
import type { Working } from './working.ts';

/** What the value is compared with: a level, the change since the step began, or two levels. */
export type Compare = 'level' | 'change' | 'pair';

/** What a method may work from: the two surfaces, and whatever else was read. */
export interface Given {
  pair: Pair;
  wanted: Wanted;
  /** Any number of other surfaces that were read and that the wanted one could be taken for. */
  others: readonly SurfaceFigures[];
  /** A set taken across the edge. */
  edge?: SurfaceReadings;
  /** A record of a slow drag over everything. */
  sweep?: readonly Reading[];
}

/** A threshold that a method found, with how safe it is. */
export interface Computed {
  /** The value to type in: the exact one rounded to the sensor's step; for two levels the one to enter at. */
  value: number;
  exact: number;
  /** For two levels: where the wanted surface is left again. */
  leave?: number;
  safety: Safety;
  /** When the robot is over the wanted surface, in words: "less than 58 % is the line". */
  side: string;
  /** Other surfaces that this value takes for the wanted one. */
  takenFor: string[];
  working: Working[];
  advice: string;
}

/** A method of choosing a threshold. Every method is such a record, listed once in `methods.ts`. */
export interface Method<Name extends string = string> {
  name: Name;
  compare: Compare;
  /** When the method is apt, in a sentence or two. */
  apt: string;
  /** Works the threshold out, or says what the method still needs. */
  compute: (given: Given) => Outcome<Computed>;
}

const toStep = (exact: number, step: number): number => Number((Math.round(exact / step) * step).toFixed(6));

/** A change rounded to the sensor's step; as it is where that would leave nothing. */
export const changeToStep = (exact: number, step: number): number => toStep(exact, step) || exact;

/** Rounds to the sensor's step without leaving the open interval between the two means. */
export function settle(exact: number, pair: Pair): number {
  const rounded = toStep(exact, pair.step);
  return liesBetween(rounded, pair) ? rounded : exact;
}

export const rounding = (exact: number, value: number, unit: string): Working[] =>
  Math.abs(value - exact) > 1e-9
    ? [
        {
          label: 'round to the sensor’s step',
          line: `${formatNumber(exact, 2)} → ${formatNumber(value, 2)} ${unit}`,
        },
      ]
    : [];

/** Other surfaces that lie between the two of a pair: what a level has to keep clear of. */
export const between = ({ low, high }: Pair, others: readonly SurfaceFigures[]): SurfaceFigures[] =>
  others.filter(({ mean }) => mean > low.mean && mean < high.mean);

/** Surfaces between the two of a pair that a level takes for the wanted one: their means lie on its side. */
export function takenFor(
  level: number,
  wanted: Wanted,
  pair: Pair,
  others: readonly SurfaceFigures[],
): string[] {
  return between(pair, others)
    .filter(({ mean }) => (wanted === 'low' ? mean < level : mean >= level))
    .map(({ name }) => name);
}

/** Surfaces beyond the wanted one: no single level tells them from it. */
export function beyond(wanted: Wanted, { low, high }: Pair, others: readonly SurfaceFigures[]): string[] {
  return others
    .filter(({ mean }) => (wanted === 'low' ? mean <= low.mean : mean >= high.mean))
    .map(({ name }) => name);
}

function advise(safety: Safety, pair: Pair): string {
  const worst = Math.max(safety.misreadsLow, safety.misreadsHigh);
  const weak = safety.misreadsLow >= safety.misreadsHigh ? pair.low.name : pair.high.name;
  if (worst >= MISREADS_POOR) {
    return `Expect about ${formatNumber(worst, 0)} misreads in 1000 looks at the ${weak}. Move the sensor or read again before you trust it.`;
  }
  if (safety.lightShift < 5) {
    return `Good in this light, but a change of ${formatNumber(safety.lightShift, 1)} points would spoil it.`;
  }
  return `Safe: it survives a change of room light of ${formatNumber(safety.lightShift, 1)} points.`;
}

/** One level between the two surfaces, judged and put into words; `note` says what to doubt about how it was found. */
function levelAt(
  exact: number,
  working: readonly Working[],
  note: string,
  { pair, wanted, others }: Given,
): Computed {
  const value = settle(exact, pair);
  const safety = judgeThreshold(value, pair, wanted);
  const shown = `${formatNumber(value, 2)} ${pair.unit}`.trim();
  const mixed = takenFor(value, wanted, pair, others);
  const own = wanted === 'low' ? pair.low.name : pair.high.name;
  return {
    exact,
    value,
    safety,
    side: `${wanted === 'low' ? 'less' : 'more'} than ${shown} is the ${own}`,
    takenFor: mixed,
    working: [...working, ...rounding(exact, value, pair.unit)],
    advice:
      note +
      (mixed.length > 0 ? `It takes the ${mixed.join(' and the ')} for the ${own}.` : advise(safety, pair)),
  };
}

/** What a method that gives one level has worked out. */
export interface Level {
  exact: number;
  working: readonly Working[];
  /** What to doubt about it, a sentence. */
  note?: string;
}

/** A method that gives one level between the two surfaces. */
export const levelMethod = <const Name extends string>(
  name: Name,
  apt: string,
  level: (given: Given) => Outcome<Level>,
): Method<Name> => ({
  name,
  compare: 'level',
  apt,
  compute: (given) => {
    const outcome = level(given);
    if (!outcome.ok) return refused(outcome.says, outcome.mend);
    const { exact, working, note = '' } = outcome.value;
    return found(levelAt(exact, working, note && `${note} `, given));
  },
});
