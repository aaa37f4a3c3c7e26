import { formatNumber, radians, sin, cos } from '../quantity/index.ts';
import { fromBaseTo, inBase } from '../sensing/index.ts';
import { Body } from './body.ts';
import { compile } from './compile.ts';
import type { Compiled } from './compiled.ts';
import { RunFault } from './expressions.ts';
import type { Machine, Manner } from './machine.ts';
import { Noise } from './random.ts';
import { samplerOf, type Carrier, type Sampler } from './senses.ts';
import type { Course } from '../course/index.ts';
import type { Pose } from '../motion/index.ts';
import type { OtherRobot, RunSetup, SimRobot, SimSensor } from './setup.ts';
import { Recorder, TRACE_MS } from './recorder.ts';
import { Threads } from './threads.ts';
import { LOG_LIMIT, type Ended, type LogRow, type Run, type RunEvent } from './trace.ts';
import { Turret } from './turret.ts';
import { World } from './world.ts';

/** Below this speed the robot counts as standing, mm/s. */
export const REST_MM_PER_S = 1;
/** A run is followed this long after the robot came to rest, ms. */
const LINGER_MS = 200;
/** A robot this far off the mat is given up, mm. */
const LOST_MM = 300;
/** Longest display text kept, and most events of a run. */
const DISPLAY_LIMIT = 60;
const EVENT_LIMIT = 20_000;
/** The shortest time that a step takes, ms. */
const LEAST_STEP_MS = 0.05;
const DEGREES = 180 / Math.PI;
/** A press must last this long to count as a bump, ms (common practice). */
const PRESS_MS = 20;

interface Command {
  atMs: number;
  left: number;
  right: number;
  manner: Manner;
}

/**
 * One simulated robot on an integer-millisecond clock. It advances in bursts from event to event (sample,
 * program step, command taking effect, trace row).
 */
export class Kernel implements Machine, Carrier {
  readonly readings: Float64Array;
  readonly values: Float64Array;
  readonly slots: Float64Array;
  readonly bumps: Float64Array;
  readonly lists: number[][];
  readonly mmPerDeg: number;
  readonly wheelPerTurn: number;
  timerZeroMs = 0;
  leftZeroDeg = 0;
  rightZeroDeg = 0;

  private readonly body: Body;
  get timeMs(): number {
    return this.body.timeMs;
  }
  get x(): number {
    return this.body.x;
  }
  get y(): number {
    return this.body.y;
  }
  get theta(): number {
    return this.body.theta;
  }
  /** Rate of turn, rad/s. */
  get turnRate(): number {
    return this.body.turnRate;
  }
  get battery(): number {
    return this.body.battery;
  }

  private readonly setup: RunSetup;
  private readonly course: Course;
  /** The second robot; null where there is none. */
  private readonly other: Kernel | null = null;
  private readonly noise: Noise;
  private readonly code: Compiled;
  private readonly sensors: SimSensor[];
  private readonly samplers: Sampler[];
  /** Numbers of sensors that give several, by sensor. */
  private readonly items: Float64Array[];
  private readonly pressedMs: Float64Array;
  /** Sample period of each reading, ms. */
  private readonly periods: number[];
  /** What a base unit is in each sensor's own. */
  private readonly units: number[];
  private readonly nextSample: number[];
  private readonly world: World;
  private readonly pending: Command[] = [];
  private readonly events: RunEvent[] = [];
  private readonly threads: Threads;
  /** Draws of the program itself: they change nothing for sensors and circumstances. */
  private readonly dice: Noise;
  private readonly logged: LogRow[] = [];
  private logFull = false;
  private readonly mail = new Map<string, number>();
  private programOverMs = -1;
  private display = '';
  private readonly recorder: Recorder;

  /** `code` stands in for the setup's compiled program: for benchmarks against hand-written behaviour. */
  constructor(setup: RunSetup, code?: Compiled, meets: Pose | undefined = setup.other?.start) {
    const { robot, circumstances } = setup;
    const course = meets ? meeting(setup.course, meets, robot) : setup.course;
    this.setup = setup;
    this.course = course;
    this.noise = new Noise(circumstances.seed);
    this.sensors = robot.sensors;
    this.world = new World(course, circumstances.laterS);
    this.body = new Body(setup, this.world);
    this.periods = this.sensors.map((sensor) => sensor.samplePeriodMs);
    const bySensor = <T>(of: (sensor: SimSensor, i: number) => T | undefined) =>
      Object.fromEntries(
        this.sensors.flatMap((sensor, i) => {
          const value = of(sensor, i);
          return value === undefined ? [] : [[sensor.socket, value] as const];
        }),
      );
    this.code =
      code ??
      compile(setup.program, {
        sockets: bySensor((_, i) => i),
        thresholds: setup.thresholds,
        colours: bySensor((sensor) => (sensor.kind === 'colour' ? sensor.colours : undefined)),
        noEcho: bySensor((sensor) =>
          sensor.kind === 'distance' && sensor.noReading !== undefined
            ? inBase(sensor.noReading, sensor.unit)
            : undefined,
        ),
      });
    this.units = this.sensors.map(({ unit }) => fromBaseTo(1, unit));
    this.readings = new Float64Array(this.sensors.length);
    this.bumps = new Float64Array(this.sensors.length);
    this.pressedMs = new Float64Array(this.sensors.length).fill(-1);
    this.values = new Float64Array(this.code.valueCount);
    this.slots = new Float64Array(this.code.slotCount);
    this.lists = Array.from({ length: this.code.listCount }, () => []);
    this.dice = new Noise(circumstances.seed ^ 0x51ce);
    this.threads = new Threads(this.code, {
      taken: () => this.wheelsTaken(),
      givenBack: () => this.wheelsGivenBack(),
    });
    this.mmPerDeg = (Math.PI * robot.wheelDiameterMm) / 360;
    this.wheelPerTurn = robot.trackMm / robot.wheelDiameterMm;
    this.delayMs = Math.max(0, Math.round(robot.drive.commandDelayMs));
    this.headingZero = this.theta - radians(circumstances.headingAtStart ?? 0);
    const carried = setup.program.motors.length > 0 || this.sensors.some(({ onTurret }) => onTurret);
    this.turret = new Turret();
    this.recorder = new Recorder(setup, Math.floor(setup.timeLimitMs / TRACE_MS) + 2, {
      turret: carried,
      opponent: course.opponent !== undefined,
      lightBoxes: (course.boxes ?? []).flatMap(({ id, light }) => (light ? [id] : [])),
    });
    this.items = this.sensors.map(() => new Float64Array(3).fill(NaN));
    this.samplers = this.sensors.map((sensor, i) =>
      samplerOf(sensor, {
        // The mat is the same for both: what is worked out of it once serves all runs.
        course: setup.course,
        world: this.world,
        outline: this.body.outline,
        circumstances,
        // Light sensors share the run's dice; every other sensor has its own, so that it changes nothing for them.
        noise: sensor.kind === 'light' ? this.noise : new Noise(circumstances.seed ^ (0x9120 + 77 * i)),
        carrier: this,
        items: this.items[i]!,
      }),
    );
    if (setup.other) this.other = this.pairedWith(setup.other);
    // The sensors were looking before the program began: their phases are anywhere in their periods.
    const phases = new Noise(circumstances.seed ^ 0x9120);
    this.nextSample = this.sensors.map(({ kind, samplePeriodMs }, i) => {
      this.sample(i);
      const dice = kind === 'light' ? this.noise : phases;
      return 1 + Math.floor(dice.uniform() * samplePeriodMs);
    });
  }

  /** The second robot: of the same make, on the same course, with dice of its own; each hears what the other sends. */
  private pairedWith({ program, start }: OtherRobot): Kernel {
    const { other: _, ...setup } = this.setup;
    const { circumstances } = setup;
    const dice = { ...circumstances, start, seed: circumstances.seed ^ 0x2b0b };
    const other = new Kernel({ ...setup, program, circumstances: dice }, undefined, circumstances.start);
    other.paired = true;
    other.onSend = (text) => this.receive(text);
    this.onSend = (text) => other.receive(text);
    return other;
  }
  /** Whether it is the second of two: the first says where each of them is. */
  private paired = false;

  /** Wheel angles since the start in whole degrees: what an encoder reports. */
  leftDeg(): number {
    return Math.floor(this.body.leftMm / this.mmPerDeg);
  }
  rightDeg(): number {
    return Math.floor(this.body.rightMm / this.mmPerDeg);
  }

  get fresh(): boolean {
    return this.threads.current.fresh;
  }
  get stack(): number[] {
    return this.threads.current.stack;
  }
  get given(): number {
    return this.threads.current.given;
  }
  set given(value: number) {
    this.threads.current.given = value;
  }

  /** Wheel degrees that others turned while the main program waited, and where its wheels stood when they were taken. */
  private awayLeft = 0;
  private awayRight = 0;
  private mains: Command | null = null;
  goneLeftDeg(): number {
    return this.leftDeg() - (this.threads.inMain ? this.awayLeft : 0);
  }
  goneRightDeg(): number {
    return this.rightDeg() - (this.threads.inMain ? this.awayRight : 0);
  }

  private wheelsTaken(): void {
    this.mains = { atMs: 0, left: this.askedLeft, right: this.askedRight, manner: this.askedManner };
    this.awayLeft -= this.leftDeg();
    this.awayRight -= this.rightDeg();
  }

  private wheelsGivenBack(): void {
    this.awayLeft += this.leftDeg();
    this.awayRight += this.rightDeg();
    const { left, right, manner } = this.mains!;
    this.command(left, right, manner);
  }

  random(): number {
    return this.dice.uniform();
  }

  log(columns: readonly number[], values: readonly number[]): void {
    if (this.logged.length >= LOG_LIMIT) {
      this.logFull = true;
      return;
    }
    const row = Array.from(this.code.log, () => NaN);
    columns.forEach((column, i) => (row[column] = values[i]!));
    this.logged.push({ atS: this.timeMs / 1000, values: row });
  }

  send(text: string): void {
    this.tell('sent', text);
    this.onSend?.(text);
  }
  /** Where what is sent goes; nowhere without another robot. */
  onSend: ((text: string) => void) | null = null;

  /** Something that another robot has sent has come here. */
  receive(text: string): void {
    this.mail.set(text, (this.mail.get(text) ?? 0) + 1);
    this.tell('heard', text);
  }

  heard(text: string): boolean {
    const waiting = this.mail.get(text) ?? 0;
    if (waiting === 0) return false;
    this.mail.set(text, waiting - 1);
    return true;
  }

  /** Angle of the robot in radians when its heading was last zeroed, and when that was. */
  headingZero: number;
  headingZeroMs = 0;

  zeroHeading(): void {
    this.headingZero = this.theta;
    this.headingZeroMs = this.timeMs;
    this.sensors.forEach(({ kind }, i) => {
      if (kind === 'heading') this.readings[i] = 0;
    });
  }

  item(sensor: number, position: number): number {
    return this.items[sensor]?.[Math.round(position) - 1] ?? NaN;
  }
  /** Whole counts, in proportion to the reading; NaN where the part tells none, or has no reading. */
  raw(sensor: number): number {
    const spec = this.sensors[sensor];
    if (!spec?.raw) return NaN;
    const { min, max, raw } = spec;
    const told = this.readings[sensor]! * this.units[sensor]!;
    return Math.round(raw.atMin + ((told - min) / (max - min)) * (raw.atMax - raw.atMin));
  }

  private readonly turret: Turret;
  get turretDeg(): number {
    return this.turret.wantedDeg;
  }
  turretNow(): number {
    return this.turret.angleAt(this.timeMs);
  }
  turnTurret(toDeg: number, percent: number): number {
    return this.turret.turn(this.timeMs, toDeg, percent);
  }

  beep(pitchHz: number, forS: number, volume: number): void {
    this.tell(
      'sound',
      `${formatNumber(pitchHz, 0)} Hz for ${formatNumber(forS)} s at ${formatNumber(volume, 0)} %`,
    );
  }

  lamp(colour: string | null): void {
    const text = colour ?? 'off';
    if (text === this.lit) return;
    this.lit = text;
    this.tell('lamp', text);
  }
  private lit = 'off';

  private tell(kind: RunEvent['kind'], text: string): void {
    // A run that says more than can be kept keeps what it said last: the one before it goes.
    if (this.events.length >= EVENT_LIMIT)
      this.events.splice(
        this.events.findLastIndex((event) => event.kind === kind),
        1,
      );
    this.events.push({ atS: this.timeMs / 1000, kind, text });
  }

  /** Sets both wheels in % of top speed; it takes effect after the kit's command delay. */
  command(left: number, right: number, manner: Manner): void {
    // A program that repeats the same command each round does not restart the motors.
    if (this.askedLeft === left && this.askedRight === right && this.askedManner === manner) return;
    this.askedLeft = left;
    this.askedRight = right;
    this.askedManner = manner;
    this.pending.push({ atMs: this.timeMs + this.delayMs, left, right, manner });
  }
  /** The newest command, whether or not it has taken effect. */
  private askedLeft = 0;
  private askedRight = 0;
  private askedManner: Manner = 'drive';
  private readonly delayMs: number;

  /** Puts a text on the robot's one-line display. */
  show(text: string): void {
    const shown = text.slice(0, DISPLAY_LIMIT);
    if (shown === this.display) return;
    this.display = shown;
    this.tell('display', shown);
  }

  private sample(i: number): void {
    const was = this.readings[i]!;
    const now = this.samplers[i]!();
    this.readings[i] = now;
    if (this.sensors[i]!.kind !== 'touch' || was === now) return;
    // Bumped: pressed long enough, and released again.
    if (now > 0) this.pressedMs[i] = this.timeMs;
    else if (this.pressedMs[i]! >= 0 && this.timeMs - this.pressedMs[i]! >= PRESS_MS) this.bumps[i]!++;
  }

  /** Whether nothing commanded, now or soon, turns a wheel. */
  private idle(): boolean {
    const { goalLeft, goalRight } = this.body;
    return goalLeft === 0 && goalRight === 0 && this.pending.every((c) => c.left === 0 && c.right === 0);
  }

  /** Where the robot was in the last row of the trace. */
  private recordedMs = 0;
  private recordedX = 0;
  private recordedY = 0;
  private recordedTheta = 0;

  private record(): void {
    const { recorder, readings, values, units, body } = this;
    const { columns } = recorder;
    const row = recorder.rows++;
    columns[0]![row] = body.x;
    columns[1]![row] = body.y;
    columns[2]![row] = body.theta * DEGREES;
    // Where something holds the robot, its speed is what it goes and not what its wheels would.
    const sinceMs = body.touching ? body.timeMs - this.recordedMs : 0;
    const s = sin(body.theta);
    const c = cos(body.theta);
    const gone = (body.x - this.recordedX) * s + (body.y - this.recordedY) * c;
    columns[3]![row] = sinceMs > 0 ? (1000 * gone) / sinceMs : (body.vLeft + body.vRight) / 2;
    columns[4]![row] =
      DEGREES * (sinceMs > 0 ? (1000 * (body.theta - this.recordedTheta)) / sinceMs : body.turnRate);
    this.recordedMs = body.timeMs;
    this.recordedX = body.x;
    this.recordedY = body.y;
    this.recordedTheta = body.theta;
    columns[5]![row] = this.programOverMs < 0 ? (this.code.lines[this.threads.pc] ?? 0) : 0;
    let at = 6;
    for (let i = 0; i < readings.length; i++) columns[at++]![row] = readings[i]! * units[i]!;
    columns[at++]![row] = body.touching ? 1 : 0;
    const named = this.setup.program.values.length;
    for (let i = 0; i < named; i++) columns[at++]![row] = values[i]!;
    if (recorder.extra.turret) columns[at++]![row] = this.turretNow();
    if (recorder.extra.opponent) {
      const [x, y] = this.world.opponentPlace;
      columns[at++]![row] = x;
      columns[at++]![row] = y;
    }
    for (const { x, y, turn } of this.world.light.values()) {
      columns[at++]![row] = x;
      columns[at++]![row] = y;
      columns[at++]![row] = turn * DEGREES;
    }
    for (let i = 0; i < this.sensors.length; i++)
      if (this.sensors[i]!.kind === 'beacon') columns[at++]![row] = this.items[i]![1]!;
  }

  private step(): void {
    const { threads } = this;
    if (threads.several) {
      if (!threads.step(this)) return;
    } else {
      const { main } = threads;
      const next = this.code.ops[main.pc]!(this);
      main.fresh = next !== main.pc;
      if (next >= 0) {
        main.pc = next;
        return;
      }
    }
    this.programOverMs = this.timeMs;
    this.events.push({ atS: this.timeMs / 1000, kind: 'program over', text: '' });
    const end = this.setup.robot.atProgramEnd;
    this.pending.push({
      atMs: this.timeMs + (end.kind === 'roll' ? end.forMs : this.delayMs),
      left: 0,
      right: 0,
      manner: 'brake',
    });
  }

  /** Runs to the end and hands over the trace. */
  run(): Run {
    this.begin();
    this.advance(Infinity);
    return this.handOver(this.ended!);
  }

  private ended: Ended | null = null;
  private nextStep = 0;
  private nextTrace = 0;
  private nextWorld = 0;
  private restMs = -1;

  /** Sets the values that the program begins with. */
  private begin(): void {
    this.nextWorld = this.world.build(0);
    this.caught(() => {
      this.code.begin(this);
      this.threads.begin(this);
    });
    if (this.code.mainEntry < 0 && !this.threads.several) this.programOverMs = 0;
    this.other?.begin();
  }

  /** Does something that may divide by zero and the like: the run ends there then. */
  private caught(work: () => void): void {
    try {
      work();
    } catch (caught) {
      if (!(caught instanceof RunFault)) throw caught;
      this.ended = { how: 'error', atS: this.timeMs / 1000, line: caught.line, says: caught.message };
      if (this.recorder.rows === 0) this.record();
    }
  }

  /** Goes on to a time in ms, or to the end of the run. */
  private advance(untilMs: number): void {
    if (!this.ended) this.caught(() => this.goOn(untilMs));
  }

  private goOn(untilMs: number): void {
    const { body, course } = this;
    const { robot, timeLimitMs } = this.setup;
    const limit = Math.max(1, Math.floor(timeLimitMs));
    const stepTime = Math.max(LEAST_STEP_MS, robot.stepTimeMs);
    const drop = course.rim === 'drop';
    const lastPress = this.world.lastPressMs;
    let { nextStep, nextTrace, nextWorld } = this;
    let ended: Ended | null = null;
    while (!ended && body.timeMs < untilMs) {
      const now = body.timeMs;
      while (this.pending.length > 0 && this.pending[0]!.atMs <= now) {
        const { left, right, manner } = this.pending.shift()!;
        body.tell(left, right, manner);
      }
      for (let i = 0; i < this.periods.length; i++) {
        if (this.nextSample[i]! <= now) {
          this.sample(i);
          this.nextSample[i]! += this.periods[i]!;
        }
      }
      if (nextWorld <= now) {
        nextWorld = this.world.build(now);
        body.worldChanged();
      }
      // A kit whose steps take less than a millisecond does several in one.
      while (nextStep <= now) {
        if (this.programOverMs < 0) this.step();
        nextStep += stepTime;
      }
      if (nextTrace <= now) {
        this.record();
        nextTrace = now + TRACE_MS;
        this.meetOther(now);
        ended = this.endAt(now, limit, drop, lastPress);
        if (ended) break;
      }
      let next = Math.min(nextTrace, nextStep, Math.max(now + 1, nextWorld));
      for (let i = 0; i < this.nextSample.length; i++) next = Math.min(next, this.nextSample[i]!);
      if (this.pending.length > 0) next = Math.min(next, Math.max(now + 1, this.pending[0]!.atMs));
      // Periods may be any; the body moves by whole milliseconds, and what falls between two is done at the second.
      body.burst(Math.ceil(next));
    }
    this.nextStep = nextStep;
    this.nextTrace = nextTrace;
    this.nextWorld = nextWorld;
    this.ended = ended;
  }

  /** The other robot goes on to the same time; each stands in the other's way. */
  private meetOther(now: number): void {
    const { world, body, course, other } = this;
    if (!course.opponent || this.paired) return;
    if (other) {
      other.world.placeOpponent(...this.middle);
      other.body.worldChanged();
      other.advance(now);
      world.placeOpponent(...other.middle);
    } else world.driveOpponent(TRACE_MS / 1000, body.x, body.y);
    body.worldChanged();
  }

  /** The middle of the robot's outline. */
  private get middle(): [x: number, y: number] {
    const { x, y, theta, outline } = this.body;
    return [x + outline.ahead * sin(theta), y + outline.ahead * cos(theta)];
  }

  /** Whether the run is over at the end of a row of the trace. */
  private endAt(now: number, limit: number, drop: boolean, lastPress: number): Ended | null {
    const { body, course } = this;
    const still = Math.abs(body.vLeft) < REST_MM_PER_S && Math.abs(body.vRight) < REST_MM_PER_S;
    const quiet = still && this.programOverMs >= 0 && this.idle();
    if (!quiet) this.restMs = -1;
    else if (this.restMs < 0) this.restMs = now;
    // A robot that rests while fingers still come, or another one drives, has more to show: whether it starts when it should not.
    const { other } = this;
    const alone = !other || other.ended !== null || other.programOverMs >= 0;
    if (quiet && alone && now >= Math.max(this.restMs, lastPress) + LINGER_MS)
      return { how: 'at rest', atS: this.restMs / 1000 };
    if (drop && body.fallen()) return { how: 'fell off', atS: now / 1000 };
    if (
      body.x < -LOST_MM ||
      body.y < -LOST_MM ||
      body.x > course.widthMm + LOST_MM ||
      body.y > course.heightMm + LOST_MM
    )
      return { how: 'left the mat', atS: now / 1000 };
    return now >= limit ? { how: 'time limit', atS: now / 1000 } : null;
  }

  private handOver(ended: Ended): Run {
    if (ended.how === 'at rest') this.events.push({ atS: ended.atS, kind: 'at rest', text: '' });
    return {
      trace: this.recorder.trace(),
      events: this.events,
      ended,
      log: { columns: this.code.log, rows: this.logged, full: this.logFull },
      ...(this.other ? { other: { events: this.other.events, ended: this.other.ended } } : {}),
      programOverS: this.programOverMs < 0 ? null : this.programOverMs / 1000,
    };
  }
}

/** The course with another robot on it, as one of two sees it: round, as wide as a robot is long, giving way to half of a push. */
const meeting = (course: Course, start: Pose, { lengthMm, widthMm }: SimRobot): Course => ({
  ...course,
  opponent: {
    name: 'the other robot',
    ...start,
    radiusMm: (lengthMm + widthMm) / 4,
    does: 'stands',
    speedMmPerS: 0,
    gives: 0.5,
  },
});

/** Runs a checked program once. Deterministic: the same setup gives the same bytes in browser and server. */
export function simulate(setup: RunSetup): Run {
  return new Kernel(setup).run();
}
