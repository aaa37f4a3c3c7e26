import { convert, units, type Unit } from '../quantity/index.ts';
import type { Trace } from '../sim/index.ts';

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
  private readonly memory: ArrayBuffer[] = [];
  private readonly made: T[] = [];
  private used = 0;
  private length = 0;

  constructor(private readonly over: (memory: ArrayBuffer, length: number) => T) {}

  /** From here on all columns are free again. */
  begin(length: number): void {
    if (length !== this.length) this.made.length = 0;
    [this.length, this.used] = [length, 0];
  }

  /** A column whose values are whatever they were: all of them must be written. */
  take(): T {
    const k = this.used++;
    return (this.made[k] ??= this.make(k));
  }

  private make(k: number): T {
    const bytes = this.length * Float64Array.BYTES_PER_ELEMENT;
    if ((this.memory[k]?.byteLength ?? -1) < bytes) this.memory[k] = new ArrayBuffer(2 * bytes);
    return this.over(this.memory[k]!, this.length);
  }
}
export const columns = new Columns((memory, length) => new Float64Array(memory, 0, length));
/** Columns of samples by their index. */
export const indexes = new Columns((memory, length) => new Int32Array(memory, 0, length));

/** A value with a unit in the unit of a signal; as it stands when either has none, or they measure different things. */
export function inUnit(value: number, from: Unit | undefined, to: string): number {
  if (!from || !Object.hasOwn(units, to)) return value;
  return units[from].kind === units[to as Unit].kind ? convert(value, from, to as Unit) : value;
}
