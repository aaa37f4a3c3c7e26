import type { Program } from '../script/index.ts';
import type { Finding } from '../script/index.ts';
import { handsOff, noWatcher, reversingBlind } from './cautionRules.ts';
import {
  equals,
  noThreshold,
  typedNumber,
  tooLargeChange,
  unknownState,
  wrongLevel,
} from './comparisonRules.ts';
import { noReading } from './noReadingRule.ts';
import { finding, type ReviewContext, type Rule } from './context.ts';
import { neverReset, noRearm } from './counterRules.ts';
import { decidedOnce } from './decisionRules.ts';
import { awayFromEdge } from './edgeRule.ts';
import { hiddenTest } from './hiddenTest.ts';
import { afterLooking, isCandidate, SeenRun, withoutLooking, type QuickRun } from './look.ts';
import { neverDone, trueAtStart } from './reachRules.ts';
import { tooFastForLine, tooFastToFind, tooFastToStop, tooSlowToTurn } from './speedRule.ts';
import { rollsOn } from './stopRule.ts';
import { notZeroed, turns } from './turnRules.ts';
import { inPlainSteps } from './spelledOut.ts';
import { neverAsked } from './neverAsked.ts';
import { neverBack } from './neverBack.ts';
import { stopsForAMoment, unitTaken, workedOutOnce } from './togetherRules.ts';
import { withValues } from './valueFlow.ts';
import { wiring } from './wiringRule.ts';

export type { CourseFacts, ReviewContext } from './context.ts';
export type { QuickRun } from './look.ts';

const rules: readonly Rule[] = [
  rollsOn,
  decidedOnce,
  equals,
  noRearm,
  hiddenTest,
  wiring,
  noThreshold,
  wrongLevel,
  tooLargeChange,
  unknownState,
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
  neverAsked,
  neverBack,
  workedOutOnce,
  stopsForAMoment,
  unitTaken,
];

const order = { fault: 0, risk: 1, note: 2 };

/** What comes of what was found before anybody has looked: only what needs no look, or all that can be said without one. */
export type Looking = 'later' | 'never';

/**
 * Plain-words findings about a script that can be read: what will happen, why, and what usually mends it.
 * Faults first, then by line. Syntax faults of the program itself come along. A few runs of the script, where there are any, decide
 * whether what is likely is so on this robot and course: what was not so in them is not said.
 */
export function review(
  program: Program,
  context: ReviewContext,
  runs: readonly QuickRun[] | Looking = 'never',
): Finding[] {
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
  const plain = withValues(inPlainSteps(program));
  for (const rule of rules) found.push(...rule(plain, context));
  const said =
    runs === 'never' || (runs !== 'later' && runs.length === 0)
      ? withoutLooking(found)
      : runs === 'later'
        ? found.filter((one) => !isCandidate(one))
        : afterLooking(
            found,
            runs.map((run) => new SeenRun(run, program, context)),
          );
  return said
    .filter((one, i) => said.findIndex((other) => same(one, other)) === i)
    .sort((a, b) => order[a.grade] - order[b.grade] || a.line - b.line || a.column - b.column);
}

const same = (a: Finding, b: Finding) =>
  a.rule === b.rule && a.line === b.line && a.column === b.column && a.says === b.says;
