import { radians } from '../quantity/index.ts';
import type { Signal, Trace } from '../sim/index.ts';
import { wayBetween } from './columns.ts';

/** Samples are looked at so far apart first. */
const APART = 16;
/** What rounding may add to a way, mm. */
const SLACK_MM = 1e-3;

/** How far the robot's farthest point may have gone up to each sample, mm; null where its poses are not known. */
function wayUpTo({ timesS, signals }: Trace, swingMm: number): Float64Array | null {
  const [x, y, bearing] = [signals.x?.values, signals.y?.values, signals.bearing?.values];
  if (!x || !y || !bearing) return null;
  const way = new Float64Array(timesS.length);
  const perDegree = radians(swingMm);
  for (let i = 1; i < way.length; i++) {
    const [dx, dy] = [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!];
    const turned = bearing[i]! - bearing[i - 1]!;
    const moved = dx === 0 && dy === 0 ? 0 : wayBetween(dx, dy);
    way[i] = way[i - 1]! + moved + (turned === 0 ? 0 : perDegree * Math.abs(turned));
  }
  return way;
}

/**
 * The least of a distance over a record, and where it is first `lowMm` or less, by looking at as few samples as that takes: between
 * two samples it is no smaller than half of what they and the way between them leave (a distance changes by no more than the robot's
 * farthest point goes, `swingMm` from its axle at most). Samples that are surely larger than the least hold what they are at least.
 * What it is measured to stays where it is within each stretch; `starts` are the first samples of those. `at` is told how large it
 * may be, mm, and which stretch it is. Null where the record does not tell poses.
 */
export function leastDistance(
  trace: Trace,
  swingMm: number,
  lowMm: number,
  starts: readonly number[],
  at: (i: number, atMost: number, stretch: number) => number,
): Signal | null {
  const way = wayUpTo(trace, swingMm);
  if (!way) return null;
  const n = way.length;
  const values = new Float32Array(n);
  let least = Infinity;
  const look = (i: number, atMost: number, stretch: number): number => {
    const value = at(i, atMost, stretch);
    values[i] = value;
    if (value < least) least = value;
    return value;
  };
  const between = (a: number, atA: number, b: number, atB: number, stretch: number): void => {
    if (b - a < 2) return;
    const gone = way[b]! - way[a]!;
    const surely = (atA + atB - gone) / 2 - SLACK_MM;
    if (gone === 0 || (surely > least && surely > lowMm)) {
      values.fill(gone === 0 ? atA : surely, a + 1, b);
      return;
    }
    const middle = (a + b) >> 1;
    const value = look(middle, atA + way[middle]! - way[a]! + SLACK_MM, stretch);
    between(a, atA, middle, value, stretch);
    between(middle, value, b, atB, stretch);
  };
  /** Goes from sample to sample, `APART` of each other, to the stretch's last. */
  const through = (stretch: number, step: (from: number, to: number) => void): void => {
    const last = (starts[stretch + 1] ?? n) - 1;
    for (let from = starts[stretch]!; from < last; from += APART) step(from, Math.min(last, from + APART));
  };
  // All the far ones first: the nearest of them spares most of those between.
  for (let k = 0; k < starts.length; k++) {
    let value = look(starts[k]!, Infinity, k);
    through(k, (from, to) => (value = look(to, value + way[to]! - way[from]! + SLACK_MM, k)));
  }
  for (let k = 0; k < starts.length; k++)
    through(k, (from, to) => between(from, values[from]!, to, values[to]!, k));
  return { unit: 'mm', values };
}
