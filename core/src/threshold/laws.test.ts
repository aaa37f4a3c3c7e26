import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { convert } from '../quantity/index.ts';
import {
  byMethod,
  confusedSurfaces,
  fewestByCounting,
  figures,
  otsuSplit,
  pairOf,
  type Candidate,
  type Pair,
} from './index.ts';

/** Readings that a sensor gives in whole steps, enough of them for every method. */
const readings = fc.array(fc.integer({ min: 0, max: 200 }), { minLength: 5, maxLength: 25 });
const surface = (name: string, values: number[]) => ({ name, values });

function pair(a: number[], b: number[], unit = '%', step = 1): Pair | null {
  const made = pairOf(surface('a', a), surface('b', b), unit, step);
  return made.ok ? made.value : null;
}
const all = (p: Pair, edge: number[], sweep: number[], wanted: 'low' | 'high' = 'low'): Candidate[] =>
  byMethod(p, { wanted, sweep, edge: surface('edge', edge) }).candidates;
const alike = (x: number, y: number, scale = 1) => Math.abs(x - y) < 1e-6 * Math.max(1, scale);

describe('every method', () => {
  it('says the same when the surfaces change names, and when readings change order', () => {
    fc.assert(
      fc.property(readings, readings, readings, (a, b, edge) => {
        const p = pair(a, b);
        if (!p) return true;
        const swapped = pairOf(surface('b', [...b].reverse()), surface('a', [...a].sort()), '%', 1);
        if (!swapped.ok) return false;
        const [x, y] = [all(p, edge, [...a, ...b]), all(swapped.value, [...edge].reverse(), [...b, ...a])];
        return (
          x.length === y.length && x.every((w, i) => w.method === y[i]!.method && alike(w.exact, y[i]!.exact))
        );
      }),
    );
  });

  it('counting does not mind how often a surface was read: only which share is misread', () => {
    fc.assert(
      fc.property(readings, readings, fc.integer({ min: 2, max: 4 }), (a, b, times) => {
        const often = Array.from({ length: times }, () => a).flat();
        return fewestByCounting(a, b) === fewestByCounting(often, b);
      }),
    );
  });

  it('a change of unit changes nothing but the unit', () => {
    fc.assert(
      fc.property(readings, readings, readings, (a, b, edge) => {
        const toIn = (values: number[]) => values.map((v) => convert(v, 'mm', 'in'));
        const [mm, inch] = [pair(a, b, 'mm', 1), pair(toIn(a), toIn(b), 'in', convert(1, 'mm', 'in'))];
        if (!mm || !inch) return true;
        const [x, y] = [all(mm, edge, [...a, ...b]), all(inch, toIn(edge), toIn([...a, ...b]))];
        return (
          x.length === y.length &&
          x.every(
            (w, i) =>
              alike(w.exact, convert(y[i]!.exact, 'in', 'mm'), 200) &&
              // A half step may be rounded either way.
              (!alike(w.value, convert(y[i]!.value, 'in', 'mm'), 200) ||
                !alike(w.leave ?? 0, convert(y[i]!.leave ?? 0, 'in', 'mm'), 200) ||
                alike(w.safety.misreadsLow, y[i]!.safety.misreadsLow, 1000)),
          )
        );
      }),
    );
  });

  it('scaling the readings scales the value and leaves the misreads', () => {
    fc.assert(
      fc.property(readings, readings, readings, fc.integer({ min: 2, max: 9 }), (a, b, edge, k) => {
        const times = (values: number[]) => values.map((v) => v * k);
        const [one, more] = [pair(a, b), pair(times(a), times(b), '%', k)];
        if (!one || !more) return true;
        const [x, y] = [all(one, edge, [...a, ...b]), all(more, times(edge), times([...a, ...b]))];
        return x.every((w, i) => alike(w.exact * k, y[i]!.exact, 200 * k) && w.compare === y[i]!.compare);
      }),
    );
  });

  it('turning light into dark mirrors it: looking for the lighter one is looking for the darker of the negative', () => {
    fc.assert(
      fc.property(readings, readings, (a, b) => {
        const negative = (values: number[]) => values.map((v) => -v);
        const [p, q] = [pair(a, b), pair(negative(a), negative(b))];
        if (!p || !q) return true;
        const [x, y] = [all(p, [], [], 'high'), all(q, [], [], 'low')];
        return x.every((w, i) =>
          w.compare === 'change' ? alike(w.exact, y[i]!.exact, 200) : alike(w.exact, -y[i]!.exact, 200),
        );
      }),
    );
  });

  it('has each surface’s margin in points and in its own scatter', () => {
    fc.assert(
      fc.property(readings, readings, (a, b) => {
        const p = pair(a, b);
        if (!p) return true;
        return all(p, [], []).every(
          ({ safety }) =>
            alike(safety.marginLow / p.low.sd, safety.marginLowSds, 1000) &&
            alike(safety.marginHigh / p.high.sd, safety.marginHighSds, 1000),
        );
      }),
    );
  });
});

describe('splits and confusions', () => {
  it('a split lies strictly inside the record and parts it in two', () => {
    fc.assert(
      fc.property(readings, (values) => {
        const found = otsuSplit(values);
        if (!found.ok) return new Set(values).size === 1;
        const { exact, lower, upper } = found.value;
        return (
          lower.n + upper.n === values.length &&
          lower.mean < exact &&
          exact < upper.mean &&
          lower.values.every((v) => v < exact)
        );
      }),
    );
  });

  it('judge every look once and take none for a surface that was not read', () => {
    fc.assert(
      fc.property(readings, readings, readings, (a, b, c) => {
        const study = confusedSurfaces([surface('a', a), surface('b', b), surface('c', c), surface('d', [])]);
        const sum = study.counts.flat().reduce((x, y) => x + y, 0);
        return (
          sum === study.total &&
          study.total === a.length + b.length + c.length &&
          study.counts.every((row) => row[3] === 0)
        );
      }),
    );
  });

  it('floor the scatter at the sensor’s own rounding, q/√12', () => {
    expect(figures(surface('flat', [50, 50, 50]), 2)!.sd).toBeCloseTo(2 / Math.sqrt(12), 12);
    expect(figures(surface('none', []), 1)).toBeNull();
  });
});
