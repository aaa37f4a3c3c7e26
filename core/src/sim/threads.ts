import { FINISH, type Compiled } from './compiled.ts';
import type { Machine } from './machine.ts';

/** What the program does at one place at a time: the main program, or the steps of one “whenever”. */
export interface Thread {
  /** Place in the op list; −1 while it does nothing. */
  pc: number;
  /** True at a step's first look, false while it is looked at again. */
  fresh: boolean;
  /** Where own steps go on when they are done. */
  stack: number[];
  /** What the last own step gave back. */
  given: number;
}

const thread = (pc: number): Thread => ({ pc, fresh: true, stack: [], given: NaN });

interface Watching {
  thread: Thread;
  watcher: Compiled['watchers'][number];
  /** Whether its test held at the last look: its steps begin when it comes true, not while it stays so. */
  held: boolean;
}

/** What the wheels are told, and by whom; the kernel does it. */
export interface Wheels {
  /** Somebody else than the main program has the wheels from now on. */
  taken: () => void;
  /** The main program has them back, and goes on with what it told them last. */
  givenBack: () => void;
}

/**
 * The main program and all that runs beside it. Each does one step every step time, those beside it first. A “whenever” has the wheels
 * from its first movement to its end: until then the main program waits where it is, and another “whenever” at its next movement.
 */
export class Threads {
  readonly main = thread(0);
  /** What is doing a step now. */
  current: Thread = this.main;
  private readonly code: Compiled;
  private readonly wheels: Wheels;
  private readonly watching: Watching[];
  private owner: Thread | null = null;
  private mainOver = false;

  constructor(code: Compiled, wheels: Wheels) {
    this.code = code;
    this.wheels = wheels;
    this.watching = code.watchers.map((watcher) => ({ thread: thread(-1), watcher, held: false }));
  }

  /** Whether anything may run beside the main program. */
  get several(): boolean {
    return this.watching.length > 0;
  }

  /** Notes what the tests beside the main program count from. */
  begin(k: Machine): void {
    for (const { watcher } of this.watching) watcher.begin?.(k);
  }

  /** Where the program is: in the steps that have the wheels, else in the main program. */
  get pc(): number {
    return (this.owner ?? this.main).pc;
  }

  /** Whether the current steps are the main program's. */
  get inMain(): boolean {
    return this.current === this.main;
  }

  /** One step of everything that runs; true when the program is over. */
  step(k: Machine): boolean {
    for (const one of this.watching) {
      if (one.thread.pc < 0 && !this.look(one, k)) continue;
      if (this.advance(one.thread, k) === FINISH) return true;
      if (one.thread.pc < 0) this.done(one, k);
    }
    if (!this.owner && !this.mainOver && this.code.mainEntry >= 0)
      this.mainOver = this.advance(this.main, k) < 0;
    if (this.mainOver && this.main.pc === FINISH) return true;
    return this.mainOver && this.watching.every((one) => one.thread.pc < 0);
  }

  /** Looks whether a test has come true, and begins its steps then. */
  private look(one: Watching, k: Machine): boolean {
    this.current = one.thread;
    const holds = one.watcher.ask(k);
    const begins = holds && !one.held;
    one.held = holds;
    if (!begins || one.watcher.entry < 0) return false;
    Object.assign(one.thread, thread(one.watcher.entry));
    return true;
  }

  private done(one: Watching, k: Machine): void {
    one.held = true;
    one.watcher.begin?.(k);
    if (this.owner !== one.thread) return;
    this.owner = null;
    this.wheels.givenBack();
  }

  /** One step of one thread: its next place; where it would move wheels that another has, it waits. */
  private advance(one: Thread, k: Machine): number {
    const moves = this.code.moves[one.pc] === 1;
    if (moves && one !== this.main) {
      if (this.owner && this.owner !== one) return one.pc;
      if (!this.owner) {
        this.owner = one;
        this.wheels.taken();
      }
    }
    this.current = one;
    const next = this.code.ops[one.pc]!(k);
    one.fresh = next !== one.pc;
    one.pc = next;
    return next;
  }
}
