import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Trace } from '../../sim/index.ts';
import {
  above,
  all,
  always,
  any,
  below,
  brokenSince,
  eventually,
  forShare,
  implies,
  inTheEnd,
  not,
  robustness,
  signalsOf,
  type Formula,
  type Window,
} from '../index.ts';
import { Reading } from './parts.ts';
import { fromStart } from './reading.ts';
import { columns, indexes } from './recorded.ts';

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

type Ends = readonly [lo: number, hi: number];
const NOTHING: Ends = [-Infinity, Infinity];

/** The definitions read straight off the page, sample by sample, on intervals: slow, and nothing to get wrong. */
function byDefinition(f: Formula, trace: Trace, i: number): Ends {
  if (told.of !== trace) told = { of: trace, ends: new Map() };
  const key = told.ends.get(f) ?? [];
  told.ends.set(f, key);
  return (key[i] ??= endsOf(f, trace, i));
}
/** What was read off already on this trace: nested windows would ask for it again and again. */
let told: { of: Trace | null; ends: Map<Formula, Ends[]> } = { of: null, ends: new Map() };

function endsOf(f: Formula, trace: Trace, i: number): Ends {
  const times = [...trace.timesS].map((t) => Math.round(t * 1000));
  const n = times.length;
  const end = times[n - 1]!;
  const span = ([from, to]: Window): [number, number] => [
    times[i]! + 1000 * from,
    to === null ? Math.max(end, times[i]! + 1000 * from) : times[i]! + 1000 * to,
  ];
  const inside = (window: Window) => {
    const [a, b] = span(window);
    return [...times.keys()].filter((j) => j >= i && times[j]! >= a && times[j]! <= b);
  };
  /** What every moment of a window may be: its samples, what lasts after the end, or nothing that is known. */
  const within = (window: Window, of: Formula): Ends[] => {
    const [a, b] = span(window);
    const found = inside(window).map((j) => byDefinition(of, trace, j));
    const beyond = b > end || a > end;
    if (beyond && trace.lasts) found.push(byDefinition(of, trace, n - 1));
    else if (beyond && (window[1] !== null || a > end)) found.push(NOTHING);
    return found.length > 0 ? found : [NOTHING];
  };
  const least = (all: Ends[]): Ends => [
    Math.min(...all.map(([lo]) => lo)),
    Math.min(...all.map(([, hi]) => hi)),
  ];
  const most = (all: Ends[]): Ends => [
    Math.max(...all.map(([lo]) => lo)),
    Math.max(...all.map(([, hi]) => hi)),
  ];
  switch (f.is) {
    case 'compare': {
      const value = trace.signals[f.signal]?.values[i] ?? NaN;
      const margin = (f.op === '>' ? 1 : -1) * (value - f.value);
      return Number.isNaN(margin) ? NOTHING : [margin, margin];
    }
    case 'not': {
      const [lo, hi] = byDefinition(f.of, trace, i);
      return [-hi, -lo];
    }
    case 'and':
      return least(f.of.map((g) => byDefinition(g, trace, i)));
    case 'or':
      return most(f.of.map((g) => byDefinition(g, trace, i)));
    case 'always':
      return least(within(f.window, f.of));
    case 'eventually':
      return most(within(f.window, f.of));
    case 'share': {
      // The least margin at or below which more of the time lies than may be lost.
      const quantile = (which: 0 | 1) => {
        const all = times.map((t, j) => ({
          margin: byDefinition(f.of, trace, j)[which],
          ms: n === 1 ? 1 : (times[j + 1] ?? t) - t,
        }));
        const whole = all.reduce((sum, { ms }) => sum + ms, 0);
        const upTo = (margin: number) =>
          all.reduce((sum, one) => (one.margin <= margin ? sum + one.ms : sum), 0);
        const enough = all.filter(({ margin }) => upTo(margin) > (1 - f.least) * whole + 1e-3);
        return Math.min(...enough.map(({ margin }) => margin));
      };
      return [quantile(0), quantile(1)];
    }
    case 'until': {
      const [a, b] = span(f.window);
      const held = (upTo: number): Ends =>
        least([
          [Infinity, Infinity],
          ...Array.from({ length: upTo - i }, (_, k) => byDefinition(f.first, trace, i + k)),
        ]);
      const met = inside(f.window).map((j) => least([byDefinition(f.then, trace, j), held(j)]));
      if (met.length === 0 && a <= end) {
        const first = times.findIndex((t, j) => j >= i && t > b);
        met.push(least([NOTHING, held(first < 0 ? n : first)]));
      }
      if (a > end || (f.window[1] !== null && b > end))
        met.push(least([trace.lasts ? byDefinition(f.then, trace, n - 1) : NOTHING, held(n)]));
      return most([[-Infinity, -Infinity], ...met]);
    }
  }
}
/** The margin of a formula that is wholly known. */
function known(f: Formula, trace: Trace): number {
  const { surely, atBest } = robustness(f, trace);
  expect(surely).toBe(atBest);
  return surely;
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
    expect(known(formula, x)).toBeCloseTo(expected, 6);
  });

  it('until is half-open: the first part need not hold at the moment of the second', () => {
    const trace = traceOf(six, { d: [10, 8, 6, 4, 3, 3], p: [0, 0, 0, 0, 1, 1] });
    expect(
      known({ is: 'until', window: [0, 5], first: above('d', 3.5), then: above('p', 0.5) }, trace),
    ).toBeCloseTo(0.5, 6);
  });

  it('judges a response within a deadline: touched, then standing within half a second', () => {
    const times = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];
    const trace = traceOf(times, {
      a: [0, 0, 0, 1, 1, 0, 0, 0, 0, 0, 0],
      v: [20, 20, 20, 20, 20, 15, 8, 3, 0.4, 0, 0],
    });
    expect(
      known(always(implies(above('a', 0.5), eventually(below('v', 1), [0, 0.5])), [0, 0.5]), trace),
    ).toBeCloseTo(0.5, 6);
  });

  it('judges settling, and uneven sample times', () => {
    const settling = traceOf([0, 1, 2, 3, 4, 5, 6, 7], { e: [40, 22, 9, -6, -4, 3, 2, -1] });
    expect(
      known(eventually(always(all(below('e', 5), above('e', -5)), [0, 3]), [0, 4]), settling),
    ).toBeCloseTo(1, 6);
    const uneven = traceOf([0, 0.13, 0.21, 0.4, 0.52, 0.75, 1], { x: [5, 4, 2, 1, 3, 6, 7] });
    expect(known(always(below('x', 2.5), [0.2, 0.6]), uneven)).toBeCloseTo(-0.5, 6);
  });

  it('cannot tell without the signal, without a trace, or without a reading', () => {
    const nothing = { surely: -Infinity, atBest: Infinity };
    expect(robustness(above('y', 0), x)).toEqual(nothing);
    expect(robustness(above('x', 0), traceOf([], { x: [] }))).toEqual(nothing);
    expect(robustness(above('x', 0), traceOf([0], { x: [NaN] }))).toEqual(nothing);
    expect(signalsOf(all(above('a', 0), always(below('b', 1))))).toEqual(['a', 'b']);
    // What is known may decide by itself.
    expect(robustness(any(above('y', 0), above('x', 0)), x)).toEqual({ surely: 1, atBest: Infinity });
    expect(robustness(all(above('y', 0), above('x', 2)), x)).toEqual({ surely: -Infinity, atBest: -1 });
  });

  // By hand: a gap may hide anything, but it hides no reading that was taken.
  it('a missing reading never makes a broken formula hold, and a broken reading is told all the same', () => {
    const k2 = traceOf([0, 1, 2], { K2: [5, NaN, 30] });
    expect(robustness(always(above('K2', 10)), k2)).toEqual({ surely: -Infinity, atBest: -5 });
    expect(robustness(always(above('K2', 10)), traceOf([0, 1, 2], { K2: [20, NaN, 30] }))).toEqual({
      surely: -Infinity,
      atBest: 10,
    });
    expect(robustness(eventually(above('K2', 10)), k2)).toEqual({ surely: 20, atBest: Infinity });
  });

  it('a deadline is kept on its very millisecond, however late in the run', () => {
    for (let late = 0; late < 324; late++) {
      const from = late / 10;
      const times = [0, from, from + 0.1, from + 0.2, from + 0.3, from + 0.4];
      const trace = traceOf(late === 0 ? times.slice(1) : times, {
        a: [0, 1, 0, 0, 0, 0].slice(late === 0 ? 1 : 0),
        v: [9, 9, 9, 9, -9, 9].slice(late === 0 ? 1 : 0),
      });
      const quick = always(implies(above('a', 0.5), eventually(below('v', 0), [0, 0.3])), [0, from]);
      expect([from, robustness(quick, trace).surely >= 0]).toEqual([from, true]);
      const early = always(implies(above('a', 0.5), eventually(below('v', 0), [0, 0.29])), [0, from]);
      expect([from, robustness(early, trace).atBest < 0]).toEqual([from, true]);
    }
  });

  it('a window that runs past the end is open, unless the last state lasts', () => {
    const still = traceOf([0, 1, 2], { v: [4, 2, 0] });
    const resting = always(below('v', 5), [0, 10]);
    expect(robustness(resting, still)).toEqual({ surely: -Infinity, atBest: 1 });
    expect(robustness(resting, { ...still, lasts: true })).toEqual({ surely: 1, atBest: 1 });
    const later = eventually(above('v', 3), [8, 9]);
    expect(robustness(later, still)).toEqual({ surely: -Infinity, atBest: Infinity });
    expect(robustness(later, { ...still, lasts: true })).toEqual({ surely: -3, atBest: -3 });
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
        .tuple(tie('f'), tie('f'), fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 4 }))
        .map(([first, then, from, more]): Formula => ({
          is: 'until',
          window: [from, more === 4 ? null : from + more],
          first,
          then,
        })),
      fc.tuple(tie('f'), fc.constantFrom(0.5, 0.9, 1)).map(([a, least]) => forShare(least, a)),
    ),
  })).f;
  const signals = (gaps: boolean, least = 1, most = 9) =>
    fc.integer({ min: least, max: most }).chain((n) => {
      const value = fc.integer({ min: -6, max: 6 });
      const values = fc.array(gaps ? fc.oneof({ weight: 5, arbitrary: value }, fc.constant(NaN)) : value, {
        minLength: n,
        maxLength: n,
      });
      // Whole seconds as often as late by some ms, so that samples fall on and beside the ends of windows.
      const late = fc.array(fc.constantFrom(0, 0, 0, 1, -1, 40), { minLength: n, maxLength: n });
      return fc.tuple(values, values, late, fc.boolean()).map(([x, y, by, lasts]): Trace => ({
        ...traceOf(
          by.map((ms, i) => 20 + i + (i === 0 ? 0 : ms / 1000)),
          { x, y },
        ),
        lasts,
      }));
    });

  it('agrees with the definitions read sample by sample, with gaps, late samples and ends: 10,000 of them', () => {
    fc.assert(
      fc.property(formula, signals(true), (f, trace) => {
        const { surely, atBest } = robustness(f, trace);
        const [lo, hi] = byDefinition(f, trace, 0);
        return surely === lo && atBest === hi && surely <= atBest;
      }),
      { numRuns: 10_000 },
    );
  });

  // Records are read in pieces, and only as far as they decide: long ones at ten samples a second, which stand as often as they change.
  const long = fc
    .tuple(
      signals(true, 50, 220),
      fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 220, maxLength: 220 }),
    )
    .map(([trace, stands]): Trace => {
      const from = stands.flatMap((times, k) => Array<number>(times).fill(k));
      const held = ({ unit, values }: Trace['signals'][string]) => ({
        unit,
        values: values.map((_, i) => values[from[i]!]!),
      });
      return {
        ...trace,
        timesS: trace.timesS.map((t, i) => Math.round(100 * i + ((1000 * t) % 2)) / 1000),
        signals: { x: held(trace.signals.x!), y: trace.signals.y! },
      };
    });

  /** What people ask of long records: something, or this and that, always or ever, or until then. */
  const compared = fc
    .tuple(fc.constantFrom('x', 'y'), fc.boolean(), fc.integer({ min: -5, max: 5 }))
    .map(([signal, more, value]) => (more ? above(signal, value) : below(signal, value)));
  const within = fc.constantFrom<Window>([0, 0.5], [0.2, 1], [0, 4], [0, null]);
  const part: fc.Arbitrary<Formula> = fc.oneof(
    compared,
    compared.map(not),
    fc.tuple(compared, within).map(([of, window]) => eventually(of, window)),
    fc.tuple(compared, within).map(([of, window]) => always(of, window)),
  );
  const several = (of: fc.Arbitrary<Formula>): fc.Arbitrary<Formula> =>
    fc
      .tuple(fc.boolean(), fc.array(of, { minLength: 2, maxLength: 3 }))
      .map(([each, parts]) => (each ? all(...parts) : any(...parts)));
  const joined = several(fc.oneof(part, several(part)));
  const asked: fc.Arbitrary<Formula> = fc.oneof(
    fc.tuple(joined, within).map(([of, window]) => always(of, window)),
    fc.tuple(joined, within).map(([of, window]) => eventually(of, window)),
    fc
      .tuple(joined, joined, within)
      .map(([first, then, window]): Formula => ({ is: 'until', window, first, then })),
    formula,
  );

  it('agrees with them on records of hundreds of samples as well', () => {
    fc.assert(
      fc.property(asked, long, (f, trace) => {
        const { surely, atBest } = robustness(f, trace);
        const [lo, hi] = byDefinition(f, trace, 0);
        return surely === lo && atBest === hi;
      }),
      { numRuns: 250 },
    );
  });

  it('tells what lies between two bounds as it is, and of the rest that it lies beyond', () => {
    const bound = fc.integer({ min: -9, max: 9 });
    fc.assert(
      fc.property(asked, long, bound, bound, fc.boolean(), (f, trace, a, b, goesOn) => {
        const times = Float64Array.from(trace.timesS, (t) => Math.round(1000 * t));
        const record = { trace, times, end: times.at(-1)!, lasts: trace.lasts ?? false, goesOn };
        const [floor, ceiling] = [Math.min(a, b) - 0.5, Math.max(a, b) + 0.5];
        for (const end of ['surely', 'at best'] as const) {
          const read = (low: number, high: number) => {
            columns.begin(times.length);
            indexes.begin(times.length);
            return fromStart(f, new Reading(record), end, low, high);
          };
          const [exact, told] = [read(-Infinity, Infinity), read(floor, ceiling)];
          if (exact <= floor) expect(told >= exact && told <= floor).toBe(true);
          else if (exact >= ceiling) expect(told <= exact && told >= ceiling).toBe(true);
          else expect(told).toBe(exact);
        }
      }),
      { numRuns: 1500 },
    );
  });

  it('whatever the gaps hide, the margin lies in the interval', () => {
    fc.assert(
      fc.property(
        formula,
        signals(true),
        fc.infiniteStream(fc.integer({ min: -8, max: 8 })),
        (f, trace, hidden) => {
          const filled = Object.entries(trace.signals).map(([name, { unit, values }]) => [
            name,
            { unit, values: values.map((v) => (Number.isNaN(v) ? (hidden.next().value as number) : v)) },
          ]);
          const [wide, told] = [
            robustness(f, trace),
            robustness(f, { ...trace, signals: Object.fromEntries(filled) as Trace['signals'] }),
          ];
          expect(told.surely).toBeGreaterThanOrEqual(wide.surely);
          expect(told.atBest).toBeLessThanOrEqual(wide.atBest);
        },
      ),
      { numRuns: 2000 },
    );
  });

  it('is dual: always is not eventually not', () => {
    fc.assert(
      fc.property(formula, signals(true), (f, trace) => {
        expect(robustness(always(f, [0, 3]), trace)).toEqual(
          robustness(not(eventually(not(f), [0, 3])), trace),
        );
      }),
      { numRuns: 500 },
    );
  });

  describe('when it was broken', () => {
    const since = (f: Formula, values: number[], more: object = {}) =>
      brokenSince(f, {
        ...traceOf(
          values.map((_, i) => i),
          { x: values },
        ),
        ...more,
      });

    it('is the first sample that no later one can mend', () => {
      expect(since(always(above('x', 0)), [3, 2, -1, 4, -5])).toBe(2);
      // Three seconds to come; the time is over at 3.
      expect(since(eventually(above('x', 0), [0, 3]), [-1, -1, -1, -1, 5])).toBe(3);
      // Each time below 0, above 2 within two seconds: the second time not.
      const each = always(implies(below('x', 0), eventually(above('x', 2), [0, 2])));
      expect(since(each, [-1, 3, 1, -1, 1, 1, 1, 1])).toBe(5);
      expect(
        since({ is: 'until', window: [0, null], first: above('x', 0), then: above('x', 9) }, [1, 2, -1, 9]),
      ).toBe(2);
    });

    it('is the end for what only the end decides, and for figures of the whole run', () => {
      expect(since(eventually(above('x', 9)), [1, 2, 3])).toBe(2);
      expect(since(inTheEnd(above('x', 0)), [1, -1, 1, -1])).toBe(3);
      expect(since(forShare(0.9, above('x', 0)), [-1, -1, -1, 1])).toBe(3);
      expect(since(always(below('x', 15)), [20, 20, 20])).toBe(2);
    });

    it('is none where nothing is broken, or nothing can be told', () => {
      expect(since(always(above('x', 0)), [1, 1, NaN])).toBeNull();
      expect(since(eventually(above('x', 0), [0, 9]), [-1, -1])).toBeNull();
    });

    const further = (trace: Trace, upToS: number, value: () => number): Trace => {
      const n = trace.timesS.findIndex((t) => t >= upToS) + 1;
      const kept = (values: Float32Array) => [...values].slice(0, n);
      const more = Array.from({ length: 12 }, (_, i) => i + 1);
      return traceOf([...kept(trace.timesS), ...more.map((s) => trace.timesS[n - 1]! + s)], {
        x: [...kept(trace.signals.x!.values), ...more.map(value)],
        y: [...kept(trace.signals.y!.values), ...more.map(value)],
      });
    };

    it('stays broken from then on, whatever comes', () => {
      fc.assert(
        fc.property(
          formula,
          signals(true),
          fc.infiniteStream(fc.integer({ min: -8, max: 8 })),
          (f, trace, later) => {
            const at = brokenSince(f, trace);
            const times = trace.timesS;
            expect(at !== null).toBe(robustness(f, trace).atBest < 0);
            if (at === null || at === times.at(-1)) return;
            const after = further(trace, at, () => later.next().value as number);
            expect(robustness(f, after).atBest).toBeLessThan(0);
          },
        ),
        { numRuns: 2000 },
      );
    });
  });
});
