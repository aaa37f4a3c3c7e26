import { passed, relativeMargin, sumUp, type JudgedRun } from '../expect/index.ts';
import { parseScript, type Finding } from '../script/index.ts';
import { changeSays, plainScript, singleChanges, type ChangedScript } from '../editing/index.ts';
import type { Lesson } from './lesson.ts';
import { proveOnce, runSeed } from './rehearsal.ts';
import type { KnownRobot } from './simRobot.ts';

/** Runs that a change must pass before it is looked at more closely. */
const GLANCE = 2;
/** So many of the best single changes are tried with a second one; and so many scripts at most in all. */
const KEEP = 8;
const BUDGET = 1500;
/** So many changes that pass are enough. */
const ENOUGH = 3;

/** A change after which a script is proved, with how it did. */
export interface FoundChange extends ChangedScript {
  /** One change, or two. */
  changes: 1 | 2;
  passes: number;
  runs: number;
}

/** Where a search stands. */
export interface SearchStep {
  tried: number;
  /** Single changes, then pairs. */
  stage: 1 | 2;
  found: FoundChange[];
}

/** How well some runs did: passed expectations, and their margins as a small part of one. */
function score(lesson: Lesson, runs: readonly JudgedRun[]): number {
  let sum = 0;
  for (const { judgements } of runs) {
    judgements.forEach(({ verdict, margin }, i) => {
      if (verdict === 'holds') sum += 1;
      else if (margin !== null) sum += 0.5 * Math.tanh(relativeMargin(lesson.expectations[i]!, margin) / 4);
    });
  }
  return sum / runs.length;
}

const linesOf = (script: string): string[] => plainScript(script).split('\n');

/**
 * Looks for the smallest change that makes a failing script prove the lesson's expectations: every single change, then
 * pairs of changes from the most promising single ones. Yields after each script, so that it can be shown and
 * stopped; the last step holds what was found, the likeliest first, or nothing.
 */
export function* smallestChange(
  lesson: Lesson,
  known: KnownRobot,
  text: string,
  findings: readonly Finding[] = [],
): Generator<SearchStep> {
  const { seed, bar } = lesson.proof;
  const found: FoundChange[] = [];
  let tried = 0;
  const run = (script: string, i: number) => proveOnce(lesson, known, parseScript(script), runSeed(seed, i));
  const model = linesOf(lesson.modelScript);
  const unlike = (script: string): number => {
    const left = [...model];
    const extra = linesOf(script).filter((line) => {
      const at = left.indexOf(line);
      if (at >= 0) left.splice(at, 1);
      return at < 0;
    });
    return extra.length + left.length;
  };
  /** Tries one script and says how well it did. */
  const attempt = (changed: ChangedScript, changes: 1 | 2): number => {
    tried++;
    const judged = Array.from({ length: GLANCE }, (_, i) => run(changed.text, i));
    const how = score(lesson, judged);
    if (!judged.every(passed)) return how;
    while (judged.length < lesson.proof.runs && judged.filter((one) => !passed(one)).length < 2)
      judged.push(run(changed.text, judged.length));
    const proof = sumUp(judged, lesson.expectations, bar);
    if (proof.verdict === 'proved') {
      found.push({ ...changed, changes, passes: proof.passes, runs: proof.runs });
      // The likeliest mend is the one that leaves the script most like the model answer.
      found.sort((a, b) => unlike(a.text) - unlike(b.text));
    }
    return how;
  };
  const promising: { text: string; how: number }[] = [];
  for (const changed of singleChanges(text, lesson.modelScript, findings)) {
    const how = attempt(changed, 1);
    promising.push({ text: changed.text, how });
    yield { tried, stage: 1, found: [...found] };
    if (found.length >= ENOUGH || tried >= BUDGET) break;
  }
  if (found.length > 0) return;
  const base = score(
    lesson,
    Array.from({ length: GLANCE }, (_, i) => run(text, i)),
  );
  const best = promising.filter(({ how }) => how > base).sort((a, b) => b.how - a.how);
  for (const { text: half } of best.slice(0, KEEP)) {
    for (const changed of singleChanges(half, lesson.modelScript)) {
      if (tried >= BUDGET) return;
      const both = changeSays(text, changed.text);
      attempt(
        { ...both, says: `${changeSays(text, half).says}; then: ${changed.says}`, text: changed.text },
        2,
      );
      yield { tried, stage: 2, found: [...found] };
      if (found.length > 0) return;
    }
  }
}
