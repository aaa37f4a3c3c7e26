import { isOpen, whatHoldsInTheEnd, type Formula } from './formula.ts';

/**
 * How much of a signal a verdict looks at: its value at the end; that, its least value and where it first falls so low; some of its
 * samples, which only reading shows; or all of it.
 */
export type Asked = 'end' | 'least' | 'some' | 'all';

/** Where a formula is read: at the record's start or end alone, at every moment, at any, or at moments that others choose. */
type Read = 'start' | 'end' | 'always' | 'eventually' | 'some';

/** What serves both of two who ask. */
export const askedByBoth = (a: Asked | undefined, b: Asked): Asked =>
  a === undefined || a === b ? b : (['all', 'some', 'least'] as const).find((one) => a === one || b === one)!;

function ask(formula: Formula, how: Read, into: Map<string, Asked>): void {
  switch (formula.is) {
    case 'compare': {
      const { signal, op } = formula;
      // Always more than a value, or ever less: the least reading decides.
      const byLeast = (how === 'always' && op === '>') || (how === 'eventually' && op === '<');
      into.set(signal, askedByBoth(into.get(signal), how === 'end' ? 'end' : byLeast ? 'least' : 'some'));
      return;
    }
    case 'and':
      // The least of several is not had from the least of each, nor the largest.
      for (const of of formula.of) ask(of, how === 'eventually' ? 'some' : how, into);
      return;
    case 'or':
      for (const of of formula.of) ask(of, how === 'always' ? 'some' : how, into);
      return;
    case 'not':
      ask(formula.of, how === 'end' ? 'end' : 'some', into);
      return;
    case 'always':
      ask(formula.of, how === 'start' && isOpen(formula.window) ? 'always' : 'some', into);
      return;
    case 'eventually': {
      // What holds for good from some moment on is what holds at the end.
      const atEnd = how === 'start' ? whatHoldsInTheEnd(formula) : null;
      if (atEnd) ask(atEnd, 'end', into);
      else ask(formula.of, how === 'start' && isOpen(formula.window) ? 'eventually' : 'some', into);
      return;
    }
    case 'share':
      ask(formula.of, 'some', into);
      return;
    case 'until':
      ask(formula.first, 'some', into);
      ask(formula.then, 'some', into);
  }
}

/** How much of each of its signals a whole formula looks at where a finished record begins. */
export function askedOf(formula: Formula, into = new Map<string, Asked>()): Map<string, Asked> {
  ask(formula, 'start', into);
  return into;
}
