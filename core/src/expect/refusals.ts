import { relativeMargin } from './expectation.ts';
import type { JudgedRun } from './proof.ts';
import type { Expectation } from './sentences.ts';

/** A sentence that some runs did not keep. */
export interface Refusal {
  /** Its place among the expectations. */
  index: number;
  broken: number;
  unknown: number;
  /** The run in which it was broken worst; where it was never broken, the first that could not be told. */
  worstSeed: number;
}

/** The sentences that refuse a script, the one that most runs broke first. */
export function refusals(runs: readonly JudgedRun[], expectations: readonly Expectation[]): Refusal[] {
  const found = expectations.flatMap((expectation, index): Refusal[] => {
    const broken = runs.filter((run) => run.judgements[index]?.verdict === 'broken');
    const unknown = runs.filter((run) => run.judgements[index]?.verdict === 'cannot tell');
    const margin = (run: JudgedRun) => relativeMargin(expectation, run.judgements[index]!.margin ?? 0);
    const worst = broken.length > 0 ? broken.reduce((a, b) => (margin(b) < margin(a) ? b : a)) : unknown[0];
    return worst ? [{ index, broken: broken.length, unknown: unknown.length, worstSeed: worst.seed }] : [];
  });
  return found.sort((a, b) => b.broken - a.broken || b.unknown - a.unknown);
}
