import type { Course, Mark } from '../course/index.ts';
import { formatNumber } from '../quantity/index.ts';
import { needsOfLesson } from './fit.ts';
import type { Lesson } from './lesson.ts';
import { measureFacts, measuresOf } from './measures.ts';
import { readWayOf, sensorAt, tasksAt } from './reading.ts';
import { stepsOf } from './steps.ts';

const DEFERRAL = 'School rules and the maker’s instructions come first.';

/** A caution with what in the lesson calls for it. */
export interface ProposedCaution {
  because: string;
  says: string;
}

/** Cautions that a lesson calls for by what it does (common practice); the deferral to school rules comes last. */
export function proposedCautions(lesson: Lesson): ProposedCaution[] {
  const { course, expectations, floor } = lesson;
  const kinds = new Set(needsOfLesson(lesson).map(({ kind }) => kind));
  const onTheFloor = floor.trials > 0 || stepsOf(lesson).some(({ kind }) => kind === 'floor');
  const bout = course.opponent !== undefined || expectations.some(({ kind }) => kind === 'pushes out');
  const cautions: (ProposedCaution | false)[] = [
    course.rim === 'drop' && {
      because: 'the course ends in a drop',
      says: 'On a table, a catcher stands at each edge, program finished or not.',
    },
    bout && {
      because: 'robots push',
      says: 'Before a bout: hands off, two seconds wait in the script, everybody behind the line.',
    },
    onTheFloor && {
      because: 'robots run on the floor',
      says: 'Robots on the floor are trip hazards: mark the run area, one team walks at a time.',
    },
    (kinds.has('ambient') || /\blamp\b/.test(lesson.modelScript)) && {
      because: 'lamps are used',
      says: 'Bright or flashing lamps: ask about photosensitivity first.',
    },
    (kinds.has('beacon') || kinds.has('proximity')) && {
      because: 'infrared is sent out',
      says: 'Do not look into infrared emitters or lamps up close.',
    },
    {
      because: 'wheels turn',
      says: 'Stop the program before you touch the robot. Keep hair and sleeves away from the wheels.',
    },
    onTheFloor && {
      because: 'batteries are charged between runs',
      says: 'Only the maker’s charger; a swollen or damaged battery goes to the teacher at once.',
    },
    { because: 'always', says: DEFERRAL },
  ];
  return cautions.filter((caution) => caution !== false);
}

/** One thing to lay out before the class comes. */
export interface Material {
  name: string;
  count: number;
  /** Size, kind or place. */
  note: string;
}

const tapeMm = (mark: Mark): number => {
  if (mark.kind === 'stripe') return Math.hypot(mark.to.xMm - mark.from.xMm, mark.to.yMm - mark.from.yMm);
  if (mark.kind !== 'path') return 0;
  return mark.points
    .slice(1)
    .reduce((sum, p, i) => sum + Math.hypot(p.xMm - mark.points[i]!.xMm, p.yMm - mark.points[i]!.yMm), 0);
};

/** What each course takes beside the mat itself: tape by surface, cards, walls and boxes. */
function courseMaterials(course: Course, courses: number): Material[] {
  const tape = new Map<string, { mm: number; widths: Set<number> }>();
  const cards = new Map<string, number>();
  for (const mark of course.marks) {
    const { name } = mark.surface;
    const mm = tapeMm(mark);
    if (mm === 0) cards.set(name, (cards.get(name) ?? 0) + 1);
    else {
      const kept = tape.get(name) ?? { mm: 0, widths: new Set() };
      kept.mm += mm;
      if ('widthMm' in mark) kept.widths.add(mark.widthMm);
      tape.set(name, kept);
    }
  }
  const walls = course.walls?.length ?? 0;
  const boxes = course.boxes?.length ?? 0;
  return [
    ...[...tape].map(([name, { mm, widths }]) => ({
      name: `tape for the ${name}`,
      count: courses,
      note: `${formatNumber(mm / 1000, 1)} m each, ${[...widths].map((w) => formatNumber(w, 0)).join(' and ')} mm wide; or print the mat`,
    })),
    ...[...cards].map(([name, count]) => ({ name, count: count * courses, note: 'laid as on the mat' })),
    ...(walls > 0
      ? [{ name: 'walls', count: walls * courses, note: 'flat boards, taller than the sensor' }]
      : []),
    ...(boxes > 0
      ? [{ name: 'boxes', count: boxes * courses, note: 'they stand where the mat shows them' }]
      : []),
  ];
}

/** What every team reads with before it programs: a ruler and a wall, a set square, cards. */
function readingMaterials(lesson: Lesson, teams: number): Material[] {
  const steps = stepsOf(lesson).filter(({ kind }) => kind === 'read');
  const ways = steps.map((step) => readWayOf(sensorAt(lesson, step).kind));
  const cards = steps.flatMap((step) => tasksAt(lesson, step).map(({ surface }) => surface));
  const loose = [...new Set(cards)].filter((name) => / card$/.test(name));
  return [
    ...(ways.includes('ruler')
      ? [
          { name: 'ruler', count: teams, note: '30 cm or longer, one a team to read with' },
          { name: 'flat board', count: teams, note: 'a wall to read distances against' },
        ]
      : []),
    ...(ways.includes('turns')
      ? [{ name: 'set square', count: teams, note: 'or a tile edge, to turn along' }]
      : []),
    ...loose.map((name) => ({ name, count: teams, note: 'to read: one a team' })),
  ];
}

/** Each thing once: the largest count, and every note. */
function once(materials: readonly Material[]): Material[] {
  const all = new Map<string, Material>();
  for (const { name, count, note } of materials) {
    const known = all.get(name);
    all.set(
      name,
      known
        ? {
            name,
            count: Math.max(known.count, count),
            note: [known.note, note].filter((one) => one !== '').join('; '),
          }
        : { name, count, note },
    );
  }
  return [...all.values()];
}

/**
 * What to lay out for a number of teams: a robot each, one course for every four teams, tools to read and measure with.
 */
export function materialsFor(lesson: Lesson, teams: number): Material[] {
  const { course } = lesson;
  const courses = Math.max(1, Math.ceil(teams / 4));
  const measures = measuresOf(lesson).map((measure) => measureFacts[measure].tool);
  const onTheFloor = lesson.floor.trials > 0;
  const sensors = needsOfLesson(lesson)
    .map(({ kind, socket }) => `${kind} on ${socket}`)
    .join(', ');
  return once([
    { name: 'robot', count: teams, note: `charged, with ${sensors}` },
    { name: 'tablet', count: teams, note: 'one beside each robot' },
    {
      name: 'course',
      count: courses,
      note: `${course.name}, ${formatNumber(course.widthMm / 10, 0)} × ${formatNumber(course.heightMm / 10, 0)} cm and room around it`,
    },
    ...courseMaterials(course, courses),
    ...readingMaterials(lesson, teams),
    ...(onTheFloor && measures.includes('ruler')
      ? [{ name: 'ruler', count: courses, note: '30 cm or longer, on the floor' }]
      : []),
    ...(onTheFloor && measures.includes('protractor')
      ? [{ name: 'protractor', count: courses, note: 'or a sheet with angles' }]
      : []),
    ...(onTheFloor
      ? [
          { name: 'stopwatch', count: courses, note: '' },
          { name: 'sticky notes', count: teams, note: 'to mark where the robot stopped' },
        ]
      : []),
    ...(course.rim === 'drop'
      ? [{ name: 'catcher', count: 4 * courses, note: 'one at each edge of a table' }]
      : []),
  ]);
}
