import { formatNumber } from '../quantity/index.ts';
import type { Reading } from '../sensing/index.ts';
import { GUARD_SDS, pastNearestRival } from './nearestRival.ts';
import type { Pair, SurfaceFigures } from './surfaces.ts';
import type { Working } from './working.ts';

/** The dead band is at least this many sds of the noisier surface wide. */
const BAND_SDS = 4;

/** A pair of levels for counting and for anything that must not chatter. */
export interface TwoLevels {
  /** The wanted surface is entered here … */
  enter: number;
  /** … and left only here, on the other side of the middle. */
  leave: number;
  /** Whether the dead band holds its number of sds without touching either surface. */
  roomy: boolean;
  working: Working[];
}

/**
 * Enter and leave levels on either side of halfway, a third of the gap apart or four sds of the noisier
 * surface, whichever is more, so that a reading that jitters between does not change the state
 * (a Schmitt trigger). `wanted` is the surface that is counted. With `rivals` between the two it is entered
 * just past the nearest and left only close to the other surface, past them all (common practice: black at 0
 * among colours up to 58.7 and white at 100 is counted below 10 and has ended above 90).
 */
export function twoLevels(
  pair: Pair,
  wanted: 'low' | 'high',
  rivals: readonly SurfaceFigures[] = [],
): TwoLevels {
  return rivals.length > 0 ? amongRivals(pair, wanted, rivals) : apart(pair, wanted);
}

const show = (value: number) => formatNumber(value, 2);

function apart({ low, high, unit }: Pair, wanted: 'low' | 'high'): TwoLevels {
  const gap = high.mean - low.mean;
  const middle = (low.mean + high.mean) / 2;
  const noise = Math.max(low.sd, high.sd);
  const band = Math.min(Math.max(gap / 3, BAND_SDS * noise), 0.8 * gap);
  const [below, above] = [middle - band / 2, middle + band / 2];
  return {
    enter: wanted === 'low' ? below : above,
    leave: wanted === 'low' ? above : below,
    roomy: BAND_SDS * noise <= 0.8 * gap,
    working: [
      { label: 'halfway', line: `(${show(low.mean)} + ${show(high.mean)}) ÷ 2 = ${show(middle)}` },
      { label: 'a third of the gap', line: `${show(gap)} ÷ 3 = ${show(gap / 3)}` },
      {
        label: `at least ${BAND_SDS} × the scatter`,
        line: `${BAND_SDS} × ${show(noise)} = ${show(BAND_SDS * noise)}`,
      },
      { label: 'half the band to each side', line: `${show(below)} and ${show(above)} ${unit}` },
    ],
  };
}

function amongRivals(pair: Pair, wanted: 'low' | 'high', rivals: readonly SurfaceFigures[]): TwoLevels {
  const { low, high, unit } = pair;
  const sign = wanted === 'low' ? 1 : -1;
  const [own, other] = wanted === 'low' ? [low, high] : [high, low];
  const ordered = [...rivals].sort((a, b) => sign * (a.mean - b.mean));
  const [nearest, farthest] = [ordered[0]!, ordered.at(-1)!];
  const entering = pastNearestRival(
    wanted === 'low' ? { ...pair, low: own, high: nearest } : { ...pair, low: nearest, high: own },
    wanted,
  );
  const guard = Math.max(GUARD_SDS * other.sd, (high.mean - low.mean) / 10);
  const close = other.mean - sign * guard;
  const clear = sign * (close - farthest.mean) >= GUARD_SDS * farthest.sd;
  // Too close for a guard on both sides: as many scatters from both.
  const leave = clear
    ? close
    : farthest.mean + ((other.mean - farthest.mean) * farthest.sd) / (farthest.sd + other.sd);
  return {
    enter: entering.exact,
    leave,
    roomy: clear && !entering.crowded,
    working: [
      ...entering.working,
      {
        label: `ended only close to the ${other.name}`,
        line: `${show(other.mean)} ${sign > 0 ? '−' : '+'} ${show(guard)} = ${show(leave)} ${unit}`,
      },
    ],
  };
}

/** The states of a record under two levels: true from `enter` on until `leave`, both inclusive, when entering is upward. */
export function heldStates(
  values: readonly number[],
  { low, high }: { low: number; high: number },
  start = false,
): boolean[] {
  let state = start;
  return values.map((value) => {
    if (!state && value >= high) state = true;
    else if (state && value <= low) state = false;
    return state;
  });
}

const changes = (states: readonly boolean[]): number =>
  states.filter((state, i) => i > 0 && state !== states[i - 1]).length;

/**
 * How often the state changes over a record under two levels, and under a single one in the middle of them: what
 * the dead band saves. Looks without a reading are passed over.
 */
export function stateChanges(
  values: readonly Reading[],
  { enter, leave }: Pick<TwoLevels, 'enter' | 'leave'>,
): { two: number; single: number; at: number } {
  const read = values.filter((value): value is number => value !== null && Number.isFinite(value));
  const [low, high] = enter < leave ? [enter, leave] : [leave, enter];
  const at = (low + high) / 2;
  const start = read[0] !== undefined && read[0] >= at;
  return {
    two: changes(heldStates(read, { low, high }, start)),
    single: changes(read.map((value) => value >= at)),
    at,
  };
}
