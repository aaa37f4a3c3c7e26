import { radians, sin, cos, exp } from '../quantity/index.ts';
import { lagStep } from '../motion/index.ts';
import { Outline, type Stand } from './contact.ts';
import type { Manner } from './machine.ts';
import type { RunSetup } from './setup.ts';
import type { World } from './world.ts';

/** A wheel this close to the speed it was told runs steadily, mm/s: a thousandth of a millimetre in a quarter of an hour. */
const STEADY = 1e-6;
/** Things farther than this from the outline are not asked whether they touch it, mm. */
const NEAR_MM = 40;
/** A robot that stands deeper than this in what it cannot give way to is jammed, mm. */
const JAMMED_MM = 0.1;
/** Share of its full speed that raw power still reaches on an empty battery. */
const EMPTY_SHARE = 0.75;

/** What is left of a wheel's way, mm, when the robot was pushed by so much along it: less, but never the other way. */
const held = (way: number, pushed: number): number =>
  way > 0 ? Math.min(way, Math.max(0, way + pushed)) : Math.max(way, Math.min(0, way + pushed));

/**
 * The robot's body: two wheels that follow what they were told with a first-order lag, the pose that follows the
 * wheels, and the things that it may touch. It advances in bursts; inside a burst every millisecond is an exact lag
 * of each wheel and an exact arc of the pose, on plain numbers held in locals; at steady speed the burst is one arc.
 */
export class Body {
  timeMs = 0;
  x: number;
  y: number;
  theta: number;
  vLeft = 0;
  vRight = 0;
  goalLeft = 0;
  goalRight = 0;
  leftMm = 0;
  rightMm = 0;
  touching = false;
  /** How far the robot may still go before something could touch it, mm. */
  room = Infinity;
  /** What a turn uses up of that room, mm per rad: the way of the outline's middle, or of its farthest corner once something is near. */
  private swing = 0;
  /** Track in mm as it works on this floor: scrubbing wheels make it wider. */
  readonly trackMm: number;
  readonly battery: number;
  readonly outline: Outline;
  /** What is left of a speed error after 1 ms, and the time in s that the error acts within it. */
  private fade = 0;
  private slide = 0;
  private tau = 0;
  private readonly accelLimit: number;
  /** Up to this speed error, mm/s, the lag keeps within the limit of the motors. */
  private gentle = Infinity;
  private holding = false;
  private readonly setup: RunSetup;
  private readonly world: World;

  constructor(setup: RunSetup, world: World) {
    const { robot, circumstances } = setup;
    this.setup = setup;
    this.world = world;
    this.outline = new Outline(robot);
    this.trackMm = robot.trackMm * (1 + (robot.drive.scrub ?? 0)) * (1 + (circumstances.scrub ?? 0));
    this.battery = circumstances.battery ?? 100;
    this.x = circumstances.start.xMm;
    this.y = circumstances.start.yMm;
    this.theta = radians(circumstances.start.bearingDeg);
    this.freeX = this.x;
    this.freeY = this.y;
    this.freeTheta = this.theta;
    this.accelLimit = robot.drive.accelLimitMmPerS2 ?? Infinity;
    this.lag(robot.drive.tauDriveS);
    if (!world.empty) this.findRoom();
  }

  /** Sine and cosine of an angle, kept while the robot stays at it. */
  private s = 0;
  private c = 1;
  private directedAt = NaN;
  private direct(): void {
    if (this.directedAt === this.theta) return;
    this.s = sin(this.theta);
    this.c = cos(this.theta);
    this.directedAt = this.theta;
  }
  get sine(): number {
    this.direct();
    return this.s;
  }
  get cosine(): number {
    this.direct();
    return this.c;
  }

  /** Rate of turn, rad/s. */
  get turnRate(): number {
    return (this.vLeft - this.vRight) / this.trackMm;
  }

  /** What both wheels shall run at, % of full speed. */
  tell(left: number, right: number, manner: Manner): void {
    const { drive, wheelDiameterMm } = this.setup.robot;
    this.holding = manner === 'hold';
    const { mismatch, deadPercent = 0 } = this.setup.circumstances;
    const charged = EMPTY_SHARE + ((1 - EMPTY_SHARE) * this.battery) / 100;
    const power = manner === 'raw' ? charged : 1;
    const top = (power * Math.PI * wheelDiameterMm * drive.topDegPerS) / 360;
    const skew = (mismatch + (drive.mismatch ?? 0)) / 2;
    // A regulated motor keeps its speed as the battery empties, up to what it can reach then.
    const most = manner === 'raw' ? 100 : 100 * charged;
    const dead = (drive.deadPercent ?? 0) + deadPercent;
    const turns = (v: number) => {
      if (!Number.isFinite(v) || Math.abs(v) < dead) return 0;
      return Math.min(most, Math.max(-most, v));
    };
    this.goalLeft = (turns(left) / 100) * top * (1 + skew);
    this.goalRight = (turns(right) / 100) * top * (1 - skew);
    const tau =
      manner === 'coast' ? drive.tauCoastS : left === 0 && right === 0 ? drive.tauBrakeS : drive.tauDriveS;
    this.lag(tau);
  }

  private lag(tauS: number): void {
    this.tau = tauS;
    this.gentle = this.accelLimit * tauS;
    this.fade = exp(-0.001 / tauS);
    this.slide = tauS * (1 - this.fade);
  }

  /** A millisecond of a wheel whose speed changes by the limit. */
  private ramp(v: number, goal: number): { v: number; d: number } {
    return lagStep(v, goal, this.tau, 0.001, this.accelLimit);
  }

  /**
   * Looks for what is near, lets the robot give way to it, and says how far it may go before it must look again. Where it cannot
   * give way it is jammed, and stands as it stood before.
   */
  private findRoom(was: Stand = this): void {
    const { outline, world } = this;
    const s = sin(this.theta);
    const c = cos(this.theta);
    const { ahead, radius } = outline;
    const nearest = world.nearest(this.x + ahead * s, this.y + ahead * c, radius + NEAR_MM);
    this.touching = false;
    if (nearest < radius) {
      this.touching = outline.push(world, this.x, this.y, this.theta, this.holding, was);
      if (outline.stuckMm > JAMMED_MM && this.freeMm < outline.stuckMm) {
        this.x = this.freeX;
        this.y = this.freeY;
        this.theta = this.freeTheta;
      } else {
        this.x += outline.dx;
        this.y += outline.dy;
        this.theta += outline.turn;
        this.freeMm = outline.stuckMm;
      }
      // Something is inside the circle: look again at once while it is touched, else after the next fraction of a millimetre.
      this.room = this.touching ? 0 : 0.2;
      this.swing = Math.abs(ahead) + radius;
    } else {
      this.room = nearest - radius;
      this.swing = Math.abs(ahead);
      this.freeMm = 0;
    }
    this.freeX = this.x;
    this.freeY = this.y;
    this.freeTheta = this.theta;
  }
  /** Where the robot stood last that it could give way, and how deep it stood in something there. */
  private freeX: number;
  private freeY: number;
  private freeTheta: number;
  private freeMm = 0;

  /** The world has changed: what stands in the robot's place now pushes it, and what is gone lets it go. */
  worldChanged(): void {
    if (!this.world.empty) this.findRoom();
  }

  /** Advances to `untilMs`: one arc when both wheels run steadily, otherwise millisecond by millisecond. */
  burst(untilMs: number): void {
    if (Math.abs(this.vLeft - this.goalLeft) < STEADY && Math.abs(this.vRight - this.goalRight) < STEADY) {
      this.vLeft = this.goalLeft;
      this.vRight = this.goalRight;
      if (this.glide(untilMs)) return;
    }
    this.lagging(untilMs);
  }

  /** A burst at steady speed is one exact arc. False, and nothing done, where it could touch something or turns far. */
  private glide(untilMs: number): boolean {
    const seconds = (untilMs - this.timeMs) * 0.001;
    const dLeft = this.vLeft * seconds;
    const dRight = this.vRight * seconds;
    const half = (dLeft - dRight) / this.trackMm / 2;
    const way = (dLeft + dRight) / 2;
    const room = this.room - Math.abs(way) - Math.abs(this.swing * 2 * half);
    if (room < 0 || Math.abs(half) > 0.02) return false;
    if (way !== 0 || half !== 0) {
      const mid = this.theta + half;
      const chord = way * (1 - (half * half) / 6);
      this.x += chord * sin(mid);
      this.y += chord * cos(mid);
      this.theta = mid + half;
      this.leftMm += dLeft;
      this.rightMm += dRight;
      this.room = room;
    }
    this.timeMs = untilMs;
    return true;
  }

  /** The hot loop: every millisecond an exact lag of each wheel and an exact arc. */
  private lagging(untilMs: number): void {
    const { trackMm } = this;
    let { room, swing } = this;
    const { goalLeft, goalRight, fade, slide, gentle } = this;
    let { x, y, theta, vLeft, vRight, leftMm, rightMm } = this;
    // Direction as a unit vector, turned on by each half step; after an hour it is a billionth of a radian off the angle that is added up.
    this.direct();
    let { s, c } = this;
    for (let t = this.timeMs; t < untilMs; t++) {
      const offLeft = vLeft - goalLeft;
      const offRight = vRight - goalRight;
      let dLeft = goalLeft * 0.001 + offLeft * slide;
      let dRight = goalRight * 0.001 + offRight * slide;
      if (Math.abs(offLeft) <= gentle) vLeft = goalLeft + offLeft * fade;
      else ({ v: vLeft, d: dLeft } = this.ramp(vLeft, goalLeft));
      if (Math.abs(offRight) <= gentle) vRight = goalRight + offRight * fade;
      else ({ v: vRight, d: dRight } = this.ramp(vRight, goalRight));
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
      room -= Math.abs(chord) + swing * Math.abs(2 * half);
      if (room < 0) {
        const [x0, y0, theta0, stuck0] = [this.x, this.y, this.theta, this.freeMm];
        const [left0, right0] = [leftMm - dLeft, rightMm - dRight];
        this.x = x;
        this.y = y;
        this.theta = theta;
        this.findRoom({ x: x - chord * sMid, y: y - chord * cMid, theta: theta - 2 * half });
        const touched = this.touching;
        ({ room, swing } = this);
        if (touched) {
          // Wheels grip: what the robot could not go, or turn, they did not turn either.
          const [gx, gy, gt] = [this.x - x, this.y - y, this.theta - theta];
          const along = gx * s + gy * c;
          const left = held(dLeft, along + (gt * trackMm) / 2);
          const right = held(dRight, along - (gt * trackMm) / 2);
          leftMm += left - dLeft;
          rightMm += right - dRight;
          // A motor that is only loaded keeps its speed; one that cannot turn at all stalls.
          if (left === 0) vLeft = 0;
          if (right === 0) vRight = 0;
          if (gt !== 0) {
            theta = this.theta;
            s = sin(theta);
            c = cos(theta);
          }
        }
        ({ x, y } = this);
        // It stalls against something: every further millisecond of this burst would be as this one.
        const stands = x === x0 && y === y0 && theta === theta0 && leftMm === left0 && rightMm === right0;
        const stood = offLeft === -goalLeft && offRight === -goalRight && vLeft === 0 && vRight === 0;
        if (stands && stood && this.freeMm === stuck0) break;
      }
    }
    this.room = room;
    this.x = x;
    this.y = y;
    this.theta = theta;
    this.s = s;
    this.c = c;
    this.directedAt = theta;
    this.vLeft = vLeft;
    this.vRight = vRight;
    this.leftMm = leftMm;
    this.rightMm = rightMm;
    this.timeMs = untilMs;
  }

  /** Whether a wheel, or the robot's middle, has gone over the rim. */
  fallen(): boolean {
    const { world, outline, x, y } = this;
    const [s, c, w] = [sin(this.theta), cos(this.theta), this.setup.robot.trackMm / 2];
    return !(
      world.onMat(x + w * c, y - w * s) &&
      world.onMat(x - w * c, y + w * s) &&
      world.onMat(x + outline.ahead * s, y + outline.ahead * c)
    );
  }
}
