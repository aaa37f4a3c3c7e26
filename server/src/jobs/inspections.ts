import { runLogFault } from '@vigilum/contract/files';
import { courseFaults, type Course } from '@vigilum/core/course';
import type { Lesson } from '@vigilum/core/lesson';
import { kitFaults, type Kit } from '@vigilum/core/sensing';
import { Problem, type FieldProblem } from '../http/problems.ts';
import { mustBeSound, readLesson } from '../lessons/sound.ts';
import { daysOffIn } from '../plan/ics.ts';
import { readSeries } from '../record/readSeries.ts';

const refuse = (title: string, faults: readonly FieldProblem[]): void => {
  if (faults.length > 0) throw new Problem(422, title, `Nothing was saved: ${faults[0]!.says}.`, [...faults]);
};

/**
 * How files and texts of strangers are read. Each takes plain data, gives plain data and throws a Problem where something is wrong. They
 * run in a thread of their own with a deadline, because a file can be made so that reading it never ends.
 */
export const inspections = {
  calendar: ({ text, now, zone }: { text: string; now: number; zone: string }) => daysOffIn(text, now, zone),
  lessonFile: (text: string) => readLesson(text),
  lesson: (lesson: Lesson) => mustBeSound(lesson),
  series: (text: string) => readSeries(text),
  kit: (kit: Kit) => refuse('Check the kit', kitFaults(kit)),
  course: (course: Course) => refuse('Check the course', courseFaults(course)),
  log: (log: Parameters<typeof runLogFault>[0]) => {
    const fault = runLogFault(log);
    if (fault) refuse('Check the log', [{ field: 'times', says: fault }]);
  },
} satisfies Record<string, (given: never) => unknown>;

export type Inspection = keyof typeof inspections;
export type Given<W extends Inspection> = Parameters<(typeof inspections)[W]>[0];
export type Found<W extends Inspection> = ReturnType<(typeof inspections)[W]>;

/** Looks at something of a stranger; what a thread cannot hand back as an error comes as data. */
export interface Inspected {
  found?: unknown;
  refused?: { status: number; title: string; detail: string; fields: FieldProblem[] };
}
export function inspect({ what, given }: { what: Inspection; given: unknown }): Inspected {
  try {
    return { found: (inspections[what] as (given: unknown) => unknown)(given) };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    const { status, title, message: detail, fields } = error;
    return { refused: { status, title, detail, fields } };
  }
}
