import type { Formula } from './formula.ts';

/** How much of a signal a verdict looks at: its value at the end, its least value and where it first falls so low, or all of it. */
export type Asked = 'end' | 'least' | 'all';

const isOpen = ([from, to]: readonly [number, number | null]): boolean => from === 0 && to === null;

function ask(formula: Formula, how: Asked | 'start', into: Map<string, Asked>): void {
  switch (formula.is) {
    case 'compare': {
      const now = how === 'end' || (how === 'least' && formula.op === '>') ? how : 'all';
      const before = into.get(formula.signal);
      into.set(formula.signal, before === undefined || before === now ? now : 'all');
      return;
    }
    case 'and':
      for (const of of formula.of) ask(of, how, into);
      return;
    case 'or':
      // The least of several is not had from the least of each.
      for (const of of formula.of) ask(of, how === 'least' ? 'all' : how, into);
      return;
    case 'not':
      ask(formula.of, how === 'end' ? 'end' : 'all', into);
      return;
    case 'always':
      ask(formula.of, how === 'start' && isOpen(formula.window) ? 'least' : 'all', into);
      return;
    case 'eventually': {
      const { of, window } = formula;
      // What holds for good from some moment on is what holds at the end.
      const atEnd = how === 'start' && isOpen(window) && of.is === 'always' && isOpen(of.window);
      if (atEnd && isPlain(of.of)) ask(of.of, 'end', into);
      else ask(of, 'all', into);
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
