import type { Course } from '../course/index.ts';
import { signalsOf } from './formula.ts';
import type { Trace } from '../sim/index.ts';
import { withSignals, type Scene } from './derived.ts';
import { robustness } from './robustness.ts';
import type { Expectation, Judgement } from './sentences.ts';
import { templateOf } from './templates.ts';

/** The expectation as a sentence for people. */
export const sentence = (expectation: Expectation, course: Course): string =>
  templateOf(expectation).sentence(expectation, course);

/** The expectation as a formula of signal temporal logic; null for a formula of a person's own that cannot be read. */
export const formulaOf = (expectation: Expectation) => templateOf(expectation).formula(expectation);

/** Signals that the kinds of sentences make for themselves. */
const made = new Set(['rest', 'ending']);

/** The signals that some expectations ask for. */
export function signalsWanted(expectations: readonly Expectation[]): string[] {
  const all = expectations.flatMap((e) => {
    const formula = formulaOf(e);
    return [...(formula ? signalsOf(formula) : []), ...(templateOf(e).tellsBy?.(e) ?? [])];
  });
  return [...new Set(all)].filter((name) => !made.has(name));
}

/** A trace with everything that some expectations ask of it, as far as it can be worked out. */
export const evidenceFor = (trace: Trace, scene: Scene, expectations: readonly Expectation[]): Trace =>
  withSignals(trace, scene, signalsWanted(expectations));

/** Judges one expectation on one trace. A missing signal gives *cannot tell*, never a pass. */
export function judge(expectation: Expectation, trace: Trace): Judgement {
  const template = templateOf(expectation);
  const { unit } = template;
  const cannot = (says: string): Judgement => ({ verdict: 'cannot tell', margin: null, unit, says });
  const formula = template.formula(expectation);
  if (!formula) return cannot('the formula cannot be read');
  const evidence = template.prepare?.(trace, expectation) ?? trace;
  const margin = robustness(formula, evidence);
  if (margin === null) {
    return cannot(template.why?.(expectation, trace) ?? 'the record does not hold what this needs');
  }
  return {
    verdict: margin >= 0 ? 'holds' : 'broken',
    margin: Math.max(-1e6, Math.min(1e6, margin)),
    unit,
    says: template.tell(expectation, evidence, margin),
  };
}

/** A margin as a share of what the expectation allows, so that margins of different units can be ranked. */
export const relativeMargin = (expectation: Expectation, margin: number): number =>
  margin / Math.max(1e-6, templateOf(expectation).scale(expectation));
