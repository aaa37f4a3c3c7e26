import type { Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { expressionsOf, sensorsIn, walk } from '../script/index.ts';
import { finding, type Rule } from './context.ts';
import { looked, type Check } from './look.ts';
import { comesToStand, goesOn, movesAtAll, MotionFlow } from './motionOf.ts';

/** Own steps that are done inside a repeat somewhere, or beside the main program, directly or by another own step. */
export function repeatedTasks(program: Program): Set<number> {
  const found = new Set<number>();
  const look = (steps: readonly Step[], always: boolean) =>
    walk(steps, (step, inside) => {
      if (step.kind !== 'do' || found.has(step.task)) return;
      if (!always && !inside.some((outer) => outer.kind === 'repeat')) return;
      found.add(step.task);
      look(program.tasks[step.task]!.body, true);
    });
  look(program.steps, false);
  program.watchers.forEach((watcher) => look(watcher.body, true));
  program.tasks.forEach((task) => look(task.body, false));
  return found;
}

/** What the robot did when a step came: it was driving, it stood after having done something, or it has not begun. */
function before(
  program: Program,
  siblings: readonly Step[],
  index: number,
  inside: readonly Step[],
): 'driving' | 'standing' | 'not begun' {
  const flow = new MotionFlow(program);
  let list = siblings;
  let at = index;
  let begun = false;
  for (let level = inside.length; level >= 0; level--) {
    for (let i = at - 1; i >= 0; i--) {
      const one = list[i]!;
      if (goesOn(one)) return 'driving';
      if (comesToStand(one)) return 'standing';
      begun ||= one.kind === 'wait' || (one.kind === 'beep' && one.time !== null);
      if (one.kind === 'repeat' || one.kind === 'if' || one.kind === 'do') {
        const { falls } = flow.after([one], new Set(['before' as const]));
        if ([...falls].some((moving) => moving !== null && moving !== 'before')) return 'driving';
        if (falls.has(null)) return 'standing';
      }
    }
    const holder = inside[level - 1];
    if (!holder) break;
    const outer = level >= 2 ? inside[level - 2] : undefined;
    const lists = outer ? listsOf(outer) : [program.steps, ...program.tasks.map(({ body }) => body)];
    list = lists.find((one) => one.includes(holder)) ?? [];
    at = list.indexOf(holder);
  }
  return begun ? 'standing' : 'not begun';
}

const listsOf = (step: Step): Step[][] =>
  step.kind === 'repeat' ? [step.body] : step.kind === 'if' ? step.arms.map(({ body }) => body) : [];

/** Rule 2: a sensor decision outside any repeat is taken once, when the program comes to it. */
export const decidedOnce: Rule = (program) => {
  const found: Finding[] = [];
  const repeated = repeatedTasks(program);
  const look = (steps: readonly Step[], main: boolean) =>
    walk(steps, (step, inside, siblings, index) => {
      if (step.kind !== 'if' || inside.some((outer) => outer.kind === 'repeat')) return;
      if (!expressionsOf(step).some((expr) => sensorsIn(expr).size > 0)) return;
      if (index > 0 && siblings[index - 1]!.kind === 'waitUntil') return;
      const when = before(program, siblings, index, inside);
      const acts = step.arms.some(({ body }) => moves(program, body));
      const chooses = step.arms.at(-1)!.test === null;
      // Standing, it looks at what it has come to. Before it has begun, a choice of two ways is meant as one.
      const sure = when === 'driving' || (when === 'not begun' && acts && !chooses && !inside.some(isIf));
      const said = finding(
        step.at,
        'risk',
        'decided once',
        'This is asked once and never again.',
        'It stands outside any repeat, so the robot decides at that moment only.',
        'Put it inside a repeat, or wait until it is so.',
      );
      if (sure || (when === 'not begun' && acts))
        found.push(looked(said, main ? cameTrueLater(step) : () => null, sure));
    });
  look(program.steps, true);
  program.tasks.forEach((task, i) => repeated.has(i) || look(task.body, false));
  return found;
};

const isIf = (step: Step) => step.kind === 'if';

/** Whether steps move the robot, own steps included. */
function moves(program: Program, steps: readonly Step[], deep = 0): boolean {
  let found = false;
  walk(steps, (step) => {
    found ||= movesAtAll(step) || step.kind === 'stop';
    if (step.kind === 'do' && deep < 5) found ||= moves(program, program.tasks[step.task]!.body, deep + 1);
  });
  return found;
}

/** A test that did not hold when it was asked, and held later for a while. */
const cameTrueLater =
  (step: Extract<Step, { kind: 'if' }>): Check =>
  (seen) => {
    const [first] = step.arms;
    if (!first?.test) return null;
    let row = 0;
    while (row < seen.rows && seen.line(row) < step.at.line && seen.line(row) !== 0) row++;
    if (row >= seen.rows) return null;
    const { test } = first;
    if (seen.truth(test, Math.max(0, row - 1)) === true || seen.truth(test, row) === true) return false;
    return seen.stretches((at) => at > row && seen.truth(test, at) === true, 0.08).length > 0;
  };
