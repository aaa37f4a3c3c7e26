import { BEEP, TURN_PERCENT, type Expr, type For, type Program, type Step } from '../script/index.ts';
import { Expressions, type Inputs } from './expressions.ts';
import type { Machine } from './machine.ts';

/** One step of the compiled program: does its work and says which step comes next; −1 ends the program. */
export type Op = (k: Machine) => number;

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
  begin: (k: Machine) => void;
}

/** A turn slows down: % of speed for each wheel degree left, the least speed, and where it ends, wheel degrees; halfway at the latest. */
const TURN_GAIN = 0.35;
const TURN_LEAST = 5;
const TURN_EARLY = 2;

const wheel = (v: number) => Math.min(100, Math.max(-100, v));

/** Wheel speeds of a steering from −100 (on the spot to the left) over 0 (straight) to 100, at a speed in %. */
export function steered(steering: number, speed: number): [left: number, right: number] {
  const s = wheel(steering);
  const inner = speed * (1 - Math.abs(s) / 50);
  return s >= 0 ? [speed, inner] : [inner, speed];
}

/** Compiles a checked program to closures over the machine. */
class Compiler {
  readonly ops: Op[] = [];
  readonly lines: number[] = [];
  readonly expressions: Expressions;
  readonly empties: [Label, Label][] = [];
  private readonly tasks: Label[];
  private readonly program: Program;

  constructor(program: Program, inputs: Inputs) {
    this.program = program;
    this.expressions = new Expressions(program, inputs);
    this.tasks = program.tasks.map(() => ({ pc: -1 }));
  }

  /** Own steps come after the main program, each ending with the way back. */
  own(): void {
    this.program.tasks.forEach((task, i) => {
      const back: Label = { pc: -1 };
      const start = this.here();
      this.block(task.body, back, back);
      back.pc = this.here();
      this.emit(task.endLine, (k) => k.stack.pop() ?? -1);
      this.tasks[i]!.pc = task.body.length > 0 ? start : back.pc;
    });
  }

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
    const x = this.expressions;
    switch (step.kind) {
      case 'drive': {
        const speed = x.value(step.speed);
        const manner = step.raw ? 'raw' : 'drive';
        const start = (k: Machine) => {
          const v = speed(k);
          k.command(v, v, manner);
        };
        return this.motion(line, start, step.until, next);
      }
      case 'wheels': {
        const [left, right] = [x.value(step.left), x.value(step.right)];
        const manner = step.raw ? 'raw' : 'drive';
        return this.motion(line, (k) => k.command(left(k), right(k), manner), step.until, next);
      }
      case 'steer': {
        const [steering, speed] = [x.value(step.steering), x.value(step.speed)];
        const start = (k: Machine) => {
          const s = steering(k);
          // Without a reading to steer by it goes straight on.
          const [left, right] = steered(Number.isNaN(s) ? 0 : s, speed(k));
          k.command(left, right, 'drive');
        };
        return this.motion(line, start, step.until, next);
      }
      case 'turn':
        return this.turn(step, next);
      case 'spin': {
        const speed = x.value(step.speed);
        const sign = step.direction === 'right' ? 1 : -1;
        return this.act(line, next, (k) => {
          const v = sign * speed(k);
          k.command(v, -v, 'drive');
        });
      }
      case 'stop': {
        const manner = step.how;
        return this.act(line, next, (k) => k.command(0, 0, manner));
      }
      case 'turret':
        return this.turret(step, next);
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
        return this.emit(line, () => -1);
      case 'if':
        return this.decide(step, next, leave);
      case 'set': {
        const value = x.value(step.value);
        const index = step.index;
        return this.act(line, next, (k) => (k.values[index] = value(k)));
      }
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

  /** A step that does something and goes on. */
  private act(line: number, next: Label, work: (k: Machine) => void): void {
    this.emit(line, (k) => {
      work(k);
      return next.pc;
    });
  }

  /** A step that begins something and waits until a time in ms that `begin` says. */
  private until(line: number, next: Label, begin: (k: Machine) => number): void {
    const slot = this.expressions.slot();
    const self = this.here();
    this.emit(line, (k) => {
      if (k.fresh) k.slots[slot] = begin(k);
      // A time that is no number (a reading that is not there) does not hold the program up for ever.
      return k.timeMs < k.slots[slot]! ? self : next.pc;
    });
  }

  /** Starts a movement and, where it says how far or how long, follows it to its end by encoder or clock. */
  private motion(line: number, start: (k: Machine) => void, until: For | null, next: Label): void {
    if (!until) return this.act(line, next, start);
    const amount = this.expressions.value(until.amount);
    const { of } = until;
    if (of === 'time') {
      return this.follow(
        line,
        next,
        start,
        (k, begun) => k.timeMs - begun.time >= 1000 * Math.abs(amount(k)),
      );
    }
    const inUnit = of === 'length';
    this.follow(line, next, start, (k, { left, right }) => {
      // Both wheels count, each its own way, so that a turn ends too.
      const wheelDeg = Math.floor((Math.abs(k.leftDeg() - left) + Math.abs(k.rightDeg() - right)) / 2);
      return wheelDeg * (inUnit ? k.mmPerDeg : 1) >= Math.abs(amount(k));
    });
  }

  private follow(
    line: number,
    next: Label,
    start: (k: Machine) => void,
    done: (k: Machine, begun: { time: number; left: number; right: number }) => boolean,
  ): void {
    const x = this.expressions;
    const [time, left, right] = [x.slot(), x.slot(), x.slot()];
    const self = this.here();
    const begun = { time: 0, left: 0, right: 0 };
    this.emit(line, (k) => {
      const { slots } = k;
      if (k.fresh) {
        start(k);
        [slots[time], slots[left], slots[right]] = [k.timeMs, k.leftDeg(), k.rightDeg()];
        return self;
      }
      [begun.time, begun.left, begun.right] = [slots[time]!, slots[left]!, slots[right]!];
      if (!done(k, begun)) return self;
      k.command(0, 0, 'brake');
      return next.pc;
    });
  }

  /** On the spot by wheel encoders: each wheel travels track × angle ÷ 2 of the circle it turns on. */
  private turn(step: Extract<Step, { kind: 'turn' }>, next: Label): void {
    const angle = this.expressions.value(step.angle);
    const speed = step.speed ? this.expressions.value(step.speed) : () => TURN_PERCENT;
    const sign = step.direction === 'right' ? 1 : -1;
    // What is left to turn, in wheel degrees, sets the speed near the end: the turn lands on its angle.
    const go = (k: Machine, leftDeg: number) => {
      const fast = Math.min(Math.abs(speed(k)), Math.max(TURN_LEAST, TURN_GAIN * leftDeg));
      const v = sign * Math.sign(angle(k)) * fast;
      k.command(v, -v, 'drive');
    };
    const wanted = (k: Machine) => Math.abs(angle(k)) * k.wheelPerTurn;
    const start = (k: Machine) => go(k, wanted(k));
    this.follow(step.at.line, next, start, (k, { left, right }) => {
      const rest = wanted(k) - Math.abs((k.leftDeg() - left - (k.rightDeg() - right)) / 2);
      if (!(rest > Math.min(TURN_EARLY, wanted(k) / 2))) return true;
      go(k, rest);
      return false;
    });
  }

  private turret(step: Extract<Step, { kind: 'turret' }>, next: Label): void {
    const angle = step.angle && this.expressions.value(step.angle);
    const speed = step.speed ? this.expressions.value(step.speed) : () => 100;
    const sign = step.direction === 'right' ? 1 : -1;
    this.until(step.at.line, next, (k) => k.turnTurret(angle ? k.turretDeg + sign * angle(k) : 0, speed(k)));
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
    const { parameters } = this.program.tasks[step.task]!;
    const start = this.tasks[step.task]!;
    this.emit(step.at.line, (k) => {
      const given = args.map((arg) => arg(k));
      given.forEach((value, i) => (k.values[parameters[i]!] = value));
      k.stack.push(next.pc);
      return start.pc;
    });
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
  const over: Label = { pc: -1 };
  compiler.block(program.steps, over, over);
  compiler.own();
  // Inner ifs come before outer ones in the list of a chain, so repeat until nothing changes.
  for (let changed = true; changed;) {
    changed = false;
    for (const [label, target] of compiler.empties) {
      if (label.pc !== target.pc) [label.pc, changed] = [target.pc, true];
    }
  }
  const { expressions } = compiler;
  const initials = program.values.map(({ initial }) => initial && expressions.value(initial));
  return {
    ops: compiler.ops,
    lines: Int32Array.from(compiler.lines),
    valueCount: program.values.length,
    slotCount: expressions.slots,
    begin: (k) =>
      initials.forEach((initial, i) => {
        if (initial) k.values[i] = initial(k);
      }),
  };
}
