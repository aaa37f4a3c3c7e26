import { units } from '../quantity/index.ts';
import { expressionsOf, parts, sensorsIn, walk, walkProgram, type Step } from '../script/index.ts';
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
  walkProgram(program, (step) => {
    if ((step.kind !== 'drive' && step.kind !== 'wheels' && step.kind !== 'steer') || !step.until) return;
    const read = expressionsOf({ ...step, until: null, endsWhen: null }).find(
      (expr) => sensorsIn(expr).size > 0,
    );
    if (!read) return;
    found.push(
      finding(
        read.at,
        'risk',
        'worked out once',
        'This is worked out once, when the step begins, and kept for the whole way.',
        'A step with “for” reads its sensors at its start only.',
        'Say until when instead of how far, or put the step without “for” into a repeat.',
      ),
    );
  });
  return found;
};

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
