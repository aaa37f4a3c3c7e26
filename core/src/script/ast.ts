import type { QuantityKind } from '../quantity/index.ts';
import type { SensorKind } from '../sensing/index.ts';
import type { Finding, Place } from './findings.ts';

export type CompareOp = '<' | '<=' | '>' | '>=' | '=' | '<>';

/** What an expression is worth: a quantity of some kind, a text, or yes/no. */
export type ValueKind = QuantityKind | 'text' | 'truth';

export type Expr = { at: Place } & (
  | { kind: 'quantity'; value: number; of: QuantityKind }
  | { kind: 'text'; value: string }
  | { kind: 'sensor'; index: number; of: QuantityKind }
  | { kind: 'value'; index: number; of: QuantityKind }
  | { kind: 'threshold'; sensor: number; of: QuantityKind }
  | { kind: 'negative'; operand: Expr }
  | { kind: 'arithmetic'; op: '+' | '-' | '*' | '/'; left: Expr; right: Expr }
  | { kind: 'compare'; op: CompareOp; left: Expr; right: Expr }
  | { kind: 'not'; operand: Expr }
  | { kind: 'logic'; op: 'and' | 'or'; left: Expr; right: Expr }
);

/** How long a movement lasts: so far, so much wheel, or so long. Base units: mm, wheel degrees, s. */
export interface For {
  of: 'length' | 'angle' | 'time';
  amount: Expr;
}

export interface Arm {
  line: number;
  /** Null for `else`. */
  test: Expr | null;
  body: Step[];
}

export type Step = { at: Place } & (
  | { kind: 'drive'; speed: Expr; until: For | null }
  | { kind: 'wheels'; left: Expr; right: Expr; until: For | null }
  | { kind: 'stop'; how: 'brake' | 'hold' | 'coast' }
  | { kind: 'wait'; time: Expr }
  | { kind: 'waitUntil'; test: Expr }
  | {
      kind: 'repeat';
      how: 'forever' | 'times' | 'for' | 'until' | 'while';
      amount: Expr | null;
      body: Step[];
      endLine: number;
    }
  | { kind: 'leave' }
  | { kind: 'finish' }
  | { kind: 'if'; arms: Arm[]; endLine: number }
  | { kind: 'set'; index: number; value: Expr }
  | { kind: 'show'; items: Expr[] }
  | { kind: 'clear' }
);

export interface SensorDeclaration {
  name: string;
  kind: SensorKind;
  socket: string;
  at: Place;
}

export interface ValueDeclaration {
  name: string;
  of: QuantityKind;
  initial: Expr;
  at: Place;
}

/** A script as understood. It may run only when `findings` holds no fault. */
export interface Program {
  sensors: SensorDeclaration[];
  values: ValueDeclaration[];
  steps: Step[];
  /** Number of steps written, those inside blocks counted, declarations not. */
  stepCount: number;
  /** Last line that holds a step or an `end`. */
  lastLine: number;
  findings: Finding[];
}

/** Calls `visit` for every step in reading order, with the repeats that hold it, outermost first. */
export function walk(
  steps: readonly Step[],
  visit: (step: Step, inside: readonly Step[], siblings: readonly Step[], index: number) => void,
  inside: readonly Step[] = [],
): void {
  steps.forEach((step, index) => {
    visit(step, inside, steps, index);
    if (step.kind === 'repeat') walk(step.body, visit, [...inside, step]);
    if (step.kind === 'if') step.arms.forEach((arm) => walk(arm.body, visit, [...inside, step]));
  });
}

/** The expressions a step looks at directly. */
export function expressionsOf(step: Step): Expr[] {
  switch (step.kind) {
    case 'drive':
      return [step.speed, ...(step.until ? [step.until.amount] : [])];
    case 'wheels':
      return [step.left, step.right, ...(step.until ? [step.until.amount] : [])];
    case 'wait':
      return [step.time];
    case 'waitUntil':
      return [step.test];
    case 'repeat':
      return step.amount ? [step.amount] : [];
    case 'if':
      return step.arms.flatMap((arm) => (arm.test ? [arm.test] : []));
    case 'set':
      return [step.value];
    case 'show':
      return step.items;
    default:
      return [];
  }
}

/** An expression and all its parts, outermost first. */
export function parts(expr: Expr): Expr[] {
  switch (expr.kind) {
    case 'negative':
    case 'not':
      return [expr, ...parts(expr.operand)];
    case 'arithmetic':
    case 'compare':
    case 'logic':
      return [expr, ...parts(expr.left), ...parts(expr.right)];
    default:
      return [expr];
  }
}
