// Runs in a worker thread: simulation never holds up the server's main thread.
import { pastSignal, type Judgement, type Proof } from '@vigilum/core/expect';
import {
  prove,
  rehearse,
  resultsOfRun,
  tryCircumstances,
  type KnownRobot,
  type Lesson,
} from '@vigilum/core/lesson';
import { parseScript } from '@vigilum/core/script';
import type { Results } from '@vigilum/core/tuning';
import type { Solve } from '@vigilum/core/year';
import { solve } from '../plan/solver.ts';

export { inspect as inspectJob } from './inspections.ts';

export interface RehearseJob {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
  start: string;
  seed: number;
}
export interface RehearseResult {
  judgements: Judgement[];
  pastMm: number | null;
  results: Results;
}
export interface ProveJob {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
  seed: number;
  runs: number;
}

/** Courses come over as copies; the newest one of each text is kept, so that its light field is built once. */
const lessons = new Map<string, Lesson>();
function kept(lesson: Lesson): Lesson {
  const key = JSON.stringify(lesson);
  const known = lessons.get(key);
  if (known) return known;
  if (lessons.size > 20) lessons.clear();
  lessons.set(key, lesson);
  return lesson;
}

export function rehearseJob({ lesson: sent, known, text, start, seed }: RehearseJob): RehearseResult {
  const lesson = kept(sent);
  const rehearsal = rehearse(lesson, known, parseScript(text), tryCircumstances(lesson, start, seed));
  const { evidence, judgements } = rehearsal;
  return {
    judgements,
    pastMm: evidence.signals[pastSignal(lesson.floor.landmark)]?.values.at(-1) ?? null,
    results: resultsOfRun(lesson, rehearsal),
  };
}

/** An integer program in the LP format, solved; null where it has no solution. */
export const solveJob: Solve = (lp) => solve(lp);

export function proveJob({ lesson, known, text, seed, runs }: ProveJob): Proof {
  return prove(kept(lesson), known, parseScript(text), seed, runs).proof;
}
