import { passed } from '../expect/index.ts';
import { canRun, parseScript } from '../script/index.ts';
import { wilson } from '../statistics/index.ts';
import { knobsOf, sensibleRange, usualKnobs, withKnobs, type Knob } from '../tuning/index.ts';
import type { Lesson } from './lesson.ts';
import { proveOnce, runSeed } from './rehearsal.ts';
import type { KnownRobot } from './simRobot.ts';
import { knobFactsOf } from './tuned.ts';
import { TWIST_LIMIT, usualValues, type Level, type NumberParameter } from './twist/twist.ts';
import { variantOf } from './twist/variant.ts';

/** How many of those who guess pass a lesson in which one number of its twist has a value. */
export interface GuessedShare {
  value: number;
  passes: number;
  runs: number;
  /** 95 % interval of the share. */
  low: number;
  high: number;
}

/** Guesses for each value: an interval of ± 14 points at worst. */
export const GUESSES = 48;

/** Values of a parameter to be looked at, evenly over its range and on its steps: seven at most. */
export function valuesTried({ from, to, step }: NumberParameter, most = 7): number[] {
  const places = Math.floor((to - from) / step + 1e-9);
  const n = Math.min(most, places + 1);
  const value = (i: number) =>
    Number((from + Math.round((i * places) / Math.max(1, n - 1)) * step).toPrecision(12));
  return [...new Set(Array.from({ length: n }, (_, i) => value(i)))];
}

/** Point `i` of the sequence of Halton in a base: it fills 0 to 1 evenly from the first points on (Halton 1960). */
function halton(i: number, base: number): number {
  let [found, part, rest] = [0, 1 / base, i];
  while (rest > 0) {
    found += part * (rest % base);
    rest = Math.floor(rest / base);
    part /= base;
  }
  return found;
}

/**
 * How many guesses pass, with a number of the twist at a value: the model answer of that variant with its one or two usual knobs
 * anywhere in their sensible ranges, a run each. Null where the lesson has no such twist, or its model answer no knob.
 */
export function guessedShare(
  lesson: Lesson,
  known: KnownRobot,
  parameter: string,
  value: number,
  guesses = GUESSES,
): GuessedShare | null {
  if (!lesson.twist?.parameters.some(({ name, is }) => name === parameter && is === 'number')) return null;
  const variant = variantOf(lesson, { ...usualValues(lesson.twist), [parameter]: value });
  const facts = knobFactsOf(known);
  const text = variant.modelScript;
  const knobs = usualKnobs(
    knobsOf(text, facts).filter(({ decided }) => !decided),
    2,
  );
  if (knobs.length === 0) return null;
  const guess = (knob: Knob, share: number) => {
    const { low, high } = sensibleRange(knob);
    return low + share * (high - low);
  };
  let [passes, runs] = [0, 0];
  for (let i = 1; i <= guesses; i++) {
    const values = Object.fromEntries(
      knobs.map((knob, k) => [knob.name, guess(knob, halton(i, k === 0 ? 2 : 3))]),
    );
    const program = parseScript(withKnobs(text, values, facts));
    if (!canRun(program)) continue;
    runs++;
    if (passed(proveOnce(variant, known, program, runSeed(variant.proof.seed, i)))) passes++;
  }
  if (runs === 0) return null;
  return { value, passes, runs, ...wilson(passes, runs) };
}

/** Levels from kind to hard, or why there are none. */
export type LevelProposal = { levels: Level[]; says: string } | { levels: null; says: string };

const rate = (some: readonly GuessedShare[]) => {
  const passes = some.reduce((sum, one) => sum + one.passes, 0);
  const runs = some.reduce((sum, one) => sum + one.runs, 0);
  return { share: passes / runs, ...wilson(passes, runs) };
};

/**
 * Up to three levels of a challenge by how many guesses pass: the values in order are parted into stretches of about as many, the kindest
 * first. None where the kindest stretch is not surely kinder than the hardest: then this number does not make the lesson harder.
 */
export function levelsBy(parameter: NumberParameter, found: readonly GuessedShare[]): LevelProposal {
  const inOrder = [...found].sort((a, b) => a.value - b.value);
  const n = Math.min(TWIST_LIMIT.levels, inOrder.length);
  if (n < 2) return { levels: null, says: `“${parameter.says}” has too few values for levels.` };
  const parts = Array.from({ length: n }, (_, i) =>
    inOrder.slice(Math.round((i * inOrder.length) / n), Math.round(((i + 1) * inOrder.length) / n)),
  );
  const kindFirst = parts.sort((a, b) => rate(b).share - rate(a).share);
  const rates = kindFirst.map(rate);
  if (!(rates[0]!.low > rates.at(-1)!.high))
    return {
      levels: null,
      says: `“${parameter.says}” does not make the lesson surely harder: guesses pass about as often at both ends.`,
    };
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  return {
    levels: kindFirst.map((part, i) => ({
      says: `level ${i + 1}`,
      ranges: {
        [parameter.name]: {
          from: Math.min(...part.map(({ value }) => value)),
          to: Math.max(...part.map(({ value }) => value)),
        },
      },
    })),
    says: kindFirst
      .map((_, i) => `level ${i + 1}: ${percent(rates[i]!.share)} of the guesses pass`)
      .join(', '),
  };
}
