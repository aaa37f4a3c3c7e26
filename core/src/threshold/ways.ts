import { formatNumber } from '../quantity/index.ts';
import { fewestMisreads } from './fewestMisreads.ts';
import { halfway } from './halfway.ts';
import { judgeThreshold, type Safety } from './judgeThreshold.ts';
import type { Pair } from './surfaces.ts';

/** One line of a calculation, as it would stand on the board. */
export interface Working {
  label: string;
  line: string;
}

export type WayName = 'halfway' | 'fewest misreads';

/** A threshold found one way, with how safe it is. */
export interface Way {
  way: WayName;
  /** The value to type in: the exact one rounded to the sensor's step, still between the means. */
  value: number;
  exact: number;
  safety: Safety;
  working: Working[];
  advice: string;
}

/** Rounds to the sensor's step without leaving the open interval between the two means. */
function settle(exact: number, { low, high, step }: Pair): number {
  const rounded = Number((Math.round(exact / step) * step).toFixed(6));
  return rounded > low.mean && rounded < high.mean ? rounded : exact;
}

function advise(safety: Safety, pair: Pair): string {
  const worst = Math.max(safety.misreadsLow, safety.misreadsHigh);
  const weak = safety.misreadsLow >= safety.misreadsHigh ? pair.low.name : pair.high.name;
  if (worst >= 10) {
    return `Expect about ${formatNumber(worst, 0)} misreads in 1000 looks at the ${weak}. Move the sensor or read again before you trust it.`;
  }
  if (safety.lightShift < 5) {
    return `Good in this light, but a change of ${formatNumber(safety.lightShift, 1)} points would spoil it.`;
  }
  return `Safe: it survives a change of room light of ${formatNumber(safety.lightShift, 1)} points.`;
}

/** Every way to choose a threshold for the same readings, in the order they are taught. */
export function thresholdWays(pair: Pair): Way[] {
  const found: { way: WayName; exact: number; working: Working[]; note?: string }[] = [
    { way: 'halfway', ...halfway(pair) },
  ];
  const fewest = fewestMisreads(pair);
  found.push({
    way: 'fewest misreads',
    exact: fewest.exact,
    working: fewest.working,
    note: fewest.basis === 'counting' ? `Found by counting: ${fewest.because}. ` : '',
  });
  return found.map(({ way, exact, working, note = '' }) => {
    const value = settle(exact, pair);
    const safety = judgeThreshold(value, pair);
    const rounding: Working[] =
      Math.abs(value - exact) > 1e-9
        ? [
            {
              label: 'round to the sensor’s step',
              line: `${formatNumber(exact, 2)} → ${formatNumber(value, 2)} ${pair.unit}`,
            },
          ]
        : [];
    return {
      way,
      exact,
      value,
      safety,
      working: [...working, ...rounding],
      advice: note + advise(safety, pair),
    };
  });
}

/** The way with the fewest expected misreads; when they are as good as equal, the one that survives more light. */
export function recommend(ways: readonly Way[]): { way: Way; because: string } {
  const total = (way: Way) => way.safety.misreadsLow + way.safety.misreadsHigh;
  const fewest = Math.min(...ways.map(total));
  const asGood = ways.filter((way) => total(way) < fewest + 0.1);
  const best = asGood.reduce((a, b) => (b.safety.lightShift > a.safety.lightShift ? b : a));
  const because =
    asGood.length > 1
      ? 'The ways misread as good as equally little; this one survives the largest change of light.'
      : 'It has the fewest expected misreads for these readings.';
  return { way: best, because };
}
