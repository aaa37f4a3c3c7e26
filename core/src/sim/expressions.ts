import { formatNumber, formatQuantity, units } from '../quantity/index.ts';
import {
  kindOf,
  unitShown,
  type BuiltIn,
  type Expr,
  type ListQuestion,
  type Program,
} from '../script/index.ts';
import { bySocket } from '../sensing/index.ts';
import type { Machine } from './machine.ts';

export type Value = (k: Machine) => number;
export type Truth = (k: Machine) => boolean;

/** Where a program's names lead on a robot. */
export interface Inputs {
  /** Reading index of each socket; a sensor on any other socket gives no reading. */
  sockets: Record<string, number>;
  /** Decided thresholds by socket, in base units. */
  thresholds: Record<string, number>;
  /** Names that a colour sensor's code numbers stand for, by socket. */
  colours?: Record<string, readonly string[]>;
  /** What a distance sensor counts as in a comparison when it hears nothing, by socket, in base units. */
  noEcho?: Record<string, number>;
}

/** Stops the run with a sentence: division by zero and the like. */
export class RunFault extends Error {
  readonly line: number;
  constructor(line: number, says: string) {
    super(says);
    this.line = line;
  }
}

/** A test with what must be noted when the step that asks it begins: changes and bumps count from there. */
export interface Question {
  ask: Truth;
  /** Null when nothing needs noting. */
  begin: ((k: Machine) => void) | null;
}

const builtIns: Record<BuiltIn, Value> = {
  'left wheel': (k) => k.leftDeg() - k.leftZeroDeg,
  'right wheel': (k) => k.rightDeg() - k.rightZeroDeg,
  timer: (k) => (k.timeMs - k.timerZeroMs) / 1000,
  battery: (k) => k.battery,
};

const sum = (list: readonly number[]) => list.reduce((so, one) => so + one, 0);
const none = (list: readonly number[], value: () => number) => (list.length === 0 ? NaN : value());
const listWork: Record<ListQuestion, (list: readonly number[]) => number> = {
  smallest: (list) => none(list, () => list.reduce((so, one) => Math.min(so, one))),
  largest: (list) => none(list, () => list.reduce((so, one) => Math.max(so, one))),
  average: (list) => none(list, () => sum(list) / list.length),
  last: (list) => none(list, () => list[list.length - 1]!),
  sum,
  count: (list) => list.length,
};

/** Compiles expressions to closures over the machine. Nothing is generated as text, nothing evaluated. */
export class Expressions {
  /** Slots of the machine in use. */
  slots = 0;
  private readonly program: Program;
  private readonly inputs: Inputs;
  private notes: ((k: Machine) => void)[] = [];
  /** Where values live that the part of the program being compiled has for itself. */
  own: ReadonlyMap<number, number> = new Map();

  constructor(program: Program, inputs: Inputs) {
    this.program = program;
    this.inputs = inputs;
  }

  slot(): number {
    return this.slots++;
  }

  /** The place of a value in the machine. */
  place(value: number): number {
    return this.own.get(value) ?? value;
  }

  private index(sensor: number): number {
    return bySocket(this.inputs.sockets, this.program.sensors[sensor]!.socket) ?? -1;
  }

  private threshold(sensor: number): number | undefined {
    return bySocket(this.inputs.thresholds, this.program.sensors[sensor]!.socket);
  }

  question(expr: Expr): Question {
    this.notes = [];
    const ask = this.truth(expr);
    const { notes } = this;
    this.notes = [];
    const begin = notes.length === 0 ? null : (k: Machine) => notes.forEach((note) => note(k));
    return { ask, begin };
  }

  /** A side of a comparison: no echo counts as the kit's out-of-range number, where it has one. */
  private compared(expr: Expr): Value {
    if (expr.kind !== 'sensor') return this.value(expr);
    const index = this.index(expr.index);
    const code = this.noEcho(expr.index);
    if (index < 0 || code === undefined) return this.value(expr);
    return (k) => {
      const reading = k.readings[index]!;
      return Number.isNaN(reading) ? code : reading;
    };
  }

  private noEcho(sensor: number): number | undefined {
    return bySocket(this.inputs.noEcho ?? {}, this.program.sensors[sensor]!.socket);
  }

  value(expr: Expr): Value {
    switch (expr.kind) {
      case 'quantity': {
        const value = expr.value;
        return () => value;
      }
      case 'sensor': {
        const index = this.index(expr.index);
        return index < 0 ? () => NaN : (k) => k.readings[index]!;
      }
      case 'raw': {
        const index = this.index(expr.sensor);
        return (k) => k.raw(index);
      }
      case 'item': {
        const index = this.index(expr.sensor);
        const position = this.value(expr.position);
        return (k) => k.item(index, position(k));
      }
      case 'builtin':
        return builtIns[expr.name];
      case 'value': {
        const index = this.place(expr.index);
        return (k) => k.values[index]!;
      }
      case 'random':
        return this.random(expr);
      case 'plain': {
        const operand = this.value(expr.operand);
        const { inBase } = units[expr.unit];
        return (k) => operand(k) / inBase;
      }
      case 'list': {
        const { list } = expr;
        const work = listWork[expr.asks];
        return (k) => work(k.lists[list]!);
      }
      case 'listItem': {
        const { list } = expr;
        const position = this.value(expr.position);
        return (k) => k.lists[list]![Math.round(position(k)) - 1] ?? NaN;
      }
      case 'threshold': {
        const value = this.threshold(expr.sensor) ?? NaN;
        return () => value;
      }
      case 'negative': {
        const operand = this.value(expr.operand);
        return (k) => -operand(k);
      }
      case 'arithmetic':
        return this.arithmetic(expr);
      case 'call':
        return this.call(expr);
      case 'state': {
        const [left, right] = [this.truth(expr.left), this.truth(expr.right)];
        return (k) => (left(k) ? 2 : 0) + (right(k) ? 1 : 0);
      }
      default: {
        const truth = this.truth(expr);
        return (k) => (truth(k) ? 1 : 0);
      }
    }
  }

  /** A plain number between two whole ones is whole, as a die's. */
  private random({ from, to }: Extract<Expr, { kind: 'random' }>): Value {
    const [a, b] = [this.value(from), this.value(to)];
    const counts = kindOf(from) === 'number';
    return (k) => {
      const [one, other] = [a(k), b(k)];
      const [low, high] = [Math.min(one, other), Math.max(one, other)];
      if (counts && Number.isInteger(low) && Number.isInteger(high))
        return low + Math.min(high - low, Math.floor(k.random() * (high - low + 1)));
      return low + k.random() * (high - low);
    };
  }

  private arithmetic(expr: Extract<Expr, { kind: 'arithmetic' }>): Value {
    const [a, b] = [this.value(expr.left), this.value(expr.right)];
    const line = expr.at.line;
    switch (expr.op) {
      case '+':
        return (k) => a(k) + b(k);
      case '-':
        return (k) => a(k) - b(k);
      case '*':
        return (k) => a(k) * b(k);
      case '/':
        return (k) => {
          const divisor = b(k);
          if (divisor === 0) throw new RunFault(line, 'It divided by zero.');
          return a(k) / divisor;
        };
    }
  }

  private call({ name, args, at }: Extract<Expr, { kind: 'call' }>): Value {
    const values = args.map((arg) => this.value(arg));
    const [x, low, high] = values;
    switch (name) {
      case 'min':
      case 'max': {
        const pick =
          name === 'min'
            ? (a: number, b: number) => Math.min(a, b)
            : (a: number, b: number) => Math.max(a, b);
        return (k) => values.slice(1).reduce((so, value) => pick(so, value(k)), x!(k));
      }
      case 'abs':
        return (k) => Math.abs(x!(k));
      case 'round':
        return (k) => Math.round(x!(k));
      case 'floor':
        return (k) => Math.floor(x!(k));
      case 'remainder':
        return (k) => {
          const by = low!(k);
          if (by === 0) throw new RunFault(at.line, 'It divided by zero.');
          // Never negative for a positive divisor, so that a heading or a count comes round.
          const value = x!(k);
          return value - by * Math.floor(value / by);
        };
      case 'clamp':
        return (k) => {
          const [from, to] = [low!(k), high!(k)];
          if (from > to) throw new RunFault(at.line, 'A clamp’s low end was above its high end.');
          return Math.min(to, Math.max(from, x!(k)));
        };
    }
  }

  truth(expr: Expr): Truth {
    switch (expr.kind) {
      case 'compare':
        return this.compare(expr);
      case 'is':
        return this.is(expr);
      case 'change':
        return this.change(expr);
      case 'not': {
        const operand = this.truth(expr.operand);
        return (k) => !operand(k);
      }
      case 'logic': {
        const [a, b] = [this.truth(expr.left), this.truth(expr.right)];
        return expr.op === 'and' ? (k) => a(k) && b(k) : (k) => a(k) || b(k);
      }
      case 'value': {
        const index = this.place(expr.index);
        return (k) => k.values[index]! > 0;
      }
      case 'truth': {
        const { value } = expr;
        return () => value;
      }
      case 'heard': {
        const { text } = expr;
        return (k) => k.heard(text);
      }
      default:
        throw new TypeError(`A ${expr.kind} is not a yes-or-no; the checker lets none through.`);
    }
  }

  private compare(expr: Extract<Expr, { kind: 'compare' }>): Truth {
    const short = this.readingAgainst(expr);
    if (short) return short;
    const [a, b] = [this.compared(expr.left), this.compared(expr.right)];
    switch (expr.op) {
      case '<':
        return (k) => a(k) < b(k);
      case '<=':
        return (k) => a(k) <= b(k);
      case '>':
        return (k) => a(k) > b(k);
      case '>=':
        return (k) => a(k) >= b(k);
      case '=':
        return (k) => a(k) === b(k);
      case '<>':
        return (k) => a(k) !== b(k);
    }
  }

  /** The commonest question, a reading against a fixed number, as one closure instead of three. */
  private readingAgainst({ left, right, op }: Extract<Expr, { kind: 'compare' }>): Truth | null {
    if (left.kind !== 'sensor') return null;
    const index = this.index(left.index);
    const fixed =
      right.kind === 'quantity'
        ? right.value
        : right.kind === 'threshold'
          ? this.threshold(right.sensor)
          : undefined;
    if (index < 0 || fixed === undefined || this.noEcho(left.index) !== undefined) return null;
    switch (op) {
      case '<':
        return (k) => k.readings[index]! < fixed;
      case '<=':
        return (k) => k.readings[index]! <= fixed;
      case '>':
        return (k) => k.readings[index]! > fixed;
      case '>=':
        return (k) => k.readings[index]! >= fixed;
      default:
        return null;
    }
  }

  private is({ sensor, asks }: Extract<Expr, { kind: 'is' }>): Truth {
    const index = this.index(sensor);
    if (index < 0) return asks.of === 'nothing' ? () => true : () => false;
    if (asks.of === 'nothing') return (k) => Number.isNaN(k.readings[index]!);
    if (asks.of === 'colour') {
      const names = bySocket(this.inputs.colours ?? {}, this.program.sensors[sensor]!.socket) ?? [];
      const code = names.findIndex((name) => name.toLowerCase() === asks.what);
      return code < 0 ? () => false : (k) => k.readings[index] === code;
    }
    if (asks.what === 'pressed') return (k) => k.readings[index]! > 0;
    if (asks.what === 'released') return (k) => k.readings[index] === 0;
    // Bumped since the asking step began; asked again in a loop, since the last time it was true.
    const slot = this.slot();
    this.notes.push((k) => (k.slots[slot] = k.bumps[index]!));
    return (k) => {
      if (k.bumps[index]! <= k.slots[slot]!) return false;
      k.slots[slot] = k.bumps[index]!;
      return true;
    };
  }

  private change({ how, operand, by }: Extract<Expr, { kind: 'change' }>): Truth {
    const [now, wanted] = [this.value(operand), this.value(by)];
    const slot = this.slot();
    this.notes.push((k) => (k.slots[slot] = now(k)));
    return (k) => {
      const value = now(k);
      const from = k.slots[slot]!;
      if (Number.isNaN(from)) {
        // The first reading after none is where it starts from.
        k.slots[slot] = value;
        return false;
      }
      const far = how === 'drops' ? from - value : how === 'rises' ? value - from : Math.abs(value - from);
      return far >= wanted(k);
    };
  }

  text(expr: Expr): (k: Machine) => string {
    if (expr.kind === 'text') {
      const value = expr.value;
      return () => value;
    }
    if (kindOf(expr) === 'truth') {
      const truth = this.truth(expr);
      return (k) => (truth(k) ? 'yes' : 'no');
    }
    const value = this.value(expr);
    const named = this.words(expr);
    const unit = unitShown(expr, this.program.sensors);
    const inBase = unit === '' || unit === 'deg/s' ? 1 : units[unit].inBase;
    return (k) => {
      const n = value(k);
      if (Number.isNaN(n)) return 'nothing';
      if (named) return named(n) ?? formatNumber(n, 2);
      return unit === '' ? formatNumber(n, 2) : formatQuantity(Number((n / inBase).toFixed(2)), unit);
    };
  }

  /** Colours and touches are shown by their words. */
  private words(expr: Expr): ((n: number) => string | undefined) | null {
    if (expr.kind !== 'sensor') return null;
    const { kind, socket } = this.program.sensors[expr.index]!;
    if (kind === 'touch') return (n) => (n > 0 ? 'pressed' : 'released');
    if (kind !== 'colour') return null;
    const names = bySocket(this.inputs.colours ?? {}, socket) ?? [];
    return (n) => names[n];
  }
}
