import { count, followEdge, reactToColour, stopOnLine } from './lines.ts';
import type { LessonAim } from './propose.ts';
import { stayOnTable } from './table.ts';
import { combine, searchAndPush } from './together.ts';
import { chooseSide, turnToHeading } from './turns.ts';
import { stopBefore } from './walls.ts';

export { kindly, proposeLesson, type LessonAim } from './propose.ts';
export { robotFor } from './robotFor.ts';

/** What a lesson may be for, in the order that most years take. */
export const lessonAims: readonly LessonAim[] = [
  stopBefore,
  stopOnLine,
  count,
  followEdge,
  stayOnTable,
  turnToHeading,
  chooseSide,
  reactToColour,
  searchAndPush,
  combine,
];
