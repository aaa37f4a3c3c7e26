import { formatNumber, found } from '../quantity/index.ts';
import { cutOf, sensedSd, upperTail } from './judgeThreshold.ts';
import { changeToStep, rounding, takenFor, type Computed, type Given, type Method } from './method.ts';
import type { Pair } from './surfaces.ts';
import type { Working } from './working.ts';

/** Share of the gap to wait for: between a half and two thirds (common practice: 30 for a gap of 50). */
const SHARE = 0.6;
const MOST = 2 / 3;
/** The change must be this many sds of the difference of two looks. */
const CLEAR_SDS = 3;

export interface Change {
  /** Drop or rise to wait for, in reading points. */
  exact: number;
  /** Expected misreads in a thousand looks: seen while still over the first surface, missed over the second. */
  falseAlarms: number;
  missed: number;
  /** Whether the scatter leaves room for a change that is both clear and reached. */
  clear: boolean;
  working: Working[];
}

/** The scatter of the difference of two looks, of which the first was rounded already. */
const spreadOfTwo = (a: number, b: number, step: number): number => Math.hypot(a, b, step / Math.sqrt(12));

/**
 * Wait for a change instead of a level: a share of the gap between the means, but at least three sds of the
 * difference of two looks. `from` says where the robot starts: over the higher surface it waits for a drop.
 */
export function changeBy({ low, high, unit, step }: Pair, from: 'low' | 'high'): Change {
  const [here, there] = from === 'high' ? [high, low] : [low, high];
  const gap = high.mean - low.mean;
  const noise = here.sd * Math.SQRT2;
  const least = CLEAR_SDS * noise;
  const exact = Math.min(Math.max(SHARE * gap, least), MOST * gap);
  const show = (value: number) => formatNumber(value, 2);
  // A change that is reached counts, so it is cut half a step before it.
  const cut = cutOf(changeToStep(exact, step), step);
  const [hereSd, thereSd] = [sensedSd(here.sd, step), sensedSd(there.sd, step)];
  return {
    exact,
    falseAlarms: 1000 * upperTail(cut / spreadOfTwo(hereSd, hereSd, step)),
    missed: 1000 * upperTail((gap - cut) / spreadOfTwo(hereSd, thereSd, step)),
    clear: least <= MOST * gap,
    working: [
      { label: 'gap between the means', line: `${show(high.mean)} − ${show(low.mean)} = ${show(gap)}` },
      { label: 'six tenths of it', line: `0.6 × ${show(gap)} = ${show(SHARE * gap)} ${unit}` },
      { label: 'at least 3 × the scatter of two looks', line: `3 × ${show(noise)} = ${show(least)} ${unit}` },
    ],
  };
}

function compute({ pair, wanted, others }: Given): Computed {
  const { low, high, unit } = pair;
  const change = changeBy(pair, wanted === 'low' ? 'high' : 'low');
  const value = changeToStep(change.exact, pair.step);
  const [start, goal] = wanted === 'low' ? [high, low] : [low, high];
  const [onStart, onGoal] = [change.falseAlarms, change.missed];
  const margins = { start: value, goal: high.mean - low.mean - value };
  const [marginLow, marginHigh] =
    wanted === 'low' ? [margins.goal, margins.start] : [margins.start, margins.goal];
  return {
    exact: change.exact,
    value,
    safety: {
      threshold: value,
      misreadsLow: wanted === 'low' ? onGoal : onStart,
      misreadsHigh: wanted === 'low' ? onStart : onGoal,
      marginLow,
      marginHigh,
      marginLowSds: marginLow / low.sd,
      marginHighSds: marginHigh / high.sd,
      lightShift: Infinity,
    },
    side: `a ${wanted === 'low' ? 'drop' : 'rise'} of ${formatNumber(value, 2)} ${unit} from the ${start.name} is the ${goal.name}`,
    takenFor: takenFor(wanted === 'low' ? high.mean - value : low.mean + value, wanted, pair, others),
    working: [...change.working, ...rounding(change.exact, value, unit)],
    advice: change.clear
      ? `It does not care how bright the room is, as long as the robot starts over the ${start.name}.`
      : 'The scatter is too wide for a change to be both clear and reached.',
  };
}

export const changeMethod: Method<'change by'> = {
  name: 'change by',
  compare: 'change',
  apt: 'Whatever the level. Apt when the room’s light changes during the lesson.',
  compute: (given) => found(compute(given)),
};
