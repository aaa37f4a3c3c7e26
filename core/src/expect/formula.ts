import type { Unit } from '../quantity/index.ts';

/** From and to, s; an open end reaches to the end of the record. */
export type Window = readonly [number, number | null];

/**
 * Signal temporal logic over sampled traces. Windows are in seconds relative to the moment looked from;
 * an open end (null) reaches to the end of the trace.
 */
export type Formula =
  /** A unit is that of the value; without one it is the signal's own. */
  | { is: 'compare'; signal: string; op: '<' | '>'; value: number; unit?: Unit }
  | { is: 'not'; of: Formula }
  | { is: 'and' | 'or'; of: Formula[] }
  | { is: 'always' | 'eventually'; window: Window; of: Formula }
  | { is: 'until'; window: Window; first: Formula; then: Formula }
  /** Holds for at least this share of the time, 0–1, over the whole trace. */
  | { is: 'share'; least: number; of: Formula };

export const above = (signal: string, value: number): Formula => ({ is: 'compare', signal, op: '>', value });
export const below = (signal: string, value: number): Formula => ({ is: 'compare', signal, op: '<', value });
export const not = (of: Formula): Formula => ({ is: 'not', of });
export const all = (...of: Formula[]): Formula => ({ is: 'and', of });
export const any = (...of: Formula[]): Formula => ({ is: 'or', of });
export const implies = (a: Formula, b: Formula): Formula => any(not(a), b);
export const always = (of: Formula, window: Window = [0, null]): Formula => ({
  is: 'always',
  window,
  of,
});
export const eventually = (of: Formula, window: Window = [0, null]): Formula => ({
  is: 'eventually',
  window,
  of,
});
export const forShare = (least: number, of: Formula): Formula => ({ is: 'share', least, of });
/** One after another, each no sooner than the one before. */
export const inOrder = (...of: Formula[]): Formula =>
  of.reduceRight((later, now) => eventually(all(now, later)), eventually(above(SOME, -1e6)));
/** A signal that is 0 throughout: what is always true can be said of it. */
export const SOME = 'nothing';
/** Holds for good from some moment on: on a finished trace, at its last sample. */
export const inTheEnd = (of: Formula): Formula => eventually(always(of));

/** Whether a window is all that comes. */
export const isOpen = ([from, to]: Window): boolean => from === 0 && to === null;

/** Whether a formula speaks of one moment alone. */
export function isPlain(formula: Formula): boolean {
  switch (formula.is) {
    case 'compare':
      return true;
    case 'not':
      return isPlain(formula.of);
    case 'and':
    case 'or':
      return formula.of.every(isPlain);
    default:
      return false;
  }
}

/** Of “eventually always”, what that is said of, where it speaks of one moment alone: the last sample of a finished record decides. */
export function whatHoldsInTheEnd(formula: Formula): Formula | null {
  if (formula.is !== 'eventually' || !isOpen(formula.window)) return null;
  const { of } = formula;
  return of.is === 'always' && isOpen(of.window) && isPlain(of.of) ? of.of : null;
}

const looked = new WeakMap<Formula, readonly string[]>();

/** The signals a formula looks at. */
export function signalsOf(formula: Formula): readonly string[] {
  let names = looked.get(formula);
  if (!names) looked.set(formula, (names = namesIn(formula)));
  return names;
}

function namesIn(formula: Formula): string[] {
  switch (formula.is) {
    case 'compare':
      return [formula.signal];
    case 'not':
    case 'always':
    case 'eventually':
    case 'share':
      return namesIn(formula.of);
    case 'and':
    case 'or':
      return formula.of.flatMap(namesIn);
    case 'until':
      return [...namesIn(formula.first), ...namesIn(formula.then)];
  }
}
