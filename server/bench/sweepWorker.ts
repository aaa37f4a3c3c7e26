// One thread of the sweep’s bench: takes points and tells what their runs came to, as a page’s worker does.
import { parentPort, workerData } from 'node:worker_threads';
import { tunedRuns, type KnownRobot, type Lesson } from '@vigilum/core/lesson';
import type { SweepTask } from '@vigilum/core/tuning';

const { lesson, known, text, seed } = workerData as {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
  seed: number;
};
parentPort!.on('message', (task: SweepTask) =>
  parentPort!.postMessage({ task, runs: tunedRuns(lesson, known, text, task, seed) }),
);
