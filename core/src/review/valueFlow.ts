import type { Expr, Program, Step } from '../script/index.ts';
import { expressionsOf, memo, parts, walkProgram } from '../script/index.ts';

/** What is put into a value, wherever that is done: null where it differs, or builds on the value itself. */
const contents = (program: Program): (Expr | null)[] => {
  const found = program.values.map((): Expr[] => []);
  const unknown = new Set<number>();
  const builtOnItself = new Set<number>();
  walkProgram(program, (step) => {
    if (step.kind === 'set') {
      found[step.index]!.push(step.value);
      if (parts(step.value).some((part) => part.kind === 'value' && part.index === step.index))
        builtOnItself.add(step.index);
    }
    if (step.kind === 'repeat' && step.counter !== null) unknown.add(step.counter);
    if (step.kind !== 'do') return;
    if (step.into !== null) unknown.add(step.into);
    program.tasks[step.task]!.parameters.forEach((index, i) => found[index]!.push(step.args[i]!));
  });
  return program.values.map(({ role, initial, of }, i) => {
    // A flag remembers what was so when it was set: it is not the question itself.
    if (unknown.has(i) || builtOnItself.has(i) || of === 'truth') return null;
    const given = found[i]!;
    const read = (expr: Expr) => parts(expr).some(({ kind }) => kind === 'sensor' || kind === 'threshold');
    // A plain number that never changes stays a name: nobody typed it where it is used.
    if (given.length === 0) return role === 'let' && initial && read(initial) ? initial : null;
    const [first] = given;
    const same = given.every((one) => words(program, one) === words(program, first!));
    // A value that only ever holds one thing is that thing; a flag that is set to this and that is not.
    return same && read(first!) ? first! : null;
  });
};

const words = ({ source }: Program, { at }: Expr): string =>
  (source[at.line - 1] ?? '').slice(at.column - 1, at.column - 1 + at.length).replace(/\s+/g, '');

/** How deep values may hold values. */
const DEEP = 6;

/**
 * A program in which every value that only ever holds one reading, error or threshold is that: “set error to threshold - floor / steer
 * error” is “steer threshold - floor”, also where it goes through an own step. Findings about it stand where the value is used.
 */
export const withValues = memo((program: Program): Program => {
  const held = contents(program);
  const through = (expr: Expr, depth = 0): Expr => {
    if (expr.kind === 'value') {
      const content = held[expr.index];
      return content && depth < DEEP ? { ...through(content, depth + 1), at: expr.at } : expr;
    }
    if (!parts(expr).some(({ kind }) => kind === 'value')) return expr;
    return mapOperands(expr, (inner) => through(inner, depth));
  };
  if (held.every((one) => one === null)) return program;
  const steps = (list: readonly Step[]): Step[] => list.map((step) => throughStep(step, through, steps));
  return {
    ...program,
    steps: steps(program.steps),
    tasks: program.tasks.map((task) => ({ ...task, body: steps(task.body) })),
    watchers: program.watchers.map((one) => ({
      ...one,
      test: one.test && through(one.test),
      body: steps(one.body),
    })),
  };
});

function mapOperands(expr: Expr, map: (expr: Expr) => Expr): Expr {
  switch (expr.kind) {
    case 'negative':
    case 'not':
    case 'plain':
      return { ...expr, operand: map(expr.operand) };
    case 'arithmetic':
    case 'compare':
    case 'logic':
    case 'state':
      return { ...expr, left: map(expr.left), right: map(expr.right) };
    case 'call':
      return { ...expr, args: expr.args.map(map) };
    case 'change':
      return { ...expr, operand: map(expr.operand), by: map(expr.by) };
    default:
      return expr;
  }
}

function throughStep(step: Step, map: (expr: Expr) => Expr, steps: (list: readonly Step[]) => Step[]): Step {
  if (expressionsOf(step).length === 0 && step.kind !== 'repeat') return step;
  const maybe = (expr: Expr | null) => expr && map(expr);
  switch (step.kind) {
    case 'drive':
      return { ...step, speed: map(step.speed), endsWhen: maybe(step.endsWhen) };
    case 'wheels':
      return { ...step, left: map(step.left), right: map(step.right), endsWhen: maybe(step.endsWhen) };
    case 'steer':
      return {
        ...step,
        steering: map(step.steering),
        speed: map(step.speed),
        endsWhen: maybe(step.endsWhen),
      };
    case 'spin':
      return { ...step, speed: maybe(step.speed), endsWhen: maybe(step.endsWhen) };
    case 'waitUntil':
      return { ...step, test: map(step.test) };
    case 'repeat':
      return { ...step, amount: maybe(step.amount), body: steps(step.body) };
    case 'if':
      return {
        ...step,
        arms: step.arms.map((arm) => ({ ...arm, test: maybe(arm.test), body: steps(arm.body) })),
      };
    default:
      return step;
  }
}
