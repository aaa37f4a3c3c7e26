import { radians, sin, cos } from '../quantity/index.ts';
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
import { Tellings } from './tellings.ts';
import type { Ended, Run } from './trace.ts';
import { Turret } from './turret.ts';
import { Wheels, type Command } from './wheels.ts';
import { World } from './world.ts';

/** Below this speed the robot counts as standing, mm/s. */
export const REST_MM_PER_S = 1;
/** A run is followed this long after the robot came to rest, ms. */
const LINGER_MS = 200;
/** A robot this far off the mat is given up, mm. */
const LOST_MM = 300;
/** The shortest time that a step takes, ms. */
const LEAST_STEP_MS = 0.05;
/** A press must last this long to count as a bump, ms (common practice). */
const PRESS_MS = 20;

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
  get sine(): number {
    return this.body.sine;
  }
  get cosine(): number {
    return this.body.cosine;
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
  private readonly wheels: Wheels;
  readonly told: Tellings;
  private readonly threads: Threads;
  /** Draws of the program itself: they change nothing for sensors and circumstances. */
  private readonly dice: Noise;
  private programOverMs = -1;
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
    this.wheels = new Wheels(this.body, robot.drive.commandDelayMs);
    this.told = new Tellings(this.body, this.code.log);
    this.headingZero = this.theta - radians(circumstances.headingAtStart ?? 0);
    const carried = setup.program.motors.length > 0 || this.sensors.some(({ onTurret }) => onTurret);
    this.turret = new Turret();
    this.items = this.sensors.map(() => new Float64Array(3).fill(NaN));
    this.recorder = new Recorder(setup, Math.floor(setup.timeLimitMs / TRACE_MS) + 2, {
      course,
      body: this.body,
      world: this.world,
      readings: this.readings,
      units: this.units,
      items: this.items,
      values: this.values,
      turret: carried ? this.turret : null,
    });
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
    other.told.onSend = (text) => this.told.receive(text);
    this.told.onSend = (text) => other.told.receive(text);
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
    this.mains = this.wheels.asked;
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
    this.told.log(columns, values);
  }
  send(text: string): void {
    this.told.send(text);
  }
  heard(text: string): boolean {
    return this.told.heard(text);
  }
  beep(pitchHz: number, forS: number, volume: number): void {
    this.told.beep(pitchHz, forS, volume);
  }
  lamp(colour: string | null): void {
    this.told.lamp(colour);
  }
  show(text: string): void {
    this.told.show(text);
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

  command(left: number, right: number, manner: Manner): void {
    this.wheels.command(left, right, manner);
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

  /** A row of the trace, with the line that the program is at. */
  private record(): void {
    this.recorder.record(this.programOverMs < 0 ? (this.code.lines[this.threads.pc] ?? 0) : 0);
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
    this.told.over();
    const end = this.setup.robot.atProgramEnd;
    this.wheels.letGo(end.kind === 'roll' ? end.forMs : undefined);
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
      this.wheels.due(now);
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
      next = Math.min(next, Math.max(now + 1, this.wheels.nextMs));
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
    const quiet = still && this.programOverMs >= 0 && this.wheels.idle();
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
    if (ended.how === 'at rest') this.told.rests(ended.atS);
    return {
      trace: this.recorder.trace(),
      events: this.told.events,
      ended,
      log: this.told.logged,
      ...(this.other ? { other: { events: this.other.told.events, ended: this.other.ended } } : {}),
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
