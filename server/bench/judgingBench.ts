import { median } from 'simple-statistics';
import { judgementsOf, proofCircumstances, runSeed, runSetup, worldOf } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { simulate } from '@vigilum/core/sim';
import { usualLessons } from '../src/starter/lessons/index.ts';
import { lessonRobot } from '../src/test/lessonRobot.ts';

/** Rounds over the same runs. */
const ROUNDS = 12;

/** What judging costs beside simulating, over the first runs of each lesson's proof: ms per simulated second, and the share of a run. */
export function judgingRows(
  runs = 12,
  lessons = usualLessons,
): { lesson: string; simulateMs: number; judgeMs: number; share: number }[] {
  return lessons.map((lesson) => {
    const known = lessonRobot(lesson);
    const program = parseScript(lesson.modelScript);
    if (!canRun(program)) throw new Error(program.findings[0]?.says);
    let [simulateMs, judgeMs, simulatedS] = [Infinity, Infinity, 0];
    const shares: number[] = [];
    // The first round warms up; of the others the quickest counts, for whatever else the machine does only adds to the time.
    // Shares are those of one round each, in which both were measured by turns: the machine's speed changes from one to the next.
    for (let round = 0; round < ROUNDS; round++) {
      let [simulating, judging] = [0, 0];
      simulatedS = 0;
      for (let i = 0; i < runs; i++) {
        const seed = runSeed(lesson.proof.seed, i);
        const task = worldOf(lesson, seed).lesson;
        const circumstances = proofCircumstances(task, seed);
        const from = performance.now();
        const run = simulate(runSetup(task, known, program, circumstances));
        const between = performance.now();
        judgementsOf(task, known.build, run, circumstances.laterS);
        const to = performance.now();
        simulating += between - from;
        judging += to - between;
        simulatedS += run.trace.timesS.at(-1) ?? 0;
      }
      if (round === 0) continue;
      [simulateMs, judgeMs] = [Math.min(simulateMs, simulating), Math.min(judgeMs, judging)];
      shares.push(judging / (judging + simulating));
    }
    return {
      lesson: lesson.slug,
      simulateMs: simulateMs / simulatedS,
      judgeMs: judgeMs / simulatedS,
      share: median(shares),
    };
  });
}
