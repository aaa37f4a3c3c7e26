import { formatNumber } from '../quantity/index.ts';
import type { Pair } from './surfaces.ts';
import type { Working } from './ways.ts';

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
 * (a Schmitt trigger). `wanted` is the surface that is counted.
 */
export function twoLevels({ low, high, unit }: Pair, wanted: 'low' | 'high'): TwoLevels {
  const gap = high.mean - low.mean;
  const middle = (low.mean + high.mean) / 2;
  const noise = Math.max(low.sd, high.sd);
  const band = Math.min(Math.max(gap / 3, BAND_SDS * noise), 0.8 * gap);
  const [below, above] = [middle - band / 2, middle + band / 2];
  const show = (value: number) => formatNumber(value, 2);
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
