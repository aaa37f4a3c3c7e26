import { formatNumber } from '../quantity/index.ts';
import { sameSocket, type SensorKind } from '../sensing/index.ts';
import { needsOfLesson } from './fit.ts';
import type { Lesson, ReadTask } from './lesson.ts';
import type { LessonStep } from './lesson.ts';

/** How a kind of sensor is looked at before programming; null for what only motors have. */
export type ReadWay = 'surfaces' | 'ruler' | 'turns' | 'presses';

const ways: Record<SensorKind, ReadWay | null> = {
  touch: 'presses',
  light: 'surfaces',
  ambient: 'surfaces',
  colour: 'surfaces',
  rgb: 'surfaces',
  proximity: 'surfaces',
  beacon: 'surfaces',
  spin: 'surfaces',
  distance: 'ruler',
  heading: 'turns',
  wheel: null,
};
export const readWayOf = (kind: SensorKind): ReadWay | null => ways[kind];

/** What a threshold on a kind of sensor rests on; null where a script compares with something that is known. */
export function decideWayOf(kind: SensorKind): 'two surfaces' | 'gap' | null {
  if (kind === 'distance') return 'gap';
  return kind === 'light' || kind === 'ambient' || kind === 'proximity' ? 'two surfaces' : null;
}

/** Distances by ruler, mm, and turns by protractor, deg, that show a sensor’s error well (common practice). */
export const usualTruths: Record<'ruler' | 'turns', readonly number[]> = {
  ruler: [100, 150, 200, 300, 500],
  turns: [90, -90],
};

/** Bumps that show how a bumper answers. */
export const BUMPS_TO_READ = 3;

/** The sensor that a step reads or decides on: the step’s own, else the lesson’s first. */
export function sensorAt(lesson: Lesson, step: LessonStep): Lesson['need'] {
  const asked = step.part?.socket;
  const own = asked && needsOfLesson(lesson).find(({ socket }) => sameSocket(socket, asked));
  return own || lesson.need;
}

/**
 * The surfaces that a step reads or decides between. A decision takes those that were read last on its sensor; only
 * reflected light falls back on the lesson’s own surfaces.
 */
export function tasksAt(lesson: Lesson, step: LessonStep): ReadTask[] {
  if (step.part?.tasks) return step.part.tasks;
  const need = sensorAt(lesson, step);
  if (readWayOf(need.kind) !== 'surfaces') return [];
  if (step.kind === 'decide') {
    const steps = lesson.steps ?? [];
    const read = steps
      .slice(
        0,
        steps.findIndex(({ id }) => id === step.id),
      )
      .findLast((other) => other.kind === 'read' && sameSocket(sensorAt(lesson, other).socket, need.socket));
    if (read) return tasksAt(lesson, read);
  }
  return step.part?.socket === undefined || need.kind === 'light' ? lesson.read.tasks : [];
}

/** True values that a read step asks for: mm by ruler or degrees turned; empty for what is read surface by surface. */
export function truthsAt(lesson: Lesson, step: LessonStep): readonly number[] {
  const way = readWayOf(sensorAt(lesson, step).kind);
  return way === 'ruler' || way === 'turns' ? (step.part?.at ?? usualTruths[way]) : [];
}

/** What a read step asks for, line by line, as a team and a sheet of paper are told it. */
export function thingsToRead(lesson: Lesson, step: LessonStep): { name: string; how: string }[] {
  switch (readWayOf(sensorAt(lesson, step).kind)) {
    case 'ruler':
      return truthsAt(lesson, step).map((mm) => ({
        name: `${formatNumber(mm / 10)} cm by ruler`,
        how: 'From the sensor’s face to a flat wall.',
      }));
    case 'turns':
      return truthsAt(lesson, step).map((deg) => ({
        name: `turned ${formatNumber(Math.abs(deg))}° to the ${deg < 0 ? 'left' : 'right'}`,
        how: 'Along a set square or a tile edge.',
      }));
    case 'presses':
      return [{ name: `${BUMPS_TO_READ} presses`, how: 'Press and let go while it records.' }];
    default:
      return tasksAt(lesson, step).map(({ surface, how }) => ({ name: surface, how }));
  }
}

/** Every surface of reflected light that the lesson reads anywhere: what the simulator’s light sensors are fitted to. */
export function lightTasks(lesson: Lesson): ReadTask[] {
  const more = (lesson.steps ?? []).flatMap((step) =>
    sensorAt(lesson, step).kind === 'light' ? (step.part?.tasks ?? []) : [],
  );
  return [...lesson.read.tasks, ...more];
}

/** The gap that the lesson’s expectations ask for, mm; null when they ask for none. */
export function wantedGapMm(lesson: Lesson): number | null {
  const wanted = lesson.expectations.find((expectation) => expectation.kind === 'ends with gap');
  return wanted?.kind === 'ends with gap' ? wanted.gapMm : null;
}
