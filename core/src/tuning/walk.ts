import { formatNumber } from '../quantity/index.ts';
import { missOf, type Goal, type ResultKey, type Results } from './results.ts';

/** A knob as a trial had it. */
export interface TrialKnob {
  name: string;
  value: number;
  unit: string;
}

export const trialSources = ['try', 'proof', 'floor'] as const;
export type TrialSource = (typeof trialSources)[number];

/** One trial: its knobs, and what came out. */
export interface Trial {
  id: string;
  at: number;
  /** A try and a proof are simulated, a floor trial was driven. */
  source: TrialSource;
  /** The script's version that it ran; null for none. */
  version: number | null;
  knobs: readonly TrialKnob[];
  /** Trials of one shape ran the same steps and differ in their numbers alone. */
  shape: number;
  results: Results;
  /** Whether every sentence of the lesson was kept; null where that could not be told. */
  kept: boolean | null;
  /** Runs of a proof; 1 else. */
  runs: number;
  /** What the team said that it changed; '' for nothing. */
  said: string;
}

export interface Change {
  name: string;
  from: number;
  to: number;
  unit: string;
}

/** One step of a walk: a trial, and what was changed for it. */
export interface WalkStep {
  trial: Trial;
  /** Counted from 1. */
  nth: number;
  changes: Change[];
  /** Other steps, not only other numbers. */
  otherSteps: boolean;
  /** The best so far, in its own kind of evidence. */
  best: boolean;
}

const tidy = (value: number): number => Number(value.toFixed(6));

/** What differs in the knobs that two trials share. */
export function changesBetween(from: Trial, to: Trial): Change[] {
  const before = new Map(from.knobs.map((knob) => [knob.name, knob]));
  return to.knobs.flatMap(({ name, value, unit }) => {
    const old = before.get(name);
    return !old || old.unit !== unit || tidy(old.value) === tidy(value)
      ? []
      : [{ name, from: old.value, to: value, unit }];
  });
}

/**
 * How bad a trial is, for comparing trials of one lesson: the sum of how far each goal is missed, and one more where a sentence was
 * broken that no goal tells of. Null where nothing of it was measured.
 */
export function scoreOf({ results, kept }: Trial, goals: readonly Goal[]): number | null {
  const misses = goals.flatMap((goal) => {
    const value = results[goal.key];
    return value === undefined ? [] : [missOf(goal, value)];
  });
  if (misses.length === 0 && kept === null) return null;
  const sum = misses.reduce((a, b) => a + b, 0);
  return kept === false && sum === 0 ? 1 : sum;
}

/** Trials in order with what was changed from each to the next, and which was the best so far: `less` decides among equals. */
export function walkOf(
  trials: readonly Trial[],
  goals: readonly Goal[],
  less: ResultKey | null = null,
): WalkStep[] {
  const leading = new Map<boolean, { score: number; tie: number }>();
  return trials.map((trial, i) => {
    const before = trials[i - 1];
    const score = scoreOf(trial, goals);
    const floor = trial.source === 'floor';
    const tie = (less === null ? undefined : trial.results[less]) ?? Infinity;
    const lead = leading.get(floor);
    const best =
      score !== null && (!lead || score < lead.score - 1e-9 || (score < lead.score + 1e-9 && tie < lead.tie));
    if (best) leading.set(floor, { score, tie });
    return {
      trial,
      nth: i + 1,
      changes: before && before.shape === trial.shape ? changesBetween(before, trial) : [],
      otherSteps: before !== undefined && before.shape !== trial.shape,
      best,
    };
  });
}

const amount = (value: number, unit: string): string => {
  const number = formatNumber(value, 3);
  return unit === '' ? number : unit === 'deg' ? `${number}°` : `${number} ${unit}`;
};

/** A knob's value in words: “15 %”, “0.4”. */
export const knobAmount = ({ value, unit }: Pick<TrialKnob, 'value' | 'unit'>): string => amount(value, unit);

/** “gain 0.4 → 0.8”. */
export const changeSays = ({ name, from, to, unit }: Change): string =>
  `${name} ${formatNumber(from, 3)} → ${amount(to, unit)}`;

/** What was changed for a trial, in a few words; a warning where more than one number was. */
export function stepSays({ changes, otherSteps, trial }: WalkStep): string {
  if (otherSteps) return 'other steps';
  if (changes.length > 1) return `${changes.length} at once: ${changes.map(changeSays).join(', ')}`;
  return changes[0] ? changeSays(changes[0]) : trial.said;
}

/** Every knob that at least two trials have, those that were moved most often first. */
export function knobsMoved(walk: readonly WalkStep[]): { name: string; unit: string; moves: number }[] {
  const found = new Map<string, { name: string; unit: string; moves: number }>();
  for (const { trial, changes } of walk) {
    for (const { name, unit } of trial.knobs) {
      const known = found.get(name) ?? { name, unit, moves: 0 };
      known.unit = unit;
      if (changes.some((change) => change.name === name)) known.moves++;
      found.set(name, known);
    }
  }
  return [...found.values()].sort((a, b) => b.moves - a.moves);
}

/** Every result that some trial has, most often measured first. */
export function resultsTold(walk: readonly WalkStep[]): ResultKey[] {
  const counts = new Map<ResultKey, number>();
  for (const { trial } of walk)
    for (const key of Object.keys(trial.results) as ResultKey[]) counts.set(key, (counts.get(key) ?? 0) + 1);
  return [...counts.entries()].sort((a, b) => b[1] - a[1]).map(([key]) => key);
}
