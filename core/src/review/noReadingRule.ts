import { formatNumber, formatQuantity } from '../quantity/index.ts';
import { inBase } from '../sensing/index.ts';
import { partBehind } from '../editing/index.ts';
import {
  memo,
  parts,
  programParts,
  walk,
  walkProgram,
  type Expr,
  type Finding,
  type Program,
  type Step,
} from '../script/index.ts';
import { levels, type Level } from './comparisonRules.ts';
import { finding, type Rule } from './context.ts';
import { constants, truthOf } from './evaluate.ts';
import { looked } from './look.ts';
import { goesOn } from './motionOf.ts';

/** Where a comparison is asked, and what is done when it holds. */
/** With the whole test that it is a part of. */
type Asked = { test: Expr } & Role;
type Role =
  | { role: 'wait'; since: readonly Expr[] }
  | { role: 'until' | 'while' }
  | { role: 'if'; body: readonly Step[] };

/** Where each part of each test of a program stands. */
const rolesOf = memo((program: Program): ReadonlyMap<Expr, Asked> => {
  const found = new Map<Expr, Asked>();
  const add = (test: Expr | null, role: Role) =>
    test && parts(test).forEach((part) => found.set(part, { ...role, test }));
  walkProgram(program, (step, inside, siblings, index) => {
    if (step.kind === 'waitUntil')
      add(step.test, { role: 'wait', since: heldSince(inside, siblings, index) });
    if (step.kind === 'repeat' && (step.how === 'until' || step.how === 'while'))
      add(step.amount, { role: step.how });
    if (step.kind === 'if') step.arms.forEach(({ test, body }) => add(test, { role: 'if', body }));
  });
  return found;
});

/** What certainly held a while before a wait, the robot not having backed off since: the branch that it stands in, the wait above it. */
function heldSince(inside: readonly Step[], siblings: readonly Step[], index: number): Expr[] {
  const found: Expr[] = [];
  for (let i = index - 1; i >= 0; i--) {
    const one = siblings[i]!;
    if ((one.kind === 'drive' || one.kind === 'steer') && one.speed.kind === 'negative') return found;
    if (one.kind === 'waitUntil') found.push(one.test);
  }
  const holder = inside.at(-1);
  if (holder?.kind === 'if')
    for (const { test, body } of holder.arms) if (test && body === siblings) found.push(test);
  return found;
}

/** Whether a sensor had something near it when the wait began: nothing heard then means that it is gone. */
const wasNear = (sensor: number, since: readonly Expr[]): boolean =>
  since.some((test) =>
    parts(test).some(
      (part) =>
        part.kind === 'compare' &&
        part.left.kind === 'sensor' &&
        part.left.index === sensor &&
        (part.op === '<' || part.op === '<='),
    ),
  );

/** Whether a branch takes the way for free and drives on: without an echo it is. */
function drivesOn(body: readonly Step[]): boolean {
  let [ahead, acts] = [false, false];
  walk(body, (step) => {
    ahead ||= goesOn(step) && step.kind !== 'spin';
    acts ||= ['stop', 'set', 'leave', 'finish', 'give', 'turn'].includes(step.kind);
  });
  return ahead && !acts;
}

/** Whether it harms that no reading answers a test: going on while nothing is near is what such a test is for. */
function harms(asked: Asked | undefined, sensor: number): boolean {
  if (!asked || asked.role === 'while') return false;
  if (asked.role === 'wait') return !wasNear(sensor, asked.since);
  return asked.role !== 'if' || !drivesOn(asked.body);
}

/** Rule 10: what “no reading” does to a comparison of a distance. */
export const noReading: Rule = (program, context) => {
  const guarded = new Set<number>();
  for (const part of programParts(program)) {
    if (part.kind === 'is' && part.asks.of === 'nothing') guarded.add(part.sensor);
  }
  return levels(program, context).flatMap((level): Finding[] => {
    const { sensor, index, op, value, unit, at } = level;
    const part = partBehind(context, sensor);
    if (sensor.kind !== 'distance' || !part) return [];
    const code = part.noReading;
    if ((op === '<' || op === '<=') && (op === '<' ? value <= part.min : value < part.min)) {
      return [
        finding(
          at,
          'fault',
          'too near to see',
          `“${sensor.name}” is never less than ${formatQuantity(value, unit)}.`,
          `It sees nothing closer than ${formatQuantity(part.min, unit)}${code === undefined ? '' : ` and then gives ${formatNumber(code)}`}.`,
          `Use more than ${formatQuantity(part.min, unit)}, or a touch sensor.`,
        ),
      ];
    }
    if ((op !== '>' && op !== '>=') || code === undefined || code <= value || guarded.has(index)) return [];
    const asked = rolesOf(program).get(level.expr);
    if (!harms(asked, index)) return [];
    // What is asked beside it may shut out that number: “front > 5 cm and < 20 cm”.
    const heard = {
      ...constants(program, context),
      reading: (i: number) => (i === index ? inBase(code, unit) : null),
    };
    if (asked && truthOf(asked.test, heard) === false) return [];
    const said = finding(
      at,
      'risk',
      'no reading',
      `This is also true when “${sensor.name}” sees nothing at all.`,
      `Without an echo it gives ${formatNumber(code)}, which is more than ${formatQuantity(value, unit)}; too near does that too.`,
      `Ask for it as well: and ${sensor.name} is not nothing.`,
      {
        label: `Add “and ${sensor.name} is not nothing”`,
        edit: {
          kind: 'replace',
          at: { line: at.line, column: at.column + at.length, length: 0 },
          text: ` and ${sensor.name} is not nothing`,
        },
      },
    );
    return [looked(said, answeredByNothing(level))];
  });
};

/** Whether the sensor gave nothing where the test was let through by it. */
const answeredByNothing =
  ({ index, at }: Level) =>
  (seen: Parameters<Parameters<typeof looked>[1]>[0]): boolean | null =>
    seen.stretches((row) => seen.line(row) === at.line && seen.silent(index, row)).length > 0;
