import type { Course, Surface } from '@vigilum/core/course';
import { variantOf, type Lesson, type ReadTask } from '@vigilum/core/lesson';
import type { Kit, RobotBuild } from '@vigilum/core/sensing';
import { one, type Queries } from '../db/database.ts';
import type { StandInCharacter, StandInConfig } from '../devices/standInRobot.ts';
import { cards } from '../starter/cards.ts';

export interface RobotRow {
  id: number;
  name: string;
  kit: Kit;
  build: RobotBuild;
  stand_in: StandInCharacter | null;
  cupboard: string;
  revision: number;
}

/** A robot that is known to exist. */
export async function robotRow(db: Queries, id: number): Promise<RobotRow> {
  return one<RobotRow>(
    db,
    `select r.id, r.name, k.definition as kit, r.build, r.stand_in, r.cupboard, r.revision
       from robots r join kits k on k.id = r.kit_id where r.id = $1`,
    [id],
  );
}

/**
 * What lies in the room where the stand-ins are: cards, the floors of all lessons, and the mat of the lesson
 * that the class is in (of the first lesson where no class has met yet).
 */
export async function roomOf(db: Queries): Promise<{ surfaces: Surface[]; course: Course }> {
  const rows = await db.query<{ definition: Lesson; given: boolean }>(
    // The latest hour that is going on, else the latest that was; before the first has begun, the next one. Each is found by an index.
    `select l.definition, l.id = coalesce(
              (select lesson_id from periods where removed_at is null and began_at is not null and ended_at is null
                order by starts_at desc, id desc limit 1),
              (select lesson_id from periods where removed_at is null and began_at is not null
                order by starts_at desc, id desc limit 1),
              (select lesson_id from periods where removed_at is null order by starts_at, id desc limit 1)) as given
       from lessons l where l.removed_at is null order by l.id`,
  );
  const lessons = rows.map(({ definition, given }) => ({ definition: variantOf(definition), given }));
  const painted = (
    { definition: { course } }: (typeof lessons)[number],
    tasks: readonly ReadTask[],
  ): Surface[] =>
    tasks.flatMap(({ surface, reflectance }) => {
      const known = [course.base, ...course.marks.map((mark) => mark.surface)].find(
        ({ name }) => name === surface,
      );
      return known ?? (reflectance === undefined ? [] : { name: surface, reflectance });
    });
  const floors = lessons.flatMap((lesson) => painted(lesson, lesson.definition.read.tasks));
  const inSteps = lessons.flatMap((lesson) =>
    (lesson.definition.steps ?? []).flatMap(({ part }) => painted(lesson, part?.tasks ?? [])),
  );
  const more = inSteps.filter(({ name }) => !floors.some((floor) => floor.name === name));
  // A robot that nobody has moved stands over the last of these.
  const surfaces = new Map([...cards, ...more, ...floors].map((surface) => [surface.name, surface]));
  const onTheFloor = lessons.find(({ given }) => given) ?? lessons[0];
  return { surfaces: [...surfaces.values()], course: onTheFloor?.definition.course ?? blankMat };
}

/** The room as a page needs it: names of the surfaces and the mat; null for a real robot. */
export async function roomShown(
  db: Queries,
  standIn: boolean,
): Promise<{ surfaces: string[]; course: Course } | null> {
  if (!standIn) return null;
  const { surfaces, course } = await roomOf(db);
  // The floors of the lessons first, the cards after them.
  const isCard = (name: string) => cards.some((card) => card.name === name);
  const names = surfaces.map(({ name }) => name);
  return { surfaces: [...names.filter((n) => !isCard(n)), ...names.filter(isCard)], course };
}

/** What the stand-in of a robot is started with; null for a robot that has none. */
export async function standInConfig(db: Queries, row: RobotRow): Promise<StandInConfig | null> {
  if (!row.stand_in) return null;
  return {
    name: row.name,
    kit: row.kit,
    build: row.build,
    character: row.stand_in,
    ...(await roomOf(db)),
    seed: row.id * 1013,
  };
}

const blankMat: Course = {
  name: 'table',
  widthMm: 1000,
  heightMm: 700,
  base: { name: 'table', reflectance: 0.62 },
  marks: [],
  starts: [],
  landmarks: [],
};
