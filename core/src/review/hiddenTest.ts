import type { Expr, Program, Step } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { parts, sensorsIn, walk, walkProgram } from '../script/index.ts';
import { finding, readingTest, wordsAt, type ReviewContext, type Rule } from './context.ts';
import { constants, numberOf, type Known } from './evaluate.ts';
import { looked, type Check } from './look.ts';
import { goesOn, movesAtAll, percentOf } from './motionOf.ts';

type Repeat = Extract<Step, { kind: 'repeat' }>;

/** Whether a test asks, somewhere in its ways out, what another test asks. */
const asksToo = (program: Program, test: Expr, wanted: Expr): boolean => {
  const words = (expr: Expr) => wordsAt(program, expr.at).toLowerCase().replace(/\s+/g, ' ');
  return parts(test).some((part) => words(part) === words(wanted));
};

/** Longer than this a wait in a repeat keeps its test waiting, s. */
const SHORT_S = 0.3;
/** What held unseen for so long was missed, s. */
const MISSED_S = 0.25;
/** Going on for so long after the end was due is too long, s. */
const LONG_S = 2;
/** So long it may touch something, s. */
const TOUCH_S = 0.3;

/** Rule 5: a wait, a way or a turn inside a repeat hides the repeat's own test. */
export const hiddenTest: Rule = (program, context) => {
  const found: Finding[] = [];
  const known = constants(program, context);
  const driving = new Set<Step>();
  walkProgram(program, (step, _inside, siblings, index) => {
    if (step.kind === 'repeat' && goesOnBefore(siblings, index)) driving.add(step);
  });
  walkProgram(program, (step, inside) => {
    const repeat = [...inside].reverse().find((outer): outer is Repeat => outer.kind === 'repeat');
    if (!repeat?.amount || repeat.how === 'times') return;
    const until = repeat.how === 'until' || repeat.how === 'while';
    // A test that looks at no sensor changes by what the steps themselves do: a count is up when it is up.
    if (until && sensorsIn(repeat.amount).size === 0 && !asksTimeOrWheels(repeat.amount)) return;
    const hides = howItHides(program, context, known, step, repeat, driving.has(repeat));
    if (hides === 'no') return;
    const said = told(program, step, repeat, until);
    found.push(looked(said, wasMissed(program, step, repeat), hides === 'surely'));
  });
  return found;
};

type Hides = 'no' | 'surely' | 'perhaps';

function howItHides(
  program: Program,
  context: ReviewContext,
  known: Known,
  step: Step,
  repeat: Repeat,
  driving: boolean,
): Hides {
  const until = repeat.how === 'until' || repeat.how === 'while';
  switch (step.kind) {
    case 'waitUntil':
      return until && asksToo(program, step.test, repeat.amount!) ? 'no' : 'surely';
    case 'wait': {
      const time = numberOf(step.time, known);
      if (repeat.how === 'for' || time === null || time <= SHORT_S) return 'no';
      return moving(repeat.body, step, driving) ? 'surely' : 'perhaps';
    }
    case 'drive':
    case 'wheels':
    case 'steer':
      if (!step.until || !until) return 'no';
      return runsPast(program, context, known, step, repeat) ? 'surely' : 'perhaps';
    case 'turn':
    case 'spin':
      return until && (step.kind === 'turn' || step.until) ? 'perhaps' : 'no';
    case 'beep': {
      const time = step.time && numberOf(step.time, known);
      return until && time !== null && time > SHORT_S
        ? moving(repeat.body, step, driving)
          ? 'surely'
          : 'perhaps'
        : 'no';
    }
    case 'do':
      return until && takesTime(program, step.task) ? 'perhaps' : 'no';
    default:
      return 'no';
  }
}

/** Whether a way forward is longer than what it is told to stop for: the room in front of it, or the line. */
function runsPast(
  program: Program,
  { lineWidthMm }: ReviewContext,
  known: Known,
  step: Extract<Step, { kind: 'drive' | 'wheels' | 'steer' }>,
  repeat: Repeat,
): boolean {
  const percent = percentOf(step, known);
  if (step.until?.of !== 'length' || percent === null || percent <= 0) return false;
  const mm = numberOf(step.until.amount, known);
  if (mm === null) return false;
  return parts(repeat.amount!).some((part) => {
    const test = readingTest(part, program);
    if (!test) return false;
    if (test.sensor.kind === 'light') return lineWidthMm !== null && mm > lineWidthMm;
    if (test.sensor.kind !== 'distance') return false;
    const ends = repeat.how === 'until' ? ['<', '<='] : ['>', '>='];
    const room = numberOf(test.other, known);
    return ends.includes(test.op) && room !== null && mm >= room;
  });
}

/** Whether an own step waits for anything, drives a way or turns. */
function takesTime(program: Program, task: number, deep = 0): boolean {
  let found = false;
  walk(program.tasks[task]!.body, (step) => {
    found ||=
      step.kind === 'waitUntil' ||
      step.kind === 'wait' ||
      step.kind === 'turn' ||
      (movesAtAll(step) && !goesOn(step)) ||
      (step.kind === 'do' && deep < 5 && takesTime(program, step.task, deep + 1));
  });
  return found;
}

function told(program: Program, step: Step, repeat: Repeat, until: boolean): Finding {
  const words = `${repeat.how} ${wordsAt(program, repeat.amount!.at)}`;
  const waits = step.kind === 'wait' || step.kind === 'waitUntil';
  return finding(
    step.at,
    'risk',
    'hidden test',
    `While it ${waits ? 'waits here' : 'does this step'}, “${words}” is not looked at.`,
    `The repeat in line ${repeat.at.line} asks only before each round; this ${waits ? 'wait' : 'step'} can keep it from ${step.kind === 'waitUntil' ? 'ever asking' : 'asking in time'}.`,
    until && step.kind === 'waitUntil'
      ? 'Let the wait end for both, and ask again behind it.'
      : waits
        ? 'Wait in short pieces, or ask inside the wait.'
        : 'Do it in shorter pieces, or say until when: drive 30 % until front < 20 cm.',
    until && step.kind === 'waitUntil'
      ? {
          label: repeat.how === 'until' ? 'Let this wait end for both' : 'Let this wait end with the repeat',
          edit: {
            kind: 'replace',
            at: step.test.at,
            text: `${bracketed(program, step.test)} or ${repeat.how === 'until' ? bracketed(program, repeat.amount!) : `not ${bracketed(program, repeat.amount!, true)}`}`,
          },
        }
      : undefined,
  );
}

/** Whether, while a step was done, what ends its repeat held for a while and the step went on. */
function wasMissed(program: Program, step: Step, repeat: Repeat): Check {
  const lines = new Set([step.at.line]);
  if (step.kind === 'do') walk(program.tasks[step.task]!.body, (one) => lines.add(one.at.line));
  return (seen) => {
    const here = (row: number) => lines.has(seen.line(row));
    if (repeat.how === 'for') {
      const first = seen.stretches(
        (row) => seen.line(row) >= repeat.at.line && seen.line(row) <= repeat.endLine,
      )[0];
      if (!first) return null;
      const seconds = repeat.amount!.kind === 'quantity' ? repeat.amount!.value : Infinity;
      return (
        seen.stretches((row) => here(row) && seen.timeS(row) > seen.timeS(first[0]) + seconds + 1).length > 0
      );
    }
    const ends = (row: number) => seen.truth(repeat.amount!, row) === (repeat.how === 'until');
    const held = seen.stretches((row) => here(row) && ends(row), MISSED_S);
    // Where it still holds when the step is done, the repeat ends then: that harms where it took long, or ran against something.
    return held.some(
      ([from, to]) =>
        seen.timeS(to - 1) - seen.timeS(from) > LONG_S ||
        !ends(Math.min(seen.rows - 1, to)) ||
        seen.stretches((row) => row >= from && row < to && seen.signal('touching', row) > 0, TOUCH_S).length >
          0,
    );
  };
}

const asksTimeOrWheels = (expr: Expr) => parts(expr).some((part) => part.kind === 'builtin');

const bracketed = (program: Program, expr: Expr, always = false): string => {
  const words = wordsAt(program, expr.at);
  return always || (expr.kind === 'logic' && expr.op === 'and') ? `(${words})` : words;
};

/** Whether the last movement before a step of a list goes on. */
const goesOnBefore = (siblings: readonly Step[], index: number): boolean => {
  const last = siblings.slice(0, index).findLast((step) => movesAtAll(step) || step.kind === 'stop');
  return last !== undefined && goesOn(last);
};

/** Whether the wheels may turn while a step waits: the nearest movement above it in its list goes on. */
function moving(steps: readonly Step[], until: Step, driving: boolean): boolean {
  let on = driving;
  for (const step of steps) {
    if (step === until) return on;
    if (movesAtAll(step) || step.kind === 'stop') on = goesOn(step);
  }
  return on;
}
