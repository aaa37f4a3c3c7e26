import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Trace } from '../sim/index.ts';
import {
  above,
  all,
  always,
  any,
  below,
  eventually,
  implies,
  inTheEnd,
  not,
  robustness,
  signalsOf,
  type Formula,
} from './index.ts';

function traceOf(times: number[], signals: Record<string, number[]>): Trace {
  return {
    timesS: Float32Array.from(times),
    signals: Object.fromEntries(
      Object.entries(signals).map(([name, values]) => [
        name,
        { unit: '', values: Float32Array.from(values) },
      ]),
    ),
  };
}
const six = [0, 1, 2, 3, 4, 5];

/** The definitions read straight off the page, sample by sample: slow, and nothing to get wrong. */
function byDefinition(f: Formula, trace: Trace, i: number): number {
  const times = trace.timesS;
  const inside = ([from, to]: [number, number | null]) =>
    [...times.keys()].filter(
      (j) =>
        times[j]! >= times[i]! + from - 1e-6 && (to === null || times[j]! <= times[i]! + to + 1e-6) && j >= i,
    );
  switch (f.is) {
    case 'compare':
      return (f.op === '>' ? 1 : -1) * (trace.signals[f.signal]!.values[i]! - f.value);
    case 'not':
      return -byDefinition(f.of, trace, i);
    case 'and':
      return Math.min(...f.of.map((g) => byDefinition(g, trace, i)));
    case 'or':
      return Math.max(...f.of.map((g) => byDefinition(g, trace, i)));
    case 'always':
      return Math.min(Infinity, ...inside(f.window).map((j) => byDefinition(f.of, trace, j)));
    case 'eventually':
      return Math.max(-Infinity, ...inside(f.window).map((j) => byDefinition(f.of, trace, j)));
    case 'share': {
      // Margins, worst first, until less than the share is left above.
      const margins = [...times.keys()].slice(0, -1).map((j) => byDefinition(f.of, trace, j));
      margins.sort((a, b) => a - b);
      return margins[Math.floor((1 - f.least) * margins.length + 1e-9)]!;
    }
    case 'until':
      return Math.max(
        -Infinity,
        ...inside(f.window).map((j) =>
          Math.min(
            byDefinition(f.then, trace, j),
            ...Array.from({ length: j - i }, (_, k) => byDefinition(f.first, trace, i + k)),
          ),
        ),
      );
  }
}

// By hand from the definitions of Fainekos and Pappas 2009 and Donzé and Maler 2010.
describe('robustness', () => {
  const x = traceOf(six, { x: [1, 3, -2, 4, 0.5, 2] });
  it.each<[string, Formula, number]>([
    ['always', always(above('x', -3), [0, 5]), 1],
    ['eventually', eventually(above('x', 3.5), [0, 3]), 0.5],
    ['eventually always, kept', eventually(always(above('x', 0), [0, 2]), [0, 3]), 0.5],
    ['eventually always in a shorter window, broken', eventually(always(above('x', 0), [0, 2]), [0, 2]), -2],
    ['in the end', inTheEnd(above('x', 0)), 2],
  ])('%s', (_, formula, expected) => {
    expect(robustness(formula, x)).toBeCloseTo(expected, 6);
  });

  it('until is half-open: the first part need not hold at the moment of the second', () => {
    const trace = traceOf(six, { d: [10, 8, 6, 4, 3, 3], p: [0, 0, 0, 0, 1, 1] });
    expect(
      robustness({ is: 'until', window: [0, 5], first: above('d', 3.5), then: above('p', 0.5) }, trace),
    ).toBeCloseTo(0.5, 6);
  });

  it('judges a response within a deadline: touched, then standing within half a second', () => {
    const times = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];
    const trace = traceOf(times, {
      a: [0, 0, 0, 1, 1, 0, 0, 0, 0, 0, 0],
      v: [20, 20, 20, 20, 20, 15, 8, 3, 0.4, 0, 0],
    });
    expect(
      robustness(always(implies(above('a', 0.5), eventually(below('v', 1), [0, 0.5])), [0, 0.5]), trace),
    ).toBeCloseTo(0.5, 6);
  });

  it('judges settling, and uneven sample times', () => {
    const settling = traceOf([0, 1, 2, 3, 4, 5, 6, 7], { e: [40, 22, 9, -6, -4, 3, 2, -1] });
    expect(
      robustness(eventually(always(all(below('e', 5), above('e', -5)), [0, 3]), [0, 4]), settling),
    ).toBeCloseTo(1, 6);
    const uneven = traceOf([0, 0.13, 0.21, 0.4, 0.52, 0.75, 1], { x: [5, 4, 2, 1, 3, 6, 7] });
    expect(robustness(always(below('x', 2.5), [0.2, 0.6]), uneven)).toBeCloseTo(-0.5, 6);
  });

  it('cannot tell without the signal, or without a trace', () => {
    expect(robustness(above('y', 0), x)).toBeNull();
    expect(robustness(above('x', 0), traceOf([], { x: [] }))).toBeNull();
    expect(robustness(above('x', 0), traceOf([0], { x: [NaN] }))).toBeNull();
    expect(signalsOf(all(above('a', 0), always(below('b', 1))))).toEqual(['a', 'b']);
  });

  const formula = fc.letrec<{ f: Formula }>((tie) => ({
    f: fc.oneof(
      { depthSize: 'small' },
      fc.record({
        is: fc.constant('compare' as const),
        signal: fc.constantFrom('x', 'y'),
        op: fc.constantFrom('<' as const, '>' as const),
        value: fc.integer({ min: -5, max: 5 }),
      }),
      tie('f').map(not),
      fc.tuple(tie('f'), tie('f')).map(([a, b]) => all(a, b)),
      fc.tuple(tie('f'), tie('f')).map(([a, b]) => any(a, b)),
      fc
        .tuple(tie('f'), fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 3 }))
        .map(([a, from, length]) => always(a, [from, from + length])),
      fc.tuple(tie('f'), fc.integer({ min: 0, max: 3 })).map(([a, from]) => eventually(a, [from, null])),
      fc
        .tuple(tie('f'), tie('f'), fc.integer({ min: 0, max: 4 }))
        .map(([first, then, to]): Formula => ({ is: 'until', window: [0, to], first, then })),
    ),
  })).f;
  const signals = fc.integer({ min: 1, max: 9 }).chain((n) => {
    const values = fc.array(fc.integer({ min: -6, max: 6 }), { minLength: n, maxLength: n });
    return fc.tuple(values, values).map(([x, y]) => traceOf([...Array(n).keys()], { x, y }));
  });

  it('agrees with the definitions read sample by sample', () => {
    fc.assert(
      fc.property(formula, signals, (f, trace) => robustness(f, trace) === byDefinition(f, trace, 0)),
      { numRuns: 1500 },
    );
  });

  it('is dual: always is not eventually not', () => {
    fc.assert(
      fc.property(
        formula,
        signals,
        (f, trace) =>
          robustness(always(f, [0, 3]), trace) === robustness(not(eventually(not(f), [0, 3])), trace),
      ),
      { numRuns: 500 },
    );
  });
});
