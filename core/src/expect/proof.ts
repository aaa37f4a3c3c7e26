import { relativeMargin } from './expectation.ts';
import type { Expectation, Judgement } from './sentences.ts';
import { runsToReach, wilson } from '../statistics/index.ts';

/** One run of a proof, judged. */
export interface JudgedRun {
  seed: number;
  judgements: Judgement[];
}

export type ProofVerdict = 'proved' | 'shaky' | 'fails' | 'cannot tell';

/** What many runs say about one script. */
export interface Proof {
  runs: number;
  passes: number;
  /** 95 % Wilson interval of the pass rate. */
  low: number;
  high: number;
  /** The lower end must lie above this share. */
  bar: number;
  verdict: ProofVerdict;
  /** Per expectation, in the lesson's order. */
  each: { passes: number; unknown: number; worstMargin: number | null; unit: string; worstSays: string }[];
  /** Seed of the worst run: the one whose least relative margin is lowest. */
  worstSeed: number | null;
}

export const passed = (run: JudgedRun): boolean => run.judgements.every((j) => j.verdict === 'holds');

function worstOf(run: JudgedRun, expectations: readonly Expectation[]): number {
  return Math.min(
    ...run.judgements.map((j, i) => (j.margin === null ? 0 : relativeMargin(expectations[i]!, j.margin))),
  );
}

/**
 * Sums up judged runs. *Proved* when the interval's lower end is above the bar, *fails* when its upper end
 * is below it, *shaky* between; *cannot tell* when no run was broken but some could not be judged, or when all passed but are
 * too few for the bar.
 */
export function sumUp(runs: readonly JudgedRun[], expectations: readonly Expectation[], bar: number): Proof {
  const n = runs.length;
  const passes = runs.filter(passed).length;
  const each = expectations.map((_, i) => {
    const judged = runs.map((run) => run.judgements[i]!);
    const least = judged
      .filter((j) => j.margin !== null)
      .reduce<Judgement | null>((a, b) => (a === null || b.margin! < a.margin! ? b : a), null);
    const untold = judged.find((j) => j.verdict === 'cannot tell');
    // A run that could not be told is worse than any that was kept: it may have been broken.
    const worst = untold && !(least && least.verdict === 'broken') ? untold : least;
    return {
      passes: judged.filter((j) => j.verdict === 'holds').length,
      unknown: judged.filter((j) => j.verdict === 'cannot tell').length,
      worstMargin: worst?.margin ?? null,
      unit: worst?.unit ?? judged[0]?.unit ?? '',
      worstSays: worst?.says ?? '',
    };
  });
  if (n === 0) {
    return { runs: 0, passes: 0, low: 0, high: 1, bar, verdict: 'cannot tell', each, worstSeed: null };
  }
  const { low, high } = wilson(passes, n);
  const broken = runs.some((run) => run.judgements.some((j) => j.verdict === 'broken'));
  const unknown = runs.some((run) => run.judgements.some((j) => j.verdict === 'cannot tell'));
  // All passed, and yet so few that no interval of theirs could lie above the bar.
  const tooFew = passes === n && n < runsToReach(bar);
  const verdict: ProofVerdict =
    (unknown && !broken) || tooFew ? 'cannot tell' : low > bar ? 'proved' : high < bar ? 'fails' : 'shaky';
  const worst = runs.reduce((a, b) => (worstOf(b, expectations) < worstOf(a, expectations) ? b : a));
  return { runs: n, passes, low, high, bar, verdict, each, worstSeed: worst.seed };
}
