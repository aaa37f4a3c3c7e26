import type { Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { bodiesOf, expressionsOf, parts, sensorsIn, walk, walkProgram } from '../script/index.ts';
import { finding, wordsAt, type Rule } from './context.ts';

type Set_ = Extract<Step, { kind: 'set' }>;

/** A step that raises or lowers a value by something: `set n to n + 1`. */
const counts = (step: Step): step is Set_ =>
  step.kind === 'set' &&
  step.value.kind === 'arithmetic' &&
  (step.value.op === '+' || step.value.op === '-') &&
  parts(step.value).some((part) => part.kind === 'value' && part.index === step.index);

/** A level is a state that lasts: a comparison of a reading, a colour, a pressed bumper. A bump or a change is not. */
function levelSensors(test: Expr): ReadonlySet<number> {
  const event = parts(test).some(
    (part) =>
      part.kind === 'change' ||
      (part.kind === 'is' && part.asks.of === 'touch' && part.asks.what === 'bumped'),
  );
  return event ? new Set() : sensorsIn(test);
}

/** Values that a test asks about beside its sensors: a flag that is set in the same branch is a re-arm of its own. */
const valuesIn = (expr: Expr) =>
  new Set(parts(expr).flatMap((part) => (part.kind === 'value' ? [part.index] : [])));

const shares = (a: ReadonlySet<number>, b: ReadonlySet<number>) => [...a].some((one) => b.has(one));

/** Steps in order, those inside blocks counted. */
function flat(steps: readonly Step[]): Step[] {
  const found: Step[] = [];
  walk(steps, (step) => found.push(step));
  return found;
}

/** Whether steps wait, by a sensor of the level, for the level to end. */
const waitsFor = (steps: readonly Step[], sensors: ReadonlySet<number>, but?: Step): boolean =>
  flat(steps).some(
    (step) =>
      step !== but &&
      (step.kind === 'waitUntil' ||
        (step.kind === 'repeat' && (step.how === 'until' || step.how === 'while'))) &&
      expressionsOf(step).some((expr) => shares(sensorsIn(expr), sensors)),
  );

/** Steps that take so long that the level has probably ended: told as a risk, not as a fault. */
const takesTime = (steps: readonly Step[]) =>
  flat(steps).some(
    (step) =>
      step.kind === 'wait' ||
      step.kind === 'turn' ||
      ((step.kind === 'drive' || step.kind === 'wheels' || step.kind === 'steer') && step.until !== null) ||
      step.kind === 'waitUntil',
  );

const flips = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '=': '<>', '<>': '=' } as const;

/** The opposite of a test, in words. */
function opposite(program: Program, test: Expr): string {
  const words = wordsAt(program, test.at);
  if (test.kind === 'compare') {
    const from = test.left.at.column - test.at.column + test.left.at.length;
    const at = words.indexOf(test.op, from);
    if (at >= 0) return words.slice(0, at) + flips[test.op] + words.slice(at + test.op.length);
  }
  if (test.kind === 'is') return words.replace(/\bis\s+/i, 'is not ');
  return `not (${words})`;
}

function rearm(program: Program, set: Set_, test: Expr, late: boolean, fixAfter: number): Finding {
  const words = wordsAt(program, test.at);
  const name = program.values[set.index]!.name;
  const wait = `wait until ${opposite(program, test)}`;
  return finding(
    set.at,
    late ? 'risk' : 'fault',
    'no re-arm',
    late ? `“${name}” may be raised twice for one.` : `“${name}” is raised again and again for one.`,
    late
      ? `It goes on after a fixed time, whether or not “${words}” is over.`
      : `“${words}” holds for many looks, and each look counts.`,
    `Wait for it to end before the next: ${wait}.`,
    { label: `Add “${wait}”`, edit: { kind: 'insert', after: fixAfter, text: wait } },
  );
}

/** Rule 4: a counter raised while a level holds, with nothing that waits for the level to end. */
export const noRearm: Rule = (program) => {
  const found: Finding[] = [];
  walkProgram(program, (step) => {
    if (step.kind !== 'repeat') return;
    for (const inner of step.body) {
      if (inner.kind === 'if') found.push(...inArms(program, inner));
    }
    found.push(...inRound(program, step.body));
  });
  return found;
};

/** `if <level>` … `set n to n + 1`, looked at in every round. */
function inArms(program: Program, decision: Extract<Step, { kind: 'if' }>): Finding[] {
  return decision.arms.flatMap(({ test, body }): Finding[] => {
    const sensors = test ? levelSensors(test) : new Set<number>();
    const nested = body.flatMap((inner) => (inner.kind === 'if' ? inArms(program, inner) : []));
    const set = body.find(counts);
    if (!test || !set || sensors.size === 0 || waitsFor(body, sensors)) return nested;
    const flags = new Set(
      flat(body).flatMap((one) => (one.kind === 'set' && one !== set ? [one.index] : [])),
    );
    if (
      shares(valuesIn(test), flags) ||
      flat(body).some((one) => one.kind === 'leave' || one.kind === 'finish')
    )
      return nested;
    return [rearm(program, set, test, takesTime(body), set.at.line), ...nested];
  });
}

/** `wait until <level>` … `set n to n + 1` in a round that comes back to the wait at once. */
function inRound(program: Program, body: readonly Step[]): Finding[] {
  return body.flatMap((step, i): Finding[] => {
    if (step.kind !== 'waitUntil') return [];
    const sensors = levelSensors(step.test);
    if (sensors.size === 0) return [];
    const set = body.slice(i + 1).find(counts);
    if (!set || waitsFor(body, sensors, step)) return [];
    const others = body.filter((one) => one !== step);
    if (flat(others).some((one) => one.kind === 'leave' || one.kind === 'finish')) return [];
    return [rearm(program, set, step.test, takesTime(others), set.at.line)];
  });
}

/** Half of rule 15: a count that ends an inner repeat is still up when the outer repeat comes round again. */
export const neverReset: Rule = (program) => {
  const found: Finding[] = [];
  walkProgram(program, (step, inside) => {
    if (step.kind !== 'repeat' || (step.how !== 'until' && step.how !== 'while') || !step.amount) return;
    const outer = [...inside].reverse().find((one) => one.kind === 'repeat');
    if (!outer) return;
    const around = bodiesOf(outer).flatMap(flat);
    for (const index of valuesIn(step.amount)) {
      const { name, task } = program.values[index]!;
      const raised = flat(step.body).some((one) => counts(one) && one.index === index);
      const reset = around.some((one) => one.kind === 'set' && one.index === index && !counts(one));
      if (!raised || reset || task !== null || sensorsIn(step.amount).size > 0) continue;
      found.push(
        finding(
          step.at,
          'risk',
          'never reset',
          `The second time round “${name}” is still up, and this repeat is over at once.`,
          `It is set at the start only, and the repeat in line ${outer.at.line} comes back here.`,
          `Set it again before this line: set ${name} to 0.`,
          {
            label: `Add “set ${name} to 0” before line ${step.at.line}`,
            edit: { kind: 'insert', after: step.at.line - 1, text: `set ${name} to 0` },
          },
        ),
      );
    }
    for (const part of parts(step.amount)) found.push(...stillCounting(part, step, around));
  });
  walkProgram(program, (step, inside) => {
    if (step.kind !== 'waitUntil') return;
    const outer = [...inside].reverse().find((one) => one.kind === 'repeat');
    if (outer)
      for (const part of parts(step.test))
        found.push(...stillCounting(part, step, bodiesOf(outer).flatMap(flat)));
  });
  return found;
};

/** Wheel counts and the timer go on counting: a test of them in a repeat needs its own zero. */
function stillCounting(expr: Expr, step: Step, around: readonly Step[]): Finding[] {
  if (expr.kind !== 'compare') return [];
  const side = [expr.left, expr.right].find((one) => one.kind === 'builtin' && one.name !== 'battery');
  const other = side === expr.left ? expr.right : expr.left;
  if (side?.kind !== 'builtin' || other.kind !== 'quantity') return [];
  const what = side.name === 'timer' ? 'timer' : 'wheels';
  if (around.some((one) => one.kind === 'zero' && one.what === what)) return [];
  return [
    finding(
      expr.at,
      'risk',
      'never reset',
      `The second time round the ${what === 'timer' ? 'timer is' : 'wheels are'} already past this.`,
      what === 'timer'
        ? 'It counts from the start of the program.'
        : 'They count from the start of the program.',
      `Write “zero ${what}” before it.`,
      {
        label: `Add “zero ${what}” before line ${step.at.line}`,
        edit: { kind: 'insert', after: step.at.line - 1, text: `zero ${what}` },
      },
    ),
  ];
}
