import { countOf, formatNumber } from '../quantity/index.ts';
import type { Reading } from '../sensing/index.ts';
import { acrossEdge } from './acrossEdge.ts';
import { changeBy } from './change.ts';
import { fewestMisreads } from './fewestMisreads.ts';
import { halfway } from './halfway.ts';
import { judgeThreshold, MISREADS_POOR, type Safety } from './judgeThreshold.ts';
import { pastNearestRival, rivalsOf } from './nearestRival.ts';
import { otsuSplit } from './split.ts';
import { liesBetween, type Pair, type SurfaceFigures, type SurfaceReadings } from './surfaces.ts';
import { twoLevels } from './twoLevels.ts';
import type { Working } from './working.ts';

/** The schools of choosing, in the order they are taught. */
export const wayNames = [
  'halfway',
  'across the edge',
  'past the nearest rival',
  'fewest misreads',
  'split of a sweep',
  'change by',
  'two levels',
] as const;
export type WayName = (typeof wayNames)[number];

/** What the value is compared with: a level, the change since the step began, or two levels. */
export type Compare = 'level' | 'change' | 'pair';

export const compareOf = (way: string): Compare =>
  way === 'change by' ? 'change' : way === 'two levels' ? 'pair' : 'level';

/** A threshold found one way, with how safe it is. */
export interface Way {
  way: WayName;
  compare: Compare;
  /** The value to type in: the exact one rounded to the sensor's step; for two levels the one to enter at. */
  value: number;
  exact: number;
  /** For two levels: where the wanted surface is left again. */
  leave?: number;
  safety: Safety;
  /** When the robot is over the wanted surface, in words: "less than 58 % is the line". */
  side: string;
  /** Other surfaces that this value takes for the wanted one. */
  takenFor: string[];
  working: Working[];
  advice: string;
}

/** What some schools need beside the two surfaces. */
export interface MoreReadings {
  /** A set taken across the edge. */
  edge?: SurfaceReadings;
  /** A record of a slow drag over everything. */
  sweep?: readonly Reading[];
  /** The surface that is looked for; the darker one when nothing is said. */
  wanted?: 'low' | 'high';
  /** Any number of other surfaces that were read and that the wanted one could be taken for. */
  others?: readonly SurfaceFigures[];
}

/** A school that cannot be followed yet, with what it needs. */
export interface MissingWay {
  way: WayName;
  says: string;
  mend: string;
}

const toStep = (exact: number, step: number): number => Number((Math.round(exact / step) * step).toFixed(6));

/** Rounds to the sensor's step without leaving the open interval between the two means. */
function settle(exact: number, pair: Pair): number {
  const rounded = toStep(exact, pair.step);
  return liesBetween(rounded, pair) ? rounded : exact;
}

function advise(safety: Safety, pair: Pair): string {
  const worst = Math.max(safety.misreadsLow, safety.misreadsHigh);
  const weak = safety.misreadsLow >= safety.misreadsHigh ? pair.low.name : pair.high.name;
  if (worst >= MISREADS_POOR) {
    return `Expect about ${formatNumber(worst, 0)} misreads in 1000 looks at the ${weak}. Move the sensor or read again before you trust it.`;
  }
  if (safety.lightShift < 5) {
    return `Good in this light, but a change of ${formatNumber(safety.lightShift, 1)} points would spoil it.`;
  }
  return `Safe: it survives a change of room light of ${formatNumber(safety.lightShift, 1)} points.`;
}

const rounding = (exact: number, value: number, unit: string): Working[] =>
  Math.abs(value - exact) > 1e-9
    ? [
        {
          label: 'round to the sensor’s step',
          line: `${formatNumber(exact, 2)} → ${formatNumber(value, 2)} ${unit}`,
        },
      ]
    : [];

/** Other surfaces that lie between the two of a pair: what a level has to keep clear of. */
const between = ({ low, high }: Pair, others: readonly SurfaceFigures[]): SurfaceFigures[] =>
  others.filter(({ mean }) => mean > low.mean && mean < high.mean);

/** Surfaces between the two of a pair that a level takes for the wanted one: their means lie on its side. */
export function takenFor(
  level: number,
  wanted: 'low' | 'high',
  pair: Pair,
  others: readonly SurfaceFigures[],
): string[] {
  return between(pair, others)
    .filter(({ mean }) => (wanted === 'low' ? mean < level : mean >= level))
    .map(({ name }) => name);
}

/** Surfaces beyond the wanted one: no single level tells them from it. */
export function beyond(
  wanted: 'low' | 'high',
  { low, high }: Pair,
  others: readonly SurfaceFigures[],
): string[] {
  return others
    .filter(({ mean }) => (wanted === 'low' ? mean <= low.mean : mean >= high.mean))
    .map(({ name }) => name);
}

/** A way that gives one level between the two surfaces. */
function level(
  way: WayName,
  exact: number,
  working: Working[],
  pair: Pair,
  wanted: 'low' | 'high',
  others: readonly SurfaceFigures[],
  note = '',
): Way {
  const value = settle(exact, pair);
  const safety = judgeThreshold(value, pair);
  const shown = `${formatNumber(value, 2)} ${pair.unit}`.trim();
  const mixed = takenFor(value, wanted, pair, others);
  const own = wanted === 'low' ? pair.low.name : pair.high.name;
  return {
    takenFor: mixed,
    way,
    compare: 'level',
    exact,
    value,
    safety,
    side:
      wanted === 'low'
        ? `less than ${shown} is the ${pair.low.name}`
        : `more than ${shown} is the ${pair.high.name}`,
    working: [...working, ...rounding(exact, value, pair.unit)],
    advice:
      note +
      (mixed.length > 0 ? `It takes the ${mixed.join(' and the ')} for the ${own}.` : advise(safety, pair)),
  };
}

function changing(pair: Pair, wanted: 'low' | 'high', others: readonly SurfaceFigures[]): Way {
  const { low, high, unit } = pair;
  const change = changeBy(pair, wanted === 'low' ? 'high' : 'low');
  const value = toStep(change.exact, pair.step) || change.exact;
  const [start, goal] = wanted === 'low' ? [high, low] : [low, high];
  const [onStart, onGoal] = [change.falseAlarms, change.missed];
  const gap = high.mean - low.mean;
  const margins = { start: value, goal: gap - value };
  const mixed = takenFor(wanted === 'low' ? high.mean - value : low.mean + value, wanted, pair, others);
  return {
    takenFor: mixed,
    way: 'change by',
    compare: 'change',
    exact: change.exact,
    value,
    safety: {
      threshold: value,
      misreadsLow: wanted === 'low' ? onGoal : onStart,
      misreadsHigh: wanted === 'low' ? onStart : onGoal,
      marginLow: wanted === 'low' ? margins.goal : margins.start,
      marginHigh: wanted === 'low' ? margins.start : margins.goal,
      marginLowSds: (wanted === 'low' ? margins.goal : margins.start) / low.sd,
      marginHighSds: (wanted === 'low' ? margins.start : margins.goal) / high.sd,
      lightShift: Infinity,
    },
    side: `a ${wanted === 'low' ? 'drop' : 'rise'} of ${formatNumber(value, 2)} ${unit} from the ${start.name} is the ${goal.name}`,
    working: [...change.working, ...rounding(change.exact, value, unit)],
    advice: change.clear
      ? `It does not care how bright the room is, as long as the robot starts over the ${start.name}.`
      : 'The scatter is too wide for a change to be both clear and reached.',
  };
}

function paired(pair: Pair, wanted: 'low' | 'high', others: readonly SurfaceFigures[]): Way {
  const two = twoLevels(pair, wanted, between(pair, others));
  const [value, leave] = [settle(two.enter, pair), settle(two.leave, pair)];
  const [enterSafety, leaveSafety] = [judgeThreshold(value, pair), judgeThreshold(leave, pair)];
  const own = wanted === 'low' ? pair.low : pair.high;
  const mixed = takenFor(value, wanted, pair, others);
  const [less, more] = wanted === 'low' ? ['below', 'above'] : ['above', 'below'];
  const [low, high] = wanted === 'low' ? [enterSafety, leaveSafety] : [leaveSafety, enterSafety];
  return {
    takenFor: mixed,
    way: 'two levels',
    compare: 'pair',
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
    working: two.working,
    advice:
      mixed.length > 0
        ? `It counts the ${mixed.join(' and the ')} too.`
        : two.roomy
          ? 'For counting: nothing is counted twice while the reading jitters.'
          : 'The surfaces scatter too much for a dead band: counting will chatter.',
  };
}

/** The wanted surface with the nearest of its rivals on the side of the pair's other surface. */
function nearestPair(pair: Pair, wanted: 'low' | 'high', others: readonly SurfaceFigures[]): Pair {
  const [own, other] = wanted === 'low' ? [pair.low, pair.high] : [pair.high, pair.low];
  const { below, above } = rivalsOf(own, [...between(pair, others), other]);
  return wanted === 'low' ? { ...pair, high: above ?? other } : { ...pair, low: below ?? other };
}

/** Every way to choose a threshold for the same readings, in the order they are taught, as far as they can be followed. */
export function thresholdWays(pair: Pair, more: MoreReadings = {}): Way[] {
  return schools(pair, more).ways;
}

/** All schools: those that can be followed, and what the others still need. */
export function schools(pair: Pair, more: MoreReadings = {}): { ways: Way[]; missing: MissingWay[] } {
  const wanted = more.wanted ?? 'low';
  const others = more.others ?? [];
  const ways: Way[] = [];
  const missing: MissingWay[] = [];
  const add = (way: WayName, exact: number, working: Working[], note?: string) =>
    ways.push(level(way, exact, working, pair, wanted, others, note));

  const half = halfway(pair);
  add('halfway', half.exact, half.working);
  const edge = acrossEdge(pair, more.edge ?? { name: 'edge', values: [] });
  if (edge.ok) add('across the edge', edge.value.exact, edge.value.working);
  else missing.push({ way: 'across the edge', says: edge.says, mend: edge.mend });
  const rival = pastNearestRival(nearestPair(pair, wanted, others), wanted);
  add(
    'past the nearest rival',
    rival.exact,
    rival.working,
    rival.crowded ? 'Too close for a guard on both sides. ' : '',
  );
  const fewest = fewestMisreads(pair);
  const note = fewest.basis === 'counting' ? `Found by counting: ${fewest.because}. ` : '';
  add('fewest misreads', fewest.exact, fewest.working, note);
  const split = otsuSplit(more.sweep ?? []);
  const cut = split.ok ? split.value.exact : null;
  if (split.ok && cut !== null && liesBetween(cut, pair)) {
    const { lower, upper, eta, doubt } = split.value;
    add(
      'split of a sweep',
      cut,
      [
        { label: 'readings in the drag', line: `${lower.n} darker, ${upper.n} lighter` },
        { label: 'their means', line: `${formatNumber(lower.mean)} and ${formatNumber(upper.mean)}` },
        { label: 'share of the variance it explains', line: `${formatNumber(100 * eta, 0)} %` },
        { label: 'cut in the gap', line: `${formatNumber(cut, 2)} ${pair.unit}` },
      ],
      doubt ? `${doubt} ` : '',
    );
  } else {
    missing.push({
      way: 'split of a sweep',
      says: split.ok
        ? `The sweep splits at ${formatNumber(cut)} ${pair.unit}, which is not between the two surfaces.`
        : (more.sweep ?? []).length === 0
          ? 'No sweep was recorded.'
          : split.says,
      mend: 'Drag the sensor slowly over both surfaces (Read, Sweep).',
    });
  }
  ways.push(changing(pair, wanted, others), paired(pair, wanted, others));
  return { ways, missing };
}

/**
 * The level with the fewest expected misreads; when they are as good as equal, the one that survives more light.
 * Where the lesson asks for one school, that one, as long as the readings allow it.
 */
export function recommend(ways: readonly Way[], asked?: string): { way: Way; because: string } {
  const school = ways.find(({ way }) => way === asked);
  if (school) return { way: school, because: 'It is the way that this lesson is about.' };
  const all = ways.filter(({ compare }) => compare === 'level');
  // A level that takes a third surface for the wanted one is no answer while another does not.
  const clear = all.filter((way) => way.takenFor.length === 0);
  const levels = clear.length > 0 ? clear : all;
  const total = (way: Way) => way.safety.misreadsLow + way.safety.misreadsHigh;
  const fewest = Math.min(...levels.map(total));
  const asGood = levels.filter((way) => total(way) < fewest + 0.1);
  const best = asGood.reduce((a, b) => (b.safety.lightShift > a.safety.lightShift ? b : a));
  const because =
    clear.length > 0 && clear.length < all.length
      ? `Of those that keep clear of every other surface it ${asGood.length > 1 ? 'survives the largest change of light' : 'misreads least'}.`
      : asGood.length > 1
        ? `${countOf(asGood.length, 'way')} misread as good as equally little; this one survives the largest change of light.`
        : 'It has the fewest expected misreads for these readings.';
  return { way: best, because };
}
