import type { Course, Surface } from '@vigilum/core/course';
import type { Hand } from '@vigilum/core/formats';
import { spotTurnTravelMm, wheelDegrees, type Pose } from '@vigilum/core/motion';
import { turnBetween } from '@vigilum/core/quantity';
import type { RobotBuild } from '@vigilum/core/sensing';

/** A movement by hand from one pose to another, evenly in time. */
interface Movement {
  from: Pose;
  to: Pose;
  startMs: number;
  endMs: number;
}

/** How fast a hand turns the robot, degrees per second. */
const TURN_RATE = 90;

/** What is under the floor sensors: one surface, the air, a paper moved to and fro, or the mat where the robot stands. */
export type Floor = { is: 'surface'; surface: Surface } | { is: 'air' } | { is: 'paper' } | { is: 'mat' };

/** What hands have done to a stand-in robot, and where that leaves it at a time. */
export class Hands {
  floor: Floor;
  frontMm: number | null = null;
  /** Where a beacon is held, degrees to the right of straight ahead; null when there is none. */
  beaconDeg: number | null = null;
  pressed = false;
  roomLight: number | null = null;
  /** Height of the floor sensors above where the build says, mm. */
  raisedMm = 0;
  private pressChangedMs = -Infinity;
  private movement: Movement;
  private turnedBefore = 0;
  private rolledBefore = 0;
  private readonly build: RobotBuild;
  private readonly course: Course;
  private readonly surfaces: readonly Surface[];

  constructor(build: RobotBuild, course: Course, surfaces: readonly Surface[]) {
    this.build = build;
    this.course = course;
    this.surfaces = surfaces;
    this.floor = { is: 'surface', surface: surfaces.at(-1) ?? course.base };
    const start = course.starts[0] ?? { xMm: course.widthMm / 2, yMm: course.heightMm / 2, bearingDeg: 0 };
    const { xMm, yMm, bearingDeg } = start;
    this.movement = { from: { xMm, yMm, bearingDeg }, to: { xMm, yMm, bearingDeg }, startMs: 0, endMs: 0 };
  }

  get lifted(): boolean {
    return this.floor.is === 'air';
  }

  /** Does what a hand does; returns why it cannot, or null. */
  take(hand: Hand, nowMs: number): string | null {
    switch (hand.put) {
      case 'over': {
        const surface = this.surfaces.find(({ name }) => name === hand.surface);
        if (!surface) return `no surface ${hand.surface}`;
        this.floor = { is: 'surface', surface };
        return null;
      }
      case 'air':
      case 'paper':
        this.floor = { is: hand.put };
        return null;
      case 'at': {
        const { xMm, yMm, bearingDeg } = hand;
        if (!this.onMat(xMm, yMm)) return 'that is off the mat';
        const turn = turnBetween(this.pose(nowMs).bearingDeg, bearingDeg);
        const to = { xMm, yMm, bearingDeg };
        this.turnedBefore = this.turnedDeg(nowMs) + turn;
        this.rolledBefore = this.rolledMm(nowMs);
        this.movement = { from: to, to, startMs: nowMs, endMs: nowMs };
        this.floor = { is: 'mat' };
        return null;
      }
      case 'drag': {
        if (!this.onMat(hand.toXMm, hand.toYMm)) return 'that is off the mat';
        const from = this.pose(nowMs);
        this.move(from, { ...from, xMm: hand.toXMm, yMm: hand.toYMm }, nowMs, hand.seconds);
        this.floor = { is: 'mat' };
        return null;
      }
      case 'turn': {
        const from = this.pose(nowMs);
        this.move(
          from,
          { ...from, bearingDeg: from.bearingDeg + hand.deg },
          nowMs,
          Math.abs(hand.deg) / TURN_RATE,
        );
        return null;
      }
      case 'press':
      case 'release':
        this.pressed = hand.put === 'press';
        this.pressChangedMs = nowMs;
        return null;
      case 'front':
        this.frontMm = hand.mm;
        return null;
      case 'beacon':
        this.beaconDeg = hand.deg;
        return null;
      case 'room':
        this.roomLight = hand.light;
        return null;
      case 'height': {
        const floorSensor = this.build.fittings.find(({ mode }) =>
          ['light', 'ambient', 'colour', 'rgb'].includes(mode),
        );
        if (!floorSensor) return 'no floor sensor is fitted';
        this.raisedMm = hand.mm - floorSensor.heightMm;
        return null;
      }
    }
  }

  pose(nowMs: number): Pose {
    const { from, to } = this.movement;
    const share = this.share(nowMs);
    return {
      xMm: from.xMm + share * (to.xMm - from.xMm),
      yMm: from.yMm + share * (to.yMm - from.yMm),
      bearingDeg: from.bearingDeg + share * (to.bearingDeg - from.bearingDeg),
    };
  }

  /** Degrees turned since power-up, clockwise positive. */
  turnedDeg(nowMs: number): number {
    const { from, to } = this.movement;
    return this.turnedBefore + this.share(nowMs) * (to.bearingDeg - from.bearingDeg);
  }

  /** Rate of turning just now, degrees per second. */
  turnRate(nowMs: number): number {
    const { from, to, startMs, endMs } = this.movement;
    return nowMs < endMs ? ((to.bearingDeg - from.bearingDeg) * 1000) / (endMs - startMs) : 0;
  }

  sincePress(nowMs: number): number {
    return nowMs - this.pressChangedMs;
  }

  /** Degrees that the wheels have turned while the robot was pushed and turned on the floor. */
  wheelDegrees(nowMs: number): { left: number; right: number } {
    const { wheelDiameterMm, trackMm } = this.build;
    const rolled = wheelDegrees(this.rolledMm(nowMs), wheelDiameterMm);
    const turned = wheelDegrees(spotTurnTravelMm(this.turnedDeg(nowMs), trackMm), wheelDiameterMm);
    return { left: rolled + turned, right: rolled - turned };
  }

  private rolledMm(nowMs: number): number {
    const { from, to } = this.movement;
    return this.rolledBefore + this.share(nowMs) * Math.hypot(to.xMm - from.xMm, to.yMm - from.yMm);
  }

  private share(nowMs: number): number {
    const { startMs, endMs } = this.movement;
    return endMs <= startMs ? 1 : Math.min(1, Math.max(0, (nowMs - startMs) / (endMs - startMs)));
  }

  private move(from: Pose, to: Pose, nowMs: number, seconds: number): void {
    this.turnedBefore = this.turnedDeg(nowMs);
    this.rolledBefore = this.rolledMm(nowMs);
    this.movement = { from, to, startMs: nowMs, endMs: nowMs + 1000 * seconds };
  }

  private onMat(x: number, y: number): boolean {
    return x >= -200 && y >= -200 && x <= this.course.widthMm + 200 && y <= this.course.heightMm + 200;
  }
}
