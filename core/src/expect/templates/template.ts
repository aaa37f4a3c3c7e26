import type { Course } from '../../course/index.ts';
import type { Trace } from '../../sim/index.ts';
import type { Formula } from '../formula.ts';
import type { Expectation, ExpectationKind } from '../sentences.ts';

/** An expectation of one kind. */
export type Of<K extends ExpectationKind> = Extract<Expectation, { kind: K }>;

/** What one kind of sentence means: its words, its formula, and how its outcome is told. */
export interface Template<E extends Expectation = Expectation> {
  sentence: (e: E, course: Course) => string;
  formula: (e: E) => Formula | null;
  unit: string;
  /** The unit of its margin where that depends on the evidence. */
  unitOn?: (e: E, trace: Trace) => string;
  /** What it allows, in `unit`: margins are ranked against it. */
  scale: (e: E) => number;
  /** What happened, in words. */
  tell: (e: E, trace: Trace, margin: number) => string;
  /** The trace with what only this kind needs; the trace as it is when that cannot be had. */
  prepare?: (trace: Trace, e: E) => Trace;
  /** Why it cannot be told. */
  why?: (e: E, trace: Trace) => string | undefined;
}

/** What each of some kinds means. */
export type Templates<K extends ExpectationKind> = { [One in K]: Template<Of<One>> };
