import { formatNumber } from '../quantity/index.ts';

/** What came out of one run, or of many: each a number of its own, whose name says what and in which unit. */
export const resultKeys = [
  'past',
  'gap',
  'backed',
  'turned',
  'overshoot',
  'lost',
  'rms',
  'count',
  'time',
  'misreads',
  'pass rate',
] as const;
export type ResultKey = (typeof resultKeys)[number];

/** Results by key; what was not measured is left out. */
export type Results = Readonly<Partial<Record<ResultKey, number>>>;

export interface ResultFacts {
  name: string;
  /** The unit that its numbers are in, everywhere. */
  unit: string;
  digits: number;
  /** Which is better where no goal says. */
  better: 'less' | 'more' | 'near';
  /** What a measurement of it scatters by at least: half a mark of the ruler, a hand at the stopwatch. */
  leastSd: number;
}

export const resultFacts: Readonly<Record<ResultKey, ResultFacts>> = {
  past: { name: 'past the line', unit: 'mm', digits: 0, better: 'near', leastSd: 0.5 },
  gap: { name: 'gap ahead', unit: 'cm', digits: 1, better: 'near', leastSd: 0.1 },
  backed: { name: 'backed off', unit: 'cm', digits: 1, better: 'near', leastSd: 0.1 },
  turned: { name: 'turned', unit: 'deg', digits: 0, better: 'near', leastSd: 0.5 },
  overshoot: { name: 'overshoot', unit: 'deg', digits: 0, better: 'less', leastSd: 0.5 },
  lost: { name: 'too far off the edge', unit: '% of the run', digits: 0, better: 'less', leastSd: 0.5 },
  rms: { name: 'off the edge, RMS', unit: 'mm', digits: 1, better: 'less', leastSd: 0.2 },
  count: { name: 'count', unit: '', digits: 0, better: 'near', leastSd: 0 },
  time: { name: 'time', unit: 's', digits: 1, better: 'less', leastSd: 0.1 },
  misreads: { name: 'misreads', unit: 'of 1000', digits: 1, better: 'less', leastSd: 0 },
  'pass rate': { name: 'runs that pass', unit: '%', digits: 0, better: 'more', leastSd: 0 },
};

/** “142 mm”, “7.5 cm”, “90°”. */
export function resultText(key: ResultKey, value: number): string {
  const { unit, digits } = resultFacts[key];
  const number = formatNumber(value, digits);
  return unit === '' ? number : unit === 'deg' ? `${number}°` : `${number} ${unit}`;
}

/** What a lesson wants of a result: between two ends, in the result's unit; an open end is infinite. */
export interface Goal {
  key: ResultKey;
  low: number;
  high: number;
}

/** The middle of a goal; its one end where the other is open. */
export const aimOf = ({ low, high }: Goal): number =>
  Number.isFinite(low) && Number.isFinite(high) ? (low + high) / 2 : Number.isFinite(low) ? low : high;

/** −1 below a goal, 0 within, 1 above. */
export const sideOf = ({ low, high }: Goal, value: number): -1 | 0 | 1 =>
  value < low ? -1 : value > high ? 1 : 0;

/** How far a value lies outside a goal, as a share of what the goal allows; 0 within. */
export function missOf(goal: Goal, value: number): number {
  const { low, high, key } = goal;
  const allowed = Math.max(
    Number.isFinite(low) && Number.isFinite(high) ? (high - low) / 2 : Math.abs(aimOf(goal)),
    resultFacts[key].leastSd,
    1e-6,
  );
  return Math.max(low - value, value - high, 0) / allowed;
}
