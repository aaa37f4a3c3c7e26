import { bySocket, inBase } from '../sensing/index.ts';
import { partBehind, unitOf } from '../editing/index.ts';
import { walkProgram, type Expr, type Finding, type Program } from '../script/index.ts';
import { TRACE_MS, valueSignal, type Run } from '../sim/index.ts';
import type { ReviewContext } from './context.ts';
import { constants, truthOf, type Known } from './evaluate.ts';

/** Whether what a finding says was so in a run; null where the run does not tell. */
export type Check = (seen: SeenRun) => boolean | null;

/** A finding with a way to look whether it is true. */
export interface Candidate extends Finding {
  check: Check;
  /** Said even where nobody can look; the others are kept silent then. */
  sure: boolean;
}

export const isCandidate = (one: Finding): one is Candidate => 'check' in one;

/** A finding that a few quick runs decide. */
export const looked = (found: Finding, check: Check, sure = true): Candidate => ({ ...found, check, sure });

/** A quick run, and whether it did what the lesson expects; null where nothing is expected. */
export interface QuickRun {
  run: Run;
  passed: boolean | null;
}

/** A simulated run of a script, to be asked what its tests would have said at any time. */
export class SeenRun {
  readonly rows: number;
  readonly run: Run;
  readonly passed: boolean | null;
  private readonly program: Program;
  private readonly known: Known;
  private at = 0;

  constructor({ run, passed }: QuickRun, program: Program, context: ReviewContext) {
    this.run = run;
    this.passed = passed;
    this.program = program;
    this.rows = run.trace.timesS.length;
    const sensors = program.sensors.map((sensor) => {
      const { signals } = run.trace;
      const values = bySocket(
        Object.fromEntries(Object.entries(signals).map(([name, signal]) => [name, signal.values])),
        sensor.socket,
      );
      const unit = unitOf(context, sensor);
      const none = partBehind(context, sensor)?.noReading;
      return { values, unit, none: none === undefined ? NaN : inBase(none, unit) };
    });
    const values = program.values.map(({ name }) => run.trace.signals[valueSignal(name)]?.values);
    this.known = {
      ...constants(program, context),
      reading: (index) => {
        const { values: column, unit, none } = sensors[index]!;
        if (!column) return null;
        const reading = column[this.at]!;
        return Number.isNaN(reading) ? none : inBase(reading, unit);
      },
      value: (index) => values[index]?.[this.at] ?? null,
      seen: {
        timerS: () => (zeroed ? null : run.trace.timesS[this.at]!),
        // For any other sensor: whether it told anything at all.
        colour: (index) => {
          const told = sensors[index]!.values?.[this.at] ?? NaN;
          if (Number.isNaN(told)) return null;
          return partBehind(context, program.sensors[index]!)?.colours?.[told]?.toLowerCase() ?? '';
        },
      },
    };
    let zeroed = false;
    walkProgram(program, (step) => {
      zeroed ||= step.kind === 'zero' && step.what === 'timer';
    });
    this.silent = (index, row) => Number.isNaN(sensors[index]!.values?.[row] ?? 0);
  }

  /** Whether a sensor gave no reading. */
  readonly silent: (sensor: number, row: number) => boolean;

  timeS(row: number): number {
    return this.run.trace.timesS[row]!;
  }

  /** A sensor's reading in base units; null where the robot has none there. */
  reading(sensor: number, row: number): number | null {
    this.at = row;
    return this.known.reading(sensor);
  }

  signal(name: string, row: number): number {
    return this.run.trace.signals[name]?.values[row] ?? NaN;
  }

  /** Line of the step that was being done; 0 after the program's end. */
  line(row: number): number {
    return this.signal('line', row);
  }

  value(index: number, row: number): number {
    return this.signal(valueSignal(this.program.values[index]!.name), row);
  }

  /** What a test would have said; null where that cannot be told afterwards. */
  truth(test: Expr, row: number): boolean | null {
    this.at = row;
    return truthOf(test, this.known);
  }

  /** Stretches of rows in which something is so, each at least so long, s. */
  stretches(is: (row: number) => boolean, leastS = 0): [from: number, to: number][] {
    const found: [number, number][] = [];
    let from = -1;
    for (let row = 0; row <= this.rows; row++) {
      const now = row < this.rows && is(row);
      if (now && from < 0) from = row;
      if (now || from < 0) continue;
      if (((row - from) * TRACE_MS) / 1000 >= leastS) found.push([from, row]);
      from = -1;
    }
    return found;
  }
}

/** A finding is said when it was so in this share of the runs that tell: what is likely sometimes, what is only possible mostly. */
const SOMETIMES = 0.2;
const MOSTLY = 0.5;

/** What is left of some findings after looking: those that were so, with how often, and those that need no look. */
export function afterLooking(findings: readonly Finding[], seen: readonly SeenRun[]): Finding[] {
  return findings.flatMap((one): Finding[] => {
    if (!isCandidate(one)) return [one];
    const { check, sure, ...said } = one;
    // A run that did all that is expected had no such trouble.
    const told = seen.map((run) => (run.passed ? false : check(run))).filter((so) => so !== null);
    const so = told.filter(Boolean).length;
    // Where no run came to it, the text alone has to do.
    if (told.length === 0) return sure ? [said] : [];
    if (so < (sure ? SOMETIMES : MOSTLY) * told.length) return [];
    return [{ ...said, why: `${said.why} It was so in ${so} of ${told.length} quick runs.`.trim() }];
  });
}

/** What can be said without looking. */
export const withoutLooking = (findings: readonly Finding[]): Finding[] =>
  findings.flatMap((one): Finding[] => {
    if (!isCandidate(one)) return [one];
    const { check: _check, sure, ...said } = one;
    return sure ? [said] : [];
  });
