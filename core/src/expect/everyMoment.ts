import type { Formula, Window } from './formula.ts';
import { columns, inUnit, ms, type Recorded, type Span } from './recorded.ts';

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

/** Indexes of samples that may still be the best of a window; grown when a record is longer than all before. */
let queue = new Int32Array(0);

/**
 * The least or the largest of the values in [t + from, t + to] for every t, by a monotone queue: linear in the record. NaN
 * where no sample lies in the window.
 */
function overWindow(
  times: Float64Array,
  values: Float64Array,
  from: number,
  to: number,
  largest: boolean,
): Float64Array {
  const n = values.length;
  const out = columns.take();
  if (queue.length < n) queue = new Int32Array(2 * n);
  let [head, tail] = [0, 0];
  // Walk backwards: the window's far end is entered last.
  let enter = n - 1;
  for (let i = n - 1; i >= 0; i--) {
    const t = times[i]!;
    while (enter >= i && times[enter]! >= t + from) {
      const value = values[enter]!;
      if (largest) while (tail > head && value >= values[queue[tail - 1]!]!) tail--;
      else while (tail > head && value <= values[queue[tail - 1]!]!) tail--;
      queue[tail++] = enter--;
    }
    while (head < tail && times[queue[head]!]! > t + to) head++;
    out[i] = head < tail ? values[queue[head]!]! : NaN;
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
  const [from, to] = [ms(window[0]), window[1] === null ? Infinity : ms(window[1])];
  const n = times.length;
  const known = both(part, (values) => {
    const out = overWindow(times, values, from, to, largest);
    if (lasts) for (let i = n - 1; i >= 0 && times[i]! + from > end; i--) out[i] = values[n - 1]!;
    return out;
  });
  // The samples whose windows run past the end of the record are its last ones.
  let open = n;
  if (to === Infinity) open = goesOn ? 0 : n;
  else if (!lasts) while (open > 0 && times[open - 1]! + to > end) open--;
  let told = open === n;
  for (let i = 0; told && i < n; i++) told = known.lo[i] === known.lo[i];
  if (told) return known;
  const [lo, hi] = [columns.take(), columns.take()];
  for (let i = 0; i < n; i++) {
    const [low, high] = [known.lo[i]!, known.hi[i]!];
    lo[i] = low !== low || (!largest && i >= open) ? -Infinity : low;
    hi[i] = high !== high || (largest && i >= open) ? Infinity : high;
  }
  return { lo, hi };
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

function comparison(
  formula: Extract<Formula, { is: 'compare' }>,
  { trace, times }: Recorded,
  denied = false,
): Span {
  const n = times.length;
  if (!Object.hasOwn(trace.signals, formula.signal)) return unknown(n);
  const { values, unit } = trace.signals[formula.signal]!;
  const sign = (formula.op === '>') === denied ? -1 : 1;
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

/** The margins of a formula at every sample of a record. */
export function evaluate(formula: Formula, record: Recorded): Span {
  switch (formula.is) {
    case 'compare':
      return comparison(formula, record);
    case 'not': {
      const { of } = formula;
      if (of.is === 'compare') return comparison(of, record, true);
      const { lo, hi } = evaluate(of, record);
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
        columns.take().fill(shareMargin(record.times, values, formula.least)),
      );
    case 'until': {
      const [first, then] = [evaluate(formula.first, record), evaluate(formula.then, record)];
      const { window } = formula;
      if (window[0] === 0 && window[1] === null && !record.goesOn) {
        const lo = untilOpen(first.lo, then.lo);
        const known = first.lo === first.hi && then.lo === then.hi;
        return { lo, hi: known ? lo : untilOpen(first.hi, then.hi) };
      }
      const last = record.times.length - 1;
      const beyond = record.lasts ? [then.lo[last]!, then.hi[last]!] : [-Infinity, Infinity];
      return {
        lo: untilWithin(first.lo, then.lo, window, record, beyond[0]!, -Infinity),
        hi: untilWithin(first.hi, then.hi, window, record, beyond[1]!, Infinity),
      };
    }
  }
}
