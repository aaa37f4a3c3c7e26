import { radians } from '../quantity/index.ts';
import type { Signal, Trace } from '../sim/index.ts';
import { wayBetween } from './columns.ts';

/** Samples are looked at so far apart first. */
const APART = 16;
/** What rounding may add to a way, mm. */
const SLACK_MM = 1e-3;

interface Way {
  x: Float32Array;
  y: Float32Array;
  swingMm: number;
  upTo: Float64Array;
}
/** By the bearings of a trace: several distances are measured along one way. */
const ways = new WeakMap<Float32Array, Way>();

/** How far the robot's farthest point may have gone up to each sample, mm; null where its poses are not known. */
function wayUpTo({ signals }: Trace, swingMm: number): Float64Array | null {
  const [x, y, bearing] = [signals.x?.values, signals.y?.values, signals.bearing?.values];
  if (!x || !y || !bearing) return null;
  const known = ways.get(bearing);
  if (known && known.swingMm === swingMm && known.x === x && known.y === y) return known.upTo;
  const upTo = wayAlong(x, y, bearing, swingMm);
  ways.set(bearing, { x, y, swingMm, upTo });
  return upTo;
}

function wayAlong(x: Float32Array, y: Float32Array, bearing: Float32Array, swingMm: number): Float64Array {
  const way = new Float64Array(bearing.length);
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
 * may be, mm, and which stretch it is. Where something else is told than the distance, `told` says it: it is nowhere less.
 * Null where the record does not tell poses.
 */
export function leastDistance(
  trace: Trace,
  swingMm: number,
  lowMm: number,
  starts: readonly number[],
  at: (i: number, atMost: number, stretch: number) => number,
  told: (i: number, distance: number, stretch: number) => number = (_, distance) => distance,
): Signal | null {
  const way = wayUpTo(trace, swingMm);
  if (!way) return null;
  const n = way.length;
  const values = new Float32Array(n);
  let least = Infinity;
  const look = (i: number, atMost: number, stretch: number): number => {
    const distance = at(i, atMost, stretch);
    const value = told(i, distance, stretch);
    values[i] = value;
    if (value < least) least = value;
    return distance;
  };
  const between = (a: number, atA: number, b: number, atB: number, stretch: number): void => {
    if (b - a < 2) return;
    const gone = way[b]! - way[a]!;
    const surely = (atA + atB - gone) / 2 - SLACK_MM;
    if (gone === 0 || (surely > least && surely > lowMm)) {
      values.fill(gone === 0 ? values[a]! : surely, a + 1, b);
      return;
    }
    const middle = (a + b) >> 1;
    const atMiddle = look(middle, atA + way[middle]! - way[a]! + SLACK_MM, stretch);
    between(a, atA, middle, atMiddle, stretch);
    between(middle, atMiddle, b, atB, stretch);
  };
  /** Goes from sample to sample, `APART` of each other, to the stretch's last. */
  const through = (stretch: number, step: (from: number, to: number) => void): void => {
    const last = (starts[stretch + 1] ?? n) - 1;
    for (let from = starts[stretch]!; from < last; from += APART) step(from, Math.min(last, from + APART));
  };
  // All the far ones first: the nearest of them spares most of those between.
  const distances = new Float64Array(n);
  for (let k = 0; k < starts.length; k++) {
    distances[starts[k]!] = look(starts[k]!, Infinity, k);
    through(k, (from, to) => {
      distances[to] = look(to, distances[from]! + way[to]! - way[from]! + SLACK_MM, k);
    });
  }
  for (let k = 0; k < starts.length; k++)
    through(k, (from, to) => between(from, distances[from]!, to, distances[to]!, k));
  return { unit: 'mm', values };
}
