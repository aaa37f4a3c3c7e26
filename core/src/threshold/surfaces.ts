import { summaryOf, type ReadSet } from '../sensing/index.ts';
import { formatNumber, type Outcome } from '../quantity/index.ts';

/** A surface and the samples read over it. */
export interface SurfaceReadings extends ReadSet {
  name: string;
}

/** The figures of one surface that a threshold is chosen from, in the sensor's unit. */
export interface SurfaceFigures {
  name: string;
  n: number;
  mean: number;
  /** Sample sd, floored at the sensor's own rounding error q/√12. */
  sd: number;
  /** The readings themselves, ascending, without the gaps. */
  sorted: number[];
}

/** Two surfaces in order: `low` has the lower mean. `step` is the sensor's smallest difference. */
export interface Pair {
  low: SurfaceFigures;
  high: SurfaceFigures;
  unit: string;
  step: number;
}

/** The surface that is looked for: the one with the lower mean or the one with the higher. */
export type Wanted = 'low' | 'high';

/** The figures of a surface; null when it holds no reading. */
export function figures(surface: SurfaceReadings, step: number): SurfaceFigures | null {
  const s = summaryOf(surface);
  if (s.mean === null) return null;
  const sorted = surface.values
    .filter((value): value is number => value !== null && Number.isFinite(value))
    .sort((a, b) => a - b);
  return { name: surface.name, n: s.n, mean: s.mean, sd: Math.max(s.sd ?? 0, step / Math.sqrt(12)), sorted };
}

/** Puts two surfaces in order, or says in a sentence why no threshold can part them. */
export function pairOf(a: SurfaceReadings, b: SurfaceReadings, unit: string, step: number): Outcome<Pair> {
  const [one, two] = [figures(a, step), figures(b, step)];
  const empty = !one ? a.name : !two ? b.name : null;
  if (!one || !two) {
    return { ok: false, says: `There is no reading of the ${empty}.`, mend: `Read the ${empty} first.` };
  }
  if (one.mean === two.mean) {
    return {
      ok: false,
      says: `The ${one.name} and the ${two.name} read the same, ${formatNumber(one.mean)} ${unit}.`,
      mend: 'No threshold can tell them apart. Check the sensor’s height, then read both again.',
    };
  }
  const [low, high] = one.mean < two.mean ? [one, two] : [two, one];
  return { ok: true, value: { low, high, unit, step } };
}

/** Whether a level lies between the two means, and not on the rim, whatever the last digits of a mean are. */
export function liesBetween(level: number, { low, high, step }: Pair): boolean {
  const rim = step / 1000;
  return level > low.mean + rim && level < high.mean - rim;
}
