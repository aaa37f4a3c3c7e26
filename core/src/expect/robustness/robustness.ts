import type { Trace } from '../../sim/index.ts';
import { signalsOf, type Formula } from '../formula.ts';
import { Reading, type End } from './parts.ts';
import { fromStart } from './reading.ts';
import { columns, indexes, ms, UNKNOWN, type Margin } from './recorded.ts';

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

/**
 * Moments of the record that was read last, in whole ms: it is asked several formulas one after the other. Their memory serves the
 * next record, for they do not leave `robustness`.
 */
let moments: { of: Float32Array; memory: ArrayBuffer; times: Float64Array } | null = null;
function timesOf(timesS: Float32Array): Float64Array {
  if (moments?.of === timesS) return moments.times;
  const bytes = timesS.length * Float64Array.BYTES_PER_ELEMENT;
  const memory = moments && moments.memory.byteLength >= bytes ? moments.memory : new ArrayBuffer(2 * bytes);
  const times = new Float64Array(memory, 0, timesS.length);
  for (let i = 0; i < times.length; i++) times[i] = ms(timesS[i]!);
  moments = { of: timesS, memory, times };
  return times;
}

function marginOf(formula: Formula, trace: Trace, goesOn: boolean): Margin {
  if (trace.timesS.length === 0) return UNKNOWN;
  const times = timesOf(trace.timesS);
  const lasts = trace.lasts ?? false;
  const reading = new Reading({ trace, times, end: times.at(-1)!, lasts, goesOn });
  const read = (end: End): number => {
    columns.begin(times.length);
    indexes.begin(times.length);
    // Zero has no sign here.
    return fromStart(formula, reading, end) + 0;
  };
  const surely = read('surely');
  return { surely, atBest: reading.metUnknown ? read('at best') : surely };
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
