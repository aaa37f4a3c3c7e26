import { convert, units, type Unit } from '../quantity/index.ts';
import type { Trace } from '../sim/index.ts';
import { signalsOf, type Formula, type Window } from './formula.ts';

/**
 * How much to spare a trace keeps a formula, as an interval: what is surely kept, and what may be at best. Both are equal
 * where everything is known. In the signals' own unit; ±Infinity where nothing is known on that side.
 */
export interface Margin {
  surely: number;
  atBest: number;
}

/** Margins at every sample, ends of their intervals; one and the same array where all is known. */
interface Span {
  lo: Float64Array;
  hi: Float64Array;
}

/** A record as formulas are read on it: moments in whole ms, and whether the last state lasts. */
interface Recorded {
  trace: Trace;
  times: Float64Array;
  end: number;
  lasts: boolean;
  /** More samples will follow: what an open window asks for may still come. */
  goesOn: boolean;
}

const UNKNOWN: Margin = { surely: -Infinity, atBest: Infinity };

const ms = (seconds: number): number => Math.round(1000 * seconds);

const exact = (values: Float64Array): Span => ({ lo: values, hi: values });
const unknown = (n: number): Span => ({
  lo: new Float64Array(n).fill(-Infinity),
  hi: new Float64Array(n).fill(Infinity),
});
/** The same done to both ends; once where they are one. */
const both = ({ lo, hi }: Span, work: (values: Float64Array) => Float64Array): Span => {
  const low = work(lo);
  return { lo: low, hi: lo === hi ? low : work(hi) };
};
/**
 * Columns of one record that its formula is worked out in. They are used again for the next formula: nothing but numbers leaves
 * `robustness`, and making thousands of them would cost more than filling them.
 */
class Columns {
  private readonly made: Float64Array[] = [];
  private used = 0;
  private length = 0;

  /** From here on all columns are free again. */
  begin(length: number): void {
    if (length !== this.length) this.made.length = 0;
    [this.length, this.used] = [length, 0];
  }

  /** A column whose values are whatever they were: all of them must be written. */
  take(): Float64Array {
    return (this.made[this.used++] ??= new Float64Array(this.length));
  }
}
const columns = new Columns();

/** The smaller, or the larger, of two margins at every sample. */
function pairwise(a: Float64Array, b: Float64Array, larger: boolean): Float64Array {
  const out = columns.take();
  if (larger) for (let i = 0; i < out.length; i++) out[i] = Math.max(a[i]!, b[i]!);
  else for (let i = 0; i < out.length; i++) out[i] = Math.min(a[i]!, b[i]!);
  return out;
}
const negative = (values: Float64Array): Float64Array => {
  const out = columns.take();
  for (let i = 0; i < out.length; i++) out[i] = -values[i]!;
  return out;
};

/**
 * The least or the largest of the values in [t + from, t + to] for every t, by a monotone queue: linear in the record. NaN
 * where no sample lies in the window.
 */
function overWindow(
  times: Float64Array,
  values: Float64Array,
  [from, to]: [number, number | null],
  largest: boolean,
): Float64Array {
  const n = values.length;
  const out = columns.take();
  const queue: number[] = [];
  let head = 0;
  // Walk backwards: the window's far end is entered last.
  let enter = n - 1;
  const better = (a: number, b: number) => (largest ? a >= b : a <= b);
  for (let i = n - 1; i >= 0; i--) {
    while (enter >= i && times[enter]! >= times[i]! + from) {
      while (queue.length > head && better(values[enter]!, values[queue.at(-1)!]!)) queue.pop();
      queue.push(enter--);
    }
    if (to !== null) while (head < queue.length && times[queue[head]!]! > times[i]! + to) head++;
    out[i] = head < queue.length ? values[queue[head]!]! : NaN;
  }
  return out;
}

/** *Always* and *eventually*: what lies beyond the end of the record is unknown, unless its last state lasts. */
function throughout(
  part: Span,
  window: Window,
  { times, end, lasts, goesOn }: Recorded,
  largest: boolean,
): Span {
  const [from, to] = [ms(window[0]), window[1] === null ? null : ms(window[1])];
  const n = times.length;
  const known = both(part, (values) => {
    const out = overWindow(times, values, [from, to], largest);
    if (lasts) for (let i = 0; i < n; i++) if (times[i]! + from > end) out[i] = values[n - 1]!;
    return out;
  });
  const open = (i: number) => (to === null ? goesOn : !lasts && times[i]! + to > end);
  let told = true;
  for (let i = 0; told && i < n; i++) told = known.lo[i] === known.lo[i] && !open(i);
  if (told) return known;
  return {
    lo: known.lo.map((v, i) => (Number.isNaN(v) || (!largest && open(i)) ? -Infinity : v)),
    hi: known.hi.map((v, i) => (Number.isNaN(v) || (largest && open(i)) ? Infinity : v)),
  };
}

/** *Until* with an open window from now on, read backwards: the second part now, or the first now and all of it from the next sample on. */
function untilOpen(first: Float64Array, then: Float64Array): Float64Array {
  const n = first.length;
  const out = columns.take();
  for (let i = n - 1; i >= 0; i--) {
    const later = i + 1 < n ? Math.min(first[i]!, out[i + 1]!) : -Infinity;
    out[i] = Math.max(then[i]!, later);
  }
  return out;
}

/**
 * *Until* within a window, for one end of the intervals. Half-open: the first part must hold up to, not at, the moment of the
 * second. `beyond` is what the second part may be after the record's end; `unseen` what it may be where the window holds no sample.
 */
function untilWithin(
  first: Float64Array,
  then: Float64Array,
  window: Window,
  { times, end, goesOn }: Recorded,
  beyond: number,
  unseen: number,
): Float64Array {
  const [from, to] = [ms(window[0]), window[1] === null ? Infinity : ms(window[1])];
  const n = times.length;
  return times.map((t, i) => {
    let [best, held, met] = [-Infinity, Infinity, false];
    let j = i;
    for (; j < n && times[j]! - t <= to; j++) {
      if (times[j]! - t >= from) [best, met] = [Math.max(best, Math.min(then[j]!, held)), true];
      held = Math.min(held, first[j]!);
    }
    if (!met && t + from <= end) best = Math.min(unseen, held);
    // The window goes on where the record does not.
    if (j === n && (t + from > end || (to === Infinity ? goesOn : t + to > end)))
      best = Math.max(best, Math.min(beyond, held));
    return best;
  });
}

/** A value with a unit in the unit of a signal; as it stands when either has none, or they measure different things. */
function inUnit(value: number, from: Unit | undefined, to: string): number {
  if (!from || !Object.hasOwn(units, to)) return value;
  return units[from].kind === units[to as Unit].kind ? convert(value, from, to as Unit) : value;
}

/**
 * The margin that is kept for at least a share of the time: the quantile of the margins, each weighed by the time until
 * the next sample. Positive exactly when the part holds for that share or more.
 */
function shareMargin(times: Float64Array, values: Float64Array, least: number): number {
  const last = times.length - 1;
  if (last === 0) return values[0]!;
  const total = times[last]! - times[0]!;
  // Times are whole ms, a share is not: a thousandth of one is no time.
  const most = (1 - least) * total + 1e-3;
  /** For how long the margin is at most `value`, ms. */
  const upTo = (value: number): number => {
    let sum = 0;
    for (let i = 0; i < last; i++) if (values[i]! <= value) sum += times[i + 1]! - times[i]!;
    return sum;
  };
  // The least value that is kept to for longer than may be lost; found by halving among the values in order.
  const sorted = values.slice(0, last).sort();
  let [low, high] = [0, last - 1];
  if (upTo(sorted[high]!) <= most) return Math.max(sorted[high]!, values[last]!);
  while (low < high) {
    const middle = (low + high) >> 1;
    if (upTo(sorted[middle]!) > most) high = middle;
    else low = middle + 1;
  }
  return sorted[low]!;
}

function comparison(formula: Extract<Formula, { is: 'compare' }>, { trace, times }: Recorded): Span {
  const n = times.length;
  if (!Object.hasOwn(trace.signals, formula.signal)) return unknown(n);
  const { values, unit } = trace.signals[formula.signal]!;
  const sign = formula.op === '>' ? 1 : -1;
  const value = inUnit(formula.value, formula.unit, unit);
  const margins = columns.take();
  let gaps = false;
  for (let i = 0; i < n; i++) {
    const margin = sign * (values[i]! - value);
    margins[i] = margin;
    if (margin !== margin) gaps = true;
  }
  if (!gaps) return exact(margins);
  // Where there is no reading it may be anything.
  return {
    lo: margins.map((v) => (Number.isNaN(v) ? -Infinity : v)),
    hi: margins.map((v) => (Number.isNaN(v) ? Infinity : v)),
  };
}

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
function fromStart(formula: Formula, record: Recorded): Margin {
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
      const [from, to] = [
        ms(formula.window[0]),
        formula.window[1] === null ? Infinity : ms(formula.window[1]),
      ];
      const n = times.length;
      let [first, after] = [0, n];
      while (first < n && times[first]! - times[0]! < from) first++;
      if (to !== Infinity) while (after > first && times[after - 1]! - times[0]! > to) after--;
      // Only the last state reaches into a window that begins after the end.
      if (first === n && lasts) first = n - 1;
      if (first >= after) return UNKNOWN;
      const { surely, atBest } = extremeOf(formula.of, record, first, after, largest);
      const runsOut = to === Infinity ? goesOn : !lasts && times[0]! + to > end;
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

function evaluate(formula: Formula, record: Recorded): Span {
  switch (formula.is) {
    case 'compare':
      return comparison(formula, record);
    case 'not': {
      const { lo, hi } = evaluate(formula.of, record);
      const low = negative(hi);
      return { lo: low, hi: lo === hi ? low : negative(lo) };
    }
    case 'and':
    case 'or': {
      const larger = formula.is === 'or';
      return formula.of
        .map((part) => evaluate(part, record))
        .reduce((a, b) => {
          const lo = pairwise(a.lo, b.lo, larger);
          return { lo, hi: a.lo === a.hi && b.lo === b.hi ? lo : pairwise(a.hi, b.hi, larger) };
        });
    }
    case 'always':
      return throughout(evaluate(formula.of, record), formula.window, record, false);
    case 'eventually':
      return throughout(evaluate(formula.of, record), formula.window, record, true);
    case 'share':
      if (record.goesOn) return unknown(record.times.length);
      return both(evaluate(formula.of, record), (values) =>
        new Float64Array(values.length).fill(shareMargin(record.times, values, formula.least)),
      );
    case 'until': {
      const [first, then] = [evaluate(formula.first, record), evaluate(formula.then, record)];
      const { window } = formula;
      if (window[0] === 0 && window[1] === null && !record.goesOn)
        return { lo: untilOpen(first.lo, then.lo), hi: untilOpen(first.hi, then.hi) };
      const last = record.times.length - 1;
      const beyond = record.lasts ? [then.lo[last]!, then.hi[last]!] : [-Infinity, Infinity];
      return {
        lo: untilWithin(first.lo, then.lo, window, record, beyond[0]!, -Infinity),
        hi: untilWithin(first.hi, then.hi, window, record, beyond[1]!, Infinity),
      };
    }
  }
}

/**
 * How much to spare a trace satisfies a formula at its first sample, in the signals' own unit: positive =
 * holds, negative = broken by that much (Fainekos and Pappas 2009; Donzé and Maler 2010). Pointwise on the
 * samples, at moments of whole milliseconds, until half-open. Gaps in a signal, signals that the trace lacks, windows without
 * a sample and windows that run past the end of the record widen the interval. After the end the last state goes on where
 * the trace says that it lasts.
 */
export function robustness(formula: Formula, trace: Trace): Margin {
  return marginOf(formula, trace, false);
}

/** Moments in whole ms, worked out once for all the formulas that a record is asked. */
const moments = new WeakMap<Float32Array, Float64Array>();
function timesOf(timesS: Float32Array): Float64Array {
  let times = moments.get(timesS);
  if (!times) {
    times = new Float64Array(timesS.length);
    for (let i = 0; i < times.length; i++) times[i] = ms(timesS[i]!);
    moments.set(timesS, times);
  }
  return times;
}

function marginOf(formula: Formula, trace: Trace, goesOn: boolean): Margin {
  if (trace.timesS.length === 0) return UNKNOWN;
  columns.begin(trace.timesS.length);
  const times = timesOf(trace.timesS);
  const lasts = trace.lasts ?? false;
  return fromStart(formula, { trace, times, end: times.at(-1)!, lasts, goesOn });
}

/** The first `n` samples of a trace. */
function upTo(trace: Trace, n: number): Trace {
  const signals = Object.entries(trace.signals).map(
    ([name, { unit, values }]) => [name, { unit, values: values.subarray(0, n) }] as const,
  );
  return { timesS: trace.timesS.subarray(0, n), signals: Object.fromEntries(signals) };
}

/**
 * When a formula was broken, s: the first sample after which nothing that could still have come would have kept it. The end of the
 * record where only that decides; null where the formula is not broken. What is known of a record that goes on only becomes more
 * with each sample, so the first is found by halving.
 */
export function brokenSince(formula: Formula, trace: Trace): number | null {
  if (robustness(formula, trace).atBest >= 0) return null;
  const broken = (n: number) => marginOf(formula, upTo(trace, n), true).atBest < 0;
  let [before, at] = [0, trace.timesS.length];
  const endS = trace.timesS.at(-1)!;
  if (!broken(at)) return endS;
  while (at - before > 1) {
    const middle = (before + at) >> 1;
    if (broken(middle)) at = middle;
    else before = middle;
  }
  // A figure of the whole run, such as how long it took, stands in every sample: it was known at the end only.
  const ofTheWhole = signalsOf(formula).every((name) => {
    const values = trace.signals[name]?.values;
    return !values || values.every((v) => v === values[0]);
  });
  return at === 1 && ofTheWhole ? endS : trace.timesS[at - 1]!;
}
