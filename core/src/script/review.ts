import { formatNumber, formatQuantity } from '../quantity/index.ts';
import {
  bySocket,
  fittingOn,
  sameSocket,
  canMeasure,
  partName,
  sensorOf,
  sensorWords,
  type Kit,
  type RobotBuild,
} from '../sensing/index.ts';
import { surelySeenSpeed, topSpeedMmPerS } from '../motion/index.ts';
import type { Expr, Program, Step } from './ast.ts';
import type { Finding, Place } from './findings.ts';
import { expressionsOf, parts, walk } from './walk.ts';

/** What the review knows beside the script. Whatever is missing, its rules keep silent about. */
export interface ReviewContext {
  kit: Kit;
  build: RobotBuild;
  /** Decided thresholds by socket, in the sensor's unit. */
  thresholds: Record<string, number>;
  /** Means of the two surfaces read on a socket, lower first, with their names. */
  surfaces: Record<string, { low: { name: string; mean: number }; high: { name: string; mean: number } }>;
  /** Width of the narrowest line on the course, in mm. */
  lineWidthMm: number | null;
}

const finding = (
  place: Place,
  grade: Finding['grade'],
  rule: string,
  says: string,
  why: string,
  mend: string,
): Finding => ({
  ...place,
  grade,
  rule,
  says,
  why,
  mend,
});

const moves = (step: Step) => (step.kind === 'drive' || step.kind === 'wheels') && step.until === null;
const stops = (step: Step) =>
  step.kind === 'stop' || ((step.kind === 'drive' || step.kind === 'wheels') && step.until !== null);

/** Rule 1: the motors still turn when the last step is done. */
function rollsOn(program: Program, { kit }: ReviewContext): Finding[] {
  let moving: Step | null = null;
  const last = program.steps.at(-1);
  for (const step of program.steps) {
    if (moves(step)) moving = step;
    else if (stops(step)) moving = null;
    else if (step.kind === 'repeat' || step.kind === 'if') {
      const inside: Step[] = [];
      walk([step], (inner) => inside.push(inner));
      const lastMove = inside.filter((inner) => moves(inner) || stops(inner)).at(-1);
      if (lastMove) moving = moves(lastMove) ? lastMove : null;
      if (step.kind === 'repeat' && step.how === 'forever' && !inside.some((s) => s.kind === 'leave'))
        return [];
    }
  }
  if (!moving || !last) return [];
  const end = kit.atProgramEnd;
  const rolls = end.kind === 'roll';
  return [
    {
      ...finding(
        last.at,
        rolls ? 'fault' : 'note',
        'no stop',
        'No step says stop.',
        rolls
          ? `After line ${program.lastLine} nothing is left to do, and this kit rolls on for ${formatNumber(end.forMs / 1000)} s.`
          : 'This kit stops its motors when the program ends; another might roll on.',
        'Three things happen: go, see, stop. Write the third.',
      ),
      fix: { label: `Add “stop” after line ${program.lastLine}`, afterLine: program.lastLine, text: 'stop' },
    },
  ];
}

/** Rule 2: a sensor decision outside any repeat is taken once, when the program starts. */
function decidedOnce(program: Program): Finding[] {
  const found: Finding[] = [];
  walk(program.steps, (step, inside) => {
    if (step.kind !== 'if' || inside.some((outer) => outer.kind === 'repeat')) return;
    if (!expressionsOf(step).some((expr) => parts(expr).some((part) => part.kind === 'sensor'))) return;
    const [before] = program.steps;
    if (before && before !== step && before.kind === 'waitUntil') return;
    found.push(
      finding(
        step.at,
        'risk',
        'decided once',
        'This is asked once and never again.',
        'It stands outside any repeat, so the robot decides at that moment only.',
        'Put it inside a repeat, or wait until it is so.',
      ),
    );
  });
  return found;
}

/** Rule 6: what the script believes against what is plugged in. */
function wiring(program: Program, { kit, build }: ReviewContext): Finding[] {
  const used = new Set<number>();
  const note = (expr: Expr) => parts(expr).forEach((part) => part.kind === 'sensor' && used.add(part.index));
  walk(program.steps, (step) => expressionsOf(step).forEach(note));
  program.values.forEach((value) => value.initial && note(value.initial));
  return program.sensors.flatMap((sensor, index): Finding[] => {
    const there = fittingOn(build, sensor.socket);
    const socket = kit.sockets.find((s) => sameSocket(s.name, sensor.socket));
    if (!socket || socket.takes !== 'sensor') {
      const list = kit.sockets.filter((s) => s.takes === 'sensor').map((s) => s.name);
      return [
        finding(
          sensor.at,
          'fault',
          'wiring',
          `${kit.name} has no sensor socket ${sensor.socket}.`,
          'The program would read nothing.',
          `Its sockets are ${list.join(', ')}.`,
        ),
      ];
    }
    const able = there && canMeasure(kit, there.sensorId, sensor.kind);
    if (!able) {
      const holds = there ? `a ${partName(kit, there.sensorId)}` : 'nothing';
      return [
        finding(
          sensor.at,
          'fault',
          'wiring',
          `${sensor.socket} has ${holds}, not a ${sensorWords[sensor.kind]} sensor.`,
          `“${sensor.name}” would never give a reading.`,
          'Move the plug, or change the socket in this line.',
        ),
      ];
    }
    if (!used.has(index)) {
      return [
        finding(
          sensor.at,
          'note',
          'unused sensor',
          `“${sensor.name}” is declared and never used.`,
          'Reading a sensor does nothing by itself.',
          'Use it in a wait or a test, or remove the line.',
        ),
      ];
    }
    return [];
  });
}

/** Rules 3 and 7: `=` on a reading, and a number that leaves both surfaces on one side. */
function comparisons(program: Program, context: ReviewContext): Finding[] {
  const found: Finding[] = [];
  const look = (expr: Expr) => {
    if (expr.kind !== 'compare') return;
    const [sensorSide, other] =
      expr.left.kind === 'sensor' ? [expr.left, expr.right] : [expr.right, expr.left];
    if (sensorSide.kind !== 'sensor') return;
    const declared = program.sensors[sensorSide.index]!;
    if (expr.op === '=' || expr.op === '<>') {
      found.push(
        finding(
          expr.at,
          'risk',
          'equals',
          `“${declared.name} ${expr.op} …” waits for one exact number.`,
          'Readings jump from one value to another and step over it.',
          'Use < or > instead.',
        ),
      );
    }
    const decided = bySocket(context.thresholds, declared.socket);
    if (other.kind === 'threshold' && decided === undefined) {
      found.push(
        finding(
          other.at,
          'fault',
          'no threshold',
          `No threshold is decided for ${declared.socket} yet.`,
          'The program has no number to compare with.',
          'Go to Decide and choose one.',
        ),
      );
    }
    const value = other.kind === 'quantity' ? other.value : other.kind === 'threshold' ? decided : undefined;
    const pair = bySocket(context.surfaces, declared.socket);
    if (value === undefined) return;
    const unit = declared.kind === 'light' || declared.kind === 'ambient' ? '%' : '';
    if (pair && (value <= pair.low.mean || value >= pair.high.mean)) {
      const side = value <= pair.low.mean ? 'below' : 'above';
      found.push(
        finding(
          expr.at,
          'fault',
          'same side',
          `${formatQuantity(value, unit)} leaves both surfaces on one side.`,
          `You read ${formatNumber(pair.low.mean)} for the ${pair.low.name} and ${formatNumber(pair.high.mean)} for the ${pair.high.name}; both lie on the same side of a number ${side} them.`,
          'Choose a value between the two.',
        ),
      );
    } else if (other.kind === 'quantity' && decided !== undefined && Math.abs(decided - value) > 1e-9) {
      found.push(
        finding(
          other.at,
          'risk',
          'typed number',
          `${formatQuantity(value, unit)} is not the threshold you decided, ${formatQuantity(decided, unit)}.`,
          'The decided one was chosen from your own readings.',
          'Write “threshold” instead of the number.',
        ),
      );
    }
  };
  walk(program.steps, (step) => expressionsOf(step).forEach((expr) => parts(expr).forEach(look)));
  return found;
}

/** Rule 9: so fast that the line can pass between two samples. */
function tooFast(program: Program, { kit, build, lineWidthMm }: ReviewContext): Finding[] {
  if (lineWidthMm === null) return [];
  const light = program.sensors.find((sensor) => sensor.kind === 'light');
  const fitting = light && fittingOn(build, light.socket);
  const spec = fitting && sensorOf(kit, fitting);
  if (!spec) return [];
  const top = topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm);
  const seen = surelySeenSpeed(lineWidthMm, spec.samplePeriodMs / 1000);
  const found: Finding[] = [];
  walk(program.steps, (step) => {
    if (step.kind !== 'drive' || step.speed.kind !== 'quantity') return;
    const percent = Math.min(100, Math.abs(step.speed.value));
    const speed = (top * percent) / 100;
    if (speed <= seen) return;
    const gap = (speed * spec.samplePeriodMs) / 1000;
    found.push(
      finding(
        step.at,
        'risk',
        'too fast',
        `${formatNumber(percent, 0)} % can miss the line.`,
        `Between two looks the robot moves ${formatNumber(gap, 0)} mm, and the line is ${formatNumber(lineWidthMm, 0)} mm wide.`,
        `Up to ${Math.floor((100 * seen) / top)} % it is surely seen; slower stops sooner.`,
      ),
    );
  });
  return found;
}

const order = { fault: 0, risk: 1, note: 2 };

/**
 * Plain-words findings about a script that can be read: what will happen, why, and what usually mends it.
 * Faults first, then by line. Syntax faults of the program itself come along.
 */
export function review(program: Program, context: ReviewContext): Finding[] {
  const found = [...program.findings];
  if (program.steps.length === 0 && found.length === 0) {
    found.push(
      finding(
        { line: 1, column: 1, length: 1 },
        'fault',
        'empty',
        'There is no step yet.',
        'The robot would do nothing.',
        'Start with a step such as: drive 30 %.',
      ),
    );
  }
  found.push(...wiring(program, context), ...comparisons(program, context), ...decidedOnce(program));
  if (program.findings.length === 0) found.push(...rollsOn(program, context));
  found.push(...tooFast(program, context));
  return found.sort((a, b) => order[a.grade] - order[b.grade] || a.line - b.line || a.column - b.column);
}
