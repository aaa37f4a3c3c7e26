import type { Lesson } from './lesson.ts';

/**
 * A lesson as a team's own tablet may hold it: without the model answer and whatever else tells what a right answer looks like
 * (other right answers, typical faults, accepted breaks, the thresholds of the lesson's own robot, the template of its twists).
 * What runs are judged by stays: the tablet judges them itself, without the network too.
 */
export function forTeams(lesson: Lesson): Lesson {
  const {
    robot: _robot,
    faults: _faults,
    rightToo: _rightToo,
    accepts: _accepts,
    twist: _twist,
    origin: _origin,
    ...shown
  } = lesson;
  return { ...shown, modelScript: '' };
}
