import { units } from '../quantity/index.ts';
import { bySocket, inBase } from '../sensing/index.ts';
import type { Expr, Program } from '../script/index.ts';
import { unitOf, type KnownRobotFacts } from '../editing/index.ts';
import { memo } from '../script/index.ts';
import { walkProgram } from '../script/index.ts';

/** What is known when an expression is worked out without running: null is “cannot tell”. */
export interface Known {
  /** Reading of a sensor by index, in base units. */
  reading: (sensor: number) => number | null;
  /** Value by index, in base units. */
  value: (index: number) => number | null;
  /** Decided threshold of a sensor by index, in base units. */
  threshold: (sensor: number) => number | null;
  /** Whether the program has only just begun: wheels and timer stand at 0. */
  fresh: boolean;
  /** While a run is looked at: what the timer said, null where it was zeroed, and the colour that a sensor named. */
  seen?: { timerS: () => number | null; colour: (sensor: number) => string | null };
}

/** What stands in values that no step ever changes: what they begin with, or what an own step is given by every call. */
const unchanged = memo((program: Program): ReadonlyMap<number, Expr> => {
  const found = new Map(program.values.flatMap(({ initial }, i) => (initial ? [[i, initial] as const] : [])));
  const given = new Map<number, Expr | null>();
  walkProgram(program, (step) => {
    if (step.kind !== 'do') return;
    program.tasks[step.task]!.parameters.forEach((index, i) => {
      const arg = step.args[i]!;
      const before = given.get(index);
      const same = before?.kind === 'quantity' && arg.kind === 'quantity' && before.value === arg.value;
      given.set(index, before === undefined || same ? arg : null);
    });
  });
  given.forEach((arg, index) => arg?.kind === 'quantity' && found.set(index, arg));
  walkProgram(program, (step) => {
    if (step.kind === 'set') found.delete(step.index);
    if (step.kind === 'do' && step.into !== null) found.delete(step.into);
  });
  return found;
});

/** What is known of a program that does not run: thresholds, and values that never change. */
export function constants(program: Program, robot: KnownRobotFacts): Known {
  const still = unchanged(program);
  const known: Known = {
    reading: () => null,
    value: (index) => {
      const stands = still.get(index);
      return stands ? numberOf(stands, known) : null;
    },
    threshold: (sensor) => {
      const decided = bySocket(robot.thresholds, program.sensors[sensor]!.socket);
      return decided === undefined ? null : inBase(decided, unitOf(robot, program.sensors[sensor]!));
    },
    fresh: false,
  };
  return known;
}

/** What an expression is worth, in base units; null when that cannot be told. */
export function numberOf(expr: Expr, known: Known): number | null {
  switch (expr.kind) {
    case 'quantity':
      return expr.value;
    case 'sensor':
      return known.reading(expr.index);
    case 'value':
      return known.value(expr.index);
    case 'threshold':
      return known.threshold(expr.sensor);
    case 'builtin':
      if (expr.name === 'timer' && known.seen) return known.seen.timerS();
      return known.fresh && expr.name !== 'battery' ? 0 : null;
    case 'plain': {
      const value = numberOf(expr.operand, known);
      return value === null ? null : value / units[expr.unit].inBase;
    }
    case 'negative': {
      const value = numberOf(expr.operand, known);
      return value === null ? null : -value;
    }
    case 'arithmetic': {
      const [a, b] = [numberOf(expr.left, known), numberOf(expr.right, known)];
      if (a === null || b === null || (expr.op === '/' && b === 0)) return null;
      return expr.op === '+' ? a + b : expr.op === '-' ? a - b : expr.op === '*' ? a * b : a / b;
    }
    case 'call': {
      const args = expr.args.map((arg) => numberOf(arg, known));
      if (args.some((arg) => arg === null)) return null;
      const [x, low, high] = args as number[];
      if (expr.name === 'remainder') return low === 0 ? null : x! - low! * Math.floor(x! / low!);
      if (expr.name === 'clamp') return Math.min(high!, Math.max(low!, x!));
      return Math[expr.name](...(args as [number]));
    }
    case 'state': {
      const [left, right] = [truthOf(expr.left, known), truthOf(expr.right, known)];
      return left === null || right === null ? null : (left ? 2 : 0) + (right ? 1 : 0);
    }
    default:
      return null;
  }
}

/** Whether a test holds; null when that cannot be told. */
export function truthOf(expr: Expr, known: Known): boolean | null {
  switch (expr.kind) {
    case 'truth':
      return expr.value;
    case 'value': {
      const value = known.value(expr.index);
      return value === null ? null : value > 0;
    }
    case 'compare': {
      const [a, b] = [numberOf(expr.left, known), numberOf(expr.right, known)];
      if (a === null || b === null) return null;
      const holds = { '<': a < b, '<=': a <= b, '>': a > b, '>=': a >= b, '=': a === b, '<>': a !== b };
      return holds[expr.op];
    }
    case 'not': {
      const inner = truthOf(expr.operand, known);
      return inner === null ? null : !inner;
    }
    case 'logic': {
      const [a, b] = [truthOf(expr.left, known), truthOf(expr.right, known)];
      if (expr.op === 'and')
        return a === false || b === false ? false : a === null || b === null ? null : true;
      return a === true || b === true ? true : a === null || b === null ? null : false;
    }
    case 'is': {
      const value = known.reading(expr.sensor);
      if (known.seen && expr.asks.of === 'nothing') return known.seen.colour(expr.sensor) === null;
      if (known.seen && expr.asks.of === 'colour') return known.seen.colour(expr.sensor) === expr.asks.what;
      if (value === null || expr.asks.of !== 'touch' || expr.asks.what === 'bumped') return null;
      return expr.asks.what === 'pressed' ? value > 0 : value === 0;
    }
    default:
      return null;
  }
}
