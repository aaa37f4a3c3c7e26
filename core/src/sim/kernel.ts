import { lightAt, lightField, type LightField } from '../course/index.ts';
import { degrees, formatNumber, radians } from '../quantity/index.ts';
import { compile, type Compiled } from './compile.ts';
import { RunFault } from './expressions.ts';
import { quantise, scatterAt } from './lightModel.ts';
import type { Machine, Manner } from './machine.ts';
import { Noise } from './random.ts';
import type { RunSetup, SimGyro, SimLight } from './setup.ts';
import type { Ended, Run, RunEvent } from './trace.ts';

/** Trace interval in ms. */
export const TRACE_MS = 10;
/** Below this speed the robot counts as standing, mm/s. */
export const REST_MM_PER_S = 1;
/** A run is followed this long after the robot came to rest, ms. */
const LINGER_MS = 200;
/** A robot this far off the mat is given up, mm. */
const LOST_MM = 300;
/** Longest display text kept, and most events of a run. */
const DISPLAY_LIMIT = 60;
const EVENT_LIMIT = 500;
/** How fast a turret turns at 100 %, deg/s, and what it needs to settle, ms. */
const TURRET_DEG_PER_S = 360;
const TURRET_SETTLE_MS = 120;
/** Share of its full speed that raw power still reaches on an empty battery. */
const EMPTY_SHARE = 0.75;

interface Command {
  atMs: number;
  left: number;
  right: number;
  manner: Manner;
}

/**
 * One simulated robot on an integer-millisecond clock. It advances in bursts from event to event (sample,
 * program step, command taking effect, trace row); inside a burst every millisecond is an exact first-order
 * lag of each wheel and an exact arc of the pose, on plain numbers held in locals.
 */
export class Kernel implements Machine {
  timeMs = 0;
  /** True at a step's first look, false while it is looked at again. */
  fresh = true;
  readonly readings: Float64Array;
  readonly values: Float64Array;
  readonly slots: Float64Array;
  readonly bumps: Float64Array;
  readonly stack: number[] = [];
  readonly mmPerDeg: number;
  readonly wheelPerTurn: number;
  readonly battery: number;
  timerZeroMs = 0;
  leftZeroDeg = 0;
  rightZeroDeg = 0;

  private x: number;
  private y: number;
  private theta: number;
  private vLeft = 0;
  private vRight = 0;
  private goalLeft = 0;
  private goalRight = 0;
  /** What is left of a speed error after 1 ms, and the time in s that the error acts within it. */
  private fade = 0;
  private slide = 0;
  private leftMm = 0;
  private rightMm = 0;

  private readonly setup: RunSetup;
  private readonly noise: Noise;
  private readonly code: Compiled;
  private readonly lights: SimLight[];
  private readonly gyros: SimGyro[];
  /** Sample period of each reading, ms. */
  private readonly periods: number[];
  private readonly fields: LightField[];
  private readonly nextSample: number[];
  private readonly pending: Command[] = [];
  private readonly events: RunEvent[] = [];
  private pc = 0;
  private programOverMs = -1;
  private display = '';

  // Trace columns, filled row by row.
  private rows = 0;
  private readonly xs: Float32Array;
  private readonly ys: Float32Array;
  private readonly bearings: Float32Array;
  private readonly speeds: Float32Array;
  private readonly linesAt: Float32Array;
  private readonly readingColumns: Float32Array[];

  /** `code` stands in for the setup's compiled program: for benchmarks against hand-written behaviour. */
  constructor(setup: RunSetup, code?: Compiled) {
    const { robot, circumstances, course } = setup;
    this.setup = setup;
    this.noise = new Noise(circumstances.seed);
    this.lights = robot.lights;
    this.fields = robot.lights.map((light) => lightField(course, light.model.footprintRadiusMm));
    this.gyros = robot.gyros ?? [];
    const sensors = [...this.lights, ...this.gyros];
    this.periods = sensors.map((sensor) => sensor.samplePeriodMs);
    const sockets = Object.fromEntries(sensors.map(({ socket }, i) => [socket, i]));
    this.code = code ?? compile(setup.program, { sockets, thresholds: setup.thresholds });
    this.readings = new Float64Array(sensors.length);
    this.bumps = new Float64Array(sensors.length);
    this.values = new Float64Array(this.code.valueCount);
    this.slots = new Float64Array(this.code.slotCount);
    this.mmPerDeg = (Math.PI * robot.wheelDiameterMm) / 360;
    this.wheelPerTurn = robot.trackMm / robot.wheelDiameterMm;
    this.battery = circumstances.battery ?? 100;
    this.delayMs = Math.max(0, Math.round(robot.drive.commandDelayMs));
    this.x = circumstances.start.xMm;
    this.y = circumstances.start.yMm;
    this.theta = radians(circumstances.start.bearingDeg);
    this.headingZeroDeg = circumstances.start.bearingDeg;
    this.lag(robot.drive.tauDriveS);
    const room = Math.floor(setup.timeLimitMs / TRACE_MS) + 2;
    this.xs = new Float32Array(room);
    this.ys = new Float32Array(room);
    this.bearings = new Float32Array(room);
    this.speeds = new Float32Array(room);
    this.linesAt = new Float32Array(room);
    this.readingColumns = sensors.map(() => new Float32Array(room));
    // The sensor was looking before the program began: its phase is anywhere in its period.
    this.nextSample = robot.lights.map((light, i) => {
      this.sample(i);
      return 1 + Math.floor(this.noise.uniform() * light.samplePeriodMs);
    });
    // Their phases come from dice of their own: a gyro on the robot changes nothing for its other sensors.
    const phases = new Noise(circumstances.seed ^ 0x9120);
    this.gyros.forEach(({ samplePeriodMs }, i) => {
      this.sample(this.lights.length + i);
      this.nextSample.push(1 + Math.floor(phases.uniform() * samplePeriodMs));
    });
  }

  /** Wheel angles since the start in whole degrees: what an encoder reports. */
  leftDeg(): number {
    return Math.floor(this.leftMm / this.mmPerDeg);
  }
  rightDeg(): number {
    return Math.floor(this.rightMm / this.mmPerDeg);
  }

  zeroHeading(): void {
    this.headingZeroDeg = degrees(this.theta);
    this.gyros.forEach(({ kind }, i) => {
      if (kind === 'heading') this.readings[this.lights.length + i] = 0;
    });
  }
  private headingZeroDeg: number;

  /** No sensor of this robot gives several numbers, or a number before it is turned into a unit. */
  item(): number {
    return NaN;
  }
  raw(): number {
    return NaN;
  }

  turretDeg = 0;
  turnTurret(toDeg: number, percent: number): number {
    if (!Number.isFinite(toDeg)) return this.timeMs;
    const rate = (TURRET_DEG_PER_S * Math.max(1, Math.min(100, Math.abs(percent)))) / 100;
    const takesMs = (1000 * Math.abs(toDeg - this.turretDeg)) / rate;
    this.turretDeg = toDeg;
    return this.timeMs + takesMs + TURRET_SETTLE_MS;
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
    if (this.events.length < EVENT_LIMIT) this.events.push({ atS: this.timeMs / 1000, kind, text });
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

  private apply({ left, right, manner }: Command): void {
    const { drive, wheelDiameterMm } = this.setup.robot;
    const power = manner === 'raw' ? EMPTY_SHARE + ((1 - EMPTY_SHARE) * this.battery) / 100 : 1;
    const top = (power * Math.PI * wheelDiameterMm * drive.topDegPerS) / 360;
    const skew = this.setup.circumstances.mismatch / 2;
    const clamp = (v: number) => (Number.isFinite(v) ? Math.min(100, Math.max(-100, v)) : 0);
    this.goalLeft = (clamp(left) / 100) * top * (1 + skew);
    this.goalRight = (clamp(right) / 100) * top * (1 - skew);
    const tau =
      manner === 'coast' ? drive.tauCoastS : left === 0 && right === 0 ? drive.tauBrakeS : drive.tauDriveS;
    this.lag(tau);
  }

  private lag(tauS: number): void {
    this.fade = Math.exp(-0.001 / tauS);
    this.slide = tauS * (1 - this.fade);
  }

  private sample(i: number): void {
    const light = this.lights[i];
    if (!light) return this.sampleGyro(i);
    const { model } = light;
    const c = Math.cos(this.theta);
    const s = Math.sin(this.theta);
    const x = this.x + light.aheadMm * s + light.rightMm * c;
    const y = this.y + light.aheadMm * c - light.rightMm * s;
    const clean =
      100 * model.gain * lightAt(this.fields[i]!, x, y) + model.leak + this.setup.circumstances.lightShift;
    this.readings[i] = quantise(clean + scatterAt(model, clean) * this.noise.normal(), light);
  }

  private sampleGyro(i: number): void {
    const gyro = this.gyros[i - this.lights.length]!;
    const value =
      gyro.kind === 'heading'
        ? degrees(this.theta) - this.headingZeroDeg
        : degrees((this.vLeft - this.vRight) / this.setup.robot.trackMm);
    this.readings[i] = quantise(value, gyro);
  }

  /** Advances to `untilMs`: the hot loop. */
  private burst(untilMs: number): void {
    const trackMm = this.setup.robot.trackMm;
    const { goalLeft, goalRight, fade, slide } = this;
    let { x, y, theta, vLeft, vRight, leftMm, rightMm } = this;
    // Direction as a unit vector, turned on by each half step; taken afresh from the angle in each burst.
    let s = Math.sin(theta);
    let c = Math.cos(theta);
    for (let t = this.timeMs; t < untilMs; t++) {
      const offLeft = vLeft - goalLeft;
      const offRight = vRight - goalRight;
      const dLeft = goalLeft * 0.001 + offLeft * slide;
      const dRight = goalRight * 0.001 + offRight * slide;
      vLeft = goalLeft + offLeft * fade;
      vRight = goalRight + offRight * fade;
      const half = (dLeft - dRight) / trackMm / 2;
      // Series in the half turn h of one millisecond (|h| < 0.02): exact to the last bit kept here.
      const h2 = half * half;
      const sinHalf = half * (1 - (h2 / 6) * (1 - h2 / 20));
      const cosHalf = 1 - (h2 / 2) * (1 - h2 / 12);
      const chord = ((dLeft + dRight) / 2) * (1 - (h2 / 6) * (1 - h2 / 20));
      const sMid = s * cosHalf + c * sinHalf;
      const cMid = c * cosHalf - s * sinHalf;
      x += chord * sMid;
      y += chord * cMid;
      s = sMid * cosHalf + cMid * sinHalf;
      c = cMid * cosHalf - sMid * sinHalf;
      theta += 2 * half;
      leftMm += dLeft;
      rightMm += dRight;
    }
    this.x = x;
    this.y = y;
    this.theta = theta;
    this.vLeft = vLeft;
    this.vRight = vRight;
    this.leftMm = leftMm;
    this.rightMm = rightMm;
    this.timeMs = untilMs;
  }

  /** Whether nothing commanded, now or soon, turns a wheel. */
  private idle(): boolean {
    return (
      this.goalLeft === 0 && this.goalRight === 0 && this.pending.every((c) => c.left === 0 && c.right === 0)
    );
  }

  private record(): void {
    const row = this.rows++;
    this.xs[row] = this.x;
    this.ys[row] = this.y;
    this.bearings[row] = degrees(this.theta);
    this.speeds[row] = (this.vLeft + this.vRight) / 2;
    this.linesAt[row] = this.programOverMs < 0 ? this.code.lines[this.pc]! : 0;
    for (let i = 0; i < this.readingColumns.length; i++) this.readingColumns[i]![row] = this.readings[i]!;
  }

  private step(): void {
    const next = this.code.ops[this.pc]!(this);
    this.fresh = next !== this.pc;
    if (next >= 0) {
      this.pc = next;
      return;
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
    const { robot, timeLimitMs, course } = this.setup;
    const limit = Math.max(1, Math.floor(timeLimitMs));
    const stepTime = Math.max(1, Math.round(robot.stepTimeMs));
    let nextStep = 0;
    let nextTrace = 0;
    let restMs = -1;
    let ended: Ended | null = null;
    try {
      this.code.begin(this);
      if (this.code.ops.length === 0 || this.setup.program.steps.length === 0) this.programOverMs = 0;
      while (!ended) {
        const now = this.timeMs;
        while (this.pending.length > 0 && this.pending[0]!.atMs <= now) this.apply(this.pending.shift()!);
        for (let i = 0; i < this.periods.length; i++) {
          if (this.nextSample[i]! <= now) {
            this.sample(i);
            this.nextSample[i]! += this.periods[i]!;
          }
        }
        if (nextStep <= now) {
          if (this.programOverMs < 0) this.step();
          nextStep = now + stepTime;
        }
        if (nextTrace <= now) {
          this.record();
          nextTrace = now + TRACE_MS;
          const still = Math.abs(this.vLeft) < REST_MM_PER_S && Math.abs(this.vRight) < REST_MM_PER_S;
          const quiet = still && this.programOverMs >= 0 && this.idle();
          if (!quiet) restMs = -1;
          else if (restMs < 0) restMs = now;
          if (quiet && now >= restMs + LINGER_MS) ended = { how: 'at rest', atS: restMs / 1000 };
          else if (
            this.x < -LOST_MM ||
            this.y < -LOST_MM ||
            this.x > course.widthMm + LOST_MM ||
            this.y > course.heightMm + LOST_MM
          ) {
            ended = { how: 'left the mat', atS: now / 1000 };
          } else if (now >= limit) ended = { how: 'time limit', atS: now / 1000 };
          if (ended) break;
        }
        let next = Math.min(nextTrace, nextStep);
        for (let i = 0; i < this.nextSample.length; i++) next = Math.min(next, this.nextSample[i]!);
        if (this.pending.length > 0) next = Math.min(next, Math.max(now + 1, this.pending[0]!.atMs));
        this.burst(next);
      }
    } catch (caught) {
      if (!(caught instanceof RunFault)) throw caught;
      ended = { how: 'error', atS: this.timeMs / 1000, line: caught.line, says: caught.message };
      if (this.rows === 0) this.record();
    }
    return this.handOver(ended!);
  }

  private handOver(ended: Ended): Run {
    const n = this.rows;
    const timesS = Float32Array.from({ length: n }, (_, i) => (i * TRACE_MS) / 1000);
    const cut = (values: Float32Array) => values.slice(0, n);
    const signals: Run['trace']['signals'] = {
      x: { unit: 'mm', values: cut(this.xs) },
      y: { unit: 'mm', values: cut(this.ys) },
      bearing: { unit: 'deg', values: cut(this.bearings) },
      speed: { unit: 'mm/s', values: cut(this.speeds) },
      line: { unit: '', values: cut(this.linesAt) },
    };
    [...this.lights, ...this.gyros].forEach(({ socket }, i) => {
      const unit =
        i < this.lights.length ? '%' : this.gyros[i - this.lights.length]!.kind === 'spin' ? 'deg/s' : 'deg';
      signals[socket] = { unit, values: cut(this.readingColumns[i]!) };
    });
    if (ended.how === 'at rest') this.events.push({ atS: ended.atS, kind: 'at rest', text: '' });
    return {
      trace: { timesS, signals },
      events: this.events,
      ended,
      programOverS: this.programOverMs < 0 ? null : this.programOverMs / 1000,
    };
  }
}

/** Runs a checked program once. Deterministic: the same setup gives the same bytes in browser and server. */
export function simulate(setup: RunSetup): Run {
  return new Kernel(setup).run();
}
