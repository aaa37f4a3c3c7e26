import { markBounds } from '../course/index.ts';
import {
  evidenceFor,
  judge,
  lastsAfter,
  sceneOf,
  withSignals,
  sumUp,
  verdictEvidence,
  type JudgedRun,
  type Judgement,
  type Proof,
  type Watcher,
} from '../expect/index.ts';
import type { Program } from '../script/index.ts';
import { fittingOn, inBase, sensorOf, type RobotBuild } from '../sensing/index.ts';
import {
  calm,
  drawCircumstances,
  simulate,
  type Circumstances,
  type OtherRobot,
  type Run,
  type RunSetup,
} from '../sim/index.ts';
import type { Trace } from '../sim/index.ts';
import type { Lesson } from './lesson.ts';
import { measureSignal, measuresOf } from './measures.ts';
import { setAsDeclared, simRobot, type KnownRobot } from './simRobot.ts';
import { worldOf } from './worlds.ts';

/** Where the sensor that the lesson watches sits; the axle's middle when it is not fitted. */
export function watcher(build: RobotBuild, lesson: Lesson): Watcher {
  const fitting =
    build.fittings.find((f) => f.socket === lesson.need.socket) ??
    build.fittings.find((f) => f.mode === lesson.need.kind);
  return fitting ? { aheadMm: fitting.aheadMm, rightMm: fitting.rightMm } : { aheadMm: 0, rightMm: 0 };
}

/** What signals are worked out from beside a run of a lesson on a robot. */
export const sceneFor = (lesson: Lesson, build: RobotBuild, laterS = 0) => ({
  course: lesson.course,
  watcher: watcher(build, lesson),
  outline: build,
  laterS,
  bumpers: build.fittings
    .filter(({ mode, facing }) => mode === 'touch' && facing !== 'up' && facing !== 'down')
    .map(({ socket }) => socket),
});

/** One rehearsed run with its judgements, in the lesson's order. */
export interface Rehearsal {
  run: Run;
  evidence: Trace;
  circumstances: Circumstances;
  judgements: Judgement[];
  /** Where the task varies from run to run: what this run had of it, and what was drawn, in words. */
  task?: Pick<Lesson, 'course' | 'expectations'> & { drawn: string };
}

/** Decided thresholds as the simulator compares them: 15 of a sensor in cm is 150 mm. */
export function baseThresholds({ kit, build, thresholds }: KnownRobot): Record<string, number> {
  const entries = Object.entries(thresholds).map(([socket, value]) => {
    const fitting = fittingOn(build, socket);
    const unit = (fitting && sensorOf(kit, fitting)?.unit) ?? '';
    return [socket, inBase(value, unit)] as const;
  });
  return Object.fromEntries(entries);
}

export function runSetup(
  lesson: Lesson,
  known: KnownRobot,
  program: Program,
  circumstances: Circumstances,
  other?: OtherRobot,
): RunSetup {
  return {
    ...(other ? { other } : {}),
    program,
    course: lesson.course,
    robot: simRobot({ ...known, build: setAsDeclared(known.build, known.kit, program) }, lesson),
    thresholds: baseThresholds(known),
    circumstances,
    timeLimitMs: lesson.timeLimitS * 1000,
  };
}

/** Circumstances of a single try: from a named start, in the light the robot was read in. */
export function tryCircumstances(lesson: Lesson, startName: string, seed: number): Circumstances {
  const start = lesson.course.starts.find((s) => s.name === startName) ?? lesson.course.starts[0]!;
  return drawCircumstances(calm, [start], seed);
}

/** Circumstances of run `index` of a proof: drawn from the lesson's conditions over all its starts. */
export function proofCircumstances(lesson: Lesson, seed: number): Circumstances {
  return drawCircumstances(lesson.conditions, lesson.course.starts, seed);
}

/** A run as a lesson's expectations read it, judged; `told` are signals to be worked out beside those that are asked for. */
export function judgeRun(
  lesson: Lesson,
  build: RobotBuild,
  run: Run,
  laterS = 0,
  told: readonly string[] = [],
): { evidence: Trace; judgements: Judgement[] } {
  const scene = sceneOf(run, sceneFor(lesson, build, laterS));
  const lasts = lastsAfter(run, lesson.course, laterS);
  const asked = evidenceFor({ ...run.trace, lasts }, scene, lesson.expectations);
  const evidence = told.length > 0 ? withSignals(asked, scene, told) : asked;
  return { evidence, judgements: lesson.expectations.map((e) => judge(e, evidence)) };
}

/** The judgements alone: the same, without all the evidence that a page would show. */
export function judgementsOf(lesson: Lesson, build: RobotBuild, run: Run, laterS = 0): Judgement[] {
  const { expectations, course } = lesson;
  const trace = { ...run.trace, lasts: lastsAfter(run, course, laterS) };
  const evidence = verdictEvidence(trace, sceneOf(run, sceneFor(lesson, build, laterS)), expectations);
  return expectations.map((e) => judge(e, evidence));
}

/** Runs a program once under given circumstances and judges it. The program must have no faults. */
export function rehearse(
  lesson: Lesson,
  known: KnownRobot,
  program: Program,
  circumstances: Circumstances,
  other?: OtherRobot,
): Rehearsal {
  const run = simulate(runSetup(lesson, known, program, circumstances, other));
  // What is measured on the floor is told on every page, asked for or not.
  const told = measuresOf(lesson).map((measure) => measureSignal(lesson, measure));
  return { run, circumstances, ...judgeRun(lesson, known.build, run, circumstances.laterS, told) };
}

/** One run of a proof: the task and the circumstances that its seed draws. */
export function rehearseRun(lesson: Lesson, known: KnownRobot, program: Program, seed: number): Rehearsal {
  const world = worldOf(lesson, seed);
  const rehearsal = rehearse(world.lesson, known, program, proofCircumstances(world.lesson, seed));
  const { course, expectations } = world.lesson;
  return world.values ? { ...rehearsal, task: { course, expectations, drawn: world.says } } : rehearsal;
}

/** Seed of run `index` of a proof that was started with `seed`. */
export const runSeed = (seed: number, index: number): number => (seed + index * 7919) | 0;

/** One run of a proof, without its trace. */
export function proveOnce(lesson: Lesson, known: KnownRobot, program: Program, seed: number): JudgedRun {
  const { lesson: task } = worldOf(lesson, seed);
  const circumstances = proofCircumstances(task, seed);
  const run = simulate(runSetup(task, known, program, circumstances));
  return { seed, judgements: judgementsOf(task, known.build, run, circumstances.laterS) };
}

/** A whole proof in one go: `runs` seeded runs and their sum. */
export function prove(
  lesson: Lesson,
  known: KnownRobot,
  program: Program,
  seed: number,
  runs: number,
): { proof: Proof; judged: JudgedRun[] } {
  const judged = Array.from({ length: runs }, (_, i) => proveOnce(lesson, known, program, runSeed(seed, i)));
  return { proof: sumUp(judged, lesson.expectations, lesson.proof.bar), judged };
}

/** Width of the narrowest stripe or path on the course, mm. */
export function narrowestLine(lesson: Lesson): number | null {
  const widths = lesson.course.marks.flatMap((mark) => {
    if (mark.kind === 'stripe' || mark.kind === 'path') return [mark.widthMm];
    const [left, bottom, right, top] = markBounds(mark);
    return [Math.min(right - left, top - bottom)];
  });
  return widths.length > 0 ? Math.min(...widths) : null;
}
