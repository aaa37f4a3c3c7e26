import { formatNumber, found, refused, type Outcome } from '../quantity/index.ts';
import { summaryOf } from '../sensing/index.ts';
import { levelMethod } from './method.ts';
import { liesBetween, type Pair, type SurfaceReadings } from './surfaces.ts';
import type { Working } from './working.ts';

/** The reading with the sensor across the edge of both surfaces; says how far from halfway that is. */
export function acrossEdge(
  pair: Pair,
  edge: SurfaceReadings,
): Outcome<{ exact: number; working: Working[] }> {
  const { low, high, unit } = pair;
  const { mean, n } = summaryOf(edge);
  const show = (value: number) => formatNumber(value, 2);
  if (mean === null)
    return refused('The sensor was not read across the edge.', 'Put it half over each surface and read.');
  if (!liesBetween(mean, pair))
    return refused(
      `Across the edge it read ${show(mean)} ${unit}, which is not between the two surfaces.`,
      'Put the sensor half over each surface and read again.',
    );
  const middle = (low.mean + high.mean) / 2;
  const off = mean - middle;
  return found({
    exact: mean,
    working: [
      { label: `mean across the edge, n ${n}`, line: `${show(mean)} ${unit}` },
      { label: 'halfway would be', line: `${show(middle)} ${unit}` },
      {
        label: 'so the spot lay',
        line:
          Math.abs(off) < 0.05 * (high.mean - low.mean)
            ? 'evenly over both'
            : `${show(Math.abs(off))} towards the ${off > 0 ? high.name : low.name}`,
      },
    ],
  });
}

export const acrossEdgeMethod = levelMethod(
  'across the edge',
  'One reading, no arithmetic. Apt for following an edge.',
  ({ pair, edge }) => acrossEdge(pair, edge ?? { name: 'edge', values: [] }),
);
