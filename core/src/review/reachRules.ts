import { formatNumber } from '../quantity/index.ts';
import { bySocket, inBase } from '../sensing/index.ts';
import type { Arm, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { unitOf } from '../editing/index.ts';
import { sensorsIn, walkProgram } from '../script/index.ts';
import { finding, inSensorUnit, testOf, wordsAt, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf, truthOf, type Known } from './evaluate.ts';
import { looked } from './look.ts';
import { goesOn } from './motionOf.ts';

/** Whether no way leads past a step. */
function neverPast(step: Step): boolean {
  if (step.kind === 'leave' || step.kind === 'finish' || step.kind === 'give') return true;
  if (step.kind === 'if') {
    return step.arms.at(-1)?.test === null && step.arms.every((arm) => arm.body.some(neverPast));
  }
  return step.kind === 'repeat' && endless(step) && !leavesItself(step.body);
}

/** Whether a repeat never ends by itself: it has no test, or one that asks nothing which could change. */
function endless({ how, amount }: Extract<Step, { kind: 'repeat' }>): boolean {
  if (how === 'forever') return true;
  if ((how !== 'while' && how !== 'until') || !amount) return false;
  return truthOf(amount, NOTHING) === (how === 'while');
}

const NOTHING: Known = { reading: () => null, value: () => null, threshold: () => null, fresh: false };

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
  program.watchers.forEach((watcher) => lookThrough(watcher.body));
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
    const test = testOf(step);
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
      const said = finding(
        step.at,
        'risk',
        'true at start',
        step.kind === 'waitUntil'
          ? `“${words}” is so from the start: this waits for nothing.`
          : `The repeat is over before its first round.`,
        at,
        'Turn the comparison round, or wait for the opposite first.',
      );
      return [
        looked(
          said,
          (seen) =>
            seen.rows > 1 && seen.truth(test, 1) === !(step.kind === 'repeat' && step.how === 'while'),
        ),
      ];
    }
    // Whatever takes time or distance may change the readings before the next test.
    if (
      !goesOn(step) &&
      step.kind !== 'zero' &&
      step.kind !== 'show' &&
      step.kind !== 'lamp' &&
      step.kind !== 'clear' &&
      step.kind !== 'set' &&
      step.kind !== 'log'
    )
      return [];
  }
  return [];
};
