import type { Truth } from './expressions.ts';
import type { Machine } from './machine.ts';

/** One step of the compiled program: does its work and says which step comes next; −1 ends the program. */
export type Op = (k: Machine) => number;

/** What an op says when the whole program is over. */
export const FINISH = -2;

/** A program as the simulator runs it. */
export interface Compiled {
  ops: Op[];
  /** Script line of each op. */
  lines: Int32Array;
  /** 1 for each op that tells the wheels something. */
  moves: Uint8Array;
  valueCount: number;
  slotCount: number;
  listCount: number;
  /** Where the main program begins; −1 where it has no steps. */
  mainEntry: number;
  /** What runs beside it: its test, what the test counts from, and where its steps begin; −1 where it has none. */
  watchers: { ask: Truth; begin: ((k: Machine) => void) | null; entry: number }[];
  /** Columns of the log. */
  log: LogColumn[];
  /** Sets the declared values; called once at the start. */
  begin: (k: Machine) => void;
}

/** A column of the log: what was written, and the unit that it is told in. */
export interface LogColumn {
  name: string;
  unit: string;
}
