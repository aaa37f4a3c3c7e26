import type { Formula } from './formula.ts';

/** How much of a signal a verdict looks at: its value at the end; that, its least value and where it first falls so low; or all of it. */
export type Asked = 'end' | 'least' | 'all';

/** Where a formula is read: at the record's start or end alone, at every moment, at any, or at moments that others choose. */
type Read = 'start' | 'end' | 'always' | 'eventually' | 'all';

const isOpen = ([from, to]: readonly [number, number | null]): boolean => from === 0 && to === null;

/** What serves both of two who ask. */
export const askedByBoth = (a: Asked | undefined, b: Asked): Asked =>
  a === undefined || a === b ? b : a === 'all' || b === 'all' ? 'all' : 'least';

function ask(formula: Formula, how: Read, into: Map<string, Asked>): void {
  switch (formula.is) {
    case 'compare': {
      const { signal, op } = formula;
      // Always more than a value, or ever less: the least reading decides.
      const byLeast = (how === 'always' && op === '>') || (how === 'eventually' && op === '<');
      into.set(signal, askedByBoth(into.get(signal), how === 'end' ? 'end' : byLeast ? 'least' : 'all'));
      return;
    }
    case 'and':
      // The least of several is not had from the least of each, nor the largest.
      for (const of of formula.of) ask(of, how === 'eventually' ? 'all' : how, into);
      return;
    case 'or':
      for (const of of formula.of) ask(of, how === 'always' ? 'all' : how, into);
      return;
    case 'not':
      ask(formula.of, how === 'end' ? 'end' : 'all', into);
      return;
    case 'always':
      ask(formula.of, how === 'start' && isOpen(formula.window) ? 'always' : 'all', into);
      return;
    case 'eventually': {
      const { of, window } = formula;
      const open = how === 'start' && isOpen(window);
      // What holds for good from some moment on is what holds at the end.
      if (open && of.is === 'always' && isOpen(of.window) && isPlain(of.of)) ask(of.of, 'end', into);
      else ask(of, open ? 'eventually' : 'all', into);
      return;
    }
    case 'share':
      ask(formula.of, 'all', into);
      return;
    case 'until':
      ask(formula.first, 'all', into);
      ask(formula.then, 'all', into);
  }
}

/** Whether a formula speaks of one moment alone. */
function isPlain(formula: Formula): boolean {
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

/** How much of each of its signals a whole formula looks at where a finished record begins. */
export function askedOf(formula: Formula, into = new Map<string, Asked>()): Map<string, Asked> {
  ask(formula, 'start', into);
  return into;
}
