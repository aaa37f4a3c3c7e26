import type { Signal } from '../../sim/index.ts';
import type { Formula } from '../formula.ts';
import { Looked, Standing } from '../looked.ts';
import { columns, inUnit, type Recorded } from './recorded.ts';

/** Which end of the interval of margins is read: what is surely kept, or what may be at best. */
export type End = 'surely' | 'at best';

/** One reading of a formula on a record. */
export class Reading {
  /** Whether anything was met that is not known: only then do the two ends differ. */
  metUnknown = false;
  constructor(readonly record: Recorded) {}

  unknown(end: End): number {
    this.metUnknown = true;
    return end === 'surely' ? -Infinity : Infinity;
  }
}

/** A part of a formula, read on one record for one end of its margins. Samples are asked for in rising order; none need be. */
export interface Part {
  /**
   * A column that holds the margins at the samples from `first` up to, not at, `after`. Where one is `floor` or less, or `ceiling` or
   * more, only that need be told (Knuth and Moore 1975): some value no more than the floor that the margin does not exceed, or no
   * less than the ceiling that it reaches.
   */
  over(first: number, after: number, floor: number, ceiling: number): Float64Array;
}

/** So many samples are read at once where it may turn out that no more are needed. */
export const AT_ONCE = 64;

/** The margin at one sample. */
export const exactly = (part: Part, i: number): number => part.over(i, i + 1, -Infinity, Infinity)[i]!;

/** What is not recorded is not known at any sample. */
export class Unknown implements Part {
  private readonly margins: Float64Array;
  constructor(reading: Reading, end: End) {
    this.margins = columns.take().fill(reading.unknown(end));
  }
  over(): Float64Array {
    return this.margins;
  }
}

/** How far a signal is above or below a value. */
export class Comparison implements Part {
  private readonly margins = columns.take();
  /** The whole signal where it is known. */
  readonly whole: Float32Array | null;

  constructor(
    private readonly reading: Reading,
    private readonly end: End,
    /** 1 where it is to be above, −1 where below. */
    readonly sign: 1 | -1,
    readonly value: number,
    private readonly signal: Signal,
  ) {
    this.whole = signal instanceof Looked || signal instanceof Standing ? null : signal.values;
  }

  over(first: number, after: number, floor: number, ceiling: number): Float64Array {
    const { margins, sign, value, whole, signal } = this;
    if (!whole) {
      if (signal instanceof Looked) return this.looking(signal, first, after, floor, ceiling);
      const margin = sign * ((signal as Standing).value - value);
      return margins.fill(margin === margin ? margin : this.reading.unknown(this.end), first, after);
    }
    let gaps = false;
    for (let i = first; i < after; i++) {
      const margin = sign * (whole[i]! - value);
      margins[i] = margin;
      if (margin !== margin) gaps = true;
    }
    if (gaps) this.fillGaps(first, after);
    return margins;
  }

  private looking(signal: Looked, first: number, after: number, floor: number, ceiling: number) {
    const { margins, sign, value } = this;
    for (let i = first; i < after; i++) {
      const about = sign * (signal.lastMm - value);
      const reach = signal.reach(i);
      margins[i] =
        about + reach <= floor
          ? about + reach
          : about - reach >= ceiling
            ? about - reach
            : sign * (signal.at(i, reach) - value);
    }
    return margins;
  }

  /** Where there is no reading it may be anything. */
  private fillGaps(first: number, after: number): void {
    const unknown = this.reading.unknown(this.end);
    for (let i = first; i < after; i++) if (Number.isNaN(this.margins[i])) this.margins[i] = unknown;
  }
}

export function comparison(
  { signal, op, value, unit }: Extract<Formula, { is: 'compare' }>,
  reading: Reading,
  end: End,
): Part {
  const { signals } = reading.record.trace;
  if (!Object.hasOwn(signals, signal)) return new Unknown(reading, end);
  const found = signals[signal]!;
  return new Comparison(reading, end, op === '>' ? 1 : -1, inUnit(value, unit, found.unit), found);
}

export class Not implements Part {
  private readonly margins = columns.take();
  constructor(private readonly of: Part) {}
  over(first: number, after: number, floor: number, ceiling: number): Float64Array {
    const { margins } = this;
    const of = this.of.over(first, after, -ceiling, -floor);
    for (let i = first; i < after; i++) margins[i] = -of[i]!;
    return margins;
  }
}

/** All of several: the least of their margins. */
export class All implements Part {
  private readonly margins = columns.take();
  constructor(private readonly of: readonly Part[]) {}

  over(first: number, after: number, floor: number, ceiling: number): Float64Array {
    const { of, margins } = this;
    let least = of[0]!.over(first, after, floor, ceiling);
    // Samples at either end of which enough is told are not asked of the next part.
    let [a, b] = [first, after];
    for (let k = 1; k < of.length; k++) {
      while (a < b && least[a]! <= floor) a++;
      while (a < b && least[b - 1]! <= floor) b--;
      if (a === b) break;
      let most = -Infinity;
      for (let i = a; i < b; i++) if (least[i]! > most) most = least[i]!;
      const next = of[k]!.over(a, b, floor, Math.min(most, ceiling));
      if (k === 1) copyAround(least, margins, first, a, b, after);
      for (let i = a; i < b; i++) margins[i] = next[i]! < least[i]! ? next[i]! : least[i]!;
      least = margins;
    }
    return least;
  }
}

/** Any of several: the largest of their margins. */
export class Any implements Part {
  private readonly margins = columns.take();
  constructor(private readonly of: readonly Part[]) {}

  over(first: number, after: number, floor: number, ceiling: number): Float64Array {
    const { of, margins } = this;
    let most = of[0]!.over(first, after, floor, ceiling);
    let [a, b] = [first, after];
    for (let k = 1; k < of.length; k++) {
      while (a < b && most[a]! >= ceiling) a++;
      while (a < b && most[b - 1]! >= ceiling) b--;
      if (a === b) break;
      let least = Infinity;
      for (let i = a; i < b; i++) if (most[i]! < least) least = most[i]!;
      const next = of[k]!.over(a, b, Math.max(least, floor), ceiling);
      if (k === 1) copyAround(most, margins, first, a, b, after);
      for (let i = a; i < b; i++) margins[i] = next[i]! > most[i]! ? next[i]! : most[i]!;
      most = margins;
    }
    return most;
  }
}

/** Copies what lies between `first` and `after`, but not between `a` and `b`. */
function copyAround(
  from: Float64Array,
  to: Float64Array,
  first: number,
  a: number,
  b: number,
  after: number,
) {
  for (let i = first; i < a; i++) to[i] = from[i]!;
  for (let i = b; i < after; i++) to[i] = from[i]!;
}
