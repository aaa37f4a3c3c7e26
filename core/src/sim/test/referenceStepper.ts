import { fractionOnLine, surfaceAt, type Course } from '../../course/index.ts';
import { alongArc, lagStep, pointOnRobot, topSpeedMmPerS, type Pose } from '../../motion/index.ts';
import { compile } from '../compile.ts';
import type { Machine } from '../machine.ts';
import { quantise, scatterAt } from '../lightModel.ts';
import { Noise } from '../random.ts';
import type { RunSetup } from '../setup.ts';

/** Share of a course's reflectance under a round spot: exact for one stripe across the way, else by fine sampling. */
export function plainLight(course: Course, x: number, y: number, radius: number): number {
  const [mark] = course.marks;
  if (course.marks.length === 1 && mark?.kind === 'stripe' && mark.from.yMm === mark.to.yMm) {
    const share = fractionOnLine(y - mark.from.yMm, mark.widthMm, radius);
    return share * mark.surface.reflectance + (1 - share) * course.base.reflectance;
  }
  let [sum, n] = [0, 0];
  const fine = 12;
  for (let i = 0; i < fine; i++) {
    for (let j = 0; j < fine; j++) {
      const [dx, dy] = [((i + 0.5) / fine - 0.5) * 2 * radius, ((j + 0.5) / fine - 0.5) * 2 * radius];
      if (dx * dx + dy * dy > radius * radius) continue;
      sum += surfaceAt(course, x + dx, y + dy).reflectance;
      n++;
    }
  }
  return sum / n;
}

/**
 * The simulator written plainly: every `dtMs` it looks at everything, with the textbook functions and no raster.
 * Slow and obviously right; the fast kernel must agree with it. Gives the pose each 10 ms and at the end.
 */
export function referenceRun(
  setup: RunSetup,
  dtMs = 1,
): { poses: Pose[]; readings: number[][]; end: Pose; atMs: number } {
  const { robot, circumstances, course, timeLimitMs } = setup;
  const noise = new Noise(circumstances.seed);
  const { drive } = robot;
  const lights = robot.sensors.filter((sensor) => sensor.kind === 'light');
  const top = topSpeedMmPerS(drive.topDegPerS, robot.wheelDiameterMm);
  let pose = circumstances.start;
  let [vLeft, vRight, goalLeft, goalRight, tau] = [0, 0, 0, 0, drive.tauDriveS];
  let [leftMm, rightMm, pc, over] = [0, 0, 0, -1];
  const pending: { atMs: number; left: number; right: number; manner: string }[] = [];
  const readings = new Float64Array(lights.length);
  const sockets = Object.fromEntries(lights.map((l, i) => [l.socket, i]));
  const code = compile(setup.program, { sockets, thresholds: setup.thresholds });
  // Only what compiled steps ask of a kernel.
  const machine = {
    timeMs: 0,
    fresh: true,
    readings,
    values: new Float64Array(code.valueCount),
    slots: new Float64Array(code.slotCount),
    mmPerDeg: (Math.PI * robot.wheelDiameterMm) / 360,
    leftDeg: () => Math.floor(leftMm / ((Math.PI * robot.wheelDiameterMm) / 360)),
    rightDeg: () => Math.floor(rightMm / ((Math.PI * robot.wheelDiameterMm) / 360)),
    goneLeftDeg: () => Math.floor(leftMm / ((Math.PI * robot.wheelDiameterMm) / 360)),
    goneRightDeg: () => Math.floor(rightMm / ((Math.PI * robot.wheelDiameterMm) / 360)),
    command: (left: number, right: number, manner: string) => {
      const last = pending.at(-1) ?? current;
      if (last.left === left && last.right === right && last.manner === manner) return;
      pending.push({ atMs: machine.timeMs + drive.commandDelayMs, left, right, manner });
    },
    show: () => {},
  };
  let current = { left: 0, right: 0, manner: 'drive' };
  const sample = (i: number) => {
    const light = lights[i]!;
    const at = pointOnRobot(pose, light.aheadMm, light.rightMm);
    const { model } = light;
    const clean =
      100 * model.gain * plainLight(course, at.xMm, at.yMm, model.footprintRadiusMm) +
      model.leak +
      circumstances.lightShift;
    readings[i] = quantise(clean + scatterAt(model, clean) * noise.normal(), light);
  };
  const nextSample = lights.map((light, i) => {
    sample(i);
    return 1 + Math.floor(noise.uniform() * light.samplePeriodMs);
  });
  code.begin(machine as unknown as Machine);
  const poses: Pose[] = [];
  const rows: number[][] = [];
  let now = 0;
  for (; now <= timeLimitMs; now = Number((now + dtMs).toFixed(6))) {
    const whole = Number.isInteger(now);
    machine.timeMs = now;
    while (pending.length > 0 && pending[0]!.atMs <= now) {
      current = pending.shift()!;
      const clamp = (v: number) => Math.min(100, Math.max(-100, v));
      goalLeft = (clamp(current.left) / 100) * top * (1 + circumstances.mismatch / 2);
      goalRight = (clamp(current.right) / 100) * top * (1 - circumstances.mismatch / 2);
      tau =
        current.manner === 'coast'
          ? drive.tauCoastS
          : current.left === 0 && current.right === 0
            ? drive.tauBrakeS
            : drive.tauDriveS;
    }
    if (whole) {
      lights.forEach((light, i) => {
        if (nextSample[i]! <= now) {
          sample(i);
          nextSample[i]! += light.samplePeriodMs;
        }
      });
      if (now % robot.stepTimeMs === 0 && over < 0) {
        const next = code.ops[pc]!(machine as unknown as Machine);
        machine.fresh = next !== pc;
        if (next >= 0) pc = next;
        else {
          over = now;
          const end = robot.atProgramEnd;
          pending.push({
            atMs: now + (end.kind === 'roll' ? end.forMs : drive.commandDelayMs),
            left: 0,
            right: 0,
            manner: 'brake',
          });
        }
      }
      if (now % 10 === 0) {
        poses.push(pose);
        rows.push([...readings]);
      }
    }
    const idle = goalLeft === 0 && goalRight === 0 && pending.every((c) => c.left === 0 && c.right === 0);
    if (over >= 0 && idle && Math.abs(vLeft) < 1e-6 && Math.abs(vRight) < 1e-6) break;
    const [left, right] = [
      lagStep(vLeft, goalLeft, tau, dtMs / 1000, drive.accelLimitMmPerS2),
      lagStep(vRight, goalRight, tau, dtMs / 1000, drive.accelLimitMmPerS2),
    ];
    [vLeft, vRight, leftMm, rightMm] = [left.v, right.v, leftMm + left.d, rightMm + right.d];
    pose = alongArc(pose, left.d, right.d, robot.trackMm);
  }
  return { poses, readings: rows, end: pose, atMs: now };
}
