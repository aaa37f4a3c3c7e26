import { runsToReach } from '../statistics/index.ts';
import { formatNumber } from '../quantity/index.ts';
import { canRun, parseScript } from '../script/index.ts';
import { sameSocket, sensorWords } from '../sensing/index.ts';
import { needsOfLesson } from './fit.ts';
import type { Lesson } from './lesson.ts';
import { measuresOf } from './measures.ts';
import { timePlan } from './plan.ts';
import { decideWayOf, readWayOf, sensorAt } from './reading.ts';
import { isWorking, lessonAt, stepsOf } from './steps.ts';
import { type LessonStep } from './lesson.ts';
import { loneNumbers, twistFaults, variantOf } from './twist/index.ts';

/** Something that a lesson still lacks. `step` is the id of the step it belongs to; null for the whole. */
export interface Missing {
  step: string | null;
  /** `stop`: it cannot be taught like this. `note`: it can, but a good lesson has it. */
  grade: 'stop' | 'note';
  says: string;
}

/** What became of the model answer of exactly this lesson, as last judged. */
export type ModelState = 'never proved' | 'proved' | 'not proved';

const stop = (step: LessonStep | null, says: string): Missing => ({
  step: step?.id ?? null,
  grade: 'stop',
  says,
});
const note = (step: LessonStep | null, says: string): Missing => ({
  step: step?.id ?? null,
  grade: 'note',
  says,
});

function inStep(whole: Lesson, step: LessonStep, before: readonly LessonStep[]): Missing[] {
  const lesson = lessonAt(whole, step);
  const came = (kind: LessonStep['kind']) => before.some((other) => other.kind === kind);
  const faults: Missing[] = [];
  const asked = [step.part?.socket, ...(step.part?.sockets ?? [])].filter((one) => one !== undefined);
  const unknown = asked.find(
    (socket) => !needsOfLesson(whole).some((need) => sameSocket(need.socket, socket)),
  );
  if (unknown !== undefined && isWorking(step.kind))
    faults.push(
      stop(step, `${step.title} works with ${unknown}, which the lesson does not list among its sensors.`),
    );
  if (step.title.trim() === '') faults.push(note(step, 'A step has no title.'));
  switch (step.kind) {
    case 'brief':
    case 'reflect':
    case 'extend':
    case 'homework':
    case 'predict':
      if (step.text.trim() === '') faults.push(note(step, `${step.title} says nothing yet.`));
      break;
    case 'wire':
      if (step.part?.sockets?.length === 0) faults.push(stop(step, `${step.title} checks no sensor.`));
      break;
    case 'read':
      if (readWayOf(lesson.need.kind) === 'surfaces' && lesson.read.tasks.length === 0)
        faults.push(stop(step, `${step.title} has nothing to read.`));
      break;
    case 'decide': {
      const way = decideWayOf(lesson.need.kind);
      const read = before.some(
        (other) => other.kind === 'read' && sameSocket(sensorAt(whole, other).socket, lesson.need.socket),
      );
      if (way === null)
        faults.push(
          note(
            step,
            `${step.title} decides nothing: a ${sensorWords[lesson.need.kind]} sensor needs no threshold.`,
          ),
        );
      else if (way === 'two surfaces' && lesson.read.tasks.length < 2)
        faults.push(stop(step, `${step.title} needs two surfaces to decide between.`));
      else if (!read) faults.push(stop(step, `${step.title} comes before anything was read.`));
      break;
    }
    case 'script':
      break;
    case 'try':
    case 'prove':
      if (lesson.expectations.length === 0) faults.push(stop(step, `${step.title} has no expectation.`));
      if (!came('script')) faults.push(stop(step, `${step.title} comes before any script was written.`));
      break;
    case 'floor':
      if (lesson.floor.trials === 0) faults.push(stop(step, `${step.title} asks for no trial.`));
      else if (measuresOf(lesson).length === 0)
        faults.push(note(step, `${step.title} measures nothing but the time.`));
      break;
  }
  if (step.hints.some((hint) => hint.trim() === ''))
    faults.push(note(step, `${step.title} has an empty hint.`));
  return faults;
}

/** A bar that the number of runs cannot reach, even when all of them pass. */
function inProof({ proof: { runs, bar } }: Lesson): Missing[] {
  const needed = runsToReach(bar);
  return runs >= needed
    ? []
    : [
        stop(
          null,
          `${runs} runs cannot show a pass rate above ${formatNumber(100 * bar, 1)} %, even when all pass: prove with ${needed} or more.`,
        ),
      ];
}

function inModel(lesson: Lesson, state: ModelState): Missing[] {
  if (lesson.modelScript.trim() === '') return [stop(null, 'There is no model answer.')];
  const program = parseScript(lesson.modelScript);
  const wrong = program.findings[0];
  if (!canRun(program))
    return [
      stop(
        null,
        wrong ? `The model answer, line ${wrong.line}: ${wrong.says}` : 'The model answer has no step.',
      ),
    ];
  const needs = needsOfLesson(lesson);
  const faults = program.sensors
    .filter(({ socket }) => !needs.some((need) => sameSocket(need.socket, socket)))
    .map(({ name, socket }) =>
      note(
        null,
        `The model answer reads “${name}” on ${socket}, which the lesson does not list among its sensors.`,
      ),
    );
  if (!lesson.robot) faults.push(stop(null, 'No robot is named to prove the model answer on.'));
  else if (state === 'never proved') faults.push(stop(null, 'The model answer was never proved.'));
  else if (state === 'not proved')
    faults.push(stop(null, 'The model answer does not pass its own expectations.'));
  return faults;
}

/** What a lesson still lacks, the gravest first; empty when it is ready to be taught. */
export function missingIn(lesson: Lesson, state: ModelState): Missing[] {
  const usual = variantOf(lesson);
  const steps = stepsOf(usual);
  const plan = timePlan(usual);
  const all = [
    ...(lesson.title.trim() === '' ? [stop(null, 'The lesson has no title.')] : []),
    ...(lesson.aim.trim() === '' ? [note(null, 'The lesson says no aim.')] : []),
    ...steps.flatMap((step, i) => inStep(usual, step, steps.slice(0, i))),
    ...inModel(usual, state),
    ...inProof(usual),
    ...twistFaults(lesson).map((says) => stop(null, says)),
    ...(lesson.varies ? twistFaults({ ...lesson, twist: lesson.varies }) : []).map((says) =>
      stop(null, `What varies from run to run: ${says}`),
    ),
    ...loneNumbers(lesson).map(({ parameter, says, places }) =>
      note(null, `“${says}” stands in ${places.join(', ')}, where every team has its own {${parameter}}.`),
    ),
    ...(plan.slack < 0 ? [note(null, plan.says)] : []),
    ...(lesson.cautions.length === 0 ? [note(null, 'The lesson names no caution.')] : []),
    ...((lesson.skills ?? []).length === 0 ? [note(null, 'The lesson names no skill.')] : []),
  ];
  return [...all.filter(({ grade }) => grade === 'stop'), ...all.filter(({ grade }) => grade === 'note')];
}
