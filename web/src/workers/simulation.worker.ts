import { expose, transfer } from 'comlink';
import { passed, type JudgedRun } from '@vigilum/core/expect';
import {
  proofCircumstances,
  proveOnce,
  rehearse,
  runSeed,
  tryCircumstances,
  type KnownRobot,
  type Lesson,
  type Rehearsal,
} from '@vigilum/core/lesson';
import { parseScript, type Program } from '@vigilum/core/script';

/** What a run is made from. A worker keeps the newest one, so that light fields and programs are built once. */
export interface Job {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
}

let kept: { key: string; job: Job; program: Program } | null = null;

function prepare(job: Job): { job: Job; program: Program } {
  const key = JSON.stringify(job);
  if (kept?.key === key) return kept;
  const sameLesson = kept && JSON.stringify(kept.job.lesson) === JSON.stringify(job.lesson);
  kept = {
    key,
    job: sameLesson ? { ...job, lesson: kept!.job.lesson } : job,
    program: parseScript(job.text),
  };
  return kept;
}

const sent = (rehearsal: Rehearsal): Rehearsal => {
  const { timesS, signals } = rehearsal.evidence;
  const buffers = new Set([timesS.buffer, ...Object.values(signals).map((s) => s.values.buffer)]);
  // The evidence holds all signals of the run: hand it over once.
  return transfer({ ...rehearsal, run: { ...rehearsal.run, trace: rehearsal.evidence } }, [
    ...buffers,
  ] as ArrayBuffer[]);
};

const simulation = {
  /** One try from a named start. */
  attempt(job: Job, start: string, seed: number): Rehearsal {
    const { job: mine, program } = prepare(job);
    return sent(rehearse(mine.lesson, mine.known, program, tryCircumstances(mine.lesson, start, seed)));
  },
  /** One run of a proof, with its trace, to look at. */
  replay(job: Job, seed: number): Rehearsal {
    const { job: mine, program } = prepare(job);
    return sent(rehearse(mine.lesson, mine.known, program, proofCircumstances(mine.lesson, seed)));
  },
  /** Some runs of a proof: `count` from number `from` on. */
  proveSome(job: Job, seed: number, from: number, count: number): (JudgedRun & { ok: boolean })[] {
    const { job: mine, program } = prepare(job);
    return Array.from({ length: count }, (_, i) => {
      const run = proveOnce(mine.lesson, mine.known, program, runSeed(seed, from + i));
      return { ...run, ok: passed(run) };
    });
  },
};

export type Simulation = typeof simulation;
expose(simulation);
