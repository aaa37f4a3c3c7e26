import { evaluate } from './everyMoment.ts';
import type { Formula, Window } from './formula.ts';
import { inUnit, ms, UNKNOWN, type Margin, type Recorded } from './recorded.ts';

/** The margin at one sample alone, the first or the last, where no other sample needs to be asked. */
function atSample(formula: Formula, record: Recorded, i: number): Margin | null {
  switch (formula.is) {
    case 'compare': {
      const signal = record.trace.signals[formula.signal];
      if (!signal || !Object.hasOwn(record.trace.signals, formula.signal)) return UNKNOWN;
      const value = inUnit(formula.value, formula.unit, signal.unit);
      const margin = (formula.op === '>' ? 1 : -1) * (signal.values[i]! - value);
      return Number.isNaN(margin) ? UNKNOWN : { surely: margin, atBest: margin };
    }
    case 'not': {
      const of = atSample(formula.of, record, i);
      return of && { surely: -of.atBest, atBest: -of.surely };
    }
    case 'and':
    case 'or': {
      const pick = formula.is === 'and' ? Math.min : Math.max;
      let all: Margin | null = null;
      for (const part of formula.of) {
        const one = atSample(part, record, i);
        if (!one) return null;
        all = all ? { surely: pick(all.surely, one.surely), atBest: pick(all.atBest, one.atBest) } : one;
      }
      return all;
    }
    default:
      return null;
  }
}

/** The least, or the largest, of some of the values. */
function extreme(values: Float64Array, first: number, after: number, largest: boolean): number {
  let best = values[first]!;
  if (largest) for (let i = first + 1; i < after; i++) best = Math.max(best, values[i]!);
  else for (let i = first + 1; i < after; i++) best = Math.min(best, values[i]!);
  return best;
}

/** The same of a formula between two samples; of a comparison straight from its signal, without a margin at every sample. */
function extremeOf(
  formula: Formula,
  record: Recorded,
  first: number,
  after: number,
  largest: boolean,
): Margin {
  const signals = record.trace.signals;
  if (formula.is === 'compare' && Object.hasOwn(signals, formula.signal)) {
    const { values, unit } = signals[formula.signal]!;
    const value = inUnit(formula.value, formula.unit, unit);
    // The largest margin below a value is that of the least reading.
    const highest = largest === (formula.op === '>');
    let best = values[first]!;
    let gaps = best !== best;
    for (let i = first + 1; i < after && !gaps; i++) {
      const one = values[i]!;
      if (one !== one) gaps = true;
      else if (highest ? one > best : one < best) best = one;
    }
    if (!gaps) {
      const margin = formula.op === '>' ? best - value : -(best - value);
      return { surely: margin, atBest: margin };
    }
  }
  const { lo, hi } = evaluate(formula, record);
  const surely = extreme(lo, first, after, largest);
  return { surely, atBest: hi === lo ? surely : extreme(hi, first, after, largest) };
}

/** What a whole formula is worth where a record begins: windows that begin there are read once, not at every sample. */
export function fromStart(formula: Formula, record: Recorded): Margin {
  const { times, end, lasts, goesOn } = record;
  switch (formula.is) {
    case 'not': {
      const { surely, atBest } = fromStart(formula.of, record);
      return { surely: -atBest, atBest: -surely };
    }
    case 'and':
    case 'or': {
      const pick = formula.is === 'and' ? Math.min : Math.max;
      return formula.of
        .map((part) => fromStart(part, record))
        .reduce((a, b) => ({ surely: pick(a.surely, b.surely), atBest: pick(a.atBest, b.atBest) }));
    }
    case 'always':
    case 'eventually': {
      const largest = formula.is === 'eventually';
      const open = (window: Window) => window[0] === 0 && window[1] === null;
      // What holds for good from some moment on is what holds at the end.
      if (
        largest &&
        !goesOn &&
        open(formula.window) &&
        formula.of.is === 'always' &&
        open(formula.of.window)
      ) {
        const last = atSample(formula.of.of, record, times.length - 1);
        if (last) return last;
      }
      // All of them at every moment is each of them at every moment; one of them at some moment likewise.
      if (formula.of.is === (largest ? 'or' : 'and'))
        return fromStart({ is: formula.of.is, of: formula.of.of.map((of) => ({ ...formula, of })) }, record);
      const from = ms(formula.window[0]);
      const to = formula.window[1] === null ? Infinity : ms(formula.window[1]);
      const n = times.length;
      const t = times[0]!;
      let first = 0;
      while (first < n && times[first]! - t < from) first++;
      let after = to === Infinity ? n : first;
      while (after < n && times[after]! - t <= to) after++;
      // Only the last state reaches into a window that begins after the end.
      if (first === n && lasts) [first, after] = [n - 1, n];
      if (first >= after) return UNKNOWN;
      const { surely, atBest } = extremeOf(formula.of, record, first, after, largest);
      const runsOut = to === Infinity ? goesOn : !lasts && t + to > end;
      if (!runsOut) return { surely, atBest };
      return largest ? { surely, atBest: Infinity } : { surely: -Infinity, atBest };
    }
    default: {
      const one = atSample(formula, record, 0);
      if (one) return one;
      const { lo, hi } = evaluate(formula, record);
      return { surely: lo[0]!, atBest: hi[0]! };
    }
  }
}
