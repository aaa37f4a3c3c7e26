import type { Course } from '../course/index.ts';
import type { CourseFacts } from '../review/index.ts';

/** What the review of a script may know of a course: drops, another robot and how far away it may be, the edge that is followed. */
export function courseFacts(course: Course): Partial<CourseFacts> {
  const { opponent, starts, tracks, rim } = course;
  const [track] = tracks ?? [];
  const ranges = opponent
    ? starts.map(({ xMm, yMm }) => Math.hypot(opponent.xMm - xMm, opponent.yMm - yMm))
    : [];
  return {
    drop: rim === 'drop',
    opponent: opponent !== undefined,
    ...(opponent && ranges.length > 0
      ? { target: { widthMm: 2 * opponent.radiusMm, rangeMm: Math.max(...ranges) } }
      : {}),
    // Where either edge may be followed, none is the wrong one.
    ...(track && tracks!.every(({ side }) => side === track.side) ? { edge: track.side } : {}),
  };
}
