import type { Expr, For, Program, Step } from '../script/index.ts';
import { formatNumber } from '../quantity/index.ts';
import { bySocket } from '../sensing/index.ts';
import type { Kernel } from './kernel.ts';

/** One step of the compiled program: does its work and says which step comes next; −1 ends the program. */
export type Op = (k: Kernel) => number;

type Value = (k: Kernel) => number;
type Truth = (k: Kernel) => boolean;

/** A place in the op list that may not be known yet. */
interface Label {
  pc: number;
}

export interface Compiled {
  ops: Op[];
  /** Script line of each op. */
  lines: Int32Array;
  valueCount: number;
  slotCount: number;
  /** Sets the declared values; called once at the start. */
  begin: (k: Kernel) => void;
}

/** Stops the run with a sentence: division by zero and the like. */
export class RunFault extends Error {
  readonly line: number;
  constructor(line: number, says: string) {
    super(says);
    this.line = line;
  }
}

/** Compiles a checked program to closures over the kernel. Nothing is generated as text, nothing evaluated. */
class Compiler {
  readonly ops: Op[] = [];
  readonly lines: number[] = [];
  slots = 0;
  private readonly program: Program;
  private readonly sockets: Record<string, number>;
  private readonly thresholds: Record<string, number>;

  constructor(program: Program, sockets: Record<string, number>, thresholds: Record<string, number>) {
    this.program = program;
    this.sockets = sockets;
    this.thresholds = thresholds;
  }

  /** Appends an op; `make` gets the label that follows it and runs once all labels are known. */
  emit(line: number, op: Op): void {
    this.ops.push(op);
    this.lines.push(line);
  }

  here(): number {
    return this.ops.length;
  }

  block(steps: readonly Step[], after: Label, leave: Label): void {
    steps.forEach((step, i) => {
      const next: Label = i === steps.length - 1 ? after : { pc: -1 };
      this.step(step, next, leave);
      if (next !== after) next.pc = this.here();
    });
  }

  step(step: Step, next: Label, leave: Label): void {
    const line = step.at.line;
    switch (step.kind) {
      case 'drive': {
        const speed = this.value(step.speed);
        return this.motion(
          line,
          (k) => {
            const v = speed(k);
            k.command(v, v, 'drive');
          },
          step.until,
          next,
        );
      }
      case 'wheels': {
        const [left, right] = [this.value(step.left), this.value(step.right)];
        return this.motion(line, (k) => k.command(left(k), right(k), 'drive'), step.until, next);
      }
      case 'stop': {
        const manner = step.how === 'coast' ? 'coast' : 'brake';
        return this.emit(line, (k) => {
          k.command(0, 0, manner);
          return next.pc;
        });
      }
      case 'wait': {
        const time = this.value(step.time);
        const slot = this.slots++;
        const self = this.here();
        return this.emit(line, (k) => {
          if (k.fresh) k.slots[slot] = k.timeMs + 1000 * time(k);
          return k.timeMs >= k.slots[slot]! ? next.pc : self;
        });
      }
      case 'waitUntil': {
        const test = this.truth(step.test);
        const self = this.here();
        return this.emit(line, (k) => (test(k) ? next.pc : self));
      }
      case 'repeat':
        return this.repeat(step, next);
      case 'leave':
        return this.emit(line, () => leave.pc);
      case 'finish':
        return this.emit(line, () => -1);
      case 'if':
        return this.decide(step, next, leave);
      case 'set': {
        const value = this.value(step.value);
        const index = step.index;
        return this.emit(line, (k) => {
          k.values[index] = value(k);
          return next.pc;
        });
      }
      case 'show': {
        const items = step.items.map((item) => this.text(item));
        return this.emit(line, (k) => {
          k.show(items.map((item) => item(k)).join(''));
          return next.pc;
        });
      }
      case 'clear':
        return this.emit(line, (k) => {
          k.show('');
          return next.pc;
        });
    }
  }

  private motion(line: number, start: (k: Kernel) => void, until: For | null, next: Label): void {
    if (!until) {
      return this.emit(line, (k) => {
        start(k);
        return next.pc;
      });
    }
    const amount = this.value(until.amount);
    const slot = this.slots++;
    const self = this.here();
    const { of } = until;
    this.emit(line, (k) => {
      if (k.fresh) {
        start(k);
        k.slots[slot] = of === 'time' ? k.timeMs : k.wheelDeg();
        return self;
      }
      const far =
        of === 'time'
          ? (k.timeMs - k.slots[slot]!) / 1000
          : Math.abs(k.wheelDeg() - k.slots[slot]!) * (of === 'length' ? k.mmPerDeg : 1);
      if (far < Math.abs(amount(k))) return self;
      k.command(0, 0, 'brake');
      return next.pc;
    });
  }

  private repeat(step: Extract<Step, { kind: 'repeat' }>, next: Label): void {
    const line = step.at.line;
    const body: Label = { pc: -1 };
    const head: Label = { pc: -1 };
    if (step.how === 'times' || step.how === 'for') {
      const amount = this.value(step.amount!);
      const slot = this.slots++;
      const times = step.how === 'times';
      const test = this.here() + 1;
      this.emit(line, (k) => {
        k.slots[slot] = times ? Math.round(amount(k)) : k.timeMs + 1000 * amount(k);
        return test;
      });
      head.pc = test;
      this.emit(line, (k) => {
        if (times) return k.slots[slot]!-- > 0 ? body.pc : next.pc;
        return k.timeMs < k.slots[slot]! ? body.pc : next.pc;
      });
    } else {
      head.pc = this.here();
      if (step.how === 'forever') this.emit(line, () => body.pc);
      else {
        const test = this.truth(step.amount!);
        const whileTrue = step.how === 'while';
        this.emit(line, (k) => (test(k) === whileTrue ? body.pc : next.pc));
      }
    }
    body.pc = step.body.length > 0 ? this.here() : head.pc;
    this.block(step.body, head, next);
  }

  private decide(step: Extract<Step, { kind: 'if' }>, next: Label, leave: Label): void {
    // All tests of one `if … else if …` are one step: the robot looks once and goes one way.
    const arms = step.arms.map((arm) => ({ arm, label: { pc: -1 } as Label }));
    const tests = arms.map(({ arm }) => (arm.test ? this.truth(arm.test) : () => true));
    const [first] = tests;
    const [one, two] = arms.map(({ label }) => label);
    if (arms.length === 1) this.emit(step.at.line, (k) => (first!(k) ? one! : next).pc);
    else if (arms.length === 2 && step.arms[1]!.test === null) {
      this.emit(step.at.line, (k) => (first!(k) ? one! : two!).pc);
    } else {
      this.emit(step.at.line, (k) => {
        for (let i = 0; i < tests.length; i++) if (tests[i]!(k)) return arms[i]!.label.pc;
        return next.pc;
      });
    }
    for (const { arm, label } of arms) {
      if (arm.body.length === 0) {
        // An empty arm goes straight on; the target is copied when it is known.
        this.empties.push([label, next]);
        continue;
      }
      label.pc = this.here();
      this.block(arm.body, next, leave);
    }
  }

  readonly empties: [Label, Label][] = [];

  value(expr: Expr): Value {
    switch (expr.kind) {
      case 'quantity': {
        const value = expr.value;
        return () => value;
      }
      case 'sensor': {
        const { socket } = this.program.sensors[expr.index]!;
        const index = bySocket(this.sockets, socket) ?? -1;
        return index < 0 ? () => NaN : (k) => k.readings[index]!;
      }
      case 'value': {
        const index = expr.index;
        return (k) => k.values[index]!;
      }
      case 'threshold': {
        const value = bySocket(this.thresholds, this.program.sensors[expr.sensor]!.socket) ?? NaN;
        return () => value;
      }
      case 'negative': {
        const operand = this.value(expr.operand);
        return (k) => -operand(k);
      }
      case 'arithmetic': {
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
        break;
      }
      default: {
        const truth = this.truth(expr);
        return (k) => (truth(k) ? 1 : 0);
      }
    }
  }

  truth(expr: Expr): Truth {
    switch (expr.kind) {
      case 'compare': {
        const short = this.readingAgainst(expr);
        if (short) return short;
        const [a, b] = [this.value(expr.left), this.value(expr.right)];
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
        break;
      }
      case 'not': {
        const operand = this.truth(expr.operand);
        return (k) => !operand(k);
      }
      case 'logic': {
        const [a, b] = [this.truth(expr.left), this.truth(expr.right)];
        return expr.op === 'and' ? (k) => a(k) && b(k) : (k) => a(k) || b(k);
      }
      default:
        throw new TypeError(`A ${expr.kind} is not a yes-or-no; the checker lets none through.`);
    }
  }

  /** The commonest question, a reading against a fixed number, as one closure instead of three. */
  private readingAgainst(expr: Extract<Expr, { kind: 'compare' }>): Truth | null {
    const { left, right, op } = expr;
    if (left.kind !== 'sensor') return null;
    const index = bySocket(this.sockets, this.program.sensors[left.index]!.socket);
    const fixed =
      right.kind === 'quantity'
        ? right.value
        : right.kind === 'threshold'
          ? bySocket(this.thresholds, this.program.sensors[right.sensor]!.socket)
          : undefined;
    if (index === undefined || fixed === undefined) return null;
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

  private text(expr: Expr): (k: Kernel) => string {
    if (expr.kind === 'text') {
      const value = expr.value;
      return () => value;
    }
    const value = this.value(expr);
    return (k) => {
      const n = value(k);
      return Number.isNaN(n) ? 'nothing' : formatNumber(n, 2);
    };
  }
}

/**
 * Compiles a program that has no faults. `sockets` says which reading index each socket has; a sensor on
 * any other socket gives no reading (NaN, with which every comparison fails).
 */
export function compile(
  program: Program,
  sockets: Record<string, number>,
  thresholds: Record<string, number>,
): Compiled {
  const compiler = new Compiler(program, sockets, thresholds);
  const over: Label = { pc: -1 };
  compiler.block(program.steps, over, over);
  // Inner ifs come before outer ones in the list of a chain, so repeat until nothing changes.
  for (let changed = true; changed;) {
    changed = false;
    for (const [label, target] of compiler.empties) {
      if (label.pc !== target.pc) [label.pc, changed] = [target.pc, true];
    }
  }
  const initials = program.values.map((value) => compiler.value(value.initial));
  return {
    ops: compiler.ops,
    lines: Int32Array.from(compiler.lines),
    valueCount: program.values.length,
    slotCount: compiler.slots,
    begin: (k) => initials.forEach((initial, i) => (k.values[i] = initial(k))),
  };
}
