import type { QuickRun } from '../review/index.ts';
import { canRun, type Program } from '../script/index.ts';
import type { Lesson } from './lesson.ts';
import { rehearseRun, runSeed } from './rehearsal.ts';
import type { KnownRobot } from './simRobot.ts';

/** So many runs at most, and no more once so much time is gone, ms: a look must not keep whoever types waiting. */
export const QUICK = { runs: 10, budgetMs: 150 };

/**
 * A few runs of a script as a proof would draw them, for the review to look at. `now` tells the time in ms; at least one run is made.
 * None for a script that cannot run.
 */
export function quickRuns(
  lesson: Lesson,
  known: KnownRobot,
  program: Program,
  now: () => number,
): QuickRun[] {
  if (!canRun(program)) return [];
  const found: QuickRun[] = [];
  const until = now() + QUICK.budgetMs;
  while (found.length < QUICK.runs && (found.length === 0 || now() < until)) {
    const { run, judgements } = rehearseRun(lesson, known, program, runSeed(lesson.proof.seed, found.length));
    const passed = judgements.length === 0 ? null : judgements.every(({ verdict }) => verdict === 'holds');
    found.push({ run, passed });
  }
  return found;
}
