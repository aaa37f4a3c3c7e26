/* eslint-disable no-restricted-properties -- a reference of its own, with the engine’s own functions */
import { alongArc, lagStep, topSpeedMmPerS, type Pose } from '../../motion/index.ts';
import { inBase } from '../../sensing/index.ts';
import { compile } from '../compile.ts';
import { Outline } from '../contact.ts';
import type { Machine } from '../machine.ts';
import type { RunSetup } from '../setup.ts';
import { World } from '../world.ts';

/** Rays of a cone's fan: one each fifth of a degree. */
const RAYS = 141;
const HALF = (14 * Math.PI) / 180;

/** The nearest thing that any ray of a fan meets squarely enough to be heard, mm; NaN for none. */
export function fan(world: World, x: number, y: number, bearing: number): number {
  const { sides, rounds } = world;
  const limit = Math.cos(2 * HALF);
  const [axisS, axisC] = [Math.sin(bearing), Math.cos(bearing)];
  let best = Infinity;
  for (let k = 0; k < RAYS; k++) {
    const angle = bearing + HALF * ((2 * k) / (RAYS - 1) - 1);
    const [s, c] = [Math.sin(angle), Math.cos(angle)];
    for (let i = 0; i < sides.length; i += 4) {
      const [wx, wy] = [sides[i + 2]! - sides[i]!, sides[i + 3]! - sides[i + 1]!];
      if (Math.abs(wx * axisC - wy * axisS) / Math.hypot(wx, wy) < limit) continue;
      const [ex, ey] = [sides[i]! - x, sides[i + 1]! - y];
      const cross = s * wy - c * wx;
      const [t, u] = [(ex * wy - ey * wx) / cross, (ex * c - ey * s) / cross];
      if (t > 0 && u >= 0 && u <= 1 && t < best) best = t;
    }
    for (let i = 0; i < rounds.length; i += 3) {
      const [ex, ey, r] = [rounds[i]! - x, rounds[i + 1]! - y, rounds[i + 2]!];
      const [along, off] = [ex * s + ey * c, Math.abs(ex * c - ey * s)];
      if (along > 0 && off < r) best = Math.min(best, along - Math.sqrt(r * r - off * off));
    }
  }
  return best === Infinity ? NaN : best;
}

/**
 * A robot among walls, written plainly: every millisecond it moves by the textbook functions, asks every wall whether it is
 * touched, and looks along a fan of rays for each distance sensor whenever it looks. No noise. Gives where it ends.
 */
export function plainWorldRun(setup: RunSetup): { end: Pose; atMs: number } {
  const { robot, circumstances, course, timeLimitMs } = setup;
  const world = new World(course);
  const outline = new Outline(robot);
  const { drive } = robot;
  const top = topSpeedMmPerS(drive.topDegPerS, robot.wheelDiameterMm);
  const mmPerDeg = (Math.PI * robot.wheelDiameterMm) / 360;
  let pose = circumstances.start;
  let [vLeft, vRight, goalLeft, goalRight, tau] = [0, 0, 0, 0, drive.tauDriveS];
  let [leftMm, rightMm, pc, over] = [0, 0, 0, -1];
  const pending: { atMs: number; left: number; right: number }[] = [];
  const readings = new Float64Array(robot.sensors.length);
  const code = compile(setup.program, {
    sockets: Object.fromEntries(robot.sensors.map(({ socket }, i) => [socket, i])),
    thresholds: setup.thresholds,
    noEcho: Object.fromEntries(robot.sensors.map(({ socket }) => [socket, 2550])),
  });
  let asked = { left: 0, right: 0 };
  const machine = {
    timeMs: 0,
    fresh: true,
    readings,
    values: new Float64Array(code.valueCount),
    slots: new Float64Array(code.slotCount),
    stack: [] as number[],
    mmPerDeg,
    wheelPerTurn: robot.trackMm / robot.wheelDiameterMm,
    leftDeg: () => Math.floor(leftMm / mmPerDeg),
    rightDeg: () => Math.floor(rightMm / mmPerDeg),
    goneLeftDeg: () => Math.floor(leftMm / mmPerDeg),
    goneRightDeg: () => Math.floor(rightMm / mmPerDeg),
    command: (left: number, right: number) => {
      if (left === asked.left && right === asked.right) return;
      asked = { left, right };
      pending.push({ atMs: machine.timeMs + drive.commandDelayMs, left, right });
    },
    show: () => {},
  };
  code.begin(machine as unknown as Machine);
  let now = 0;
  for (; now <= timeLimitMs; now++) {
    machine.timeMs = now;
    while (pending.length > 0 && pending[0]!.atMs <= now) {
      const { left, right } = pending.shift()!;
      const clamp = (v: number) => Math.min(100, Math.max(-100, v));
      [goalLeft, goalRight] = [(clamp(left) / 100) * top, (clamp(right) / 100) * top];
      tau = left === 0 && right === 0 ? drive.tauBrakeS : drive.tauDriveS;
    }
    const b = (pose.bearingDeg * Math.PI) / 180;
    robot.sensors.forEach((sensor, i) => {
      // Rays only when the sensor looks.
      if (sensor.kind !== 'distance' || now % sensor.samplePeriodMs !== 0) return;
      const [s, c] = [Math.sin(b), Math.cos(b)];
      const [x, y] = [
        pose.xMm + sensor.aheadMm * s + sensor.rightMm * c,
        pose.yMm + sensor.aheadMm * c - sensor.rightMm * s,
      ];
      const mm = fan(world, x, y, b + ((sensor.facingDeg ?? 0) * Math.PI) / 180);
      const most = inBase(sensor.max, sensor.unit);
      readings[i] = mm >= inBase(sensor.min, sensor.unit) && mm <= most ? mm : NaN;
    });
    if (now % robot.stepTimeMs === 0 && over < 0) {
      const next = code.ops[pc]!(machine as unknown as Machine);
      machine.fresh = next !== pc;
      if (next >= 0) pc = next;
      else {
        over = now;
        pending.push({ atMs: now + drive.commandDelayMs, left: 0, right: 0 });
      }
    }
    if (over >= 0 && now > over + 1500) break;
    const [left, right] = [
      lagStep(vLeft, goalLeft, tau, 0.001, drive.accelLimitMmPerS2),
      lagStep(vRight, goalRight, tau, 0.001, drive.accelLimitMmPerS2),
    ];
    [vLeft, vRight, leftMm, rightMm] = [left.v, right.v, leftMm + left.d, rightMm + right.d];
    const was = { x: pose.xMm, y: pose.yMm, theta: (pose.bearingDeg * Math.PI) / 180 };
    pose = alongArc(pose, left.d, right.d, robot.trackMm);
    const turned = (pose.bearingDeg * Math.PI) / 180;
    world.nearest(pose.xMm, pose.yMm, Infinity);
    outline.push(world, pose.xMm, pose.yMm, turned, false, was);
    pose = {
      xMm: pose.xMm + outline.dx,
      yMm: pose.yMm + outline.dy,
      bearingDeg: pose.bearingDeg + (outline.turn * 180) / Math.PI,
    };
  }
  return { end: pose, atMs: now };
}
