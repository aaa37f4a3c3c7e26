import type { Course } from '../course/index.ts';
import type { HeldKind } from '../script/index.ts';
import type { Body } from './body.ts';
import type { RunSetup } from './setup.ts';
import type { Signal, Trace } from './trace.ts';
import type { Turret } from './turret.ts';
import type { World } from './world.ts';

/** Trace interval in ms. */
export const TRACE_MS = 10;
const DEGREES = 180 / Math.PI;
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

/** What is recorded. */
export interface Recorded {
  /** The course, with the other robot where there is one. */
  course: Course;
  body: Body;
  world: World;
  readings: Float64Array;
  /** What a base unit is in each sensor's own. */
  units: readonly number[];
  /** Numbers of sensors that give several, by sensor. */
  items: readonly Float64Array[];
  values: Float64Array;
  /** The turret; null where none is moved and nothing is carried on one. */
  turret: Turret | null;
}

/** Columns of runs that are over: a run may take much longer than most do, and its room is not made anew for each. */
const spare: Float32Array[] = [];
const SPARE_KEPT = 64;
/** So many rows, 16 MB in all, are worth keeping. */
const SPARE_ROWS = 65_536;

/** Room for a column, whose values are whatever they were. */
function columnOf(room: number): Float32Array {
  const kept = spare.pop();
  return kept && kept.length >= room ? kept : new Float32Array(room);
}

function giveBack(columns: readonly Float32Array[]): void {
  for (const column of columns)
    if (spare.length < SPARE_KEPT && column.length > 0 && column.length <= SPARE_ROWS) spare.push(column);
}

/** The columns of a trace, filled row by row. */
export class Recorder {
  rows = 0;
  private readonly of: Recorded;
  /** One array a column, in the order that `record` fills them. */
  private readonly columns: Float32Array[];
  private readonly heads: { name: string; unit: string }[];
  private readonly named: number;
  /** The sensors that tell a beacon's strength beside its direction. */
  private readonly beacons: number[];
  /** Where the robot was in the last row. */
  private lastMs = 0;
  private lastX = 0;
  private lastY = 0;
  private lastTheta = 0;

  constructor({ robot, program }: RunSetup, room: number, of: Recorded) {
    this.of = of;
    this.named = program.values.length;
    this.beacons = robot.sensors.flatMap(({ kind }, i) => (kind === 'beacon' ? [i] : []));
    const boxes = of.course.boxes ?? [];
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
      ...(of.turret ? [{ name: 'turret', unit: 'deg' }] : []),
      ...(of.course.opponent ? ['opponent x', 'opponent y'].map((name) => ({ name, unit: 'mm' })) : []),
      ...boxes.flatMap(({ id, light }) =>
        light ? boxSignals(id).map((name, i) => ({ name, unit: i < 2 ? 'mm' : 'deg' })) : [],
      ),
      ...this.beacons.map((i) => ({ name: strengthSignal(robot.sensors[i]!.socket), unit: '' })),
    ];
    const first = 7 + robot.sensors.length;
    // Of a program with very many values only the first are kept; the others share one column that is thrown away.
    this.columns = this.heads.map((_, i) =>
      i >= first + VALUES && i < first + program.values.length ? new Float32Array(0) : columnOf(room),
    );
  }

  /** Adds a row; `line` is where the program is, 0 when it is over. */
  record(line: number): void {
    const { columns } = this;
    const { body, world, readings, units, items, values, turret, course } = this.of;
    const row = this.rows++;
    columns[0]![row] = body.x;
    columns[1]![row] = body.y;
    columns[2]![row] = body.theta * DEGREES;
    // Where something holds the robot, its speed is what it goes and not what its wheels would.
    const sinceMs = body.touching ? body.timeMs - this.lastMs : 0;
    if (sinceMs > 0) {
      const gone = (body.x - this.lastX) * body.sine + (body.y - this.lastY) * body.cosine;
      columns[3]![row] = (1000 * gone) / sinceMs;
      columns[4]![row] = (DEGREES * (1000 * (body.theta - this.lastTheta))) / sinceMs;
    } else {
      columns[3]![row] = (body.vLeft + body.vRight) / 2;
      columns[4]![row] = DEGREES * body.turnRate;
    }
    this.lastMs = body.timeMs;
    this.lastX = body.x;
    this.lastY = body.y;
    this.lastTheta = body.theta;
    columns[5]![row] = line;
    let at = 6;
    for (let i = 0; i < readings.length; i++) columns[at++]![row] = readings[i]! * units[i]!;
    columns[at++]![row] = body.touching ? 1 : 0;
    for (let i = 0; i < this.named; i++) columns[at++]![row] = values[i]!;
    if (turret) columns[at++]![row] = turret.angleAt(body.timeMs);
    if (course.opponent) {
      const [x, y] = world.opponentPlace;
      columns[at++]![row] = x;
      columns[at++]![row] = y;
    }
    for (const { x, y, turn } of world.light.values()) {
      columns[at++]![row] = x;
      columns[at++]![row] = y;
      columns[at++]![row] = turn * DEGREES;
    }
    for (const i of this.beacons) columns[at++]![row] = items[i]![1]!;
  }

  /** Hands over the trace; no row may follow. */
  trace(): Trace {
    const n = this.rows;
    const signals: Record<string, Signal> = {};
    this.heads.forEach(({ name, unit }, i) => {
      if (this.columns[i]!.length > 0) signals[name] = { unit, values: this.columns[i]!.slice(0, n) };
    });
    giveBack(this.columns.splice(0));
    const timesS = new Float32Array(n);
    for (let i = 0; i < n; i++) timesS[i] = (i * TRACE_MS) / 1000;
    return { timesS, signals };
  }
}
