import { kindWords, type QuantityKind } from '../quantity/index.ts';
import type { SensorKind } from '../sensing/index.ts';
import type { BuiltIn, Expr, ValueKind } from './ast.ts';

/** The kind of quantity that each kind of sensor gives. Touch and colour are told by words, not numbers. */
export const sensorQuantity: Record<SensorKind, QuantityKind> = {
  touch: 'number',
  light: 'percent',
  ambient: 'percent',
  colour: 'number',
  rgb: 'number',
  distance: 'length',
  proximity: 'percent',
  beacon: 'angle',
  heading: 'angle',
  spin: 'angle',
  wheel: 'angle',
};

/** Kinds that a script declares. Wheel turns need no declaration: they are always there. */
export const sensorKindWords = (Object.keys(sensorQuantity) as SensorKind[]).filter(
  (kind) => kind !== 'wheel',
);

/** What is always there, and what it measures: wheel turns, time since the start or `zero timer`, charge. */
export const builtIns: Record<BuiltIn, QuantityKind> = {
  'left wheel': 'angle',
  'right wheel': 'angle',
  timer: 'time',
  battery: 'percent',
};

/** The numbers of a sensor that gives several, in order, and what each measures. */
export const sensorItems: Partial<Record<SensorKind, readonly (readonly [string, QuantityKind])[]>> = {
  rgb: [
    ['red', 'number'],
    ['green', 'number'],
    ['blue', 'number'],
  ],
  beacon: [
    ['direction', 'angle'],
    ['strength', 'percent'],
  ],
};

/** Colours that a colour sensor may name, in the script's words. */
export const colourWords: readonly string[] = [
  'black',
  'white',
  'red',
  'green',
  'blue',
  'yellow',
  'brown',
  'orange',
  'purple',
  'grey',
  'pink',
  'cyan',
];

/** Colours that the robot's lamp can be told to show. */
export const lampColours: readonly string[] = ['red', 'orange', 'yellow', 'green', 'blue', 'white'];

export const opKind = (kind: ValueKind): string =>
  kind === 'text' ? 'a text' : kind === 'truth' ? 'a yes-or-no' : kindWords[kind];

/** The kind that an expression is worth. */
export function kindOf(expr: Expr): ValueKind {
  switch (expr.kind) {
    case 'quantity':
    case 'sensor':
    case 'value':
    case 'threshold':
    case 'item':
    case 'builtin':
    case 'list':
    case 'listItem':
    case 'plain':
      return expr.of;
    case 'random':
      return kindOf(expr.from);
    case 'raw':
    case 'state':
      return 'number';
    case 'text':
      return 'text';
    case 'negative':
      return kindOf(expr.operand);
    case 'arithmetic': {
      const [a, b] = [kindOf(expr.left), kindOf(expr.right)];
      if (expr.op === '/' && a === b) return 'number';
      return a === 'number' ? b : a;
    }
    case 'call':
      return kindOf(expr.args[0]!);
    default:
      return 'truth';
  }
}

/** A number or `threshold` without a unit, possibly computed: it may take the unit of what stands beside it. */
export function isBare(expr: Expr): boolean {
  switch (expr.kind) {
    case 'quantity':
      return expr.of === 'number';
    case 'threshold':
      return expr.sensor < 0;
    case 'value':
      return expr.bends === true;
    case 'random':
      return isBare(expr.from) && isBare(expr.to);
    case 'negative':
      return isBare(expr.operand);
    case 'arithmetic':
      return isBare(expr.left) && isBare(expr.right);
    case 'call':
      return expr.args.every(isBare);
    default:
      return false;
  }
}

/**
 * A bare number read in another kind of quantity: 15 beside a light reading is 15 %. `inBase` is how many base
 * units one of it is: 10 beside a distance that is told in cm. A bare `threshold` becomes that of `sensor`.
 */
export function adopt(expr: Expr, of: QuantityKind, inBase = 1, sensor = -1): Expr {
  switch (expr.kind) {
    case 'quantity':
      return { ...expr, value: expr.value * inBase, of };
    case 'threshold':
      return { ...expr, sensor, of };
    case 'value':
      return { ...expr, of };
    case 'random':
      return {
        ...expr,
        from: adopt(expr.from, of, inBase, sensor),
        to: adopt(expr.to, of, inBase, sensor),
      };
    case 'negative':
      return { ...expr, operand: adopt(expr.operand, of, inBase, sensor) };
    case 'call':
      return { ...expr, args: expr.args.map((arg) => adopt(arg, of, inBase, sensor)) };
    case 'arithmetic': {
      const left = adopt(expr.left, of, inBase, sensor);
      const sum = expr.op === '+' || expr.op === '-';
      return { ...expr, left, right: sum ? adopt(expr.right, of, inBase, sensor) : expr.right };
    }
    default:
      return expr;
  }
}
