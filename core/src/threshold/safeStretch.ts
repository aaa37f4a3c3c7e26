import quantile from '@stdlib/stats-base-dists-normal-quantile';
import { sensedSd } from './judgeThreshold.ts';
import type { Pair, Wanted } from './surfaces.ts';

/**
 * The first and the last threshold, in whole steps of the sensor, with fewer than `perThousand` expected misreads on either side;
 * null when there is none. What is sensed must be cut between a + z·s_a and b − z·s_b, z being the upper `perThousand`/1000 point;
 * “less than” cuts half a step below the threshold, “more than” half a step above.
 */
export function safeStretch(
  { low, high, step }: Pair,
  wanted: Wanted = 'low',
  perThousand = 1,
): [number, number] | null {
  const z = quantile(1 - perThousand / 1000, 0, 1);
  const half = wanted === 'low' ? 0.5 : -0.5;
  const from = Math.ceil((low.mean + z * sensedSd(low.sd, step)) / step + half) * step;
  const to = Math.floor((high.mean - z * sensedSd(high.sd, step)) / step + half) * step;
  return from <= to ? [from, to] : null;
}
