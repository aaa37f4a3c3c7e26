import { formatNumber, formatQuantity } from '../quantity/index.ts';
import { bySocket, fromBaseTo, type ReadingUnit } from '../sensing/index.ts';
import { cutOf, MISREADS_POOR, sensedSd, upperTail } from '../threshold/index.ts';
import type { Expr, Program, SensorDeclaration } from '../script/index.ts';
import type { Finding, Fix, Place } from '../script/index.ts';
import { partBehind, unitOf } from '../editing/index.ts';
import { parts, programParts } from '../script/index.ts';
import {
  decidedFor,
  finding,
  inSensorUnit,
  readingTest,
  wordsAt,
  type ReadingTest,
  type ReviewContext,
  type Rule,
} from './context.ts';
import { constants, numberOf } from './evaluate.ts';

type Compare = Extract<Expr, { kind: 'compare' }>;

/** Something worked out once for a program, however many rules ask for it. */
function once<T>(work: (program: Program, context: ReviewContext) => T): typeof work {
  const kept = new WeakMap<Program, { context: ReviewContext; result: T }>();
  return (program, context) => {
    const before = kept.get(program);
    if (before?.context === context) return before.result;
    const result = work(program, context);
    kept.set(program, { context, result });
    return result;
  };
}

/** Every comparison of a program. */
const compares = once((program: Program): Compare[] =>
  programParts(program).filter((part) => part.kind === 'compare'),
);

/** Rule 3: `=` on a reading, a heading or a wheel count, which move in jumps. */
export const equals: Rule = (program, context) =>
  compares(program, context).flatMap((expr): Finding[] => {
    if (expr.op !== '=' && expr.op !== '<>') return [];
    const moves = [expr.left, expr.right].find((side) => jumps(side, program));
    if (!moves) return [];
    const name = wordsAt(program, moves.at);
    const test = readingTest(expr, program);
    const value = numberOf(test ? test.other : expr.right, constants(program, context));
    const pair = test && bySocket(context.surfaces, test.sensor.socket);
    const counting = moves.kind === 'builtin' || test?.sensor.kind === 'heading';
    const lower = pair && value !== null && value <= (pair.low.mean + pair.high.mean) / 2;
    const better = expr.op === '=' ? (counting ? '>=' : pair ? (lower ? '<' : '>') : null) : null;
    return [
      finding(
        expr.at,
        'risk',
        'equals',
        expr.op === '='
          ? `“${name} = …” waits for one exact number.`
          : `“${name} <> …” is true but for one exact number.`,
        'Readings jump from one value to another and step over it.',
        counting ? 'Use >= instead.' : 'Use < or > instead.',
        better && expr.left === moves ? signFix(program, expr, better) : undefined,
      ),
    ];
  });

const jumps = (side: Expr, program: Program): boolean =>
  (side.kind === 'sensor' && !['touch', 'colour'].includes(program.sensors[side.index]!.kind)) ||
  (side.kind === 'builtin' && side.name !== 'battery') ||
  side.kind === 'raw' ||
  side.kind === 'item';

/** Puts another sign between the two sides of a comparison. */
function signFix(program: Program, expr: Compare, sign: string): Fix | undefined {
  const words = wordsAt(program, expr.at);
  const from = words.indexOf(expr.op, expr.left.at.column - expr.at.column + expr.left.at.length);
  if (from < 0) return undefined;
  return {
    label: `Write “${sign}” instead`,
    edit: {
      kind: 'replace',
      at: { line: expr.at.line, column: expr.at.column + from, length: expr.op.length },
      text: sign,
    },
  };
}

/** The robot's part and unit behind each sensor of a program, looked up once. */
const behind = once((program: Program, context: ReviewContext) =>
  program.sensors.map((sensor) => ({
    part: partBehind(context, sensor),
    unit: unitOf(context, sensor),
  })),
);

/** A level that a reading is held against, in the sensor's own unit. */
export interface Level extends ReadingTest {
  /** The comparison itself. */
  expr: Expr;
  value: number;
  unit: ReadingUnit;
  /** Typed into the script rather than taken from the decided threshold. */
  typed: boolean;
}

/** Every comparison of a reading with a level that is known. */
export const levels = once((program: Program, context: ReviewContext): Level[] => {
  const known = constants(program, context);
  return compares(program, context).flatMap((expr): Level[] => {
    const test = readingTest(expr, program);
    if (!test || ['touch', 'colour', 'heading', 'spin'].includes(test.sensor.kind)) return [];
    const base = numberOf(test.other, known);
    if (base === null) return [];
    const { unit } = behind(program, context)[test.index]!;
    const value = fromBaseTo(base, unit);
    return [
      {
        ...test,
        expr,
        value,
        unit,
        typed: !takesThreshold(test.other, program),
      },
    ];
  });
});

/** Whether a level comes, directly or through a named value, from the decided threshold. */
const takesThreshold = (expr: Expr, program: Program): boolean =>
  parts(expr).some((part) => {
    if (part.kind === 'threshold') return true;
    const initial = part.kind === 'value' ? program.values[part.index]!.initial : null;
    return initial !== null && takesThreshold(initial, program);
  });

/** The word `threshold` where none is decided yet. */
export const noThreshold: Rule = (program, context) => {
  const found: Finding[] = [];
  const look = (expr: Expr) => {
    if (expr.kind !== 'threshold' || expr.sensor < 0) return;
    const sensor = program.sensors[expr.sensor]!;
    if (decidedFor(context, sensor) !== undefined) return;
    found.push(
      finding(
        expr.at,
        'fault',
        'no threshold',
        `No threshold is decided for ${sensor.socket} yet.`,
        'The program has no number to compare with.',
        'Go to Decide and choose one.',
      ),
    );
  };
  programParts(program).forEach(look);
  program.values.forEach(({ initial }) => initial && parts(initial).forEach(look));
  return found;
};

/** Rules 7 and 8: a level out of range, on one side of both surfaces, or closer to one than its noise allows. */
export const wrongLevel: Rule = (program, context) =>
  levels(program, context).flatMap((level): Finding[] => {
    const { sensor, value, unit, at } = level;
    const { part } = behind(program, context)[level.index]!;
    const never =
      part && ((level.op === '<' && value <= part.min) || (level.op === '>' && value >= part.max));
    if (part && sensor.kind !== 'distance' && never)
      return [neverGiven(sensor, value, unit, part, at, level.op)];
    if (part && unit === '%' && value > 0 && value <= 1 && part.max > 1) return [fraction(sensor, value, at)];
    if (part && (value < part.min || value > part.max)) {
      return [
        finding(
          at,
          'fault',
          'out of range',
          `${formatQuantity(value, unit)} is a number that “${sensor.name}” never gives.`,
          `It reads from ${formatNumber(part.min)} to ${formatQuantity(part.max, unit)}.`,
          'Choose a value within that range.',
        ),
      ];
    }
    const pair = bySocket(context.surfaces, sensor.socket);
    if (!pair) return [];
    const { low, high } = pair;
    const fix = thresholdFix(program, context, level);
    if (value <= low.mean || value >= high.mean) {
      const side = value <= low.mean ? 'below' : 'above';
      return [
        finding(
          at,
          'fault',
          'same side',
          `${formatQuantity(value, unit)} leaves both surfaces on one side.`,
          `You read ${formatNumber(low.mean)} for the ${low.name} and ${formatNumber(high.mean)} for the ${high.name}; both lie on the same side of a number ${side} them.`,
          'Choose a value between the two.',
          fix,
        ),
      ];
    }
    // “Less than” and “at least” part what is below the value from the rest, the other two what is above it.
    const step = part?.step ?? 1;
    const cut = cutOf(value, step, level.op === '<' || level.op === '>=' ? 'low' : 'high');
    const wrong = (mean: number, sd = 0) =>
      sd > 0 ? 1000 * upperTail(Math.abs(cut - mean) / sensedSd(sd, step)) : 0;
    const [onLow, onHigh] = [wrong(low.mean, low.sd), wrong(high.mean, high.sd)];
    const [worst, surface] = onLow > onHigh ? [onLow, low] : [onHigh, high];
    if (worst < MISREADS_POOR) return [];
    return [
      finding(
        at,
        'risk',
        'in the noise',
        `Of a thousand looks at the ${surface.name}, about ${formatNumber(worst, 0)} will be taken for the ${surface === low ? high.name : low.name}.`,
        `${formatQuantity(value, unit)} is only ${formatNumber(Math.abs(value - surface.mean))} from its mean of ${formatNumber(surface.mean)}, and it scatters by ${formatNumber(surface.sd)}.`,
        'Move the value towards the other surface.',
        fix,
      ),
    ];
  });

/** A level that no reading lies beyond. */
const neverGiven = (
  sensor: SensorDeclaration,
  value: number,
  unit: ReadingUnit,
  { min, max }: { min: number; max: number },
  at: Place,
  op: Level['op'],
): Finding =>
  finding(
    at,
    'fault',
    'out of range',
    `“${sensor.name}” is never ${op === '<' ? 'less' : 'more'} than ${formatQuantity(value, unit)}.`,
    `It reads from ${formatNumber(min)} to ${formatQuantity(max, unit)}.`,
    'Choose a value within that range.',
  );

const fraction = (sensor: SensorDeclaration, value: number, at: Place): Finding =>
  finding(
    at,
    'fault',
    'out of range',
    `${formatNumber(value)} is a fraction, and “${sensor.name}” reads up to 100.`,
    'A percentage is written as 40 %, not as 0.4.',
    `Write ${formatNumber(100 * value)} %.`,
  );

/** Rule 7, changes: a fall or rise that is more than lies between the surfaces, or than the sensor has. */
export const tooLargeChange: Rule = (program, context) =>
  programParts(program).flatMap((part): Finding[] => {
    if (part.kind !== 'change' || part.operand.kind !== 'sensor') return [];
    const sensor = program.sensors[part.operand.index]!;
    const by = numberOf(part.by, constants(program, context));
    if (by === null) return [];
    const value = Math.abs(inSensorUnit(context, sensor, by));
    const unit = unitOf(context, sensor);
    const pair = bySocket(context.surfaces, sensor.socket);
    const spec = partBehind(context, sensor);
    const most = pair
      ? pair.high.mean - pair.low.mean
      : spec && sensor.kind !== 'heading'
        ? spec.max - spec.min
        : Infinity;
    if (value <= most) return [];
    return [
      finding(
        part.at,
        'fault',
        pair ? 'same side' : 'out of range',
        `“${sensor.name}” never ${part.how === 'changes' ? 'changes' : part.how} by ${formatQuantity(value, unit)}.`,
        pair
          ? `Between the ${pair.low.name} and the ${pair.high.name} there are only ${formatQuantity(most, unit)}.`
          : `It reads from ${formatNumber(spec!.min)} to ${formatQuantity(spec!.max, unit)}.`,
        `Ask for about half of that: ${formatQuantity(Math.round(most / 2), unit)}.`,
      ),
    ];
  });

/** Rule 7, states: a number that a touch sensor never gives, a colour that this part cannot name. */
export const unknownState: Rule = (program, context) =>
  programParts(program).flatMap((part): Finding[] => {
    if (part.kind === 'is' && part.asks.of === 'colour') {
      const sensor = program.sensors[part.sensor]!;
      const names = partBehind(context, sensor)?.colours;
      const { what } = part.asks;
      if (!names || names.some((name) => name.toLowerCase() === what)) return [];
      return [
        finding(
          part.at,
          'fault',
          'out of range',
          `“${sensor.name}” never says ${what}.`,
          'This part does not know that colour.',
          `It tells ${names.join(', ')}.`,
        ),
      ];
    }
    if (part.kind !== 'compare') return [];
    const test = readingTest(part, program);
    if (test?.sensor.kind !== 'touch') return [];
    const spec = partBehind(context, test.sensor);
    const value = numberOf(test.other, constants(program, context));
    if (!spec || value === null) return [];
    const { min, max } = spec;
    const holds = (reading: number) =>
      ({
        '<': reading < value,
        '<=': reading <= value,
        '>': reading > value,
        '>=': reading >= value,
        '=': reading === value,
        '<>': reading !== value,
      })[test.op];
    if (holds(min) !== holds(max)) return [];
    return [
      finding(
        part.at,
        'fault',
        'out of range',
        holds(min)
          ? `This is so whether “${test.sensor.name}” is pressed or not.`
          : `“${test.sensor.name}” never gives ${formatNumber(value)}.`,
        `It reads ${formatNumber(min)} when released and ${formatNumber(max)} when pressed.`,
        `Ask: ${test.sensor.name} is pressed.`,
      ),
    ];
  });

/** Writes `threshold` where a number was typed, when a threshold is decided and stands between the surfaces. */
function thresholdFix(
  program: Program,
  context: ReviewContext,
  { sensor, index, other, typed }: Level,
): Fix | undefined {
  const decided = decidedFor(context, sensor);
  const pair = bySocket(context.surfaces, sensor.socket);
  if (!typed || decided === undefined || (pair && (decided <= pair.low.mean || decided >= pair.high.mean)))
    return undefined;
  if (other.kind !== 'quantity' && other.kind !== 'negative') return undefined;
  const alone = program.sensors[index] === sensor;
  return {
    label: 'Write “threshold” instead',
    edit: { kind: 'replace', at: other.at, text: alone ? 'threshold' : `threshold of ${sensor.name}` },
  };
}

const rising = (op: Level['op']) => op === '>' || op === '>=';

/** Half of rule 15: a number typed where the team's decided threshold should stand. */
export const typedNumber: Rule = (program, context) =>
  levels(program, context).flatMap((level): Finding[] => {
    const { sensor, value, unit, other, typed } = level;
    const decided = decidedFor(context, sensor);
    const pair = bySocket(context.surfaces, sensor.socket);
    if (!typed || other.kind !== 'quantity' || decided === undefined || Math.abs(decided - value) < 1e-9)
      return [];
    // The other level of a pair: entered by the decided threshold, left by a number beyond it.
    const pairs = levels(program, context).some(
      (one) => one.index === level.index && !one.typed && rising(one.op) !== rising(level.op),
    );
    if (pairs && (rising(level.op) ? value > decided : value < decided)) return [];
    // Both surfaces on one side is told already, and is worse.
    if (pair && (value <= pair.low.mean || value >= pair.high.mean)) return [];
    return [
      finding(
        other.at,
        'note',
        'typed number',
        `${formatQuantity(value, unit)} is not the threshold you decided, ${formatQuantity(decided, unit)}.`,
        'The decided one was chosen from your own readings.',
        'Write “threshold” instead of the number.',
        thresholdFix(program, context, level),
      ),
    ];
  });
