import { median } from 'simple-statistics';
import { judgementsOf, proofCircumstances, runSeed, runSetup, worldOf } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { simulate } from '@vigilum/core/sim';
import { usualLessons } from '../src/starter/lessons/index.ts';
import { lessonRobot } from '../src/test/lessonRobot.ts';

/** Rounds over the same runs, after so many ms of warming up: as warm as a class's proofs make it. */
const ROUNDS = 11;
const WARM_MS = 500;

interface Round {
  simulateMs: number;
  judgeMs: number;
  simulatedS: number;
}

/** The first runs of a lesson's proof, each simulated and then judged. */
function roundOf(lesson: (typeof usualLessons)[number], runs: number): () => Round {
  const known = lessonRobot(lesson);
  const program = parseScript(lesson.modelScript);
  if (!canRun(program)) throw new Error(program.findings[0]?.says);
  return () => {
    const round = { simulateMs: 0, judgeMs: 0, simulatedS: 0 };
    for (let i = 0; i < runs; i++) {
      const seed = runSeed(lesson.proof.seed, i);
      const task = worldOf(lesson, seed).lesson;
      const circumstances = proofCircumstances(task, seed);
      const from = performance.now();
      const run = simulate(runSetup(task, known, program, circumstances));
      const between = performance.now();
      judgementsOf(task, known.build, run, circumstances.laterS);
      round.judgeMs += performance.now() - between;
      round.simulateMs += between - from;
      round.simulatedS += run.trace.timesS.at(-1) ?? 0;
    }
    return round;
  };
}

/**
 * What judging costs beside simulating, by lesson: ms per simulated second of the quickest round, for whatever else the machine does
 * only adds to the time, and the share of a run. Shares are of one round each, in which both were measured by turns (the machine's
 * speed changes from one to the next), and the middle one of them is told.
 */
export function judgingRows(
  runs = 12,
  lessons = usualLessons,
): { lesson: string; simulateMs: number; judgeMs: number; share: number }[] {
  return lessons.map((lesson) => {
    const round = roundOf(lesson, runs);
    for (const until = performance.now() + WARM_MS; performance.now() < until;) round();
    const rounds = Array.from({ length: ROUNDS }, round);
    const least = (of: (round: Round) => number) =>
      Math.min(...rounds.map((one) => of(one) / one.simulatedS));
    return {
      lesson: lesson.slug,
      simulateMs: least(({ simulateMs }) => simulateMs),
      judgeMs: least(({ judgeMs }) => judgeMs),
      share: median(rounds.map(({ simulateMs, judgeMs }) => judgeMs / (judgeMs + simulateMs))),
    };
  });
}
