import type { Course } from '../../course/index.ts';
import type { Lesson } from '../lesson.ts';
import { numberAt } from './variant.ts';

/**
 * The lesson on a course that was made by hand. A twist that made the course anew for each team lets go of it, and
 * numbers of the course that are no longer there are not bound any more: `freed` says whether anything was.
 */
export function withCourse(lesson: Lesson, course: Course): { lesson: Lesson; freed: boolean } {
  const next: Lesson = { ...lesson, course };
  const { twist } = lesson;
  if (!twist) return { lesson: next, freed: false };
  const { family, ...rest } = twist;
  const bindings = twist.bindings.filter(
    ({ at }) => !at.startsWith('/course/') || numberAt(next, at) !== null,
  );
  return {
    lesson: { ...next, twist: { ...rest, bindings } },
    freed: family !== undefined || bindings.length < twist.bindings.length,
  };
}
