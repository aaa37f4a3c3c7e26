import type { Course } from '../course/index.ts';
import { signalsOf, type Formula } from './formula.ts';
import type { Trace } from '../sim/index.ts';
import { askedByBoth, askedOf, type Asked } from './asked.ts';
import type { Scene } from './columns.ts';
import { SHOWN_LESS, withSignals } from './derived.ts';
import { brokenSince, robustness } from './robustness/index.ts';
import type { Expectation, Judgement } from './sentences.ts';
import { templateOf } from './templates/index.ts';

/** The expectation as a sentence for people. */
export const sentence = (expectation: Expectation, course: Course): string =>
  templateOf(expectation).sentence(expectation, course);

const formulas = new WeakMap<Expectation, Formula | null>();

/**
 * The expectation as a formula of signal temporal logic; null for a formula of a person's own that cannot be read. It is made once:
 * a proof judges the same ones in every run.
 */
export function formulaOf(expectation: Expectation): Formula | null {
  let formula = formulas.get(expectation);
  if (formula === undefined)
    formulas.set(expectation, (formula = templateOf(expectation).formula(expectation)));
  return formula;
}

/** Signals that the kinds of sentences make for themselves. */
const made = new Set(['rest', 'ending']);

/** The signal that another one is worked out from, and how much of it that takes; null for none. */
function sourceOf(name: string, asked: Asked): [name: string, asked: Asked] | null {
  if (name === 'backed') return ['gap ahead', asked === 'end' ? 'least' : 'all'];
  if (name === 'backs off') return ['bumps', 'all'];
  return name.startsWith(SHOWN_LESS) ? [name.slice(SHOWN_LESS.length), 'all'] : null;
}

const asking = new WeakMap<readonly Expectation[], Map<string, Asked>>();

/** The signals that some expectations ask for, and how much of each their verdicts look at. A proof asks for the same ones at every run. */
export function signalsAsked(expectations: readonly Expectation[]): ReadonlyMap<string, Asked> {
  let asked = asking.get(expectations);
  if (!asked) asking.set(expectations, (asked = askedOfAll(expectations)));
  return asked;
}

function askedOfAll(expectations: readonly Expectation[]): Map<string, Asked> {
  const asked = new Map<string, Asked>();
  for (const expectation of expectations) {
    const formula = formulaOf(expectation);
    if (formula) askedOf(formula, asked);
  }
  for (const name of made) asked.delete(name);
  // What others are worked out from comes first, as much of it as any needs, and is worked out once.
  const sources = new Set<string>();
  const raise = (name: string, how: Asked): void => {
    const [source, needed] = sourceOf(name, how) ?? [];
    if (source === undefined) return;
    const own = asked.get(source);
    const much = own === undefined ? needed! : askedByBoth(own, needed!);
    // It may be made from another in its turn, asked for itself or not.
    raise(source, much);
    if (own === undefined) return;
    asked.set(source, much);
    sources.add(source);
  };
  for (const [name, how] of [...asked]) raise(name, how);
  return new Map([...sources, ...asked.keys()].map((name) => [name, asked.get(name)!]));
}
/** Their names. */
export const signalsWanted = (expectations: readonly Expectation[]): string[] => [
  ...signalsAsked(expectations).keys(),
];

/** A trace with everything that some expectations ask of it, as far as it can be worked out. */
export const evidenceFor = (trace: Trace, scene: Scene, expectations: readonly Expectation[]): Trace =>
  withSignals(trace, scene, signalsWanted(expectations));

/** What their verdicts, margins and words are told by, and no more: the same as by all the evidence, for less work. */
export const verdictEvidence = (trace: Trace, scene: Scene, expectations: readonly Expectation[]): Trace =>
  withSignals(trace, scene, signalsAsked(expectations));

/** Why a formula cannot be told on a trace, in words. */
function whyUnknown(formula: Formula, { signals }: Trace): string {
  const names = signalsOf(formula);
  if (names.some((name) => !Object.hasOwn(signals, name))) return 'the record does not hold what this needs';
  if (names.some((name) => signals[name]!.values.some(Number.isNaN)))
    return 'readings are missing at moments that would decide it';
  return 'the record ends before it can be told';
}

/**
 * Judges one expectation on one trace: it holds when that is sure (a limit belongs to what it allows), is broken when nothing
 * that is unknown could mend it, and else cannot be told. A missing signal is never a pass.
 */
export function judge(expectation: Expectation, trace: Trace): Judgement {
  const template = templateOf(expectation);
  const evidence = template.prepare?.(trace, expectation) ?? trace;
  const unit = template.unitOn?.(expectation, evidence) ?? template.unit;
  const cannot = (says: string): Judgement => ({ verdict: 'cannot tell', margin: null, unit, says });
  const formula = formulaOf(expectation);
  if (!formula) return cannot('the formula cannot be read');
  const { surely, atBest } = robustness(formula, evidence);
  const verdict = surely >= 0 ? 'holds' : atBest < 0 ? 'broken' : 'cannot tell';
  if (verdict === 'cannot tell')
    return cannot(template.why?.(expectation, trace) ?? whyUnknown(formula, evidence));
  const margin = verdict === 'holds' ? surely : atBest;
  return {
    verdict,
    margin: Math.max(-1e6, Math.min(1e6, margin)),
    unit,
    says: template.tell(expectation, evidence, margin),
  };
}

/** When an expectation was broken on a trace, s; null where it is not broken. */
export function brokenAt(expectation: Expectation, trace: Trace): number | null {
  const template = templateOf(expectation);
  const formula = formulaOf(expectation);
  return formula && brokenSince(formula, template.prepare?.(trace, expectation) ?? trace);
}

/** A margin as a share of what the expectation allows, so that margins of different units can be ranked. */
export const relativeMargin = (expectation: Expectation, margin: number): number =>
  margin / Math.max(1e-6, templateOf(expectation).scale(expectation));
