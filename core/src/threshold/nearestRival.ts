import { formatNumber, found, refused, type Outcome } from '../quantity/index.ts';
import { between, levelMethod } from './method.ts';
import type { Pair, SurfaceFigures, Wanted } from './surfaces.ts';
import type { Working } from './working.ts';

/** How many of a rival's sds the threshold keeps clear of it. */
export const GUARD_SDS = 3;

/** The surfaces next to the wanted one, by mean: the nearest below it and the nearest above it. */
export function rivalsOf(
  wanted: SurfaceFigures,
  others: readonly SurfaceFigures[],
): { below: SurfaceFigures | null; above: SurfaceFigures | null } {
  let below: SurfaceFigures | null = null;
  let above: SurfaceFigures | null = null;
  for (const other of others) {
    if (other.name === wanted.name) continue;
    if (other.mean <= wanted.mean && (!below || other.mean > below.mean)) below = other;
    if (other.mean > wanted.mean && (!above || other.mean < above.mean)) above = other;
  }
  return { below, above };
}

/**
 * Just past the nearest rival, so that everything but the wanted surface is left out: rival mean ∓ k·sd, on
 * the wanted side (common practice: with a rival at 11.4, count black below 10). Where that would run into
 * the wanted surface's own guard, the point as many sds from both.
 */
export function pastNearestRival(
  { low, high, unit, step }: Pair,
  wanted: 'low' | 'high',
): { exact: number; working: Working[]; crowded: boolean } {
  const [own, rival] = wanted === 'low' ? [low, high] : [high, low];
  const sign = wanted === 'low' ? -1 : 1;
  const show = (value: number) => formatNumber(value, 2);
  const guard = Math.max(GUARD_SDS * rival.sd, step);
  const past = rival.mean + sign * guard;
  const crowded = sign * (own.mean - past) < GUARD_SDS * own.sd;
  if (!crowded) {
    return {
      exact: past,
      crowded,
      working: [
        { label: `nearest to the ${own.name}`, line: `${rival.name}, ${show(rival.mean)} ${unit}` },
        {
          label: `guard, ${GUARD_SDS} × its scatter`,
          line: `${GUARD_SDS} × ${show(rival.sd)} → ${show(guard)}`,
        },
        {
          label: 'just past it',
          line: `${show(rival.mean)} ${sign < 0 ? '−' : '+'} ${show(guard)} = ${show(past)} ${unit}`,
        },
      ],
    };
  }
  const exact = own.mean + ((rival.mean - own.mean) * own.sd) / (own.sd + rival.sd);
  return {
    exact,
    crowded,
    working: [
      { label: `nearest to the ${own.name}`, line: `${rival.name}, ${show(rival.mean)} ${unit}` },
      {
        label: 'too close for the guard on both sides',
        line: `${GUARD_SDS} × ${show(rival.sd)} + ${GUARD_SDS} × ${show(own.sd)}`,
      },
      { label: 'as many scatters from both', line: `${show(exact)} ${unit}` },
    ],
  };
}

/** A wanted surface with rivals on both sides needs a window: two levels that it must lie between. */
export function windowAround(
  wanted: SurfaceFigures,
  others: readonly SurfaceFigures[],
  unit: string,
  step: number,
): Outcome<{ above: number | null; below: number | null }> {
  const { below, above } = rivalsOf(wanted, others);
  if (!below && !above)
    return refused('There is only one surface.', 'Read the surfaces that it could be taken for.');
  const crowd = [below, above].find((rival) => rival && rival.mean === wanted.mean);
  if (crowd)
    return refused(
      `The ${wanted.name} and the ${crowd.name} read the same.`,
      'No level can tell them apart: choose another surface.',
    );
  return found({
    above: below ? pastNearestRival({ low: below, high: wanted, unit, step }, 'high').exact : null,
    below: above ? pastNearestRival({ low: wanted, high: above, unit, step }, 'low').exact : null,
  });
}

/** The wanted surface with the nearest of its rivals on the side of the pair's other surface. */
function nearestPair(pair: Pair, wanted: Wanted, others: readonly SurfaceFigures[]): Pair {
  const [own, other] = wanted === 'low' ? [pair.low, pair.high] : [pair.high, pair.low];
  const { below, above } = rivalsOf(own, [...between(pair, others), other]);
  return wanted === 'low' ? { ...pair, high: above ?? other } : { ...pair, low: below ?? other };
}

export const nearestRivalMethod = levelMethod(
  'past the nearest rival',
  'Leaves every other surface out. Apt for counting among colours.',
  ({ pair, wanted, others }) => {
    const { crowded, ...level } = pastNearestRival(nearestPair(pair, wanted, others), wanted);
    return found({ ...level, note: crowded ? 'Too close for a guard on both sides.' : '' });
  },
);
