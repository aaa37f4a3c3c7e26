import type { Body } from './body.ts';
import type { Manner } from './machine.ts';

/** What both wheels are told, in % of top speed. */
export interface Command {
  left: number;
  right: number;
  manner: Manner;
}

/** What the program tells the wheels, on its way to them: a command takes effect after the kit's delay. */
export class Wheels {
  private readonly body: Body;
  private readonly delayMs: number;
  private readonly pending: (Command & { atMs: number })[] = [];
  /** The newest command, whether or not it has taken effect. */
  private askedLeft = 0;
  private askedRight = 0;
  private askedManner: Manner = 'drive';

  constructor(body: Body, delayMs: number) {
    this.body = body;
    this.delayMs = Math.max(0, Math.round(delayMs));
  }

  /** The newest command, whether or not it has taken effect. */
  get asked(): Command {
    return { left: this.askedLeft, right: this.askedRight, manner: this.askedManner };
  }

  command(left: number, right: number, manner: Manner): void {
    // A program that repeats the same command each round does not restart the motors.
    if (this.askedLeft === left && this.askedRight === right && this.askedManner === manner) return;
    this.askedLeft = left;
    this.askedRight = right;
    this.askedManner = manner;
    this.pending.push({ atMs: this.body.timeMs + this.delayMs, left, right, manner });
  }

  /** The program is over: the wheels brake, after a time in ms or the kit's delay. */
  letGo(afterMs = this.delayMs): void {
    this.pending.push({ atMs: this.body.timeMs + afterMs, left: 0, right: 0, manner: 'brake' });
  }

  /** Tells the motors what has come through by now. */
  due(nowMs: number): void {
    while (this.pending.length > 0 && this.pending[0]!.atMs <= nowMs) {
      const { left, right, manner } = this.pending.shift()!;
      this.body.tell(left, right, manner);
    }
  }

  /** When the next command takes effect, ms; infinite where none is on its way. */
  get nextMs(): number {
    return this.pending.length > 0 ? this.pending[0]!.atMs : Infinity;
  }

  /** Whether nothing commanded, now or soon, turns a wheel. */
  idle(): boolean {
    const { goalLeft, goalRight } = this.body;
    return goalLeft === 0 && goalRight === 0 && this.pending.every((c) => c.left === 0 && c.right === 0);
  }
}
