import type { Expr, Finding, Program, Step } from '../script/index.ts';
import { parts, walk, walkProgram } from '../script/index.ts';
import { finding, type Rule } from './context.ts';
import { looked } from './look.ts';

type Set_ = Extract<Step, { kind: 'set' }>;

const isConstant = ({ value }: Set_) => value.kind === 'quantity' || value.kind === 'truth';
const constantOf = (expr: Expr): number | boolean | null =>
  expr.kind === 'quantity' || expr.kind === 'truth' ? expr.value : null;

/** A flag that is asked before counting, set in that branch, and never set back: it counts once and never again. */
export const neverBack: Rule = (program) => {
  const sets = new Map<number, Set_[]>();
  walkProgram(program, (step) => {
    if (step.kind === 'set') sets.set(step.index, [...(sets.get(step.index) ?? []), step]);
  });
  const found: Finding[] = [];
  walkProgram(program, (step, inside) => {
    if (step.kind !== 'if' || !inside.some(({ kind }) => kind === 'repeat')) return;
    for (const { test, body } of step.arms) if (test) found.push(...inBranch(program, test, body, sets));
  });
  return found;
};

function inBranch(
  program: Program,
  test: Expr,
  body: readonly Step[],
  sets: ReadonlyMap<number, Set_[]>,
): Finding[] {
  const asked = new Set(parts(test).flatMap((part) => (part.kind === 'value' ? [part.index] : [])));
  const inside: Set_[] = [];
  walk(body, (step) => step.kind === 'set' && inside.push(step));
  const counts = inside.some(({ index, value }) =>
    parts(value).some((part) => part.kind === 'value' && part.index === index),
  );
  if (!counts) return [];
  return inside.flatMap((set): Finding[] => {
    const { initial, name } = program.values[set.index]!;
    if (!asked.has(set.index) || !isConstant(set) || !initial) return [];
    const back = sets.get(set.index)!.filter((one) => one !== set);
    if (back.length > 0 || constantOf(initial) === constantOf(set.value)) return [];
    const start = constantOf(initial);
    const word = start === true ? 'yes' : start === false ? 'no' : `${start ?? 0}`;
    return [
      looked(
        finding(
          set.at,
          'risk',
          'never reset',
          `“${name}” is set here and never set back: this branch is gone through once only.`,
          'It asks for it before it counts, and nothing sets it back when the next one comes.',
          `Set it back where the next one may begin: set ${name} to ${word}.`,
        ),
        (seen) => (seen.passed === null ? true : !seen.passed),
      ),
    ];
  });
}
