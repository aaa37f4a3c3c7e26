import quantile from '@stdlib/stats-base-dists-normal-quantile';
import type { Pair } from './surfaces.ts';

/**
 * The stretch of thresholds with fewer than `perThousand` expected misreads on either side, in the sensor's
 * unit; null when there is none. For normal readings it runs from a + z·s_a to b − z·s_b, z being the upper
 * `perThousand`/1000 point.
 */
export function safeStretch({ low, high }: Pair, perThousand = 1): [number, number] | null {
  const z = quantile(1 - perThousand / 1000, 0, 1);
  const [from, to] = [low.mean + z * low.sd, high.mean - z * high.sd];
  return from < to ? [from, to] : null;
}
