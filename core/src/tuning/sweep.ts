import { wilson } from '../statistics/index.ts';
import type { Knob, KnobValues } from './knobs.ts';
import type { ResultKey } from './results.ts';
import { knobAmount } from './walk.ts';

/** One knob of a sweep: the values that it takes, ascending, in its unit. */
export interface Axis {
  knob: string;
  unit: string;
  values: readonly number[];
}

/** What the runs at one point came to. */
export interface SweepPoint {
  runs: number;
  passes: number;
  /** Sums over the runs in which each was told, and how many those were. */
  sums: Partial<Record<ResultKey, { sum: number; n: number }>>;
}

/** A sweep over one knob or two: points row by row, from the least y; null where nothing ran yet. `y` null: one row. */
export interface Sweep {
  x: Axis;
  y: Axis | null;
  /** The share of runs that must pass. */
  bar: number;
  points: readonly (SweepPoint | null)[];
}

/** Runs of a point that a worker is to make: `count` from number `from` on. */
export interface SweepTask {
  index: number;
  knobs: KnobValues;
  from: number;
  count: number;
}

/** After so many runs of which none passed a point is given up: its Wilson interval ends at 49 %. */
export const HOPELESS_RUNS = 4;

/** Most points of an axis, and most runs of a point. */
export const SWEEP_LIMITS = { points: 41, runs: 100 };

/** Values evenly from `low` to `high`, as round as they lie apart. Throws a RangeError for fewer than two or more than the limit. */
export function axisOf(
  { name, unit }: Pick<Knob, 'name' | 'unit'>,
  low: number,
  high: number,
  count: number,
): Axis {
  if (!(count >= 2 && count <= SWEEP_LIMITS.points && Number.isInteger(count) && high > low))
    throw new RangeError(`No axis of ${count} values from ${low} to ${high}.`);
  const apart = (high - low) / (count - 1);
  const digits = Math.max(0, 2 - Math.floor(Math.log10(apart)));
  const values = Array.from({ length: count }, (_, i) => Number((low + i * apart).toFixed(digits)));
  return { knob: name, unit, values };
}

/** What somebody would guess who knows about how large such a number is: from a third to three times what works, inside the slider. */
export function sensibleRange({ value, low, high, unit }: Knob): { low: number; high: number } {
  if (value === 0) return { low, high };
  const [a, b] = [value / 3, value * 3].sort((p, q) => p - q) as [number, number];
  // A percentage ends at 100, whatever its slider does.
  const most = unit === '%' ? 100 : Infinity;
  const round = (x: number) => Number(x.toPrecision(2));
  const from = round(Math.max(a, Math.min(low, value)));
  const to = round(Math.min(b, most));
  return from < to ? { low: from, high: to } : { low, high };
}

export const emptySweep = (x: Axis, y: Axis | null, bar: number): Sweep => ({
  x,
  y,
  bar,
  points: Array.from({ length: x.values.length * (y?.values.length ?? 1) }, () => null),
});

export const columnsOf = ({ x }: Sweep): number => x.values.length;
export const rowsOf = ({ y }: Sweep): number => y?.values.length ?? 1;

/** The knobs of a point. */
export function knobsAt({ x, y }: Pick<Sweep, 'x' | 'y'>, index: number): Record<string, number> {
  const nx = x.values.length;
  const knobs: Record<string, number> = { [x.knob]: x.values[index % nx]! };
  if (y) knobs[y.knob] = y.values[Math.floor(index / nx)]!;
  return knobs;
}

/** What one run came to. */
export interface SweepRun {
  passed: boolean;
  results: Partial<Record<ResultKey, number>>;
}

export function withRuns(point: SweepPoint | null, runs: readonly SweepRun[]): SweepPoint {
  const next: SweepPoint = {
    runs: (point?.runs ?? 0) + runs.length,
    passes: (point?.passes ?? 0) + runs.filter(({ passed }) => passed).length,
    sums: { ...point?.sums },
  };
  for (const { results } of runs)
    for (const [key, value] of Object.entries(results) as [ResultKey, number][]) {
      const { sum, n } = next.sums[key] ?? { sum: 0, n: 0 };
      next.sums[key] = { sum: sum + value, n: n + 1 };
    }
  return next;
}

/** Mean of a result at a point; of the pass rate its share in percent. Null where it was not told. */
export function valueAt(point: SweepPoint | null, key: ResultKey): number | null {
  if (!point || point.runs === 0) return null;
  if (key === 'pass rate') return (100 * point.passes) / point.runs;
  const told = point.sums[key];
  return told ? told.sum / told.n : null;
}

/**
 * Whether a point is safe: as many of its runs passed as the bar asks. `sure` where its Wilson interval lies wholly on that side of
 * the bar: ten runs of ten are not yet sure of 85 %.
 */
export function safeAt(point: SweepPoint | null, bar: number): { safe: boolean; sure: boolean } | null {
  if (!point || point.runs === 0) return null;
  const { low, high } = wilson(point.passes, point.runs);
  const safe = point.passes / point.runs >= bar;
  return { safe, sure: safe ? low > bar : high < bar };
}

/** Indexes 0, stride, 2·stride … and the last one. */
function spread(n: number, stride: number): number[] {
  const found: number[] = [];
  for (let i = 0; i < n; i += stride) found.push(i);
  if (found.at(-1) !== n - 1) found.push(n - 1);
  return found;
}

/** Whether the points known near one lie on both sides of the bar. */
function onRim(sweep: Sweep, i: number, j: number, reach: number): boolean {
  const [nx, ny] = [columnsOf(sweep), rowsOf(sweep)];
  let [safe, not] = [false, false];
  for (let b = Math.max(0, j - reach); b <= Math.min(ny - 1, j + reach); b++)
    for (let a = Math.max(0, i - reach); a <= Math.min(nx - 1, i + reach); a++) {
      const found = safeAt(sweep.points[b * nx + a]!, sweep.bar);
      if (found?.safe) safe = true;
      else if (found) not = true;
    }
  return safe && not;
}

/** The stages of a sweep: a first look, the coarse points whole, twice the rim, then all that is left. */
export const SWEEP_STAGES = 5;

/**
 * What is to run in a stage (0 to 4), points in an order that spreads over the field; `runs` of each point in the end. Empty where a stage has
 * nothing to do. What ran before is not run again.
 */
export function sweepTasks(sweep: Sweep, stage: number, runs: number): SweepTask[] {
  const [nx, ny] = [columnsOf(sweep), rowsOf(sweep)];
  const cells = (stride: number) =>
    spread(ny, stride).flatMap((j) => spread(nx, stride).map((i) => [i, j] as const));
  const wanted: readonly (readonly [number, number])[] =
    stage <= 1
      ? cells(4)
      : stage === 2
        ? cells(2).filter(([i, j]) => onRim(sweep, i, j, 4))
        : stage === 3
          ? cells(1).filter(([i, j]) => onRim(sweep, i, j, 2))
          : cells(1);
  const upTo = stage === 0 ? Math.min(1, runs) : runs;
  return wanted.flatMap(([i, j]) => {
    const index = j * nx + i;
    const point = sweep.points[index];
    const from = point?.runs ?? 0;
    const hopeless = point !== null && point !== undefined && point.passes === 0 && from >= HOPELESS_RUNS;
    return from < upTo && !hopeless
      ? [{ index, knobs: knobsAt(sweep, index), from, count: upTo - from }]
      : [];
  });
}

/** A stretch of the safe region’s border, in places of the grid: column and row, half ones between two points. */
export type Border = readonly [x1: number, y1: number, x2: number, y2: number];

/** The border of the safe region between known points. */
export function safeBorder(sweep: Sweep): Border[] {
  const [nx, ny] = [columnsOf(sweep), rowsOf(sweep)];
  const at = (i: number, j: number) => safeAt(sweep.points[j * nx + i]!, sweep.bar);
  const inside = (i: number, j: number) => i >= 0 && j >= 0 && i < nx && j < ny;
  const found: Border[] = [];
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      if (!at(i, j)?.safe) continue;
      // Where nothing ran yet there is no border either.
      const open = (a: number, b: number) => !inside(a, b) || at(a, b)?.safe === false;
      if (open(i - 1, j)) found.push([i - 0.5, j - 0.5, i - 0.5, j + 0.5]);
      if (open(i + 1, j)) found.push([i + 0.5, j - 0.5, i + 0.5, j + 0.5]);
      if (open(i, j - 1)) found.push([i - 0.5, j - 0.5, i + 0.5, j - 0.5]);
      if (open(i, j + 1)) found.push([i - 0.5, j + 0.5, i + 0.5, j + 0.5]);
    }
  return found;
}

/** The way of somebody who tunes by hand, as places of the grid. */
export interface HandWalk {
  places: [column: number, row: number][];
  says: string;
}

/**
 * How a practitioner would have gone over this field: with a gain of 1 up to the greatest speed that passes, then with that speed the gain
 * up until the result gets worse, and one back. x is the gain, y the speed. Null where nothing at a gain of 1 passes.
 */
export function handWalk(sweep: Sweep, result: ResultKey): HandWalk | null {
  if (!sweep.y) return null;
  const [nx, ny] = [columnsOf(sweep), rowsOf(sweep)];
  const one = placeOn(sweep.x, 1);
  if (one === null) return null;
  let column = Math.round(one);
  const safe = (i: number, j: number) => safeAt(sweep.points[j * nx + i]!, sweep.bar)?.safe ?? false;
  const places: [number, number][] = [];
  let row = -1;
  for (let j = 0; j < ny; j++) {
    places.push([column, j]);
    if (safe(column, j)) row = j;
    else if (row >= 0) break;
  }
  if (row < 0) return null;
  if (places.at(-1)![1] !== row) places.push([column, row]);
  const bad = (i: number) => valueAt(sweep.points[row * nx + i]!, result) ?? Infinity;
  while (column + 1 < nx) {
    places.push([column + 1, row]);
    if (!safe(column + 1, row) || bad(column + 1) >= bad(column)) {
      places.push([column, row]);
      break;
    }
    column++;
  }
  const { x, y } = sweep;
  return {
    places,
    says: `By hand: gain 1, speed up to ${knobAmount({ value: y.values[row]!, unit: y.unit })}, then the gain up to ${knobAmount({ value: x.values[column]!, unit: x.unit })}.`,
  };
}

/** How large a share of what was swept passes. */
export interface Tightness {
  /** Share of all runs that passed, with its 95 % interval: how likely a guess in this range is to pass. */
  share: number;
  low: number;
  high: number;
  /** Share of the points that are safe. */
  safe: number;
  points: number;
  runs: number;
}

/** Over the points for which `taken` holds; null where nothing ran. */
export function tightnessOf(sweep: Sweep, taken: (index: number) => boolean = () => true): Tightness | null {
  const ran = sweep.points.filter(
    (point, i): point is SweepPoint => point !== null && point.runs > 0 && taken(i),
  );
  const runs = ran.reduce((sum, point) => sum + point.runs, 0);
  if (runs === 0) return null;
  // Points count alike, however many runs each has had.
  const share = ran.reduce((sum, { passes, runs: n }) => sum + passes / n, 0) / ran.length;
  const { low, high } = wilson(Math.round(share * runs), runs);
  return {
    share,
    low,
    high,
    safe: ran.filter((point) => safeAt(point, sweep.bar)!.safe).length / ran.length,
    points: ran.length,
    runs,
  };
}

/** The nearest place of a value on an axis, as a place of the grid with a fraction; null outside of it. */
export function placeOn({ values }: Axis, value: number): number | null {
  const last = values.length - 1;
  const half = (values[last]! - values[0]!) / last / 2;
  if (value < values[0]! - half || value > values[last]! + half) return null;
  return ((value - values[0]!) / (values[last]! - values[0]!)) * last;
}

/** The points that have one knob as near as they can to a value: the row or column of what works. */
export function along(sweep: Sweep, knob: string, value: number): (index: number) => boolean {
  const { x, y } = sweep;
  const axis = x.knob === knob ? x : y;
  const place = axis && placeOn(axis, value);
  if (!axis || place === null) return () => false;
  const nearest = Math.round(place);
  return (index) => (axis === x ? index % x.values.length : Math.floor(index / x.values.length)) === nearest;
}
