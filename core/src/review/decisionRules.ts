import { formatNumber } from '../quantity/index.ts';
import { bySocket, inBase } from '../sensing/index.ts';
import type { Arm, Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { unitOf } from '../editing/index.ts';
import { expressionsOf, parts, sensorsIn, walk, walkProgram } from '../script/index.ts';
import { finding, inSensorUnit, wordsAt, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf, truthOf, type Known } from './evaluate.ts';
import { goesOn, movesAtAll } from './motionOf.ts';

/** Own steps that are done inside a repeat somewhere, directly or by another own step. */
function repeatedTasks(program: Program): Set<number> {
  const found = new Set<number>();
  const look = (steps: readonly Step[], always: boolean) =>
    walk(steps, (step, inside) => {
      if (step.kind !== 'do' || found.has(step.task)) return;
      if (!always && !inside.some((outer) => outer.kind === 'repeat')) return;
      found.add(step.task);
      look(program.tasks[step.task]!.body, true);
    });
  look(program.steps, false);
  program.tasks.forEach((task) => look(task.body, false));
  return found;
}

/** Rule 2: a sensor decision outside any repeat is taken once, when the program comes to it. */
export const decidedOnce: Rule = (program) => {
  const found: Finding[] = [];
  const repeated = repeatedTasks(program);
  const look = (steps: readonly Step[]) =>
    walk(steps, (step, inside, siblings, index) => {
      if (step.kind !== 'if' || inside.some((outer) => outer.kind === 'repeat')) return;
      if (!expressionsOf(step).some((expr) => sensorsIn(expr).size > 0)) return;
      if (index > 0 && siblings[index - 1]!.kind === 'waitUntil') return;
      found.push(
        finding(
          step.at,
          'risk',
          'decided once',
          'This is asked once and never again.',
          'It stands outside any repeat, so the robot decides at that moment only.',
          'Put it inside a repeat, or wait until it is so.',
        ),
      );
    });
  look(program.steps);
  program.tasks.forEach((task, i) => repeated.has(i) || look(task.body));
  return found;
};

/** Whether a test asks, somewhere in its ways out, what another test asks. */
const asksToo = (program: Program, test: Expr, wanted: Expr): boolean => {
  const words = (expr: Expr) => wordsAt(program, expr.at).toLowerCase().replace(/\s+/g, ' ');
  return parts(test).some((part) => words(part) === words(wanted));
};

/** Longer than this a wait in a repeat keeps its test waiting, s. */
const SHORT_S = 0.3;

/** Rule 5: a wait inside a repeat hides the repeat's own test. */
export const hiddenTest: Rule = (program, context) => {
  const found: Finding[] = [];
  const known = constants(program, context);
  walkProgram(program, (step, inside) => {
    if (step.kind !== 'waitUntil' && step.kind !== 'wait') return;
    const repeat = [...inside].reverse().find((outer) => outer.kind === 'repeat');
    if (repeat?.kind !== 'repeat' || !repeat.amount || repeat.how === 'times') return;
    const until = repeat.how === 'until' || repeat.how === 'while';
    // A test that looks at no sensor changes by what the steps themselves do: a count is up when it is up.
    if (until && sensorsIn(repeat.amount).size === 0 && !asksTimeOrWheels(repeat.amount)) return;
    if (step.kind === 'wait') {
      const time = numberOf(step.time, known);
      if (repeat.how === 'for' || time === null || time <= SHORT_S || !moving(repeat.body, step)) return;
    } else if (until && asksToo(program, step.test, repeat.amount)) return;
    const words =
      repeat.how === 'for'
        ? `for ${wordsAt(program, repeat.amount.at)}`
        : `${repeat.how} ${wordsAt(program, repeat.amount.at)}`;
    found.push(
      finding(
        step.at,
        'risk',
        'hidden test',
        `While it waits here, “${words}” is not looked at.`,
        `The repeat in line ${repeat.at.line} asks only before each round; this wait can keep it from ever asking.`,
        until && step.kind === 'waitUntil'
          ? 'Let the wait end for both, and ask again behind it.'
          : 'Wait in short pieces, or ask inside the wait.',
        until && step.kind === 'waitUntil'
          ? {
              label:
                repeat.how === 'until' ? 'Let this wait end for both' : 'Let this wait end with the repeat',
              edit: {
                kind: 'replace',
                at: step.test.at,
                text: `${bracketed(program, step.test)} or ${repeat.how === 'until' ? bracketed(program, repeat.amount) : `not ${bracketed(program, repeat.amount, true)}`}`,
              },
            }
          : undefined,
      ),
    );
  });
  return found;
};

const asksTimeOrWheels = (expr: Expr) => parts(expr).some((part) => part.kind === 'builtin');

const bracketed = (program: Program, expr: Expr, always = false): string => {
  const words = wordsAt(program, expr.at);
  return always || (expr.kind === 'logic' && expr.op === 'and') ? `(${words})` : words;
};

/** Whether the wheels may turn while a step waits: the nearest movement above it in its list goes on. */
function moving(steps: readonly Step[], until: Step): boolean {
  let on = false;
  for (const step of steps) {
    if (step === until) return on;
    if (movesAtAll(step) || step.kind === 'stop') on = goesOn(step);
  }
  return on;
}

/** Whether no way leads past a step. */
function neverPast(step: Step): boolean {
  if (step.kind === 'leave' || step.kind === 'finish') return true;
  if (step.kind === 'if') {
    return step.arms.at(-1)?.test === null && step.arms.every((arm) => arm.body.some(neverPast));
  }
  return step.kind === 'repeat' && step.how === 'forever' && !leavesItself(step.body);
}

/** Whether a `leave` in these steps goes out of the repeat that holds them. */
function leavesItself(steps: readonly Step[]): boolean {
  return steps.some((step) => {
    if (step.kind === 'leave') return true;
    return step.kind === 'if' && step.arms.some((arm) => leavesItself(arm.body));
  });
}

const because = (step: Step): string =>
  step.kind === 'repeat'
    ? `The repeat in line ${step.at.line} goes on for ever and nothing leaves it.`
    : step.kind === 'if'
      ? `Every way through the “if” in line ${step.at.line} goes elsewhere.`
      : `“${step.kind}” in line ${step.at.line} goes elsewhere.`;

/** Rule 13: steps that can never run, empty branches, own steps that nobody does. */
export const neverDone: Rule = (program) => {
  const found: Finding[] = [];
  const lookThrough = (steps: readonly Step[]) => {
    const stop = steps.findIndex(neverPast);
    if (stop >= 0 && stop < steps.length - 1) {
      const [bar, first] = [steps[stop]!, steps[stop + 1]!];
      found.push(
        finding(
          first.at,
          'fault',
          'never reached',
          'The program never comes to this step.',
          because(bar),
          bar.kind === 'repeat'
            ? 'Give the repeat an end: until, times, or a “leave” inside.'
            : 'Move it above, or remove it.',
        ),
      );
    }
    for (const step of steps) {
      if (step.kind === 'repeat') lookThrough(step.body);
      if (step.kind === 'if') step.arms.forEach((arm, i) => lookAtArm(step, arm, i));
    }
  };
  const lookAtArm = (step: Extract<Step, { kind: 'if' }>, arm: Arm, i: number) => {
    lookThrough(arm.body);
    if (arm.body.length > 0) return;
    const length = Math.max(1, (program.source[arm.line - 1] ?? '').trim().length);
    const place = i === 0 ? step.at : { line: arm.line, column: 1, length };
    found.push(
      finding(
        place,
        'note',
        'empty branch',
        'Nothing is written for this case.',
        'The robot goes on doing the last thing it was told.',
        'Write what it shall do, or remove the branch.',
      ),
    );
  };
  lookThrough(program.steps);
  program.tasks.forEach((task) => lookThrough(task.body));
  const called = new Set<number>();
  walkProgram(program, (step) => step.kind === 'do' && called.add(step.task));
  program.tasks.forEach((task, i) => {
    if (called.has(i) || task.name === '') return;
    found.push(
      finding(
        task.at,
        'note',
        'never done',
        `Nobody does “${task.name}”.`,
        'An own step is done only where a “do” names it.',
        `Write “do ${task.name}” where it belongs.`,
      ),
    );
  });
  return found;
};

/** What is known when the program starts: readings at the start place, wheels and timer at 0, values as set. */
function atStart(program: Program, context: ReviewContext): Known {
  const known = constants(program, context);
  const readings = context.course?.startReadings ?? {};
  const start: Known = {
    ...known,
    fresh: true,
    reading: (index) => {
      const sensor = program.sensors[index]!;
      const value = bySocket(readings, sensor.socket);
      return value === undefined ? null : inBase(value, unitOf(context, sensor));
    },
    value: (index) => {
      const { initial } = program.values[index]!;
      return initial && numberOf(initial, start);
    },
  };
  return start;
}

/** Rule 14: a wait or a repeat whose test is answered before anything has moved. */
export const trueAtStart: Rule = (program, context) => {
  const known = atStart(program, context);
  for (const step of program.steps) {
    const test =
      step.kind === 'waitUntil'
        ? step.test
        : step.kind === 'repeat' && (step.how === 'until' || step.how === 'while')
          ? step.amount
          : null;
    if (test) {
      const holds = truthOf(test, known);
      const over = step.kind === 'repeat' && step.how === 'while' ? holds === false : holds === true;
      if (!over) return [];
      const words = wordsAt(program, test.at);
      const read = [...sensorsIn(test)].flatMap((index) => {
        const sensor = program.sensors[index]!;
        const value = known.reading(index);
        const unit = unitOf(context, sensor);
        return value === null
          ? []
          : [
              `${sensor.name} reads about ${formatNumber(inSensorUnit(context, sensor, value))}${unit && ` ${unit}`}`,
            ];
      });
      const [at] =
        read.length > 0
          ? [`At the start ${read.join(' and ')}.`]
          : ['At the start nothing has moved or been counted yet.'];
      return [
        finding(
          step.at,
          'risk',
          'true at start',
          step.kind === 'waitUntil'
            ? `“${words}” is so from the start: this waits for nothing.`
            : `The repeat is over before its first round.`,
          at,
          'Turn the comparison round, or wait for the opposite first.',
        ),
      ];
    }
    // Whatever takes time or distance may change the readings before the next test.
    if (
      !goesOn(step) &&
      step.kind !== 'zero' &&
      step.kind !== 'show' &&
      step.kind !== 'lamp' &&
      step.kind !== 'clear'
    )
      return [];
  }
  return [];
};
