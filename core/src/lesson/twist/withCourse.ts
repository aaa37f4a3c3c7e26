import type { Course } from '../../course/index.ts';
import type { Lesson } from '../lesson.ts';
import type { Twist } from './twist.ts';
import { numberAt } from './variant.ts';

/** The twist without what made the course anew, and without numbers of the course that are no longer there. */
function letGo({ family: _, ...rest }: Twist, lesson: Lesson): Twist {
  const bindings = rest.bindings.filter(
    ({ at }) => !at.startsWith('/course/') || numberAt(lesson, at) !== null,
  );
  return { ...rest, bindings };
}

/**
 * The lesson on a course that was made by hand. A twist that made the course anew for each team, or from run to run, lets go of
 * it, and numbers of the course that are no longer there are not bound any more: `freed` says whether anything was. What varied
 * with the course alone is left out whole: expectations would follow numbers that nothing shows.
 */
export function withCourse(lesson: Lesson, course: Course): { lesson: Lesson; freed: boolean } {
  const { varies, ...rest } = lesson;
  const next: Lesson = { ...rest, course };
  const twist = lesson.twist && letGo(lesson.twist, next);
  const still = varies && !varies.family ? letGo(varies, next) : undefined;
  return {
    lesson: { ...next, ...(twist ? { twist } : {}), ...(still ? { varies: still } : {}) },
    freed: [
      [lesson.twist, twist],
      [varies, still],
    ].some(
      ([before, now]) =>
        before && (!now || before.family !== now.family || now.bindings.length < before.bindings.length),
    ),
  };
}
