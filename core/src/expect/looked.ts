import type { Signal } from '../sim/index.ts';

/** What rounding to single precision and of a way may add to a distance, mm. */
const SLACK_MM = 0.02;

/** A distance at one sample, mm; it is told how large that may be, and in which stretch the sample lies. */
export type Look = (i: number, atMost: number, stretch: number) => number;

/**
 * A distance from the robot that is worked out only at the samples that are looked at. Between two samples of a stretch, in which
 * what it is measured to stays where it is, it changes by no more than the way between them. Whoever reads its `values` has all of it.
 */
export class Looked implements Signal {
  readonly unit = 'mm';
  /** The value that was worked out last, mm. */
  lastMm = NaN;
  private last = -1;
  private lastStretch = -1;
  private stretch = 0;
  private isWhole = false;
  private readonly told: Float32Array;
  private readonly isTold: Uint8Array;

  constructor(
    private readonly way: Float64Array,
    /** First samples of the stretches. */
    private readonly starts: readonly number[],
    private readonly look: Look,
  ) {
    this.told = new Float32Array(way.length);
    this.isTold = new Uint8Array(way.length);
  }

  /** By how much the value at a sample may differ from the last, mm; infinite where nothing is known of it. */
  reach(i: number): number {
    if (this.last < 0 || this.stretchOf(i) !== this.lastStretch) return Infinity;
    return Math.abs(this.way[i]! - this.way[this.last]!) + SLACK_MM;
  }

  /** The value at a sample whose reach is known. */
  at(i: number, reach = this.reach(i)): number {
    if (this.isTold[i] === 0) {
      const stretch = this.stretchOf(i);
      this.told[i] = this.look(i, reach < Infinity ? this.lastMm + reach : Infinity, stretch);
      this.isTold[i] = 1;
      this.last = i;
      this.lastStretch = stretch;
      this.lastMm = this.told[i]!;
    }
    return this.told[i]!;
  }

  get values(): Float32Array {
    if (!this.isWhole) for (let i = 0; i < this.told.length; i++) this.at(i);
    this.isWhole = true;
    return this.told;
  }

  private stretchOf(i: number): number {
    const { starts } = this;
    while (starts[this.stretch]! > i) this.stretch--;
    while (starts[this.stretch + 1]! <= i) this.stretch++;
    return this.stretch;
  }
}

/** A signal of which one value is all that is asked for: it stands in all samples, once anybody reads them. */
export class Standing implements Signal {
  private told: Float32Array | null = null;
  readonly value: number;

  constructor(
    readonly unit: string,
    value: number,
    private readonly samples: number,
  ) {
    this.value = Math.fround(value);
  }

  get values(): Float32Array {
    return (this.told ??= new Float32Array(this.samples).fill(this.value));
  }
}

/** The last value of a signal; NaN where there is none. */
export const lastOf = (signal: Signal | undefined): number =>
  signal instanceof Standing ? signal.value : (signal?.values.at(-1) ?? NaN);
