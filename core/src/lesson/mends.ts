import { passed } from '../expect/index.ts';
import { canRun, parseScript, type Program } from '../script/index.ts';
import type { Lesson } from './lesson.ts';
import { proveOnce, runSeed } from './rehearsal.ts';
import type { KnownRobot } from './simRobot.ts';

/** So many quick runs a script and its mend are compared over. */
export const MEND_RUNS = 10;

/** In how many runs all was kept, and how many sentences were kept in all of them together. */
function done(lesson: Lesson, known: KnownRobot, program: Program): { runs: number; kept: number } {
  let [runs, kept] = [0, 0];
  for (let i = 0; i < MEND_RUNS; i++) {
    const run = proveOnce(lesson, known, program, runSeed(lesson.proof.seed, i));
    if (passed(run)) runs++;
    kept += run.judgements.filter(({ verdict }) => verdict === 'holds').length;
  }
  return { runs, kept };
}

/**
 * Whether each mend of a script may be offered: over ten quick runs of the lesson the mended script does no worse than the script as it
 * is. A script that cannot run is helped by whatever lets it run, or leaves fewer faults in it.
 */
export function mendsThatHelp(
  lesson: Lesson,
  known: KnownRobot,
  text: string,
  mended: readonly string[],
): boolean[] {
  const program = parseScript(text);
  const faultsOf = ({ findings }: Program) => findings.filter(({ grade }) => grade === 'fault').length;
  const asItIs = canRun(program) ? done(lesson, known, program) : null;
  return mended.map((other) => {
    const next = parseScript(other);
    if (!asItIs) return canRun(next) || faultsOf(next) < faultsOf(program);
    if (!canRun(next)) return false;
    const now = done(lesson, known, next);
    return now.runs > asItIs.runs || (now.runs === asItIs.runs && now.kept >= asItIs.kept);
  });
}
