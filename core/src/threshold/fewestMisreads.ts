import { mean, sampleKurtosis, sampleSkewness } from 'simple-statistics';
import { formatNumber, found, log } from '../quantity/index.ts';
import { levelMethod } from './method.ts';
import type { Pair, SurfaceFigures } from './surfaces.ts';
import type { Working } from './working.ts';

export interface FewestMisreads {
  exact: number;
  basis: 'bell curves' | 'counting';
  /** Why the readings were counted instead of taken as bell curves. */
  because: string;
  working: Working[];
}

/** The χ² point with two degrees of freedom that one normal sample in a hundred exceeds. */
const JARQUE_BERA_LIMIT = 9.21;

/** Whether a set is clearly not a bell curve (Jarque and Bera 1980), asked only of eight readings or more. */
function clearlyNotNormal({ sorted }: SurfaceFigures): boolean {
  const n = sorted.length;
  if (n < 8 || sorted[0] === sorted[n - 1]) return false;
  const statistic = (n / 6) * (sampleSkewness(sorted) ** 2 + sampleKurtosis(sorted) ** 2 / 4);
  return Number.isFinite(statistic) && statistic > JARQUE_BERA_LIMIT;
}

/**
 * Where two normal densities with equal priors cross between their means (Duda, Hart and Stork 2001,
 * ch. 2): the root of (t−a)²/s_a² + 2 ln s_a = (t−b)²/s_b² + 2 ln s_b. This minimises the sum of
 * the two tail areas; with equal sds it is halfway.
 */
export function crossing(a: number, sa: number, b: number, sb: number): number {
  const [va, vb] = [sa * sa, sb * sb];
  // Scaled by va·vb; with equal sds the square term vanishes.
  const p = vb - va;
  const halfQ = va * b - vb * a;
  const r = vb * a * a - va * b * b + 2 * va * vb * log(sa / sb);
  if (Math.abs(p) < 1e-9 * (va + vb)) return (a + b) / 2;
  const root = Math.sqrt(Math.max(0, halfQ * halfQ - p * r));
  const [one, two] = [(-halfQ + root) / p, (-halfQ - root) / p];
  const between = (t: number) => t >= Math.min(a, b) && t <= Math.max(a, b);
  // When the spreads differ wildly the curves cross outside; the mean of the wider set is then the best within.
  return between(one) ? one : between(two) ? two : sa < sb ? Math.max(a, b) : Math.min(a, b);
}

/**
 * The cut with the fewest misread samples, each surface's as a share of its own: a set that was read more often weighs no more, as
 * with the bell curves. Of several, the middle of the widest gap, and of those the one nearest halfway.
 */
export function fewestByCounting(low: readonly number[], high: readonly number[]): number {
  const levels = [...new Set([...low, ...high])].sort((x, y) => x - y);
  const middle = (mean(low) + mean(high)) / 2;
  let best = { misreads: Infinity, width: 0, at: levels[0]! };
  for (let i = 1; i < levels.length; i++) {
    const [below, above] = [levels[i - 1]!, levels[i]!];
    const misreads =
      low.filter((v) => v >= above).length / low.length + high.filter((v) => v <= below).length / high.length;
    const width = above - below;
    const at = (below + above) / 2;
    const wider = width - best.width;
    const nearer = Math.abs(at - middle) < Math.abs(best.at - middle);
    // Widths that differ in their last digits only are the same.
    const hair = 1e-9 * width;
    if (
      misreads < best.misreads - 1e-12 ||
      (misreads < best.misreads + 1e-12 && (wider > hair || (wider > -hair && nearer)))
    ) {
      best = { misreads, width, at };
    }
  }
  return best.at;
}

/**
 * The threshold with the fewest expected misreads: from bell curves with the measured means and sds,
 * or by counting the samples when they are few (under five) or clearly not bell-shaped.
 */
export function fewestMisreads({ low, high, unit }: Pair): FewestMisreads {
  const few = [low, high].find((surface) => surface.n < 5);
  const odd = [low, high].find(clearlyNotNormal);
  const show = (value: number) => formatNumber(value, 2);
  if (few || odd) {
    const counted = fewestByCounting(low.sorted, high.sorted);
    const exact = Math.min(Math.max(counted, low.mean), high.mean);
    const wrong = low.sorted.filter((v) => v >= exact).length + high.sorted.filter((v) => v < exact).length;
    return {
      exact,
      basis: 'counting',
      because: few
        ? `only ${few.n} readings of the ${few.name}`
        : `the readings of the ${odd!.name} do not follow a bell curve`,
      working: [
        {
          label: `all readings of the ${low.name}`,
          line: `${show(low.sorted[0]!)} … ${show(low.sorted.at(-1)!)}`,
        },
        {
          label: `all readings of the ${high.name}`,
          line: `${show(high.sorted[0]!)} … ${show(high.sorted.at(-1)!)}`,
        },
        { label: 'fewest on the wrong side', line: `cut at ${show(exact)} ${unit}: ${wrong} misread` },
      ],
    };
  }
  const exact = crossing(low.mean, low.sd, high.mean, high.sd);
  const z = (surface: SurfaceFigures) => show(Math.abs(exact - surface.mean) / surface.sd);
  return {
    exact,
    basis: 'bell curves',
    because: '',
    working: [
      { label: low.name, line: `mean ${show(low.mean)}, sd ${show(low.sd)}, n ${low.n}` },
      { label: high.name, line: `mean ${show(high.mean)}, sd ${show(high.sd)}, n ${high.n}` },
      { label: 'the two bell curves cross at', line: `t = ${show(exact)} ${unit}` },
      {
        label: `from the ${low.name}`,
        line: `(${show(exact)} − ${show(low.mean)}) ÷ ${show(low.sd)} = ${z(low)} sd`,
      },
      {
        label: `from the ${high.name}`,
        line: `(${show(high.mean)} − ${show(exact)}) ÷ ${show(high.sd)} = ${z(high)} sd`,
      },
    ],
  };
}

export const fewestMisreadsMethod = levelMethod(
  'fewest misreads',
  'From the measured scatter. Apt when one surface scatters more.',
  ({ pair }) => {
    const { basis, because, ...level } = fewestMisreads(pair);
    return found({ ...level, note: basis === 'counting' ? `Found by counting: ${because}.` : '' });
  },
);
