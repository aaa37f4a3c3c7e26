import { convert, units, type Unit } from '../../quantity/index.ts';
import type { Trace } from '../../sim/index.ts';

/**
 * How much to spare a trace keeps a formula, as an interval: what is surely kept, and what may be at best. Both are equal
 * where everything is known. In the signals' own unit; ±Infinity where nothing is known on that side.
 */
export interface Margin {
  surely: number;
  atBest: number;
}

/** A record as formulas are read on it: moments in whole ms, and whether the last state lasts. */
export interface Recorded {
  trace: Trace;
  times: Float64Array;
  end: number;
  lasts: boolean;
  /** More samples will follow: what an open window asks for may still come. */
  goesOn: boolean;
}

export const UNKNOWN: Margin = { surely: -Infinity, atBest: Infinity };

/** Whole ms. */
export const ms = (seconds: number): number => Math.round(1000 * seconds);

/**
 * Columns of one record that its formula is worked out in. Their memory is used again for the next formula and the next record:
 * nothing but numbers leaves `robustness`, and making thousands of them would cost more than filling them.
 */
class Columns<T extends Float64Array | Int32Array> {
  private readonly made: T[] = [];
  private used = 0;
  private room = 0;

  constructor(private readonly make: (room: number) => T) {}

  /** From here on all columns are free again, for a record of so many samples. */
  begin(samples: number): void {
    this.used = 0;
    if (samples <= this.room) return;
    this.made.length = 0;
    this.room = 2 * samples;
  }

  /** A column with room for every sample; its values are whatever they were. */
  take(): T {
    const k = this.used++;
    return (this.made[k] ??= this.make(this.room));
  }
}
export const columns = new Columns((room) => new Float64Array(room));
/** Columns of samples by their index. */
export const indexes = new Columns((room) => new Int32Array(room));

/** A value with a unit in the unit of a signal; as it stands when either has none, or they measure different things. */
export function inUnit(value: number, from: Unit | undefined, to: string): number {
  if (!from || !Object.hasOwn(units, to)) return value;
  return units[from].kind === units[to as Unit].kind ? convert(value, from, to as Unit) : value;
}
