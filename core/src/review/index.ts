import type { Program } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { handsOff, noWatcher, reversingBlind } from './cautionRules.ts';
import { equals, noReading, noThreshold, typedNumber, wrongLevel } from './comparisonRules.ts';
import { finding, type ReviewContext, type Rule } from './context.ts';
import { neverReset, noRearm } from './counterRules.ts';
import { decidedOnce, hiddenTest, neverDone, trueAtStart } from './decisionRules.ts';
import { awayFromEdge } from './edgeRule.ts';
import { tooFastForLine, tooFastToFind, tooFastToStop, tooSlowToTurn } from './speedRule.ts';
import { rollsOn } from './stopRule.ts';
import { notZeroed, turns } from './turnRules.ts';
import { inPlainSteps } from './spelledOut.ts';
import { stopsForAMoment, unitTaken, workedOutOnce } from './togetherRules.ts';
import { wiring } from './wiringRule.ts';

export type { CourseFacts, ReviewContext } from './context.ts';

const rules: readonly Rule[] = [
  rollsOn,
  decidedOnce,
  equals,
  noRearm,
  hiddenTest,
  wiring,
  noThreshold,
  wrongLevel,
  tooSlowToTurn,
  tooFastForLine,
  tooFastToStop,
  tooFastToFind,
  noReading,
  notZeroed,
  turns,
  awayFromEdge,
  neverDone,
  trueAtStart,
  neverReset,
  typedNumber,
  noWatcher,
  handsOff,
  reversingBlind,
  workedOutOnce,
  stopsForAMoment,
  unitTaken,
];

const order = { fault: 0, risk: 1, note: 2 };

/**
 * Plain-words findings about a script that can be read: what will happen, why, and what usually mends it.
 * Faults first, then by line. Syntax faults of the program itself come along.
 */
export function review(program: Program, context: ReviewContext): Finding[] {
  const found = [...program.findings];
  const nothing = program.steps.length === 0 && program.watchers.every(({ body }) => body.length === 0);
  if (nothing && found.length === 0) {
    found.push(
      finding(
        { line: 1, column: 1, length: 1 },
        'fault',
        'empty',
        'There is no step yet.',
        'The robot would do nothing.',
        'Start with a step such as: drive 30 %.',
      ),
    );
  }
  const plain = inPlainSteps(program);
  for (const rule of rules) found.push(...rule(plain, context));
  return found.sort((a, b) => order[a.grade] - order[b.grade] || a.line - b.line || a.column - b.column);
}
