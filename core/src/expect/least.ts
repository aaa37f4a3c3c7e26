import type { Signal } from '../sim/index.ts';
import type { Look } from './looked.ts';

/** Samples are looked at so far apart first. */
const APART = 64;
/** What rounding may add to a way, mm. */
const SLACK_MM = 1e-6;

/** Distances at the far samples of the record that is looked at; grown when one is longer than all before. */
let distances = new Float64Array(0);

/**
 * The least of a distance over a record, and where it is first `lowMm` or less, by looking at as few samples as that takes: between
 * two samples it is no smaller than half of what they and the way between them leave (a distance changes by no more than `way`, how
 * far the robot's farthest point has gone up to each sample, mm). Samples that are surely larger than the least hold what they are at
 * least; the last is looked at. What it is measured to stays where it is within each stretch; `starts` are the first samples of those.
 * Where something else is told than the distance, `told` says it: it is nowhere less.
 */
export function leastDistance(
  way: Float64Array,
  lowMm: number,
  starts: readonly number[],
  at: Look,
  told?: (i: number, stretch: number) => number,
): Signal {
  const n = way.length;
  const values = new Float32Array(n);
  let least = Infinity;
  const look = (i: number, atMost: number, stretch: number): number => {
    const distance = at(i, atMost, stretch);
    const value = told ? told(i, stretch) : distance;
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
  if (distances.length < n) distances = new Float64Array(2 * n);
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
