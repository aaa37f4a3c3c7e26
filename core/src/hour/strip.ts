import type { Stage } from '../classroom/index.ts';
import { isWorking, stepFacts, stepsOf, type Lesson, type LessonStep } from '../lesson/index.ts';

/** A step as the watch strip shows it: with the state and number of its stage, where it has one. */
export interface StripStep {
  id: string;
  word: string;
  title: string;
  state: Stage['state'];
  figure: string;
}

/** The step that an address means: by its id, or the first step of that kind. */
export function stepAt(lesson: Lesson, address: string): LessonStep | undefined {
  const steps = stepsOf(lesson);
  return steps.find(({ id }) => id === address) ?? steps.find(({ kind }) => kind === address);
}

/**
 * The steps of a lesson with how far the team is in each; `own` tells it for steps of a kind that comes more than once. A step without a stage is done when something after it
 * was begun, or the team has gone on from it.
 */
export function stripOf(
  lesson: Lesson,
  stages: readonly Stage[],
  place: string | null,
  own: (step: LessonStep) => Stage | null = () => null,
): StripStep[] {
  const steps = stepsOf(lesson);
  const current = stages.find(({ state }) => state === 'now')?.stage;
  let marked = false;
  const stageOfStep = steps.map((step): Stage | undefined => {
    const stage = isWorking(step.kind) ? stages.find((s) => s.stage === step.kind) : undefined;
    const mine = own(step);
    if (!mine || !stage) return stage;
    // Of several steps of the stage that the team is at, the first open one is where it is.
    const open = !marked && mine.state === 'none' && step.kind === current;
    marked ||= open || mine.state === 'now';
    return open ? { ...mine, state: 'now' } : mine;
  });
  const begun = stageOfStep.map((stage) => {
    const state = stage?.state;
    return state !== undefined && state !== 'none' && state !== 'now';
  });
  const reached = Math.max(
    begun.lastIndexOf(true),
    steps.findIndex(({ id }) => id === place),
  );
  const words = steps.map(({ kind }) => kind);
  return steps.map((step, i) => {
    const stage = stageOfStep[i];
    const nth = words.slice(0, i).filter((kind) => kind === step.kind).length;
    return {
      id: step.id,
      word: `${stepFacts[step.kind].word}${nth > 0 ? ` ${nth + 1}` : ''}`,
      title: step.title || stepFacts[step.kind].word,
      state: stage ? stage.state : i < reached ? 'done' : 'none',
      figure: stage?.figure ?? '',
    };
  });
}

/**
 * Where a way on or back leads: on is the next step of the lesson whatever its kind, back is the nearest step of
 * that kind before this one.
 */
export function wayTo(lesson: Lesson, from: LessonStep | undefined, kind: string): LessonStep | undefined {
  const steps = stepsOf(lesson);
  const at = steps.findIndex(({ id }) => id === from?.id);
  const ahead = steps.findIndex((step, i) => i > at && step.kind === kind);
  if (ahead >= 0) return steps[at + 1];
  return (
    steps.findLast((step, i) => i < at && step.kind === kind) ?? steps.find((step) => step.kind === kind)
  );
}
