import { expose, transfer } from 'comlink';
import type { Course } from '@vigilum/core/course';
import { passed, type JudgedRun } from '@vigilum/core/expect';
import {
  courseFacts,
  fairnessReports,
  guessedShare,
  mendsThatHelp,
  proveOnce,
  quickRuns,
  rehearseRun,
  rehearse,
  runSeed,
  smallestChange,
  strengthReports,
  tryCircumstances,
  narrowestLine,
  tunedRuns,
  workedPage,
  type FairnessReport,
  type FaultReport,
  type GuessedShare,
  type KnownRobot,
  type Lesson,
  type Rehearsal,
  type SearchStep,
  type WorkedPage,
} from '@vigilum/core/lesson';
import { canRun, parseScript, type Finding, type Program } from '@vigilum/core/script';
import type { OtherRobot } from '@vigilum/core/sim';
import { review, type ReviewContext } from '@vigilum/core/review';
import { asMeasured, cannotSimulate } from '@vigilum/core/sensing';
import type { SweepRun, SweepTask } from '@vigilum/core/tuning';
import { planningSchool, type SchoolAsk, type SchoolPlan, type Search } from '@vigilum/core/year';
import { Told } from '../ui/told.ts';

/** What a run is made from. A worker keeps the newest one, so that light fields and programs are built once. */
export interface Job {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
}

let kept: { key: string; job: Job; program: Program } | null = null;
let planning: Generator<Search, SchoolPlan> | null = null;
/** Courses by their text: one that is known keeps its rasters, whatever else of the lesson has changed. */
const courses = new Map<string, Course>();

function courseOf(course: Course): Course {
  const key = JSON.stringify(course);
  const known = courses.get(key);
  if (known) return known;
  if (courses.size > 6) courses.clear();
  courses.set(key, course);
  return course;
}

/** The newest lesson: what is drawn for the runs of a proof hangs on it, and stays while only the script changes. */
let newest: { key: string; lesson: Lesson } | null = null;

function lessonOf(lesson: Lesson): Lesson {
  const key = JSON.stringify(lesson);
  if (newest?.key !== key) newest = { key, lesson: { ...lesson, course: courseOf(lesson.course) } };
  return newest.lesson;
}

function prepare(job: Job): { job: Job; program: Program } {
  const key = JSON.stringify(job);
  if (kept?.key !== key) {
    const why = cannotSimulate(job.known.kit, job.known.build);
    if (why) throw new Told(why);
    const lesson = lessonOf(job.lesson);
    kept = { key, job: { ...job, lesson }, program: parseScript(job.text) };
  }
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

/** Long work that goes on from call to call, so that it can be left between two. */
let strength: ReturnType<typeof strengthReports> | null = null;
let fairness: ReturnType<typeof fairnessReports> | null = null;
let search: ReturnType<typeof smallestChange> | null = null;
/** How long one call of a long work takes at most, ms. */
const SLICE_MS = 250;

/** The next reports of a long work, as many as a slice of time holds; null when there are no more. */
function nextReports<R>(
  work: Iterator<{ of: number; report: R }> | null,
): { of: number; reports: R[] } | null {
  const until = performance.now() + SLICE_MS;
  const reports: R[] = [];
  let of = 0;
  while (work && performance.now() < until) {
    const next = work.next();
    if (next.done) break;
    reports.push(next.value.report);
    ({ of } = next.value);
  }
  return reports.length > 0 ? { of, reports } : null;
}

/** A second robot of a try: what it runs, from which start. */
export interface Second {
  text: string;
  start: string;
}

function otherRobot(lesson: Lesson, { text, start }: Second): OtherRobot {
  const program = parseScript(text);
  const [fault] = program.findings;
  if (!canRun(program)) {
    throw new Told(
      fault
        ? `The other robot’s script cannot run: line ${fault.line}, ${fault.says} ${fault.mend}`
        : 'The other robot’s script has no step yet.',
    );
  }
  return { program, start: tryCircumstances(lesson, start, 1).start };
}

const simulation = {
  /** One try from a named start, beside a second robot where there is one. */
  attempt(job: Job, start: string, seed: number, second: Second | null = null): Rehearsal {
    const { job: mine, program } = prepare(job);
    const circumstances = tryCircumstances(mine.lesson, start, seed);
    return sent(
      rehearse(
        mine.lesson,
        mine.known,
        program,
        circumstances,
        second ? otherRobot(mine.lesson, second) : undefined,
      ),
    );
  },
  /** One run of a proof, with its trace, to look at. */
  replay(job: Job, seed: number): Rehearsal {
    const { job: mine, program } = prepare(job);
    return sent(rehearseRun(mine.lesson, mine.known, program, seed));
  },
  /** What the review says of a script after a few quick runs of it. */
  look(job: Job, context: ReviewContext): Finding[] {
    const { job: mine, program } = prepare(job);
    return review(
      program,
      context,
      quickRuns(mine.lesson, mine.known, program, () => performance.now()),
    );
  },
  /** Some runs of a proof: `count` from number `from` on. */
  proveSome(job: Job, seed: number, from: number, count: number): (JudgedRun & { ok: boolean })[] {
    const { job: mine, program } = prepare(job);
    return Array.from({ length: count }, (_, i) => {
      const run = proveOnce(mine.lesson, mine.known, program, runSeed(seed, from + i));
      return { ...run, ok: passed(run) };
    });
  },
  /** The worked page of a follower at a speed; null where the lesson is none. */
  worked: (lesson: Lesson, known: KnownRobot, speed: number): WorkedPage | null =>
    workedPage(lessonOf(lesson), known, speed),
  /** How many of those who guess pass a lesson in which one number of its twist has a value. */
  guessed: (lesson: Lesson, known: KnownRobot, parameter: string, value: number): GuessedShare | null =>
    guessedShare(lessonOf(lesson), known, parameter, value),
  /** Runs of some points of a sweep, point by point; null for a point whose script cannot run. */
  sweepSome(job: Job, tasks: SweepTask[], seed: number): (SweepRun[] | null)[] {
    const { lesson, known } = prepare(job).job;
    return tasks.map((task) => tunedRuns(lesson, known, job.text, task, seed));
  },
  /** Whether each mended text may be offered in place of the job's own. */
  triedMends(job: Job, mended: string[]): boolean[] {
    const { lesson, known } = prepare(job).job;
    return mendsThatHelp(lesson, known, job.text, mended);
  },
  /** Begins to judge the other right answers of a lesson; this worker takes every n-th from the k-th on. */
  beginFairness(job: Job, part: [number, number]): void {
    const { lesson, known } = prepare(job).job;
    fairness = fairnessReports(lesson, known, part);
  },
  moreFairness: (): { of: number; reports: FairnessReport[] } | null => nextReports(fairness),
  /** Begins to break a script in the usual ways; this worker takes every n-th fault from the k-th on. */
  beginStrength(job: Job, part: [number, number]): void {
    const { lesson, known } = prepare(job).job;
    strength = strengthReports(lesson, known, job.text, part);
  },
  moreStrength: (): { of: number; reports: FaultReport[] } | null => nextReports(strength),
  /** Begins to plan the terms of some classes. */
  beginPlanning(ask: SchoolAsk): void {
    planning = planningSchool(ask);
  },
  /** One class further; `best` is whole whenever it is there. */
  morePlanning(): Search & { over: boolean } {
    const next = planning?.next();
    if (!next || next.done) {
      planning = null;
      return { done: 1, of: 1, best: next?.value ?? null, over: true };
    }
    return { ...next.value, over: false };
  },
  /** Begins to search the smallest change that makes a script prove its expectations. */
  beginSearch(job: Job): void {
    const { job: mine, program } = prepare(job);
    const { lesson, known } = mine;
    const findings = review(program, {
      kit: asMeasured(known.kit, known.braking),
      build: known.build,
      thresholds: known.thresholds,
      surfaces: {},
      lineWidthMm: narrowestLine(lesson),
      course: courseFacts(lesson.course),
    });
    search = smallestChange(lesson, known, job.text, findings);
  },
  /** Where the search stands; `over` when there is nothing more to try. */
  moreSearch(): SearchStep & { over: boolean } {
    const until = performance.now() + SLICE_MS;
    let step: SearchStep = { tried: 0, stage: 1, found: [] };
    while (search && performance.now() < until) {
      const next = search.next();
      if (next.done) {
        search = null;
        return { ...step, over: true };
      }
      step = next.value;
    }
    return { ...step, over: search === null };
  },
};

export type Simulation = typeof simulation;
expose(simulation);
