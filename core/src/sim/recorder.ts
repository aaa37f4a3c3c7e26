import type { HeldKind } from '../script/index.ts';
import type { RunSetup } from './setup.ts';
import type { Signal, Trace } from './trace.ts';

/** Trace interval in ms. */
export const TRACE_MS = 10;
/** Most values of a program whose course over time is kept. */
const VALUES = 12;

/** What a value of a kind is kept in; yes and no are 1 and 0. */
const valueUnits: Record<HeldKind, string> = {
  length: 'mm',
  angle: 'deg',
  time: 's',
  percent: '%',
  frequency: 'Hz',
  number: '',
  truth: 'yes or no',
};

/** Name of the signal that a program's value is kept under. */
export const valueSignal = (name: string): string => `value ${name}`;

/** Name of the signal that says how strong a beacon is, 0–100, beside the direction that its socket’s own signal tells. */
export const strengthSignal = (socket: string): string => `${socket} strength`;

/** Names of the signals that say where a light box has been pushed to: its middle, mm, and how it is turned, deg. */
export const boxSignals = (id: string): [x: string, y: string, turned: string] => [
  `box ${id} x`,
  `box ${id} y`,
  `box ${id} turned`,
];

/** What a trace holds beside what every run has. */
export interface Extras {
  turret: boolean;
  opponent: boolean;
  /** Ids of the boxes that are pushed along. */
  lightBoxes: readonly string[];
}

/** The columns of a trace, filled row by row. */
export class Recorder {
  rows = 0;
  readonly extra: Extras;
  /** One array a column, in the order that the kernel fills them. */
  readonly columns: Float32Array[];
  private readonly heads: { name: string; unit: string }[];

  constructor({ robot, program }: RunSetup, room: number, extra: Extras) {
    this.extra = extra;
    this.heads = [
      { name: 'x', unit: 'mm' },
      { name: 'y', unit: 'mm' },
      { name: 'bearing', unit: 'deg' },
      { name: 'speed', unit: 'mm/s' },
      { name: 'turning', unit: 'deg/s' },
      { name: 'line', unit: '' },
      ...robot.sensors.map(({ socket, unit }) => ({ name: socket, unit })),
      { name: 'touching', unit: '' },
      ...program.values.map(({ name, of }) => ({ name: valueSignal(name), unit: valueUnits[of] })),
      ...(extra.turret ? [{ name: 'turret', unit: 'deg' }] : []),
      ...(extra.opponent ? ['opponent x', 'opponent y'].map((name) => ({ name, unit: 'mm' })) : []),
      ...extra.lightBoxes.flatMap((id) =>
        boxSignals(id).map((name, i) => ({ name, unit: i < 2 ? 'mm' : 'deg' })),
      ),
      ...robot.sensors.flatMap(({ kind, socket }) =>
        kind === 'beacon' ? [{ name: strengthSignal(socket), unit: '' }] : [],
      ),
    ];
    const first = 7 + robot.sensors.length;
    // Of a program with very many values only the first are kept; the others share one column that is thrown away.
    this.columns = this.heads.map((_, i) =>
      i >= first + VALUES && i < first + program.values.length ? new Float32Array(0) : new Float32Array(room),
    );
  }

  trace(): Trace {
    const n = this.rows;
    const signals: Record<string, Signal> = {};
    this.heads.forEach(({ name, unit }, i) => {
      if (this.columns[i]!.length > 0) signals[name] = { unit, values: this.columns[i]!.slice(0, n) };
    });
    const timesS = new Float32Array(n);
    for (let i = 0; i < n; i++) timesS[i] = (i * TRACE_MS) / 1000;
    return { timesS, signals };
  }
}
