import { otherAnswers } from '../editing/index.ts';
import { sumUp, type ProofVerdict } from '../expect/index.ts';
import { canRun, parseScript } from '../script/index.ts';
import type { Lesson } from './lesson.ts';
import { proveOnce, runSeed } from './rehearsal.ts';
import type { KnownRobot } from './simRobot.ts';

/** What the lesson's checks say of one answer that is right, or may be. */
export interface FairnessReport {
  name: string;
  text: string;
  /** The lesson says that it is right; else it was made from the model answer, and the teacher decides. */
  right: boolean;
  verdict: ProofVerdict | 'cannot run';
  passes: number;
  runs: number;
  /** Sentences that refuse it: which, in how many runs, and the worst of it. */
  refusedBy: { expectation: number; runs: number; says: string }[];
}

export interface Fairness {
  reports: FairnessReport[];
  accepted: number;
  refused: number;
  /** Accepted among the answers that the lesson calls right, 0–1; null when there are none. */
  share: number | null;
}

function judged(
  lesson: Lesson,
  known: KnownRobot,
  { name, text, right }: Pick<FairnessReport, 'name' | 'text' | 'right'>,
): FairnessReport {
  const program = parseScript(text);
  if (!canRun(program))
    return { name, text, right, verdict: 'cannot run', passes: 0, runs: 0, refusedBy: [] };
  const { runs, bar, seed } = lesson.proof;
  const all = Array.from({ length: runs }, (_, i) => proveOnce(lesson, known, program, runSeed(seed, i)));
  const proof = sumUp(all, lesson.expectations, bar);
  const refusedBy = proof.each.flatMap(({ passes, worstSays }, expectation) =>
    passes < runs ? [{ expectation, runs: runs - passes, says: worstSays }] : [],
  );
  return { name, text, right, verdict: proof.verdict, passes: proof.passes, runs, refusedBy };
}

/**
 * How fair a lesson's checks are: the other right answers that it keeps, and some made from the model answer, each over the
 * lesson's conditions. Yields one report at a time. `share` as for strength: every n-th answer from the k-th on.
 */
export function* fairnessReports(
  lesson: Lesson,
  known: KnownRobot,
  [k, n]: readonly [number, number] = [0, 1],
): Generator<{ of: number; report: FairnessReport }> {
  const answers = [
    ...(lesson.rightToo ?? []).map(({ name, script }) => ({ name, text: script, right: true })),
    ...otherAnswers(lesson.modelScript).map((other) => ({
      name: `The model answer ${other.name}.`,
      text: other.text,
      right: false,
    })),
  ];
  for (const [i, answer] of answers.entries())
    if (i % n === k) yield { of: answers.length, report: judged(lesson, known, answer) };
}

/** Sums up reports, all or those so far. */
export function fairnessOf(reports: readonly FairnessReport[]): Fairness {
  const right = reports.filter((report) => report.right);
  const accepted = right.filter(({ verdict }) => verdict === 'proved').length;
  return {
    reports: [...reports],
    accepted,
    refused: right.length - accepted,
    share: right.length === 0 ? null : accepted / right.length,
  };
}
