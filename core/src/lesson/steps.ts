import { stepKinds, type Lesson, type LessonStep, type StepKind } from './lesson.ts';
import { needsOfLesson } from './fit.ts';
import { sensorAt, tasksAt } from './reading.ts';

export const isStepKind = (text: string): text is StepKind => (stepKinds as readonly string[]).includes(text);

/** Steps with a working part: their names are the stages of a team's page. */
export const workingKinds = ['wire', 'read', 'decide', 'script', 'try', 'prove', 'floor'] as const;
export type WorkingKind = (typeof workingKinds)[number];
export const isWorking = (kind: StepKind): kind is WorkingKind =>
  (workingKinds as readonly string[]).includes(kind);

export interface StepFacts {
  word: string;
  /** What a step of this kind is for, told to a teacher who adds one. */
  says: string;
  /** Minutes that it usually takes. */
  minutes: number;
  /** Whether it is done inside the period: homework is not. */
  inPeriod: boolean;
}

export const stepFacts: Record<StepKind, StepFacts> = {
  brief: { word: 'Brief', says: 'What it is about, and why.', minutes: 3, inPeriod: true },
  wire: {
    word: 'Wire',
    says: 'Fit the sensor, plug it in, see that it answers.',
    minutes: 3,
    inPeriod: true,
  },
  read: {
    word: 'Read',
    says: 'Look at what the robot sees before programming.',
    minutes: 5,
    inPeriod: true,
  },
  decide: { word: 'Decide', says: 'Turn readings into a threshold.', minutes: 3, inPeriod: true },
  predict: {
    word: 'Predict',
    says: 'Say what will happen, with a number, before it runs.',
    minutes: 2,
    inPeriod: true,
  },
  script: { word: 'Script', says: 'Write the behaviour one step at a time.', minutes: 9, inPeriod: true },
  try: { word: 'Try', says: 'Run it, watch, change one thing, run again.', minutes: 6, inPeriod: true },
  prove: {
    word: 'Prove',
    says: 'From several starts and on less kind days.',
    minutes: 3,
    inPeriod: true,
  },
  floor: {
    word: 'Floor',
    says: 'The real robot, measured and written down.',
    minutes: 8,
    inPeriod: true,
  },
  reflect: {
    word: 'Reflect',
    says: 'What was learned, in the team’s own words.',
    minutes: 3,
    inPeriod: true,
  },
  extend: {
    word: 'Extend',
    says: 'A harder question for teams that are done.',
    minutes: 0,
    inPeriod: true,
  },
  homework: { word: 'Homework', says: 'To be done at home, without a robot.', minutes: 15, inPeriod: false },
};

/** Bounds that every lesson keeps, so that pages stay fluid and files small. */
export const LESSON_LIMIT = {
  steps: 60,
  textCharacters: 8000,
  hints: 12,
  cautions: 12,
  period: 480,
} as const;

const plain = (kind: StepKind, step: Partial<LessonStep> = {}): LessonStep => ({
  id: kind,
  kind,
  title: stepFacts[kind].word,
  text: '',
  minutes: stepFacts[kind].minutes,
  expects: '',
  hints: [],
  cautions: [],
  ...step,
});

/**
 * The steps of a lesson in order. A lesson without steps of its own goes the plain way: every stage that it has
 * work for, once.
 */
export function stepsOf(lesson: Lesson): LessonStep[] {
  if (lesson.steps && lesson.steps.length > 0) return lesson.steps;
  const reads = lesson.read.tasks.length > 0;
  return [
    plain('brief', { text: lesson.aim, cautions: lesson.cautions }),
    plain('wire'),
    ...(reads ? [plain('read'), plain('decide')] : []),
    plain('script'),
    plain('try'),
    plain('prove'),
    ...(lesson.floor.trials > 0 ? [plain('floor')] : []),
  ];
}

/** A step of a kind with nothing in it yet, named so that it is like no other. */
export function newStep(kind: StepKind, others: readonly LessonStep[]): LessonStep {
  const taken = new Set(others.map(({ id }) => id));
  let [id, n] = [kind as string, 1];
  while (taken.has(id)) id = `${kind}-${++n}`;
  return plain(kind, { id });
}

/** What varies from run to run is said of the lesson's own course and expectations: a step with others does without. */
function unvaried({ varies: _, ...lesson }: Lesson): Lesson {
  return lesson;
}

/** The lesson as a step sees it: with the step's own working part in place. */
export function lessonAt(whole: Lesson, step: LessonStep): Lesson {
  const { startScript, course, expectations, trials } = step.part ?? {};
  const lesson = course || expectations ? unvaried(whole) : whole;
  const looks = step.kind === 'read' || step.kind === 'decide';
  const need = looks ? sensorAt(lesson, step) : lesson.need;
  return {
    ...lesson,
    ...(need === lesson.need ? {} : { need, also: needsOfLesson(lesson).filter((other) => other !== need) }),
    ...(looks ? { read: { ...lesson.read, tasks: tasksAt(lesson, step) } } : {}),
    ...(startScript === undefined ? {} : { startScript }),
    ...(course ? { course } : {}),
    ...(expectations ? { expectations } : {}),
    ...(trials === undefined ? {} : { floor: { ...lesson.floor, trials } }),
  };
}

/** Moves a step to another place. Places outside are brought to the nearest end. */
export function moveStep(steps: readonly LessonStep[], from: number, to: number): LessonStep[] {
  const moved = [...steps];
  const [step] = moved.splice(from, 1);
  if (step) moved.splice(Math.max(0, Math.min(moved.length, to)), 0, step);
  return moved;
}

/** A second step like this one, with a name of its own. */
export const copyOfStep = (step: LessonStep, others: readonly LessonStep[]): LessonStep => ({
  ...step,
  id: newStep(step.kind, others).id,
});
