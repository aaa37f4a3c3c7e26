import { units } from '../quantity/index.ts';
import { BEEP, unitShown, type Expr, type Program, type Step } from '../script/index.ts';
import { Expressions, type Inputs } from './expressions.ts';
import type { Machine } from './machine.ts';
import { FINISH, type Compiled, type LogColumn } from './compiled.ts';
import { Emitter, type Label } from './emitter.ts';
import { move } from './moves.ts';

/** A list holds so many numbers; the oldest goes when one more is put in. */
const LIST_LENGTH = 2000;

/** Compiles a checked program to closures over the machine. */
class Compiler extends Emitter {
  readonly empties: [Label, Label][] = [];
  readonly columns: LogColumn[] = [];
  valueCount: number;
  private tasks: Label[] = [];
  /** Where an own step goes back; null outside. */
  private back: Label | null = null;
  private readonly program: Program;

  constructor(program: Program, inputs: Inputs) {
    super(new Expressions(program, inputs));
    this.program = program;
    this.valueCount = program.values.length;
  }

  /**
   * A part of the program that runs by itself, with own steps of its own: each remembers where it is and what it was given. Gives
   * where it begins; −1 where it has no steps.
   */
  thread(steps: readonly Step[], first: boolean): number {
    if (!first) {
      const own = new Map<number, number>();
      this.program.values.forEach(({ task }, i) => task !== null && own.set(i, this.valueCount++));
      this.expressions.own = own;
    }
    this.tasks = this.program.tasks.map(() => ({ pc: -1 }));
    const entry = steps.length > 0 ? this.here() : -1;
    const over: Label = { pc: -1 };
    this.block(steps, over, over);
    this.own();
    return entry;
  }

  /** Own steps come after the steps that do them, each ending with the way back. */
  private own(): void {
    this.program.tasks.forEach((task, i) => {
      const back: Label = { pc: -1 };
      const start = this.here();
      this.back = back;
      this.block(task.body, back, back);
      this.back = null;
      back.pc = this.here();
      this.emit(task.endLine, (k) => k.stack.pop() ?? -1);
      this.tasks[i]!.pc = task.body.length > 0 ? start : back.pc;
    });
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
    const x = this.expressions;
    switch (step.kind) {
      case 'drive':
      case 'wheels':
      case 'steer':
      case 'turn':
      case 'spin':
      case 'stop':
      case 'turret':
        return move(this, step, next);
      case 'zero':
        return this.act(line, next, (k) => {
          if (step.what === 'heading') k.zeroHeading();
          else if (step.what === 'timer') k.timerZeroMs = k.timeMs;
          else [k.leftZeroDeg, k.rightZeroDeg] = [k.leftDeg(), k.rightDeg()];
        });
      case 'wait': {
        const time = x.value(step.time);
        return this.until(line, next, (k) => k.timeMs + 1000 * time(k));
      }
      case 'waitUntil': {
        const { ask, begin } = x.question(step.test);
        const self = this.here();
        if (!begin) return this.emit(line, (k) => (ask(k) ? next.pc : self));
        return this.emit(line, (k) => {
          if (k.fresh) begin(k);
          return ask(k) ? next.pc : self;
        });
      }
      case 'repeat':
        return this.repeat(step, next);
      case 'leave':
        return this.emit(line, () => leave.pc);
      case 'finish':
        return this.emit(line, () => FINISH);
      case 'if':
        return this.decide(step, next, leave);
      case 'set': {
        const value = x.value(step.value);
        const index = x.place(step.index);
        return this.act(line, next, (k) => (k.values[index] = value(k)));
      }
      case 'add': {
        const value = x.value(step.value);
        const { list } = step;
        return this.act(line, next, (k) => {
          const held = k.lists[list]!;
          const given = value(k);
          // No reading is nothing to keep.
          if (!Number.isNaN(given)) held.push(given);
          if (held.length > LIST_LENGTH) held.shift();
        });
      }
      case 'emptyList': {
        const { list } = step;
        return this.act(line, next, (k) => (k.lists[list]!.length = 0));
      }
      case 'log':
        return this.log(step, next);
      case 'send': {
        const { text } = step;
        return this.act(line, next, (k) => k.send(text));
      }
      case 'give':
        return this.give(step);
      case 'show': {
        const items = step.items.map((item) => x.text(item));
        return this.act(line, next, (k) => k.show(items.map((item) => item(k)).join('')));
      }
      case 'clear':
        return this.act(line, next, (k) => k.show(''));
      case 'beep':
        return this.beep(step, next);
      case 'lamp':
        return this.act(line, next, (k) => k.lamp(step.colour));
      case 'do':
        return this.call(step, next);
    }
  }

  /** A row of the log; what is written in the same words shares a column. */
  private log(step: Extract<Step, { kind: 'log' }>, next: Label): void {
    const { sensors, source } = this.program;
    const columns = step.items.map(({ at, ...item }) => {
      const name = (source[at.line - 1] ?? '').slice(at.column - 1, at.column - 1 + at.length);
      const unit = unitShown({ at, ...item }, sensors);
      const found = this.columns.findIndex((column) => column.name === name && column.unit === unit);
      return found >= 0 ? found : this.columns.push({ name, unit }) - 1;
    });
    const values = step.items.map((item, i) => {
      const value = this.expressions.value(item);
      const unit = this.columns[columns[i]!]!.unit;
      const inBase = unit in units ? units[unit as keyof typeof units].inBase : 1;
      return (k: Machine) => value(k) / inBase;
    });
    this.act(step.at.line, next, (k) =>
      k.log(
        columns,
        values.map((value) => value(k)),
      ),
    );
  }

  private give({ value, at }: Extract<Step, { kind: 'give' }>): void {
    const given = value ? this.expressions.value(value) : () => NaN;
    const back = this.back!;
    this.emit(at.line, (k) => {
      k.given = given(k);
      return back.pc;
    });
  }

  private beep(step: Extract<Step, { kind: 'beep' }>, next: Label): void {
    const value = (expr: Expr | null, usual: number) => (expr ? this.expressions.value(expr) : () => usual);
    const [pitch, time, volume] = [
      value(step.pitch, BEEP.pitchHz),
      value(step.time, BEEP.timeS),
      value(step.volume, BEEP.volume),
    ];
    const sound = (k: Machine) => k.beep(pitch(k), time(k), volume(k));
    if (!step.time) return this.act(step.at.line, next, sound);
    this.until(step.at.line, next, (k) => {
      sound(k);
      return k.timeMs + 1000 * time(k);
    });
  }

  private call(step: Extract<Step, { kind: 'do' }>, next: Label): void {
    const args = step.args.map((arg) => this.expressions.value(arg));
    const parameters = this.program.tasks[step.task]!.parameters.map((index) =>
      this.expressions.place(index),
    );
    const start = this.tasks[step.task]!;
    const taken: Label = step.into === null ? next : { pc: this.here() + 1 };
    this.emit(step.at.line, (k) => {
      const given = args.map((arg) => arg(k));
      given.forEach((value, i) => (k.values[parameters[i]!] = value));
      k.given = NaN;
      k.stack.push(taken.pc);
      return start.pc;
    });
    if (step.into === null) return;
    const into = this.expressions.place(step.into);
    this.act(step.at.line, next, (k) => (k.values[into] = k.given));
  }

  private repeat(step: Extract<Step, { kind: 'repeat' }>, next: Label): void {
    const line = step.at.line;
    const body: Label = { pc: -1 };
    const head: Label = { pc: -1 };
    if (step.how === 'times' || step.how === 'for') {
      const amount = this.expressions.value(step.amount!);
      const slot = this.expressions.slot();
      const times = step.how === 'times';
      const test = this.here() + 1;
      const [round, counter] = [
        this.expressions.slot(),
        step.counter === null ? -1 : this.expressions.place(step.counter),
      ];
      this.emit(line, (k) => {
        k.slots[slot] = times ? Math.round(amount(k)) : k.timeMs + 1000 * amount(k);
        k.slots[round] = 0;
        return test;
      });
      head.pc = test;
      this.emit(line, (k) => {
        if (!times) return k.timeMs < k.slots[slot]! ? body.pc : next.pc;
        if (!(k.slots[slot]!-- > 0)) return next.pc;
        if (counter >= 0) k.values[counter] = ++k.slots[round]!;
        return body.pc;
      });
    } else {
      const question = step.how === 'forever' ? null : this.expressions.question(step.amount!);
      if (question?.begin) {
        // What the test counts from is noted once, before the first look.
        const { begin } = question;
        const first = this.here() + 1;
        this.emit(line, (k) => {
          begin(k);
          return first;
        });
      }
      head.pc = this.here();
      if (!question) this.emit(line, () => body.pc);
      else {
        const { ask } = question;
        const whileTrue = step.how === 'while';
        this.emit(line, (k) => (ask(k) === whileTrue ? body.pc : next.pc));
      }
    }
    body.pc = step.body.length > 0 ? this.here() : head.pc;
    this.block(step.body, head, next);
  }

  private decide(step: Extract<Step, { kind: 'if' }>, next: Label, leave: Label): void {
    // All tests of one `if … else if …` are one step: the robot looks once and goes one way.
    const arms = step.arms.map((arm) => ({ arm, label: { pc: -1 } }));
    const tests = arms.map(({ arm }) => (arm.test ? this.expressions.truth(arm.test) : () => true));
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
}

/** Compiles a program that has no faults. */
export function compile(program: Program, inputs: Inputs): Compiled {
  const compiler = new Compiler(program, inputs);
  const { expressions } = compiler;
  const mainEntry = compiler.thread(program.steps, true);
  const initials = program.values.map(({ initial }) => initial && expressions.value(initial));
  const watchers = program.watchers.flatMap(({ test, body }) => {
    if (!test) return [];
    const entry = compiler.thread(body, false);
    return [{ ...expressions.question(test), entry }];
  });
  // Inner ifs come before outer ones in the list of a chain, so repeat until nothing changes.
  for (let changed = true; changed;) {
    changed = false;
    for (const [label, target] of compiler.empties) {
      if (label.pc !== target.pc) [label.pc, changed] = [target.pc, true];
    }
  }
  return {
    ops: compiler.ops,
    lines: Int32Array.from(compiler.lines),
    moves: Uint8Array.from(compiler.ops, (_, pc) => (compiler.moving.has(pc) ? 1 : 0)),
    valueCount: compiler.valueCount,
    slotCount: expressions.slots,
    listCount: program.lists.length,
    mainEntry,
    watchers,
    log: compiler.columns,
    begin: (k) =>
      initials.forEach((initial, i) => {
        if (initial) k.values[i] = initial(k);
      }),
  };
}
