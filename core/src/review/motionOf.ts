import { topSpeedMmPerS } from '../motion/index.ts';
import type { Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { numberOf, type Known } from './evaluate.ts';
import type { ReviewContext } from './context.ts';
import { spinSpeed } from './spelledOut.ts';

type Moving = Extract<Step, { kind: 'drive' | 'wheels' | 'steer' | 'spin' }>;

/** A step that turns the wheels until told otherwise. */
export const goesOn = (step: Step): step is Moving =>
  (step.kind === 'drive' || step.kind === 'wheels' || step.kind === 'steer' || step.kind === 'spin') &&
  step.until === null &&
  step.endsWhen === null;

/** A step that turns the wheels at all. */
export const movesAtAll = (step: Step): boolean =>
  step.kind === 'drive' ||
  step.kind === 'wheels' ||
  step.kind === 'steer' ||
  step.kind === 'spin' ||
  step.kind === 'turn';

/** A step after which the wheels stand: a stop, or a movement that ends by itself. */
export const comesToStand = (step: Step): boolean =>
  step.kind === 'stop' || step.kind === 'turn' || (movesAtAll(step) && !goesOn(step));

/** Speed of the robot's middle in % of full, forward positive; null when it cannot be told. */
export function percentOf(step: Step, known: Known): number | null {
  switch (step.kind) {
    case 'drive':
    case 'steer':
      return numberOf(step.speed, known);
    case 'wheels': {
      const [left, right] = [numberOf(step.left, known), numberOf(step.right, known)];
      return left === null || right === null ? null : (left + right) / 2;
    }
    default:
      return null;
  }
}

/** Speed that a share of full speed is for this robot, mm/s; more than 100 % is not to be had. */
export function speedMmPerS({ kit, build }: ReviewContext, percent: number): number {
  const top = topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm);
  return (top * Math.max(-100, Math.min(100, percent))) / 100;
}

/** The steps of which one may be turning the wheels after some steps; null in the set: it may stand. */
export interface MovingAfter {
  /** When the last step is done. */
  falls: Set<Step | 'before' | null>;
  /** Where `leave` goes out. */
  leaves: Movings;
  /** Where the program ends. */
  ends: { moving: Movings; at: Step }[];
}

type Movings = MovingAfter['falls'];

/** A set in which `'before'` has become what really went on. */
const through = (set: Movings, before: Movings): Movings =>
  set.has('before') ? joined(new Set([...set].filter((one) => one !== 'before')), before) : set;

const joined = <T>(...sets: Set<T>[]): Set<T> => new Set(sets.flatMap((set) => [...set]));

/**
 * Which movement may still go on after some steps, along every way through them. `'before'` stands for whatever
 * went on when they began, so that an own step is worked out once.
 */
export class MotionFlow {
  private readonly program: Program;
  private readonly tasks = new Map<number, MovingAfter>();

  constructor(program: Program) {
    this.program = program;
  }

  after(steps: readonly Step[], entering: Movings): MovingAfter {
    let now = entering;
    const leaves: Movings = new Set();
    const ends: MovingAfter['ends'] = [];
    for (const step of steps) {
      if (now.size === 0) break;
      if (goesOn(step)) now = new Set([stands(step) ? null : step]);
      else if (comesToStand(step)) now = new Set([null]);
      else if (step.kind === 'leave') {
        now.forEach((one) => leaves.add(one));
        now = new Set();
      } else if (step.kind === 'finish') {
        ends.push({ moving: now, at: step });
        now = new Set();
      } else if (step.kind === 'if') {
        const arms = step.arms.map((arm) => this.after(arm.body, now));
        arms.forEach((arm) => ends.push(...arm.ends));
        arms.forEach((arm) => arm.leaves.forEach((one) => leaves.add(one)));
        const skipped: Movings = step.arms.some((arm) => arm.test === null) ? new Set() : now;
        now = joined(skipped, ...arms.map((arm) => arm.falls));
      } else if (step.kind === 'repeat') {
        // Worked out once whatever comes in, so that deep nesting costs no more than its length.
        const body = this.after(step.body, new Set(['before']));
        const entering = joined(now, through(body.falls, now));
        ends.push(...body.ends.map(({ moving, at }) => ({ moving: through(moving, entering), at })));
        const left = through(body.leaves, entering);
        now = step.how === 'forever' ? left : joined(entering, left);
      } else if (step.kind === 'do') {
        const own = this.task(step.task);
        const entering = now;
        ends.push(...own.ends.map(({ moving, at }) => ({ moving: through(moving, entering), at })));
        now = through(own.falls, entering);
      }
    }
    return { falls: now, leaves, ends };
  }

  private task(index: number): MovingAfter {
    let found = this.tasks.get(index);
    if (!found) {
      // Set before it is worked out: a circle of own steps, which the reader refuses, must not hang the review.
      this.tasks.set(index, { falls: new Set(['before']), leaves: new Set(), ends: [] });
      found = this.after(this.program.tasks[index]!.body, new Set(['before']));
      this.tasks.set(index, found);
    }
    return found;
  }
}

/** A command of speed 0 is a stop by another name. */
const stands = (step: Moving): boolean =>
  step.kind === 'wheels'
    ? isZero(step.left) && isZero(step.right)
    : isZero(step.kind === 'spin' ? spinSpeed(step) : step.speed);

const isZero = (expr: Expr) => expr.kind === 'quantity' && expr.value === 0;

/** The words that change a speed given as a plain number, for a one-tap mend. */
export const speedFix = (step: Step, percent: number): Finding['fix'] => {
  const expr = step.kind === 'drive' || step.kind === 'steer' || step.kind === 'spin' ? step.speed : null;
  if (expr?.kind !== 'quantity' || expr.at.length === 0 || percent < 5) return undefined;
  return {
    label: `Write ${percent} % instead`,
    edit: { kind: 'replace', at: expr.at, text: `${percent} %` },
  };
};
