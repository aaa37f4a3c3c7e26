import { judgeRun, proofCircumstances, runSeed, runSetup, worldOf } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { simulate } from '@vigilum/core/sim';
import { usualLessons } from '../src/starter/lessons/index.ts';
import { lessonRobot } from '../src/test/lessonRobot.ts';

/** What judging costs beside simulating, over the first runs of each lesson's proof: ms per simulated second, and the share of a run. */
export function judgingRows(
  runs = 12,
): { lesson: string; simulateMs: number; judgeMs: number; share: number }[] {
  return usualLessons.map((lesson) => {
    const known = lessonRobot(lesson);
    const program = parseScript(lesson.modelScript);
    if (!canRun(program)) throw new Error(program.findings[0]?.says);
    let [simulateMs, judgeMs, simulatedS] = [0, 0, 0];
    // The first round warms up and is not counted.
    for (const counted of [false, true, true]) {
      for (let i = 0; i < runs; i++) {
        const seed = runSeed(lesson.proof.seed, i);
        const task = worldOf(lesson, seed).lesson;
        const circumstances = proofCircumstances(task, seed);
        const from = performance.now();
        const run = simulate(runSetup(task, known, program, circumstances));
        const between = performance.now();
        judgeRun(task, known.build, run, circumstances.laterS);
        const to = performance.now();
        if (!counted) continue;
        simulateMs += between - from;
        judgeMs += to - between;
        simulatedS += run.trace.timesS.at(-1) ?? 0;
      }
    }
    return {
      lesson: lesson.slug,
      simulateMs: simulateMs / simulatedS,
      judgeMs: judgeMs / simulatedS,
      share: judgeMs / (judgeMs + simulateMs),
    };
  });
}
