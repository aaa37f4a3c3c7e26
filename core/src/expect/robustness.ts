import { convert, units, type Unit } from '../quantity/index.ts';
import type { Trace } from '../sim/index.ts';
import { signalsOf, type Formula } from './formula.ts';

/** Slack for window ends, s: a sample that falls on an end belongs to the window. */
const EDGE_S = 1e-6;

/** Values of `fold` over the samples in [t+from, t+to] for every t, by a monotone queue: linear in the trace. */
function overWindow(
  times: Float32Array | readonly number[],
  values: Float64Array,
  [from, to]: [number, number | null],
  largest: boolean,
): Float64Array {
  const n = values.length;
  const out = new Float64Array(n);
  const queue: number[] = [];
  let head = 0;
  // Walk backwards: the window's far end is entered last.
  let enter = n - 1;
  const better = (a: number, b: number) => (largest ? a >= b : a <= b);
  for (let i = n - 1; i >= 0; i--) {
    const near = times[i]! + from - EDGE_S;
    while (enter >= 0 && times[enter]! >= near && enter >= i) {
      while (queue.length > head && better(values[enter]!, values[queue.at(-1)!]!)) queue.pop();
      queue.push(enter--);
    }
    if (to !== null) {
      const far = times[i]! + to + EDGE_S;
      while (head < queue.length && times[queue[head]!]! > far) head++;
    }
    out[i] = head < queue.length ? values[queue[head]!]! : largest ? -Infinity : Infinity;
  }
  return out;
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
function shareMargin(times: Float32Array, values: Float64Array, least: number): number {
  const order = Array.from(values, (_, i) => i).sort((a, b) => values[a]! - values[b]!);
  const last = times.length - 1;
  const weight = (i: number) => (last === 0 ? 1 : i < last ? times[i + 1]! - times[i]! : 0);
  const total = order.reduce((sum, i) => sum + weight(i), 0);
  let passed = 0;
  for (const i of order) {
    passed += weight(i);
    if (passed > (1 - least) * total + EDGE_S) return values[i]!;
  }
  return values[order.at(-1)!]!;
}

function evaluate(formula: Formula, trace: Trace): Float64Array {
  const n = trace.timesS.length;
  switch (formula.is) {
    case 'compare': {
      const { values, unit } = trace.signals[formula.signal]!;
      const sign = formula.op === '>' ? 1 : -1;
      const value = inUnit(formula.value, formula.unit, unit);
      return Float64Array.from({ length: n }, (_, i) => sign * (values[i]! - value));
    }
    case 'not':
      return evaluate(formula.of, trace).map((v) => -v);
    case 'and':
    case 'or': {
      const pick = formula.is === 'and' ? Math.min : Math.max;
      return formula.of
        .map((part) => evaluate(part, trace))
        .reduce((a, b) => a.map((v, i) => pick(v, b[i]!)));
    }
    case 'always':
      return overWindow(trace.timesS, evaluate(formula.of, trace), formula.window, false);
    case 'eventually':
      return overWindow(trace.timesS, evaluate(formula.of, trace), formula.window, true);
    case 'share':
      return new Float64Array(n).fill(shareMargin(trace.timesS, evaluate(formula.of, trace), formula.least));
    case 'until': {
      const first = evaluate(formula.first, trace);
      const then = evaluate(formula.then, trace);
      const [from, to] = formula.window;
      if (from === 0 && to === null) {
        // Read backwards: the second part now, or the first now and all of it from the next sample on.
        const out = new Float64Array(n);
        for (let i = n - 1; i >= 0; i--) {
          const later = i + 1 < n ? Math.min(first[i]!, out[i + 1]!) : -Infinity;
          out[i] = Math.max(then[i]!, later);
        }
        return out;
      }
      return Float64Array.from({ length: n }, (_, i) => {
        const t = trace.timesS[i]!;
        let best = -Infinity;
        let held = Infinity;
        for (let j = i; j < n; j++) {
          const dt = trace.timesS[j]! - t;
          if (to !== null && dt > to + EDGE_S) break;
          // Half-open: the first part must hold up to, not at, the moment of the second.
          if (dt >= from - EDGE_S) best = Math.max(best, Math.min(then[j]!, held));
          held = Math.min(held, first[j]!);
        }
        return best;
      });
    }
  }
}

/**
 * How much to spare a trace satisfies a formula at its first sample, in the signals' own unit: positive =
 * holds, negative = broken by that much (Fainekos and Pappas 2009; Donzé and Maler 2010). Pointwise on the
 * samples, until half-open. Null when the trace lacks a signal the formula asks for, or is empty.
 */
export function robustness(formula: Formula, trace: Trace): number | null {
  if (trace.timesS.length === 0) return null;
  if (signalsOf(formula).some((signal) => !Object.hasOwn(trace.signals, signal))) return null;
  const value = evaluate(formula, trace)[0]!;
  return Number.isNaN(value) ? null : value;
}
