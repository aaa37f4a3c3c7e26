import type { Op } from './compiled.ts';
import type { Expressions } from './expressions.ts';
import type { Machine } from './machine.ts';

/** A place in the op list that may not be known yet. */
export interface Label {
  pc: number;
}

/** Writes the ops of a program one after the other, each with the line that it stands for. */
export class Emitter {
  readonly ops: Op[] = [];
  readonly lines: number[] = [];
  /** The ops that tell the wheels something. */
  readonly moving = new Set<number>();
  readonly expressions: Expressions;

  constructor(expressions: Expressions) {
    this.expressions = expressions;
  }

  emit(line: number, op: Op): void {
    this.ops.push(op);
    this.lines.push(line);
  }

  /** Where the op that comes next will stand. */
  here(): number {
    return this.ops.length;
  }

  /** The op that comes next tells the wheels something. */
  marks(): void {
    this.moving.add(this.here());
  }

  /** A step that does something and goes on. */
  act(line: number, next: Label, work: (k: Machine) => void): void {
    this.emit(line, (k) => {
      work(k);
      return next.pc;
    });
  }

  /** A step that begins something and waits until a time in ms that `begin` says. */
  until(line: number, next: Label, begin: (k: Machine) => number): void {
    const slot = this.expressions.slot();
    const self = this.here();
    this.emit(line, (k) => {
      if (k.fresh) k.slots[slot] = begin(k);
      // A time that is no number (a reading that is not there) does not hold the program up for ever.
      return k.timeMs < k.slots[slot]! ? self : next.pc;
    });
  }
}
