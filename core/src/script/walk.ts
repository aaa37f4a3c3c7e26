import type { Expr, Program, Step } from './ast.ts';
import { memo } from './memo.ts';

type Visit = (step: Step, inside: readonly Step[], siblings: readonly Step[], index: number) => void;

interface Visited {
  step: Step;
  inside: readonly Step[];
  siblings: readonly Step[];
  index: number;
}

/** The whole walk through some steps, made once: a review walks the same program for every rule. */
const walkOf = memo((steps: readonly Step[]): readonly Visited[] => {
  const list: Visited[] = [];
  const visit = (siblings: readonly Step[], inside: readonly Step[]) =>
    siblings.forEach((step, index) => {
      list.push({ step, inside, siblings, index });
      const bodies = bodiesOf(step);
      if (bodies.length === 0) return;
      const within = [...inside, step];
      for (const body of bodies) visit(body, within);
    });
  visit(steps, []);
  return list;
});

/** Calls `visit` for every step in reading order, with the blocks that hold it, outermost first. */
export function walk(steps: readonly Step[], visit: Visit): void {
  for (const { step, inside, siblings, index } of walkOf(steps)) visit(step, inside, siblings, index);
}

/** Like `walk`, over the main program, then what runs beside it, then every own step. */
export function walkProgram({ steps, tasks, watchers }: Program, visit: Visit): void {
  walk(steps, visit);
  for (const watcher of watchers) walk(watcher.body, visit);
  for (const task of tasks) walk(task.body, visit);
}

/** The lists of steps that a step holds: a repeat's body, a decision's arms. */
export function bodiesOf(step: Step): Step[][] {
  if (step.kind === 'repeat') return [step.body];
  return step.kind === 'if' ? step.arms.map((arm) => arm.body) : [];
}

const given = (...exprs: (Expr | null | undefined)[]): Expr[] => exprs.filter((expr) => !!expr);

/** The expressions a step looks at directly. */
export function expressionsOf(step: Step): Expr[] {
  switch (step.kind) {
    case 'drive':
      return given(step.speed, step.until?.amount, step.endsWhen);
    case 'wheels':
      return given(step.left, step.right, step.until?.amount, step.endsWhen);
    case 'steer':
      return given(step.steering, step.speed, step.until?.amount, step.endsWhen);
    case 'turn':
      return given(step.angle, step.speed, step.endsWhen);
    case 'turret':
      return given(step.angle, step.speed);
    case 'spin':
      return given(step.speed, step.until?.amount, step.endsWhen);
    case 'wait':
      return [step.time];
    case 'waitUntil':
      return [step.test];
    case 'repeat':
      return given(step.amount);
    case 'if':
      return step.arms.flatMap((arm) => given(arm.test));
    case 'set':
    case 'add':
      return [step.value];
    case 'give':
      return given(step.value);
    case 'show':
    case 'log':
      return step.items;
    case 'beep':
      return given(step.pitch, step.time, step.volume);
    case 'do':
      return step.args;
    default:
      return [];
  }
}

/** The expressions that an expression is made of. */
export function operandsOf(expr: Expr): Expr[] {
  switch (expr.kind) {
    case 'negative':
    case 'not':
      return [expr.operand];
    case 'arithmetic':
    case 'compare':
    case 'logic':
    case 'state':
      return [expr.left, expr.right];
    case 'call':
      return expr.args;
    case 'item':
    case 'listItem':
      return [expr.position];
    case 'random':
      return [expr.from, expr.to];
    case 'plain':
      return [expr.operand];
    case 'change':
      return [expr.operand, expr.by];
    default:
      return [];
  }
}

const partsOfTree = memo((expr: Expr): readonly Expr[] => {
  const list: Expr[] = [];
  const visit = (one: Expr) => {
    list.push(one);
    operandsOf(one).forEach(visit);
  };
  visit(expr);
  return list;
});

const isLeaf = ({ kind }: Expr) =>
  kind === 'quantity' ||
  kind === 'sensor' ||
  kind === 'value' ||
  kind === 'threshold' ||
  kind === 'is' ||
  kind === 'builtin';

/** An expression and all its parts, outermost first. */
export const parts = (expr: Expr): readonly Expr[] => (isLeaf(expr) ? [expr] : partsOfTree(expr));

/** Whether an expression, or any part of it, is something; nothing is kept. */
export function hasPart(expr: Expr, is: (part: Expr) => boolean): boolean {
  return is(expr) || (!isLeaf(expr) && operandsOf(expr).some((operand) => hasPart(operand, is)));
}

/** The first part of an expression that is something. */
export const partThat = (expr: Expr, is: (part: Expr) => boolean): Expr | undefined =>
  hasPart(expr, is) ? parts(expr).find(is) : undefined;

/** The sensor that a part looks at itself; null for a part that looks at none. */
export const sensorOfPart = (part: Expr): number | null =>
  part.kind === 'sensor'
    ? part.index
    : part.kind === 'raw' || part.kind === 'item' || part.kind === 'is'
      ? part.sensor
      : null;

const none: ReadonlySet<number> = new Set();

/** The sensors that an expression looks at, by index, each once. */
export const sensorsIn = (expr: Expr): ReadonlySet<number> =>
  expr.kind === 'quantity' || expr.kind === 'value' ? none : sensorsOfTree(expr);

const sensorsOfTree = memo((expr: Expr): ReadonlySet<number> => {
  let list: Set<number> | null = null;
  for (const part of parts(expr)) {
    const sensor = sensorOfPart(part);
    if (sensor !== null) (list ??= new Set()).add(sensor);
  }
  return list ?? none;
});

/** Every part of every expression that the program's steps look at, in reading order. */
export const programParts = memo((program: Program): readonly Expr[] => {
  const list: Expr[] = [];
  walkProgram(program, (step) => {
    for (const expr of expressionsOf(step)) list.push(...parts(expr));
  });
  for (const { test } of program.watchers) if (test) list.push(...parts(test));
  return list;
});
