import { TURN_PERCENT, type Expr, type Lasting, type Step } from '../script/index.ts';
import type { Emitter, Label } from './emitter.ts';
import type { Machine } from './machine.ts';

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

type Of<Kind extends Step['kind']> = Extract<Step, { kind: Kind }>;

/** What a movement began at: ms of the clock, and wheel degrees gone. */
interface Begun {
  time: number;
  left: number;
  right: number;
}
type Done = (k: Machine, begun: Begun) => boolean;

/** Emits the ops of a step that tells a motor something. */
export function move(
  to: Emitter,
  step: Of<'drive' | 'wheels' | 'steer' | 'turn' | 'spin' | 'stop' | 'turret'>,
  next: Label,
): void {
  const line = step.at.line;
  const x = to.expressions;
  switch (step.kind) {
    case 'drive': {
      const speed = x.value(step.speed);
      const manner = step.raw ? 'raw' : 'drive';
      const start = (k: Machine) => {
        const v = speed(k);
        k.command(v, v, manner);
      };
      return motion(to, line, start, step, next);
    }
    case 'wheels': {
      const [left, right] = [x.value(step.left), x.value(step.right)];
      const manner = step.raw ? 'raw' : 'drive';
      return motion(to, line, (k) => k.command(left(k), right(k), manner), step, next);
    }
    case 'steer': {
      const [steering, speed] = [x.value(step.steering), x.value(step.speed)];
      const start = (k: Machine) => {
        const s = steering(k);
        // Without a reading to steer by it goes straight on.
        const [left, right] = steered(Number.isNaN(s) ? 0 : s, speed(k));
        k.command(left, right, 'drive');
      };
      return motion(to, line, start, step, next);
    }
    case 'turn':
      return turn(to, step, next);
    case 'spin': {
      const speed = step.speed ? x.value(step.speed) : () => TURN_PERCENT;
      const sign = step.direction === 'right' ? 1 : -1;
      const start = (k: Machine) => {
        const v = sign * speed(k);
        k.command(v, -v, 'drive');
      };
      return motion(to, line, start, step, next);
    }
    case 'stop': {
      const manner = step.how;
      to.marks();
      return to.act(line, next, (k) => k.command(0, 0, manner));
    }
    case 'turret':
      return turret(to, step, next);
  }
}

/**
 * Starts a movement and, where it says how far, how long or until when, follows it to its end. Beside a test, what it was told is
 * worked out anew at each look.
 */
function motion(
  to: Emitter,
  line: number,
  start: (k: Machine) => void,
  { until, endsWhen }: Lasting,
  next: Label,
): void {
  if (!until && !endsWhen) {
    to.marks();
    return to.act(line, next, start);
  }
  const far = until ? farEnough(to, until) : null;
  follow(to, line, next, start, far, endsWhen, endsWhen ? start : null);
}

/** Whether a movement has gone as far, or as long, as it should, by encoder or clock. */
function farEnough(to: Emitter, { of, amount: expr }: NonNullable<Lasting['until']>): Done {
  const amount = to.expressions.value(expr);
  if (of === 'time') return (k, begun) => k.timeMs - begun.time >= 1000 * Math.abs(amount(k));
  const inUnit = of === 'length';
  return (k, { left, right }) => {
    // Both wheels count, each its own way, so that a turn ends too.
    const wheelDeg = Math.floor((Math.abs(k.goneLeftDeg() - left) + Math.abs(k.goneRightDeg() - right)) / 2);
    return wheelDeg * (inUnit ? k.mmPerDeg : 1) >= Math.abs(amount(k));
  };
}

/** Follows a movement until it is done or a test holds; `again` is done at each look between. */
function follow(
  to: Emitter,
  line: number,
  next: Label,
  start: (k: Machine) => void,
  done: Done | null,
  endsWhen: Expr | null,
  again: ((k: Machine) => void) | null = null,
): void {
  const x = to.expressions;
  const question = endsWhen && x.question(endsWhen);
  const [time, left, right] = [x.slot(), x.slot(), x.slot()];
  const self = to.here();
  const begun = { time: 0, left: 0, right: 0 };
  to.marks();
  to.emit(line, (k) => {
    const { slots } = k;
    if (k.fresh) {
      question?.begin?.(k);
      start(k);
      [slots[time], slots[left], slots[right]] = [k.timeMs, k.goneLeftDeg(), k.goneRightDeg()];
      return self;
    }
    [begun.time, begun.left, begun.right] = [slots[time]!, slots[left]!, slots[right]!];
    if (!done?.(k, begun) && !question?.ask(k)) {
      again?.(k);
      return self;
    }
    k.command(0, 0, 'brake');
    return next.pc;
  });
}

/** On the spot by wheel encoders: each wheel travels track × angle ÷ 2 of the circle it turns on. */
function turn(to: Emitter, step: Of<'turn'>, next: Label): void {
  const angle = to.expressions.value(step.angle);
  const speed = step.speed ? to.expressions.value(step.speed) : () => TURN_PERCENT;
  const sign = step.direction === 'right' ? 1 : -1;
  // What is left to turn, in wheel degrees, sets the speed near the end: the turn lands on its angle.
  const go = (k: Machine, leftDeg: number) => {
    const fast = Math.min(Math.abs(speed(k)), Math.max(TURN_LEAST, TURN_GAIN * leftDeg));
    const v = sign * Math.sign(angle(k)) * fast;
    k.command(v, -v, 'drive');
  };
  const wanted = (k: Machine) => Math.abs(angle(k)) * k.wheelPerTurn;
  const start = (k: Machine) => go(k, wanted(k));
  const done: Done = (k, { left, right }) => {
    const rest = wanted(k) - Math.abs((k.goneLeftDeg() - left - (k.goneRightDeg() - right)) / 2);
    if (!(rest > Math.min(TURN_EARLY, wanted(k) / 2))) return true;
    go(k, rest);
    return false;
  };
  follow(to, step.at.line, next, start, done, step.endsWhen);
}

function turret(to: Emitter, step: Of<'turret'>, next: Label): void {
  const angle = step.angle && to.expressions.value(step.angle);
  const speed = step.speed ? to.expressions.value(step.speed) : () => 100;
  const sign = step.direction === 'right' ? 1 : -1;
  to.until(step.at.line, next, (k) => k.turnTurret(angle ? k.turretDeg + sign * angle(k) : 0, speed(k)));
}
