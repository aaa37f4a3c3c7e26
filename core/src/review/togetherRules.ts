import { units } from '../quantity/index.ts';
import {
  expressionsOf,
  parts,
  sensorsIn,
  walk,
  walkProgram,
  type Program,
  type Step,
} from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { finding, wordsAt, type Rule } from './context.ts';
import { movesAtAll } from './motionOf.ts';

/** A way or an angle that is taken as a plain number: which unit it was taken in. */
export const unitTaken: Rule = (program) => {
  const found: Finding[] = [];
  walkProgram(program, (step) => {
    for (const expr of expressionsOf(step)) {
      for (const part of parts(expr)) {
        if (part.kind !== 'plain') continue;
        const { word } = units[part.unit];
        const what =
          { percent: 'a percent', frequency: 'one hertz', number: 'one' }[part.of as 'percent'] ?? 'one';
        found.push(
          finding(
            part.at,
            'note',
            'unit taken',
            `“${wordsAt(program, part.at)}” is taken in ${word}: one of them counts as ${what}.`,
            'A distance has no percent of its own.',
            'Change the number in front of it to make it stronger or weaker.',
          ),
        );
      }
    }
  });
  return found;
};

/** A speed or steering that reads a sensor once and then keeps to it for the whole way. */
export const workedOutOnce: Rule = (program) => {
  const found: Finding[] = [];
  const repeated = stepsOfTasks(program);
  walkProgram(program, (step, inside, siblings, index) => {
    if (step.kind !== 'drive' && step.kind !== 'wheels' && step.kind !== 'steer') return;
    const again = inside.some(({ kind }) => kind === 'repeat') || repeated.has(step);
    // Beside a test it is worked out anew at each look.
    if (step.endsWhen) return;
    if (!step.until && (again || !keepsOn(siblings, index))) return;
    const read = expressionsOf({ ...step, until: null }).find((expr) => sensorsIn(expr).size > 0);
    if (!read) return;
    found.push(
      finding(
        read.at,
        'risk',
        'worked out once',
        'This is worked out once, when the step begins, and kept for the whole way.',
        step.until
          ? 'A step with “for” reads its sensors at its start only.'
          : 'It stands outside any repeat.',
        step.until
          ? 'Say until when instead of how far, or put the step without “for” into a repeat.'
          : 'Put it inside a repeat, or say until when: steer … until seen is red.',
      ),
    );
  });
  return found;
};

/** Steps of own steps: where they are done says whether that is again and again. */
const stepsOfTasks = ({ tasks }: Program): ReadonlySet<Step> => {
  const found = new Set<Step>();
  tasks.forEach(({ body }) => walk(body, (step) => found.add(step)));
  return found;
};

/** Whether a movement is left to itself for a while: a wait comes next, or nothing. */
const keepsOn = (siblings: readonly Step[], index: number): boolean =>
  ['wait', 'waitUntil'].includes(siblings[index + 1]?.kind ?? 'wait');

/** What runs beside the main program and only stops the wheels: they turn again as soon as it is done. */
export const stopsForAMoment: Rule = (program) =>
  program.watchers.flatMap(({ body, at }): Finding[] => {
    if (!program.steps.some(anyMove(program.steps))) return [];
    let [stops, holds, moves] = [false, false, false];
    walk(body, (step) => {
      stops ||= step.kind === 'stop';
      moves ||= movesAtAll(step) || step.kind === 'do';
      holds ||=
        step.kind === 'finish' || step.kind === 'wait' || step.kind === 'waitUntil' || step.kind === 'repeat';
    });
    if (!stops || moves || holds) return [];
    return [
      finding(
        at,
        'risk',
        'stops for a moment',
        'It stops, and then the main program drives on.',
        'When its steps are done, the wheels go back to what the main program told them last.',
        'Write “finish” to end the program here, or say how long it stands: wait 2 s.',
      ),
    ];
  });

const anyMove = (steps: readonly Step[]) => (): boolean => {
  let moves = false;
  walk(steps, (step) => {
    moves ||= movesAtAll(step) || step.kind === 'do';
  });
  return moves;
};
