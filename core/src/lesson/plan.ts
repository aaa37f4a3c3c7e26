import type { Lesson } from './lesson.ts';
import { stepFacts, stepsOf } from './steps.ts';
import { type LessonStep } from './lesson.ts';

/** When a step begins and ends, minutes from the start of the period. */
export interface PlannedStep {
  step: LessonStep;
  fromMin: number;
  toMin: number;
}

/** How the minutes of a lesson add up. All numbers are minutes. */
export interface TimePlan {
  steps: PlannedStep[];
  /** Sum of what is done inside the period. */
  used: number;
  period: number;
  /** What is left of the period; negative when the steps take longer. */
  slack: number;
  /** At home. */
  homework: number;
  /** One sentence: how it fits. */
  says: string;
}

/** Lays the steps of a lesson along its period. Homework takes none of it. */
export function timePlan(lesson: Lesson): TimePlan {
  let used = 0;
  let homework = 0;
  const steps = stepsOf(lesson).map((step) => {
    const fromMin = used;
    if (stepFacts[step.kind].inPeriod) used += step.minutes;
    else homework += step.minutes;
    return { step, fromMin, toMin: used };
  });
  const slack = lesson.minutes - used;
  const says =
    slack < 0
      ? `The steps take ${-slack} min longer than the period of ${lesson.minutes}: shorten some, or move one to homework.`
      : slack === 0
        ? `The steps fill the period of ${lesson.minutes} min to the last minute: nothing may go wrong.`
        : `${used} of ${lesson.minutes} min are planned, ${slack} ${slack === 1 ? 'is' : 'are'} left over.`;
  return { steps, used, period: lesson.minutes, slack, homework, says };
}
