import { formatNumber, found } from '../quantity/index.ts';
import { judgeThreshold } from './judgeThreshold.ts';
import { between, settle, takenFor, type Computed, type Given, type Method } from './method.ts';
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

function compute({ pair, wanted, others }: Given): Computed {
  const two = twoLevels(pair, wanted, between(pair, others));
  const [value, leave] = [settle(two.enter, pair), settle(two.leave, pair)];
  // It is entered by less than one level and left by more than the other.
  const back = wanted === 'low' ? 'high' : 'low';
  const [enterSafety, leaveSafety] = [judgeThreshold(value, pair, wanted), judgeThreshold(leave, pair, back)];
  const own = wanted === 'low' ? pair.low : pair.high;
  const mixed = takenFor(value, wanted, pair, others);
  const [less, more] = wanted === 'low' ? ['below', 'above'] : ['above', 'below'];
  const [low, high] = wanted === 'low' ? [enterSafety, leaveSafety] : [leaveSafety, enterSafety];
  return {
    exact: two.enter,
    value,
    leave,
    // The lower level is the one that the darker surface must reach, the upper one that the lighter must.
    safety: {
      ...enterSafety,
      misreadsLow: low.misreadsLow,
      marginLow: low.marginLow,
      marginLowSds: low.marginLowSds,
      misreadsHigh: high.misreadsHigh,
      marginHigh: high.marginHigh,
      marginHighSds: high.marginHighSds,
      lightShift: Math.min(enterSafety.lightShift, leaveSafety.lightShift),
    },
    side: `${less} ${formatNumber(value, 2)} ${pair.unit} it is on the ${own.name}, until ${more} ${formatNumber(leave, 2)} ${pair.unit}`,
    takenFor: mixed,
    working: two.working,
    advice:
      mixed.length > 0
        ? `It counts the ${mixed.join(' and the ')} too.`
        : two.roomy
          ? 'For counting: nothing is counted twice while the reading jitters.'
          : 'The surfaces scatter too much for a dead band: counting will chatter.',
  };
}

export const twoLevelsMethod: Method<'two levels'> = {
  name: 'two levels',
  compare: 'pair',
  apt: 'One to enter, one to leave. Apt for counting and for anything that must not chatter.',
  compute: (given) => found(compute(given)),
};
