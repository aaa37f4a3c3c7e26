import { radians } from '../quantity/index.ts';
import type { Trace } from '../sim/index.ts';
import { wayBetween } from './columns.ts';

interface Way {
  x: Float32Array;
  y: Float32Array;
  swingMm: number;
  upTo: Float64Array;
}
/** By the bearings of a trace: several distances are measured along one way. */
const ways = new WeakMap<Float32Array, Way>();

/**
 * How far a point of the robot that is `swingMm` from its axle at most may have gone up to each sample, mm; null where the poses are
 * not known. A distance from the robot to what stands changes by no more than this between two samples.
 */
export function wayUpTo({ signals }: Trace, swingMm: number): Float64Array | null {
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
    const dx = x[i]! - x[i - 1]!;
    const dy = y[i]! - y[i - 1]!;
    const turned = bearing[i]! - bearing[i - 1]!;
    const moved = dx === 0 && dy === 0 ? 0 : wayBetween(dx, dy);
    way[i] = way[i - 1]! + moved + (turned === 0 ? 0 : perDegree * Math.abs(turned));
  }
  return way;
}
