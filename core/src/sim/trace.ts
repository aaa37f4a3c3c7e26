/** One signal of a trace: values at the trace's times, in a unit. */
export interface Signal {
  unit: string;
  values: Float32Array;
}

/** Time-stamped signals of one run, simulated, logged or measured. */
export interface Trace {
  /** Seconds from the start, ascending. */
  timesS: Float32Array;
  signals: Record<string, Signal>;
  /** Whether the state at the end goes on for good: the program is over, the robot at rest, and nothing else will come. */
  lasts?: boolean;
}

/** Something that happened at a moment: a text on the display, a sound, the lamp, the end of the program. */
export interface RunEvent {
  atS: number;
  kind: 'display' | 'sound' | 'lamp' | 'sent' | 'heard' | 'program over' | 'at rest';
  text: string;
}

/** Why a run was over. */
export type Ended =
  | { how: 'at rest'; atS: number }
  | { how: 'time limit'; atS: number }
  | { how: 'left the mat'; atS: number }
  | { how: 'fell off'; atS: number }
  | { how: 'error'; atS: number; line: number; says: string };

/** A row of the log: by column what was logged, NaN where nothing was. */
export interface LogRow {
  atS: number;
  values: number[];
}

/** What a program logged. `full`: it logged more than is kept. */
export interface RunLog {
  columns: { name: string; unit: string }[];
  rows: LogRow[];
  full: boolean;
}

/** Most rows of a log that are kept: the first ones. */
export const LOG_LIMIT = 5000;

/** Everything known about one run. */
export interface Run {
  trace: Trace;
  events: RunEvent[];
  ended: Ended;
  log: RunLog;
  /** What the second robot told, and why it was over before the first; null while it was still going. */
  other?: { events: RunEvent[]; ended: Ended | null };
  /** When the program had no step left, s; null when it was still going. */
  programOverS: number | null;
}

/** Index of the last sample at or before a time. */
export function sampleAt(trace: Trace, timeS: number): number {
  const { timesS } = trace;
  let low = 0;
  let high = timesS.length - 1;
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if (timesS[mid]! <= timeS + 1e-6) low = mid;
    else high = mid - 1;
  }
  return low;
}
