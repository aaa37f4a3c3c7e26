import { lessonAt, stepFacts, stepsOf, type Lesson, type LessonStep } from '../lesson/index.ts';

/** What a teacher changes of a lesson for an hour that is going on. Steps by their ids. */
export interface HourPlan {
  /** Other minutes than the lesson plans. */
  minutes?: Record<string, number>;
  /** Fewer or more trials on the floor. */
  trials?: Record<string, number>;
  /** Steps that are done at home. */
  atHome?: string[];
  /** Steps that are left out. */
  skipped?: string[];
}

/** Steps that a lesson may do without in an hour: what later steps work from is none of them. */
export const mayBeLeftOut = ({ kind }: Pick<LessonStep, 'kind'>): boolean =>
  ['brief', 'predict', 'reflect', 'extend', 'homework'].includes(kind);
/** Steps that may be done at home, where there is no robot. */
export const mayBeAtHome = ({ kind }: Pick<LessonStep, 'kind'>): boolean =>
  ['extend', 'reflect'].includes(kind);

/**
 * A lesson as an hour changes it: its steps with their new minutes and trials, those that are done at home behind the others as
 * homework, without those that are left out. What may not be left out stays.
 */
export function plannedLesson(lesson: Lesson, plan: HourPlan): Lesson {
  const { minutes = {}, trials = {}, atHome = [], skipped = [] } = plan;
  if ([minutes, trials, atHome, skipped].every((part) => Object.keys(part).length === 0)) return lesson;
  const steps = stepsOf(lesson)
    .filter((step) => !(skipped.includes(step.id) && mayBeLeftOut(step)))
    .map((step): LessonStep => {
      const changed = { ...step, minutes: minutes[step.id] ?? step.minutes };
      if (step.kind === 'floor' && trials[step.id] !== undefined)
        return { ...changed, part: { ...step.part, trials: trials[step.id]! } };
      return atHome.includes(step.id) && mayBeAtHome(step) ? { ...changed, kind: 'homework' } : changed;
    });
  const [floor] = steps.filter(({ kind }) => kind === 'floor');
  const first = floor?.part?.trials;
  return {
    ...lesson,
    ...(first === undefined ? {} : { floor: { ...lesson.floor, trials: first } }),
    steps: [
      ...steps.filter(({ kind }) => stepFacts[kind].inPeriod),
      ...steps.filter(({ kind }) => !stepFacts[kind].inPeriod),
    ],
  };
}

/** A step as the hour's clock sees it. */
export interface HourStep {
  id: string;
  kind: LessonStep['kind'];
  word: string;
  title: string;
  /** What it is meant to take, min. */
  minutes: number;
  /** When it is meant to begin and to be done, minutes of the hour. */
  fromMin: number;
  toMin: number;
  /** Whether it takes a turn on a mat. */
  onMat: boolean;
  /** Trials that are asked for there; null for none. */
  trials: number | null;
}

/** The steps of an hour in their order, without homework, laid along its clock. */
export function hourSteps(lesson: Lesson): HourStep[] {
  let used = 0;
  const steps = stepsOf(lesson).filter(({ kind }) => stepFacts[kind].inPeriod);
  return steps.map((step, i) => {
    const fromMin = used;
    used += step.minutes;
    const nth = steps.slice(0, i).filter(({ kind }) => kind === step.kind).length;
    return {
      id: step.id,
      kind: step.kind,
      word: `${stepFacts[step.kind].word}${nth > 0 ? ` ${nth + 1}` : ''}`,
      title: step.title || stepFacts[step.kind].word,
      minutes: step.minutes,
      fromMin,
      toMin: used,
      onMat: step.kind === 'floor',
      trials: step.kind === 'floor' ? lessonAt(lesson, step).floor.trials : null,
    };
  });
}

/** When a step ought to be done, as a teacher says it: "Script by :25", minutes of the hour. */
export interface Milestone {
  step: string;
  word: string;
  byMin: number;
}

/** The steps that make something which the next ones need, with when they ought to be done. */
export const milestonesOf = (steps: readonly HourStep[]): Milestone[] =>
  steps
    .filter(({ kind }) => ['decide', 'script', 'prove', 'floor'].includes(kind))
    .map(({ id, word, toMin }) => ({ step: id, word, byMin: toMin }));
