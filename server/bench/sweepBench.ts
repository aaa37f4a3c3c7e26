import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { buildCourse, familyOf } from '@vigilum/core/course';
import { knobFactsOf, type Lesson } from '@vigilum/core/lesson';
import {
  axisOf,
  emptySweep,
  knobsOf,
  SWEEP_STAGES,
  sweepTasks,
  withRuns,
  type Sweep,
  type SweepRun,
  type SweepTask,
} from '@vigilum/core/tuning';
import { followTheChannel } from '../src/starter/lessons/lines.ts';
import { lessonRobot } from '../src/test/lessonRobot.ts';

/** A channel of 3 m, and 15 s for it. */
const lesson: Lesson = {
  ...followTheChannel,
  course: buildCourse(familyOf('channel'), { straightMm: 1500, gentleMm: 600, sharpMm: 250, bendDeg: 60 }),
  timeLimitS: 15,
};
const RUNS = 10;

interface Swept {
  sweep: Sweep;
  firstS: number;
  tookS: number;
  runs: number;
  simulatedS: number;
}

/** The whole sweep on some threads: 20 × 20 points, 10 runs each, coarse first. Threads are warm when the clock starts. */
async function sweepOn(threads: number): Promise<Swept> {
  const known = lessonRobot(lesson);
  const text = lesson.modelScript;
  const knobs = knobsOf(text, knobFactsOf(known));
  const axis = (name: string, low: number, high: number) =>
    axisOf(
      knobs.find((knob) => knob.name === name)!,
      low,
      high,
      20,
    );
  let sweep = emptySweep(axis('gain', 0.4, 3.6), axis('speed', 15, 45), lesson.proof.bar);
  const workers = Array.from(
    { length: threads },
    () =>
      new Worker(join(process.env.VIGILUM_PROGRAMS!, 'sweepWorker.js'), {
        workerData: { lesson, known, text, seed: 1 },
      }),
  );
  const ask = (worker: Worker, task: SweepTask) =>
    new Promise<{ task: SweepTask; runs: SweepRun[] | null }>((resolve) => {
      worker.once('message', resolve);
      worker.postMessage(task);
    });
  await Promise.all(workers.map((worker) => ask(worker, { index: 0, knobs: {}, from: 0, count: 10 })));
  let [runs, simulatedS, firstS] = [0, 0, 0];
  const from = performance.now();
  for (let stage = 0; stage < SWEEP_STAGES; stage++) {
    const tasks = sweepTasks(sweep, stage, RUNS);
    await Promise.all(
      workers.map(async (worker) => {
        for (let next = tasks.shift(); next; next = tasks.shift()) {
          const found = (await ask(worker, next)).runs ?? [];
          runs += found.length;
          for (const { results } of found) simulatedS += results.time ?? 0;
          const points = [...sweep.points];
          points[next.index] = withRuns(points[next.index]!, found);
          sweep = { ...sweep, points };
        }
      }),
    );
    if (stage === 0) firstS = (performance.now() - from) / 1000;
  }
  const tookS = (performance.now() - from) / 1000;
  await Promise.all(workers.map((worker) => worker.terminate()));
  return { sweep, firstS, tookS, runs, simulatedS };
}

/** Rows of the bench’s table: one thread, and two as on a page of two processors. */
export async function sweepRows(): Promise<string[][]> {
  const found: Swept[] = [];
  for (const threads of [1, 2]) found.push(await sweepOn(threads));
  return found.map(({ sweep, firstS, tookS, runs, simulatedS }, i) => [
    `sweep of ${sweep.points.length} points × ${RUNS} runs, ${i === 0 ? 'one thread' : 'two threads'}`,
    i === 0 ? '' : `${(found[0]!.tookS / tookS).toFixed(2)} × as fast as one`,
    '',
    `first picture ${firstS.toFixed(2)} s, whole ${tookS.toFixed(1)} s (wanted 1 and 20)`,
    `${(simulatedS / tookS).toFixed(0)} simulated seconds and ${(sweep.points.length / tookS).toFixed(0)} points a second, ${runs} runs`,
  ]);
}
