import { momentsOf, trialsToTell, welch, type Difference } from '../statistics/index.ts';
import { resultFacts, resultText, type Goal, type ResultKey } from './results.ts';
import { changesBetween, changeSays, type Trial } from './walk.ts';

/** Trials of one value on the floor before a difference is believed (common practice: three). */
export const FLOOR_TRIALS = 3;

/** Whether two values of a knob come out differently. */
export interface Comparison {
  verdict: 'more' | 'less' | 'scatter' | 'too few';
  /** How much more the second gave; null with too few trials. */
  difference: Difference | null;
  /** Trials of each that would tell a difference as large as this from the scatter; null where that cannot be told. */
  needed: number | null;
  says: string;
}

/** A number with a sign that is always there, and its unit. */
const signed = (key: ResultKey, value: number) => `${value > 0 ? '+' : ''}${resultText(key, value)}`;

/**
 * Compares what came of two values, by Welch’s interval of the difference: it is told apart from scatter only where the whole interval
 * lies on one side of zero. `a` and `b` are results of one kind, in its unit.
 */
export function compareTrials(key: ResultKey, a: readonly number[], b: readonly number[]): Comparison {
  const { leastSd } = resultFacts[key];
  const difference = welch(a, b, leastSd);
  if (!difference) {
    const few = a.length < 2 ? 'the first' : 'the second';
    return {
      verdict: 'too few',
      difference,
      needed: null,
      says: `One run of ${few} says nothing about scatter: drive each at least ${FLOOR_TRIALS} times.`,
    };
  }
  const { value, low, high } = difference;
  const told = low > 0 || high < 0;
  const sds = [a, b].map((values) => Math.max(momentsOf(values).sd!, leastSd));
  const sd = Math.sqrt((sds[0]! ** 2 + sds[1]! ** 2) / 2);
  const needed = told || value === 0 ? null : trialsToTell(Math.abs(value), sd);
  const [from, to] = [momentsOf(a).mean, momentsOf(b).mean];
  const interval = `${signed(key, low)} to ${signed(key, high)}`;
  const pair = `${resultText(key, from)} and ${resultText(key, to)}`;
  return {
    verdict: told ? (value > 0 ? 'more' : 'less') : 'scatter',
    difference,
    needed,
    says: told
      ? `${pair}: that is your change, ${interval}.`
      : `${pair}: that is the scatter, not your change (${interval}).${
          needed === null || needed > 30
            ? ''
            : ` To tell so small a difference takes ${needed} trials of each.`
        }`,
  };
}

/** The two values of one knob that were driven last, compared by what the lesson asks for. */
export function compareLastTwo(
  trials: readonly Trial[],
  goals: readonly Goal[],
): (Comparison & { of: string }) | null {
  const last = trials.at(-1);
  const goal = last && goals.find(({ key }) => last.results[key] !== undefined);
  if (!last || !goal) return null;
  const settingOf = ({ shape, knobs }: Trial) => JSON.stringify([shape, knobs.map(({ value }) => value)]);
  const now = settingOf(last);
  const before = trials.findLast((trial) => trial.shape === last.shape && settingOf(trial) !== now);
  if (!before) return null;
  const changes = changesBetween(before, last);
  if (changes.length !== 1) return null;
  const [change] = changes as [(typeof changes)[0]];
  const values = (setting: string) =>
    trials.filter((trial) => settingOf(trial) === setting).flatMap(({ results }) => results[goal.key] ?? []);
  return {
    ...compareTrials(goal.key, values(settingOf(before)), values(now)),
    of: changeSays(change),
  };
}
