import { formatNumber, formatQuantity } from '../quantity/index.ts';
import { fittingOn, sensorOf, type FittedSensor } from '../sensing/index.ts';
import {
  reactionOf,
  spotTurnRate,
  stoppingDistance,
  surelyMetSweepRate,
  surelySeenSpeed,
} from '../motion/index.ts';
import type { Finding } from '../script/index.ts';
import { unitOf } from '../editing/index.ts';
import { walkProgram } from '../script/index.ts';
import { finding, inSensorUnit, readingTest, testOf, type Rule } from './context.ts';
import { constants, numberOf } from './evaluate.ts';
import { goesOn, movesAtAll, percentOf, speedFix, speedMmPerS } from './motionOf.ts';
import { parts } from '../script/index.ts';
import { spinSpeed } from './spelledOut.ts';

/** Rule 9, stiction: so slow that the kit's wheels do not turn. */
export const tooSlowToTurn: Rule = (program, context) => {
  const dead = context.kit.drive.deadPercent ?? 0;
  const known = constants(program, context);
  const found: Finding[] = [];
  walkProgram(program, (step) => {
    const speeds =
      step.kind === 'wheels'
        ? [step.left, step.right]
        : (step.kind === 'drive' || step.kind === 'spin' || step.kind === 'steer' || step.kind === 'turn') &&
            step.speed
          ? [step.speed]
          : [];
    const asked = speeds.map((expr) => numberOf(expr, known));
    const slow = asked.find((percent) => percent !== null && percent !== 0 && Math.abs(percent) < dead);
    if (slow === undefined || slow === null) return;
    found.push(
      finding(
        step.at,
        'risk',
        'too slow',
        `${formatNumber(Math.abs(slow), 1)} % does not turn a wheel of this robot.`,
        `Below ${formatNumber(dead)} % its motors do not overcome their friction.`,
        `Ask for ${formatNumber(2 * dead)} % or more.`,
      ),
    );
  });
  return found;
};

/** Rule 9, lines: so fast that the line can pass between two samples. */
export const tooFastForLine: Rule = (program, context) => {
  const { kit, build, lineWidthMm } = context;
  if (lineWidthMm === null) return [];
  const light = program.sensors.find(({ kind }) => kind === 'light' || kind === 'colour' || kind === 'rgb');
  const fitting = light && fittingOn(build, light.socket);
  const spec: FittedSensor | undefined = fitting && sensorOf(kit, fitting);
  if (!spec || spec.faces === 'ahead') return [];
  const seen = surelySeenSpeed(lineWidthMm, spec.samplePeriodMs / 1000);
  const known = constants(program, context);
  const found: Finding[] = [];
  walkProgram(program, (step) => {
    const asked = percentOf(step, known);
    if (asked === null || !movesAtAll(step)) return;
    const percent = Math.min(100, Math.abs(asked));
    const speed = speedMmPerS(context, percent);
    if (speed <= seen) return;
    const gap = (speed * spec.samplePeriodMs) / 1000;
    const most = Math.floor((seen / speedMmPerS(context, 100)) * 100);
    found.push(
      finding(
        step.at,
        'risk',
        'too fast',
        `${formatNumber(percent, 0)} % can miss the line.`,
        `Between two looks the robot moves ${formatNumber(gap, 0)} mm, and the line is ${formatNumber(lineWidthMm, 0)} mm wide.`,
        `Up to ${most} % it is surely seen; slower stops sooner.`,
        asked > 0 ? speedFix(step, most) : undefined,
      ),
    );
  });
  return found;
};

/** Rule 9, walls: what it needs from seeing to standing against the distance at which it is told to stop. */
export const tooFastToStop: Rule = (program, context) => {
  const known = constants(program, context);
  const found: Finding[] = [];
  walkProgram(program, (step, _inside, siblings, index) => {
    const test = testOf(step);
    if (!test) return;
    const ends = step.kind === 'repeat' && step.how === 'while' ? ['>', '>='] : ['<', '<='];
    const next = siblings[index + 1];
    // The stop may be left to the end of the program: rule 1 speaks of that.
    if (next && next.kind !== 'stop') return;
    const drives = [...siblings.slice(0, index), ...(step.kind === 'repeat' ? step.body : [])].filter(
      movesAtAll,
    );
    const drive = drives.at(-1);
    const percent = drive && goesOn(drive) ? percentOf(drive, known) : null;
    if (!drive || percent === null || percent <= 0) return;
    for (const part of parts(test)) {
      const asked = readingTest(part, program);
      if (!asked || asked.sensor.kind !== 'distance' || !ends.includes(asked.op)) continue;
      const roomMm = numberOf(asked.other, known);
      const fitting = fittingOn(context.build, asked.sensor.socket);
      const spec = fitting && sensorOf(context.kit, { ...fitting, mode: 'distance' });
      if (roomMm === null || !spec || fitting.facing === 'down') continue;
      const reaction = reactionOf(context.kit, spec.samplePeriodMs);
      const { mostMm } = stoppingDistance(speedMmPerS(context, percent), reaction);
      if (mostMm < roomMm) continue;
      const unit = unitOf(context, asked.sensor);
      const most = Math.floor((percent * roomMm) / mostMm);
      const told = (mm: number) => formatQuantity(inSensorUnit(context, asked.sensor, mm), unit);
      found.push(
        finding(
          drive.at,
          'fault',
          'cannot stop',
          `At ${formatNumber(percent, 0)} % it needs up to ${told(mostMm)} from seeing to standing.`,
          `It is told to stop at ${told(roomMm)}: it hits before it stands.`,
          `Stop farther off, or drive at ${most} % or less.`,
          speedFix(drive, most),
        ),
      );
    }
  });
  return found;
};

/** Rule 9, sweeps: turning so fast that what is searched for lies between two looks. */
export const tooFastToFind: Rule = (program, context) => {
  const target = context.course?.target;
  if (!target) return [];
  const known = constants(program, context);
  const found: Finding[] = [];
  walkProgram(program, (step, _inside, siblings, index) => {
    if (step.kind !== 'spin') return;
    const percent = numberOf(spinSpeed(step), known);
    const next = siblings[index + 1];
    const test = next?.kind === 'waitUntil' ? next.test : null;
    const asked =
      test &&
      parts(test)
        .map((part) => readingTest(part, program))
        .find((one) => one?.sensor.kind === 'distance' || one?.sensor.kind === 'proximity');
    const fitting = asked && fittingOn(context.build, asked.sensor.socket);
    const spec = fitting && sensorOf(context.kit, fitting);
    if (percent === null || !spec) return;
    const rate = spotTurnRate(Math.abs(speedMmPerS(context, percent)), context.build.trackMm);
    const met = surelyMetSweepRate(target.widthMm, target.rangeMm, spec.samplePeriodMs / 1000);
    if (rate <= met) return;
    const most = Math.floor((Math.min(100, Math.abs(percent)) * met) / rate);
    found.push(
      finding(
        step.at,
        'risk',
        'sweeps past',
        `${formatNumber(Math.abs(percent), 0)} % can sweep past it between two looks.`,
        `It turns ${formatNumber((rate * spec.samplePeriodMs) / 1000, 0)}° between looks; at ${formatNumber(target.rangeMm / 10, 0)} cm the target covers ${formatNumber((met * spec.samplePeriodMs) / 1000, 0)}°.`,
        `Sweep at ${most} % or less.`,
        speedFix(step, most),
      ),
    );
  });
  return found;
};
