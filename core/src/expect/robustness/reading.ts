import { isOpen, isPlain, whatHoldsInTheEnd, type Formula } from '../formula.ts';
import { All, Any, comparison, exactly, Not, Unknown, type End, type Part, type Reading } from './parts.ts';
import { Share } from './share.ts';
import { AnyUntil, OpenUntil, Told, Until } from './until.ts';
import { SlidingWindow, WindowAtStart } from './windows.ts';

const otherEnd = (end: End): End => (end === 'surely' ? 'at best' : 'surely');

/** The parts of “and” or “or”, of those within it too; what is soon read comes first, for it may spare the others. */
function flattened(is: 'and' | 'or', of: readonly Formula[]): Formula[] {
  const parts = of.flatMap((one) => (one.is === is ? flattened(is, one.of) : [one]));
  return [...parts.filter(isPlain), ...parts.filter((one) => !isPlain(one))];
}

/** A formula as it is read at any sample of a record. */
function partOf(formula: Formula, reading: Reading, end: End): Part {
  const { goesOn, times } = reading.record;
  const part = (of: Formula) => partOf(of, reading, end);
  const told = (of: Formula) => new Told(part(of), times.length);
  switch (formula.is) {
    case 'compare':
      return comparison(formula, reading, end);
    case 'not':
      return new Not(partOf(formula.of, reading, otherEnd(end)));
    case 'and':
      return new All(flattened(formula.is, formula.of).map(part));
    case 'or':
      return new Any(flattened(formula.is, formula.of).map(part));
    case 'always':
    case 'eventually':
      return new SlidingWindow(reading, end, part(formula.of), formula.window, formula.is === 'eventually');
    case 'share':
      return goesOn ? new Unknown(reading, end) : new Share(reading, told(formula.of), formula.least);
    case 'until': {
      const [first, then] = [told(formula.first), told(formula.then)];
      if (isOpen(formula.window) && !goesOn) return new OpenUntil(first, then, times.length);
      return new AnyUntil(new Until(reading, end, first, then, formula.window));
    }
  }
}

/** What a whole formula is worth where a record begins: windows that begin there are read once, and only as far as they decide. */
export function fromStart(
  formula: Formula,
  reading: Reading,
  end: End,
  floor = -Infinity,
  ceiling = Infinity,
): number {
  const { goesOn, times } = reading.record;
  const part = (of: Formula) => partOf(of, reading, end);
  switch (formula.is) {
    case 'not':
      return -fromStart(formula.of, reading, otherEnd(end), -ceiling, -floor);
    case 'and': {
      let least = Infinity;
      for (const of of formula.of) {
        least = Math.min(least, fromStart(of, reading, end, floor, Math.min(least, ceiling)));
        if (least <= floor) break;
      }
      return least;
    }
    case 'or': {
      let most = -Infinity;
      for (const of of formula.of) {
        most = Math.max(most, fromStart(of, reading, end, Math.max(most, floor), ceiling));
        if (most >= ceiling) break;
      }
      return most;
    }
    case 'always':
    case 'eventually': {
      const { of, window } = formula;
      const largest = formula.is === 'eventually';
      // What holds for good from some moment on is what holds at the end.
      const atEnd = goesOn ? null : whatHoldsInTheEnd(formula);
      if (atEnd) return exactly(part(atEnd), times.length - 1);
      // All of them at every moment is each of them at every moment; one of them at some moment likewise.
      if (of.is === (largest ? 'or' : 'and')) {
        const each = { is: of.is, of: of.of.map((one) => ({ ...formula, of: one })) };
        return fromStart(each, reading, end, floor, ceiling);
      }
      return new WindowAtStart(reading, end, part(of), window, largest).margin(floor, ceiling);
    }
    case 'until':
      return new Until(reading, end, part(formula.first), part(formula.then), formula.window).margin(0);
    default:
      return exactly(part(formula), 0);
  }
}
